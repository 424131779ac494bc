#pragma once

#include <algorithm>

namespace wren::app {

/// Maps the instrument's X (mm) to pixels along the long ruler.
struct RulerScale {
    double left = 0;   ///< pixel of mm `from`
    double from = -10; ///< mm at the left end
    double perMm = 2;  ///< pixels a mm

    double px(double mm) const { return left + (mm - from) * perMm; }
    double mm(double px) const { return from + (px - left) / perMm; }

    /// Shows [a, b] mm over `width` pixels from `left`.
    static RulerScale fit(double a, double b, double left, double width) {
        return {left, a, width / std::max(1.0, b - a)};
    }

    /// Zoomed by `factor` with the mm under `px` staying where it is.
    RulerScale zoomed(double factor, double px_) const {
        const double keep = mm(px_);
        RulerScale s = *this;
        s.perMm = std::clamp(perMm * factor, 0.2, 200.0);
        s.from = keep - (px_ - left) / s.perMm;
        return s;
    }
};

} // namespace wren::app
