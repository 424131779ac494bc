#pragma once

#include "support.h"

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

/// The neck of a project; fails the test when it cannot be drawn.
inline NeckJob drawnNeck(const Project& p) {
    Derived d = deriveDrawing(p);
    REQUIRE(d.neck);
    return std::move(*d.neck);
}

} // namespace wren::test
