#pragma once

#include "proof/booking.h"
#include "proof/stock.h"

#include <cmath>

namespace wren {

/// Side by side in four lanes, as one processor step.
inline float highestOf(const float* cells, int count) {
    std::array<float, 4> lanes{cells[0], cells[0], cells[0], cells[0]};
    int i = 0;
    for (; i + 4 <= count; i += 4) {
        for (std::size_t k = 0; k < 4; ++k) {
            const float c = cells[i + static_cast<int>(k)];
            lanes[k] = c > lanes[k] ? c : lanes[k];
        }
    }
    for (; i < count; ++i) {
        lanes[0] = std::max(lanes[0], cells[i]);
    }
    return std::max({lanes[0], lanes[1], lanes[2], lanes[3]});
}

/// One row of a pass: of a shape, booked by when a piece of the way, often the same, reaches it.
template <typename Shape, typename Piece = Shape>
class PassRow {
public:
    PassRow(Stock& stock, const Shape& swept, int row, Meter<Piece>* meter)
        : stock_(stock), swept_(swept), cells_(stock.row(row)), y_(stock.y(row)), meter_(meter) {}

    /// All cells brought down to one height.
    void level(int from, int to, float z) {
        for (int c = from; c < to; c += mostTogether) {
            const int count = std::min(mostTogether, to - c);
            if (meter_ && highestOf(cells_ + c, count) > z) {
                book(c, count, [z](int) { return z; });
            }
            float* cells = cells_ + c;
            for (int i = 0; i < count; ++i) {
                cells[i] = cells[i] < z ? cells[i] : z;
            }
        }
    }

    /// Cell by cell.
    void lower(int from, int to) {
        std::array<double, mostTogether> z;
        for (int c = from; c < to; c += mostTogether) {
            const int count = std::min(mostTogether, to - c);
            // Most cells of a repeated pass are already lower.
            if (highestOf(cells_ + c, count) > swept_.zMin()) {
                swept_.heights(places(c, count), cells_ + c, z.data());
                take(c, count, z);
            }
        }
    }

    /// Along a long pass the surface over a row is smooth: a parabola through three places stands
    /// for it where two more places between them agree, else every cell is asked.
    void lowerTogether(int from, int count = mostTogether) {
        // Neighbouring passes overlap widely: most places are lower already.
        if (highestOf(cells_ + from, count) <=
            swept_.lowerBound(stock_.x(from), stock_.x(from + count), y_)) {
            return;
        }
        const auto at = [&](int k) { return swept_.height(stock_.x(from + k), y_); };
        const int h = count / 2;
        const double z0 = at(0);
        const double z1 = at(h);
        const double z2 = at(count);
        const double bend = (z0 - 2 * z1 + z2) / (2.0 * h * h);
        const double rise = (z2 - z0) / (2.0 * h);
        const auto parabola = [&](int k) { return z1 + (rise + bend * (k - h)) * (k - h); };
        // Infinite outside the pass, and then never within the tolerance.
        if (std::abs(parabola(h / 2) - at(h / 2)) < smooth &&
            std::abs(parabola(h + h / 2) - at(h + h / 2)) < smooth) {
            std::array<double, mostTogether> z;
            for (int k = 0; k < count; ++k) {
                z[static_cast<std::size_t>(k)] = parabola(k);
            }
            take(from, count, z);
        } else if (h >= fewestTogether) {
            lowerTogether(from, h);
            lowerTogether(from + h, h);
        } else {
            lower(from, from + count);
        }
    }

private:
    /// Halved, down to the fewest worth it, where the surface is not smooth.
    static constexpr int fewestTogether = 8;
    static constexpr double smooth = 1e-5; ///< mm, where it is checked; between, within 0.0001

    PlacesInRow places(int from, int count) const { return stock_.places(from, count, y_); }

    /// What cells lose that are brought down to z(i); below their own underside there is none.
    template <typename Z>
    void book(int from, int count, Z z) {
        std::array<float, mostTogether> lost;
        const float* cells = cells_ + from;
        const float* under = stock_.undersideOf(cells);
        if (under) {
            for (int i = 0; i < count; ++i) {
                lost[static_cast<std::size_t>(i)] =
                    std::max(0.0F, cells[i] - std::max(z(i), under[i]));
            }
        } else {
            const auto bottom = static_cast<float>(stock_.bottomZ());
            for (int i = 0; i < count; ++i) {
                lost[static_cast<std::size_t>(i)] =
                    std::max(0.0F, cells[i] - std::max(z(i), bottom));
            }
        }
        meter_->take(places(from, count), lost.data());
    }

    void take(int from, int count, const std::array<double, mostTogether>& z) {
        std::array<float, mostTogether> low;
        float* cells = cells_ + from;
        bool any = false;
        for (int i = 0; i < count; ++i) {
            const auto k = static_cast<std::size_t>(i);
            low[k] = static_cast<float>(z[k]);
            any |= low[k] < cells[i];
        }
        if (meter_ && any) {
            book(from, count, [&](int i) { return low[static_cast<std::size_t>(i)]; });
        }
        for (int i = 0; i < count; ++i) {
            const float z1 = low[static_cast<std::size_t>(i)];
            cells[i] = z1 < cells[i] ? z1 : cells[i];
        }
    }

    Stock& stock_;
    const Shape& swept_;
    float* cells_;
    double y_;
    Meter<Piece>* meter_;
};

} // namespace wren
