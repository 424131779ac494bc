#include "design/judge_neck.h"

#include "base/error.h"
#include "design/judge_tuners.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

// Common practice, no source.
constexpr double thinHead = 3;      ///< wood between face and back anywhere
constexpr double sharpTurn = 8;     ///< radius of the hollow of a transition, mm
constexpr double lump = 1.0 / 4000; ///< curvature of the shaft the other way, 1/mm
constexpr double besideBolt = 6;    ///< wood from a bolt's middle to the heel's side or end

Finding& say(Findings& out, Weight weight, const char* code, std::string message, double value,
             double limit) {
    return sayOf(Role::neck, out, weight, code, std::move(message), value, limit);
}

Finding& firm(Findings& out, const char* code, std::string message, double value, double limit) {
    Finding& f = say(out, Weight::stop, code, std::move(message), value, limit);
    f.overridable = false;
    return f;
}

void judgeRod(Findings& out, const Neck& neck, const Fretboard& board, const NeckOutline& outline,
              const NeckBack& back) {
    if (neck.rod.from == RodFrom::none) {
        return;
    }
    const RodPlace p = rodPlace(neck.rod);
    if (p.to > outline.end()) {
        say(out, Weight::caution, "rod-runs-out",
            fmt::format(
                "The rod's slot ends {:.1f} mm from the nut, beyond the neck's end at {:.1f} "
                "mm; it will be open there.",
                p.to, outline.end()),
            p.to, outline.end());
    }
    const bool fromBack = neck.rod.from == RodFrom::back;
    const double over = woodOverRod(neck, board);
    if (fromBack && over < rodWoodCaution) {
        const bool stop = over < rodWoodStop;
        say(out, stop ? Weight::stop : Weight::caution, "rod-cover",
            fmt::format("{:.2f} mm of wood is left between the rod's slot and the {}; {:.0f} mm "
                        "is wanted.",
                        over, neck.fretFace == FretFace::carved ? "fret slots" : "glue plane",
                        rodWoodCaution),
            over, stop ? rodWoodStop : rodWoodCaution);
    }
    if (fromBack) {
        say(out, Weight::note, "rod-strip",
            fmt::format(
                "The rod goes in from the back: its slot is cut and a strip glued over it "
                "before the back is carved. The strip wants to be {:.1f} mm wide, {:.1f} at "
                "the adjuster, and as tall as the blank over the rod.",
                neck.rod.width, std::max(neck.rod.width, neck.rod.adjusterWidth)),
            neck.rod.width, 0);
    }
    if (neck.rod.cap > 0 && !fromBack) {
        say(out, Weight::note, "rod-cap",
            fmt::format("A strip {:.1f} mm wide and {:.1f} mm thick closes the rod's slot; {:.1f} "
                        "mm of depth "
                        "are left for the rod.",
                        neck.rod.width, neck.rod.cap, neck.rod.depth - neck.rod.cap),
            neck.rod.depth - neck.rod.cap, 0);
    }
    WoodUnder least{0, 1e9};
    for (const WoodUnder& w : woodUnderRod(back, neck.rod)) {
        if (w.x <= outline.end() && w.wood < least.wood) {
            least = w;
        }
    }
    if (least.wood >= rodWoodCaution) {
        return;
    }
    const bool stop = least.wood < rodWoodStop;
    Finding& f = say(
        out, stop ? Weight::stop : Weight::caution,
        least.wood <= 0 ? "rod-breaks-through" : "rod-wood",
        least.wood <= 0
            ? fmt::format(
                  "The rod's {} breaks through the back {:.0f} mm from the nut; it must be "
                  "{:.1f} mm shallower there, or the neck thicker, to keep {:.0f} mm of wood.",
                  fromBack ? "room" : "slot", least.x, rodWoodCaution - least.wood, rodWoodCaution)
            : fmt::format("{:.2f} mm of wood is left under the rod's {} {:.0f} mm from the nut; "
                          "{:.0f} mm is wanted: a shallower slot or a thicker neck gives it.",
                          least.wood, fromBack ? "room" : "slot", least.x, rodWoodCaution),
        least.wood, stop ? rodWoodStop : rodWoodCaution);
    f.atX = least.x;
}

void judgeThickness(Findings& out, const Neck& neck, const NeckOutline& outline,
                    const NeckBack& back) {
    double least = 1e9;
    double at = 0;
    for (double x = outline.tip() + 0.5; x < outline.headStart() + 1; x += 1) {
        const auto wood = outline.across(x);
        const double face = headFaceZ(neck, outline.headStart(), x);
        for (int i = 0; i <= 12 && wood[0] <= wood[1]; ++i) {
            const double y = wood[0] + (wood[1] - wood[0]) * i / 12;
            const double thick = face + back.depth(x, y);
            if (thick < least) {
                least = thick;
                at = x;
            }
        }
    }
    if (least < thinHead) {
        Finding& f =
            say(out, Weight::stop, "thin-head",
                fmt::format("Behind the nut the wood is only {:.2f} mm thick, {:.0f} mm from "
                            "it; {:.0f} mm is wanted: begin the head's transition further up "
                            "the shaft, or lower the drop.",
                            least, -at, thinHead),
                least, thinHead);
        f.atX = at;
    }
}

