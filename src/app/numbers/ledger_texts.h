#pragma once

#include "job/derive.h"
#include "numbers/ledger.h"
#include "part/setup_geometry.h"

namespace wren::app {

/// What a value that follows tells of the body, or of the instrument's side; a dash where there is
/// none.
template <typename F>
auto withBody(F f) {
    return [f](const Derived& d) { return d.body ? f(d, *d.body) : dash; };
}

template <typename F>
auto withSetup(F f) {
    return [f](const Derived& d) {
        return d.body && d.neck ? f(setupGeometry(d.body->part, d.neck->part)) : dash;
    };
}

} // namespace wren::app
