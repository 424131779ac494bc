#pragma once

#include <cmath>

namespace wren {

/// Six decimals say all there is to say and keep a file the same on every machine.
inline double tidy(double v) {
    const double r = std::round(v * 1e6) / 1e6;
    return r == 0 ? 0 : r;
}

} // namespace wren