void judgeCurvature(Findings& out, const NeckOutline& outline, const NeckBack& back) {
    double sharpest = 0;
    double at = 0;
    for (double x = back.headFrom(); x < std::min(back.heelTo(), outline.end()); x += 1) {
        for (double u : {-0.7, 0.0, 0.7}) {
            const double k = back.curvatureAlong(u, x);
            if (std::abs(k) > sharpest) {
                sharpest = std::abs(k);
                at = x;
            }
        }
    }
    if (sharpest > 1 / sharpTurn) {
        Finding& f =
            say(out, Weight::caution, "sharp-turn",
                fmt::format("The back kinks {:.0f} mm from the nut: it turns with a radius of "
                            "{:.1f} mm and {:.0f} mm is wanted; a longer transition gives it.",
                            at, 1 / sharpest, sharpTurn),
                1 / sharpest, sharpTurn);
        f.atX = at;
    }
    // On the shaft the spine may bow one way or the other, not both.
    double least = 0;
    double most = 0;
    double leastAt = 0;
    for (double x = back.headTo(); x <= back.heelFrom(); x += 2) {
        const double k = back.curvatureAlong(0, x);
        if (k < least) {
            least = k;
            leastAt = x;
        }
        most = std::max(most, k);
    }
    if (least < -lump && most > lump) {
        Finding& f =
            say(out, Weight::caution, "lump",
                fmt::format("The spine bows both ways between the transitions, most {:.0f} mm "
                            "from the nut (radius {:.0f} mm); the stations' thicknesses do not "
                            "lie on one fair line.",
                            leastAt, -1 / least),
                -least, lump);
        f.atX = leastAt;
    }
}

void judgePlate(Findings& out, const Neck& neck, const NeckOutline& outline) {
    const Headstock& h = neck.head;
    if (h.plate <= 0) {
        return;
    }
    say(out, Weight::note, "face-plate",
        fmt::format(
            "The face plate is {:.2f} mm thick and lies over the head's face; the strings' "
            "break and the tuners are reckoned from its top. Keep {:.2f} mm free for the nut "
            "while the glue sets.",
            h.plate, h.plateGap),
        h.plate, 0)
        .atX = outline.headStart();
}

void judgeHeel(Findings& out, const Neck& neck, const NeckOutline& outline) {
    if (neck.bolts > 0 && neck.joint == NeckJoint::boltOn &&
        neck.boltLong + 2 * besideBolt > neck.heelLength) {
        say(out, Weight::stop, "bolts-outside-heel",
            fmt::format("The bolts' pattern is {:.1f} mm long and the heel {:.1f} mm; 6 mm of wood "
                        "beyond the outer ones is wanted.",
                        neck.boltLong, neck.heelLength),
            neck.boltLong, neck.heelLength - 2 * besideBolt)
            .atX = outline.heelStart();
    }
    const auto across = [&](double x) {
        const auto wood = outline.across(x);
        return wood[1] - wood[0];
    };
    const double reach = neck.bolts >= 2 ? neck.boltLong / 2 : 0;
    const double middle = (outline.heelStart() + outline.end()) / 2;
    const double wide = std::min(across(middle - reach), across(middle + reach));
    const double pattern = neck.bolts >= 4 ? neck.boltWide : 0; // fewer stand in one row
    if (neck.bolts > 0 && neck.joint == NeckJoint::boltOn && pattern + 2 * besideBolt > wide) {
        say(out, Weight::stop, "bolts-outside-heel",
            fmt::format("The bolts' pattern is {:.1f} mm wide and the heel {:.1f} mm; {:.0f} mm of "
                        "wood beyond the outer ones is wanted.",
                        pattern, wide, besideBolt),
            pattern, wide - 2 * besideBolt)
            .atX = outline.heelStart();
    }
    if (neck.joint == NeckJoint::through) {
        say(out, Weight::note, "goes-through",
            fmt::format("The neck goes through: {:.0f} mm of it stand beyond the board's end, and "
                        "wings are glued to its sides there, {:.1f} mm deep under the glue plane.",
                        neck.heelPast, neck.heelDepth),
            neck.heelPast, 0)
            .atX = outline.heelStart();
    }
    if (neck.bolts > 0 && neck.joint == NeckJoint::boltOn && neck.boltDepth > neck.heelDepth - 1) {
        say(out, Weight::stop, "bolts-through",
            fmt::format("The bolts' pilots are {:.1f} mm deep in a heel of {:.1f} mm; leave 1 mm.",
                        neck.boltDepth, neck.heelDepth),
            neck.boltDepth, neck.heelDepth - 1)
            .atX = outline.heelStart();
    }
}

