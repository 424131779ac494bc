#pragma once

#include "neck_support.h"

#include "part/panel_field.h"

namespace wren::test {

/// A plain instrument with a one-piece body, two pickups, a cavity with lid and pots.
inline Project bodyWith(const Changes& changes = {}) {
    Project p = neckWith();
    const Changes usual{{"body.build", "one-piece"},
                        {"pickup1.kind", "single"},
                        {"pickup1.from_bridge", "140"},
                        {"pickup2.kind", "two-coil"},
                        {"pickup2.from_bridge", "46"},
                        {"cavity.outline", "-8 62 r12, 60 60 r12, 66 118 r12, -8 112 r12"},
                        {"cavity.controls", "pot 12 86, pot 44 94"}};
    for (const Changes& some : {usual, changes}) {
        for (const auto& [key, text] : some) {
            p = withKey(p, key, text);
        }
    }
    return p;
}

/// Outlines with horns and narrow waists, where arches and wide edges run to crests.
inline const char* hornedOutline(const std::string& which) {
    if (which == "two") {
        return "-262 -30 r4, -270 -58 s, -306 -96 s, -300 -130 s, -222 -142 s, -132 -114 s, -62 "
               "-124 s, 14 -157 s, 82 -138 s, 112 -66 s, 116 4 s, 108 82 s, 68 148 s, 0 162 s, "
               "-72 128 s, -136 107 s, -204 122 s, -262 124 s, -276 98 s, -246 66 s, -238 30 r4";
    }
    if (which == "one") {
        return "-256 -30 r4, -252 -70 s, -222 -118 s, -168 -136 s, -104 -118 s, -40 -126 s, 22 "
               "-160 s, 92 -132 s, 116 -56 s, 118 4 s, 112 70 s, 78 136 s, 12 160 s, -54 128 s, "
               "-112 102 s, -182 112 s, -252 116 s, -268 92 s, -240 62 s, -236 30 r4";
    }
    return "-248 -30 r4, -254 -58 s, -288 -90 s, -280 -124 s, -200 -132 s, -112 -104 s, -44 -112 "
           "s, 28 -148 s, 96 -118 s, 118 -44 s, 118 44 s, 96 118 s, 28 148 s, -44 112 s, -112 104 "
           "s, -200 132 s, -280 124 s, -288 90 s, -254 58 s, -248 30 r4";
}

/// Derives the drawing; fails the test when there is no body.
inline Derived drawnBody(const Project& p) {
    Derived d = deriveDrawing(p);
    for (const Finding& f : d.findings) {
        if (f.weight == Weight::stop) {
            INFO(f.message);
            CHECK(!f.part.ofBody());
        }
    }
    REQUIRE(d.body);
    return d;
}

inline const PanelPocket& pocketNamed(const Panel& panel, const std::string& what) {
    for (const PanelPocket& p : panel.pockets) {
        if (p.what == what) {
            return p;
        }
    }
    FAIL("no pocket " << what);
    return panel.pockets.front();
}

/// The proof of one piece alone, its programs changed on the way if wanted.
inline PartProof provedPiece(const Derived& drawn, PartId part,
                             const std::function<void(PanelPlan&)>& spoil = {}) {
    const PartJob& job = *drawn.job(part);
    PanelPlan plan = planPanel(*job.panel, job.held, drawn.project.bits, drawn.project.machine,
                               drawn.project.bodyCut);
    CHECK(plan.findings.empty());
    if (spoil) {
        spoil(plan);
    }
    SidePrograms programs;
    for (std::size_t side = 0; side < 2; ++side) {
        if (!plan.sides[side].cuts.empty()) {
            const std::vector<PostJob> jobs{{&plan.sides[side].setup, &plan.sides[side].cuts}};
            programs[side] = readBack(postPrograms(jobs, drawn.project.machine, {"test", ""}),
                                      plan.sides[side].setup);
        }
    }
    const PanelSides sides{{job.held, programs}, *job.panel};
    return provePanel(sides, plan, drawn.project.bodyCut, drawn.project.machine);
}

/// mm3 of a proved piece's final wood that lie inside its outline: the frame is sawn off.
inline double woodInside(const PartJob& job) {
    const Stock& stock = *job.proof->stock;
    const PanelField field(*job.panel, job.held.last().fromInstrument,
                           {{stock.x(0), stock.y(0)}, stock.cell(), stock.columns(), stock.rows()});
    double sum = 0;
    for (std::size_t i = 0; i < field.front.size(); ++i) {
        const auto wide = static_cast<std::size_t>(stock.columns());
        const int c = static_cast<int>(i % wide);
        const int r = static_cast<int>(i / wide);
        sum += field.in(i) ? std::max(0.0, double(stock.high(c, r)) - stock.low(c, r)) : 0;
    }
    return sum * stock.cell() * stock.cell();
}

/// Every finding of a proof that stops it, by code.
inline std::string stopsOf(const PartProof& proof) {
    std::string out;
    for (const ProofReport& side : proof.sides) {
        for (const Finding& f : side.findings) {
            out += f.weight == Weight::stop ? f.code + ": " + f.message + "\n" : "";
        }
    }
    return out;
}

} // namespace wren::test
