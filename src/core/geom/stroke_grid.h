#pragma once

#include "geom/crossing.h"

#include <vector>

namespace wren {

/// Strokes sorted into the cells of a grid, to find those near a place.
class StrokeGrid {
public:
    explicit StrokeGrid(const std::vector<Stroke>& strokes);

    /// Calls `see(index)` once for every stroke whose cells touch the box, until it returns true;
    /// whether it did.
    template <typename See>
    bool near(Vec2 low, Vec2 high, See see) const {
        ++stamp_;
        const Cells c = cells(low, high);
        for (int j = c.y0; j <= c.y1; ++j) {
            for (int i = c.x0; i <= c.x1; ++i) {
                const auto cell = static_cast<std::size_t>(j) * static_cast<std::size_t>(nx_) +
                                  static_cast<std::size_t>(i);
                for (std::size_t k = first_[cell]; k < first_[cell + 1]; ++k) {
                    const std::size_t s = held_[k];
                    if (seen_[s] != stamp_) {
                        seen_[s] = stamp_;
                        if (see(s)) {
                            return true;
                        }
                    }
                }
            }
        }
        return false;
    }

    /// Whether any stroke comes closer to `p` than `distance`.
    bool closer(Vec2 p, double distance) const;

private:
    struct Cells {
        int x0, y0, x1, y1;
    };
    Cells cells(Vec2 low, Vec2 high) const;

    const std::vector<Stroke>& strokes_;
    Vec2 low_;
    double size_ = 1;
    int nx_ = 1;
    int ny_ = 1;
    std::vector<std::size_t> first_; ///< of each cell in held_, and one more
    std::vector<std::size_t> held_;
    mutable std::vector<unsigned> seen_;
    mutable unsigned stamp_ = 0;
};

} // namespace wren