/// What only a board that is glued on can close or hold.
void judgeCarved(Findings& out, const Neck& neck, const Fretboard& board) {
    const auto wantsBoard = [&](const char* what, const char* instead, double value) {
        firm(out, "carved-face",
             fmt::format("The neck carries its frets itself, so no board covers {}: {}.", what,
                         instead),
             value, 0);
    };
    if (neck.rod.from == RodFrom::top) {
        wantsBoard("a rod's slot cut from the top", "let the rod go in from the back, or none",
                   neck.rod.depth);
    }
    if (neck.rod.from != RodFrom::none && neck.rod.carbonWidth > 0) {
        wantsBoard("the carbon rods' slots", "leave them out", neck.rod.carbonWidth);
    }
    if (neck.accent > 0) {
        wantsBoard("an accent strip", "set its thickness to nothing", neck.accent);
    }
    if (neck.head.kind == HeadKind::tilted && neck.head.stock == HeadStock::scarf) {
        wantsBoard("a scarf joint", "take a thick blank", neck.head.angle);
    }
    if (neck.pinFrets[0] || neck.pinFrets[1]) {
        wantsBoard("pins for gluing up", "take them out", neck.pinSize);
    }
    if (board.nutShelf > 0) {
        say(out, Weight::note, "carved-nut",
            "A carved face ends at the nut's line: the nut stands on the glue plane or in its "
            "slot, not on a ledge of the board.",
            board.nutShelf, 0);
    }
}

} // namespace

Findings judgeNeckNumbers(const Neck& neck, const Fretboard& board) {
    Findings out;
    if (neck.fretFace == FretFace::carved) {
        judgeCarved(out, neck, board);
    }
    const Headstock& h = neck.head;
    if (h.kind == HeadKind::flat && h.drop > h.curve) {
        firm(out, "drop-over-curve",
             fmt::format("The head's face drops by {:.2f} mm but its hollow has a radius of only "
                         "{:.2f} mm; a radius of at least the drop was expected.",
                         h.drop, h.curve),
             h.drop, h.curve);
    }
    const auto reads = [&](const char* what, const auto& check) {
        try {
            check();
        } catch (const Error& e) {
            firm(out, "neck-cannot-be-drawn", fmt::format("{}: {}", what, e.what()), 0, 0);
        }
    };
    reads("Neck's stations", [&] { checkStations(neck.stations); });
    reads("Traced sections", [&] { checkTraces(neck.traces); });
    reads("Headstock's outline", [&] { checkHeadNodes(h.nodes); });
    const double above = neck.over == ThickOver::board ? board.thickness + neck.accent : 0;
    const std::vector<NeckTrace>& traces = neck.traces;
    for (std::size_t i = 0; i < neck.stations.size(); ++i) {
        const NeckStation& s = neck.stations[i];
        if (s.thickness - above < neck.shoulder + 2) {
            firm(out, "station-too-thin",
                 fmt::format(
                     "At fret {:g} the neck is {:.2f} mm thick, {:.2f} mm of it neck wood; the "
                     "upright shoulder of {:.2f} mm and 2 mm more were expected.",
                     s.fret, s.thickness, s.thickness - above, neck.shoulder),
                 s.thickness, above + neck.shoulder + 2);
        }
        if (!s.trace.empty() && std::none_of(traces.begin(), traces.end(), [&](const NeckTrace& t) {
                return t.name == s.trace;
            })) {
            firm(out, "no-such-section",
                 fmt::format("The station at fret {:g} takes the shape of a section \"{}\", and "
                             "there is none of that name.",
                             s.fret, s.trace),
                 s.fret, 0);
        }
        if (s.fret > board.frets && board.frets > 0) {
            firm(out, "station-past-frets",
                 fmt::format("A neck station stands at fret {:g}, but the board's last is fret "
                             "{}; one of its frets was expected.",
                             s.fret, board.frets),
                 s.fret, board.frets)
                .feature = {FeatureKind::station, i};
        }
    }
    return out;
}

Findings judgeNeck(const Neck& neck, const Fretboard& board, const NeckOutline& outline,
                   const NeckBack& back) {
    Findings out;
    if (back.headTo() > back.heelFrom()) {
        firm(out, "transitions-meet",
             fmt::format(
                 "The head's transition reaches to {:.0f} mm from the nut and the heel's begins "
                 "at {:.0f} mm; no shaft is left between them.",
                 back.headTo(), back.heelFrom()),
             back.headTo(), back.heelFrom());
        return out;
    }
    if (!back.followsHead()) {
        firm(
            out, "head-flares-too-soon",
            "The headstock widens before its transition has begun; begin the transition further up "
            "the shaft or let the head widen later.",
            back.headTo(), 0);
    }
    judgeThickness(out, neck, outline, back);
    judgeCurvature(out, outline, back);
    judgeRod(out, neck, board, outline, back);
    judgeTuners(out, neck, board, outline);
    judgePlate(out, neck, outline);
    judgeHeel(out, neck, outline);
    return out;
}

} // namespace wren
