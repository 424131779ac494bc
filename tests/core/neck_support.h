#pragma once

#include "support.h"

#include <functional>

namespace wren::test {

/// A plain board with an ordinary bolt-on neck, and what a drawer for it needs.
inline Project neckWith(std::initializer_list<std::pair<const char*, const char*>> changes = {}) {
    Project p = loadProject(plainFile);
    p.bits = starterDrawer();
    for (const auto& [key, text] : {std::pair{"neck.joint", "bolt-on"}}) {
        p = withKey(p, key, text);
    }
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

/// A neck as drawn, and as it lies.
struct HeldNeck : NeckDrawn {
    Held held;
};

/// The neck of a project; fails the test when it cannot be drawn.
inline HeldNeck drawnNeck(const Project& p) {
    Derived d = deriveDrawing(p);
    REQUIRE(d.neck);
    return {std::move(*d.neck), d.job(Role::neck)->held};
}

/// The proof of a neck's plan from programs, its own read back unless others are given.
inline PartProof provedNeck(const Derived& d, const SidePrograms& programs,
                            double cell = proofCell) {
    const PartJob& job = *d.job(Role::neck);
    return proveNeck(d.neck->part, neckSides(d.neck->part, job.held, programs), job.neckPlan(),
                     d.project.neckCut, d.project.machine, cell);
}

using Changes = std::vector<std::pair<const char*, const char*>>;

inline Project withKeys(Project p, const Changes& changes) {
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

/// Derives each neck from the design to its proof, and wants it proved; `after` may change more.
inline void checkAllProved(const std::function<Project()>& base, const std::vector<Changes>& necks,
                           const std::function<void(Project&)>& after = {}) {
    if (WREN_SANITIZED) {
        return; // whole proofs; the plain one of each kind goes the same ways
    }
    for (const Changes& changes : necks) {
        Project p = base();
        for (const auto& [key, text] : changes) {
            p = withKey(p, key, text);
        }
        if (after) {
            after(p);
        }
        const Derived d = derive(p);
        std::string stops;
        for (const Finding& f : d.findings) {
            stops += f.weight == Weight::stop ? f.message + "\n" : "";
        }
        INFO(changes.front().first << " " << changes.front().second << "\n" << stops);
        REQUIRE(d.neck);
        REQUIRE(d.job(Role::neck)->proof);
        CHECK(d.job(Role::neck)->proof->passed());
    }
}

/// How many of the designed wood's cells stand more than 0.1 mm off in the cut wood, as a share.
inline double shareOff(const Stock& wanted, const Stock& cut, bool backToo) {
    long cells = 0;
    long off = 0;
    for (int r = 0; r < cut.rows(); ++r) {
        for (int c = 0; c < cut.columns(); ++c) {
            if (wanted.wood(c, r)) {
                ++cells;
                off += std::abs(cut.low(c, r) - wanted.low(c, r)) > 0.1 ||
                       (backToo && std::abs(cut.high(c, r) - wanted.high(c, r)) > 0.1);
            }
        }
    }
    CHECK(cells > 500000);
    return static_cast<double>(off) / static_cast<double>(cells);
}

} // namespace wren::test
