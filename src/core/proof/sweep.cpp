#include "proof/stock.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();
constexpr double arcTolerance = 0.001; ///< mm

/// A straight piece of tool travel and the shape that travels.
class Swept {
public:
    Swept(Vec3 a, Vec3 b, const EndShape& tool)
        : a_(a), r_(tool.radius), tool_(tool), ball_(tool.ball()), flat_(tool.plainFlat()),
          len_(length(b.xy() - a.xy())), rise_(b.z - a.z), zMin_(std::min(a.z, b.z)), b_(b) {
        if (len_ > 0) {
            u_ = (b.xy() - a.xy()) * (1 / len_);
            slope_ = rise_ / len_;
        }
    }

    /// How far along, as a fraction, the tool takes the wood over a point: a flat end as soon as
    /// its rim comes over it, a round one by and by until it is abreast, which counts as half way.
    double reached(double x, double y) const {
        if (len_ == 0) {
            return 0;
        }
        const Vec2 p = Vec2{x, y} - a_.xy();
        const double along = dot(p, u_);
        const double half = std::sqrt(std::max(0.0, r_ * r_ - (dot(p, p) - along * along)));
        return std::clamp((along - (flat_ ? half : half / 2)) / len_, 0.0, 1.0);
    }

    double yMin() const { return std::min(a_.y, b_.y) - r_; }
    double yMax() const { return std::max(a_.y, b_.y) + r_; }
    double zMin() const { return zMin_; }
    bool flatAndLevel() const { return flat_ && (rise_ == 0 || len_ == 0); }

    /// The x interval the tool covers on the line y; empty (first > second) when it does not.
    std::pair<double, double> span(double y) const {
        double lo = infinity;
        double hi = -infinity;
        const auto disc = [&](Vec3 c) {
            const double d = y - c.y;
            if (std::abs(d) <= r_) {
                const double w = std::sqrt(r_ * r_ - d * d);
                lo = std::min(lo, c.x - w);
                hi = std::max(hi, c.x + w);
            }
        };
        disc(a_);
        disc(b_);
        if (len_ > 0) {
            // The strip between the discs: 0 <= along <= len, |across| <= r, both linear in x.
            const double dy = y - a_.y;
            double from = -infinity;
            double to = infinity;
            clip(u_.x, dy * u_.y, 0, len_, from, to);
            clip(-u_.y, dy * u_.x, -r_, r_, from, to);
            if (from <= to) {
                lo = std::min(lo, a_.x + from);
                hi = std::max(hi, a_.x + to);
            }
        }
        return {lo, hi};
    }

    /// Lowest the tool's surface comes over the point, +infinity outside.
    /// May say +infinity as well where it would not come below `limit`.
    double height(double x, double y, double limit = infinity) const {
        const Vec2 p = Vec2{x, y} - a_.xy();
        const double along = dot(p, u_);
        const double square = dot(p, p) - along * along; // distance from the line, squared
        const double rest = r_ * r_ - std::max(0.0, square);
        if (rest < 0) {
            return infinity;
        }
        const double half = std::sqrt(rest); // the disc covers p while the axis is this near
        const double t0 = std::max(0.0, along - half);
        const double t1 = std::min(len_, along + half);
        if (t0 > t1) {
            return infinity;
        }
        if (len_ == 0) {
            return zMin_ + (ball_ ? r_ - half : flat_ ? 0 : tool_.heightAt(length(p)));
        }
        if (flat_) {
            return a_.z + slope_ * (slope_ > 0 ? t0 : t1);
        }
        if (!ball_) {
            return roundedOver(std::sqrt(std::max(0.0, square)), along, t0, t1, limit);
        }
        // Over the point the ball stands at z(t) + r - sqrt(half^2 - (along - t)^2), convex in t;
        // its derivative vanishes where along - t = half * slope / sqrt(1 + slope^2).
        const double best = along - half * slope_ / std::sqrt(1 + slope_ * slope_);
        const double t = std::clamp(best, t0, t1);
        const double q = along - t;
        return a_.z + slope_ * t + r_ - std::sqrt(std::max(0.0, half * half - q * q));
    }

    /// No lower than this between two places of a row, quickly.
    double lowerBound(double x0, double x1, double y) const {
        if (len_ == 0) { // straight down: no line to be beside
            return zMin_;
        }
        const Vec2 p = Vec2{x0, y} - a_.xy();
        const Vec2 q = Vec2{x1, y} - a_.xy();
        const double left = cross(u_, p);
        const double right = cross(u_, q);
        const double across = left * right < 0 ? 0 : std::min(std::abs(left), std::abs(right));
        const double low = std::min(slope_ * std::clamp(dot(p, u_), 0.0, len_),
                                    slope_ * std::clamp(dot(q, u_), 0.0, len_));
        return a_.z + low - std::abs(slope_) * r_ + tool_.heightAt(std::min(across, r_));
    }

private:
    /// Any other end: lowest of z(t) + outline(distance from the axis at t), convex in t. The place
    /// of the lowest is where the travel's slope and the outline's cancel.
    double roundedOver(double across, double along, double t0, double t1, double limit) const {
        // Neighbouring passes overlap widely: most places are lower already.
        const double nearest = a_.z + slope_ * std::clamp(along, t0, t1);
        if (nearest - std::abs(slope_) * r_ + tool_.heightAt(std::min(across, r_)) >= limit) {
            return infinity;
        }
        const auto at = [&](double t) {
            const double d = std::sqrt(across * across + (along - t) * (along - t));
            return a_.z + slope_ * t + tool_.heightAt(std::min(r_, d));
        };
        if (slope_ == 0) {
            return at(std::clamp(along, t0, t1));
        }
        // Along a nearly level pass, the bulk of a cone's face, the place is all but known: under
        // the level disc at its lower rim, on the rounding a little off the nearest point. What is
        // left out is of the order of slope squared, under 0.00002 mm.
        if (std::abs(slope_) < 0.01 && across < tool_.flat - 0.3) {
            const double rim = std::sqrt(tool_.flat * tool_.flat - across * across);
            return at(std::clamp(along - std::copysign(rim, slope_), t0, t1));
        }
        const double steep = tool_.slopeAt(std::min(across, r_));
        if (std::abs(slope_) < 0.01 && steep > 10 * std::abs(slope_)) {
            return at(std::clamp(along - slope_ * across / steep, t0, t1));
        }
        return lowestBetween(at, across, along, t0, t1);
    }

    template <typename At>
    double lowestBetween(At at, double across, double along, double t0, double t1) const {
        const auto leaning = [&](double t) {
            const double d = std::sqrt(across * across + (along - t) * (along - t));
            return slope_ - (d > 0 ? tool_.slopeAt(std::min(r_, d)) * (along - t) / d : 0);
        };
        // On a nearly level pass the lowest place lies on the low side of the nearest point.
        double low = slope_ > 0 ? t0 : std::max(t0, std::min(along, t1));
        double high = slope_ > 0 ? std::min(t1, std::max(along, t0)) : t1;
        if (leaning(low) >= 0) {
            return at(low);
        }
        if (leaning(high) <= 0) {
            return at(high);
        }
        // The height there is level: off by far less than the pass rises in what is left.
        while ((high - low) * std::abs(slope_) > 1e-6) {
            const double middle = (low + high) / 2;
            (leaning(middle) < 0 ? low : high) = middle;
        }
        return std::min(at(low), at(high));
    }

    /// Keeps the t with lo <= k t + c <= hi.
    static void clip(double k, double c, double lo, double hi, double& from, double& to) {
        if (std::abs(k) < 1e-15) {
            if (c < lo || c > hi) {
                from = infinity;
                to = -infinity;
            }
            return;
        }
        double t0 = (lo - c) / k;
        double t1 = (hi - c) / k;
        if (t0 > t1) {
            std::swap(t0, t1);
        }
        from = std::max(from, t0);
        to = std::min(to, t1);
    }

    Vec3 a_;
    double r_;
    EndShape tool_;
    bool ball_;
    bool flat_;
    double len_;
    double rise_;
    double zMin_;
    Vec3 b_;
    Vec2 u_;
    double slope_ = 0;
};

/// Books the wood cells lose under the bin of the way in which the tool reaches them.
class Meter {
public:
    /// A piece from one fraction of the whole move to another.
    Meter(LoadTrace::Along along, const Swept& piece, double from, double to)
        : along_(along), piece_(piece), from_(from), span_(to - from) {}
    ~Meter() { flush(); }
    Meter(const Meter&) = delete;
    Meter& operator=(const Meter&) = delete;

    void take(double x, double y, double height) {
        if (height < rounding) {
            return;
        }
        std::size_t bin = 0;
        if (along_.bins() > 1) {
            const double at = from_ + span_ * piece_.reached(x, y);
            bin = std::min(along_.bins() - 1,
                           static_cast<std::size_t>(at * static_cast<double>(along_.bins())));
        }
        if (bin != bin_) {
            flush();
            bin_ = bin;
        }
        height_ += height;
        ++cells_;
    }

private:
    static constexpr double rounding = 0.0005; ///< mm

    void flush() {
        if (cells_ > 0) {
            along_.add(bin_, height_, cells_);
        }
        height_ = 0;
        cells_ = 0;
    }

    LoadTrace::Along along_;
    const Swept& piece_;
    double from_;
    double span_;
    std::size_t bin_ = 0;
    double height_ = 0;
    int cells_ = 0;
};

/// Calls f(row, first column, last column) for the cells whose centres the tool covers.
template <typename F>
void overRows(const Stock& stock, const Swept& swept, int rowFrom, int rowTo, F f) {
    const int first = std::max(rowFrom, static_cast<int>(std::ceil(stock.row(swept.yMin()))));
    const int last = std::min(rowTo - 1, static_cast<int>(std::floor(stock.row(swept.yMax()))));
    for (int row = first; row <= last; ++row) {
        const auto [lo, hi] = swept.span(stock.y(row));
        if (lo > hi) {
            continue;
        }
        const int c0 = std::max(0, static_cast<int>(std::ceil(stock.column(lo))));
        const int c1 =
            std::min(stock.columns() - 1, static_cast<int>(std::floor(stock.column(hi))));
        if (c0 <= c1) {
            f(row, c0, c1);
        }
    }
}

/// Calls f(from, to, fraction, fraction) for the straight pieces of a way a tool so wide has in the
/// rows [rowFrom, rowTo).
template <typename F>
void overPieces(const Stock& stock, Way way, double radius, int rowFrom, int rowTo, F f) {
    const double low = stock.y(rowFrom) - radius;
    const double high = stock.y(rowTo - 1) + radius;
    const std::size_t n = way.size() - 1;
    for (std::size_t i = 0; i < n; ++i) {
        const Vec3& from = way[i];
        const Vec3& to = way[i + 1];
        if (std::max(from.y, to.y) >= low && std::min(from.y, to.y) <= high) {
            f(from, to, static_cast<double>(i) / static_cast<double>(n),
              static_cast<double>(i + 1) / static_cast<double>(n));
        }
    }
}

/// All cells of a row that the tool brings down to one height.
class LevelRow {
public:
    LevelRow(Stock& stock, int row, Meter* meter)
        : stock_(stock), cells_(stock.row(row)), y_(stock.y(row)), meter_(meter) {}

    void lower(int from, int to, float z) {
        float* cells = cells_ + from;
        const int count = to - from;
        if (meter_ && count > 0 && *std::max_element(cells, cells + count) > z) {
            for (int i = 0; i < count; ++i) {
                if (cells[i] > z) {
                    meter_->take(stock_.x(from + i), y_, woodOver(from + i, z));
                }
            }
        }
        for (int i = 0; i < count; ++i) {
            cells[i] = cells[i] < z ? cells[i] : z;
        }
    }

private:
    /// What the cell loses; below its own underside there is none.
    double woodOver(int column, float z) const {
        return cells_[column] - std::max(z, stock_.lowOf(cells_ + column));
    }

    Stock& stock_;
    float* cells_;
    double y_;
    Meter* meter_;
};

/// Cells of a row that are lowered together where the swept surface is smooth; halved, down to the
/// fewest worth it, where it is not.
constexpr int mostTogether = 32;
constexpr int fewestTogether = 8;
constexpr double smooth = 1e-5; ///< mm, where it is checked; between, within 0.0001

/// One row of a rounded end's pass, cell by cell.
class Row {
public:
    Row(Stock& stock, const Swept& swept, int row, Meter* meter)
        : stock_(stock), swept_(swept), cells_(stock.row(row)), y_(stock.y(row)), meter_(meter) {}

    void lower(int from, int to) {
        for (int c = from; c < to; ++c) {
            if (cells_[c] > swept_.zMin()) { // most cells of a repeated pass are already lower
                take(c, swept_.height(stock_.x(c), y_, cells_[c]));
            }
        }
    }

    /// Along a long pass the surface over a row is smooth: a parabola through three places stands
    /// for it where two more places between them agree, else every cell is asked.
    void lowerTogether(int from, int count = mostTogether) {
        // Neighbouring passes overlap widely: most places are lower already.
        const float highest = *std::max_element(cells_ + from, cells_ + from + count);
        if (highest <= swept_.lowerBound(stock_.x(from), stock_.x(from + count), y_)) {
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
            for (int k = 0; k < count; ++k) {
                take(from + k, parabola(k));
            }
        } else if (h >= fewestTogether) {
            lowerTogether(from, h);
            lowerTogether(from + h, h);
        } else {
            lower(from, from + count);
        }
    }

private:
    void take(int c, double z) {
        const auto low = static_cast<float>(z);
        if (meter_ && low < cells_[c]) {
            meter_->take(stock_.x(c), y_, cells_[c] - std::max(low, stock_.lowOf(cells_ + c)));
        }
        cells_[c] = std::min(cells_[c], low);
    }

    Stock& stock_;
    const Swept& swept_;
    float* cells_;
    double y_;
    Meter* meter_;
};

void sweepPiece(Stock& stock, const Swept& swept, int rowFrom, int rowTo, Meter* meter) {
    overRows(stock, swept, rowFrom, rowTo, [&](int row, int c0, int c1) {
        if (swept.flatAndLevel()) {
            LevelRow(stock, row, meter).lower(c0, c1 + 1, static_cast<float>(swept.zMin()));
            return;
        }
        Row cells(stock, swept, row, meter);
        int c = c0;
        for (; c + mostTogether <= c1; c += mostTogether) {
            cells.lowerTogether(c);
        }
        cells.lower(c, c1 + 1);
    });
}

/// A level pass of a rounded end along X, the bulk of a radius: all cells of a row between the two
/// ends get the same height.
void sweepAlongX(Stock& stock, const Swept& swept, double x0, double x1, int rowFrom, int rowTo,
                 Meter* meter) {
    overRows(stock, swept, rowFrom, rowTo, [&](int row, int c0, int c1) {
        const double y = stock.y(row);
        const int m0 = std::clamp(static_cast<int>(std::ceil(stock.column(x0))), c0, c1 + 1);
        const int m1 = std::clamp(static_cast<int>(std::floor(stock.column(x1))) + 1, m0, c1 + 1);
        LevelRow cells(stock, row, meter);
        const auto ends = [&](int from, int to) {
            for (int c = from; c < to; ++c) {
                cells.lower(c, c + 1, static_cast<float>(swept.height(stock.x(c), y)));
            }
        };
        ends(c0, m0);
        cells.lower(m0, m1, static_cast<float>(swept.height((x0 + x1) / 2, y)));
        ends(m1, c1 + 1);
    });
}

} // namespace

void addWay(std::vector<Vec3>& places, const Move& move) {
    const int n = chordsFor(move, arcTolerance);
    places.push_back(move.from);
    for (int i = 1; i <= n; ++i) {
        places.push_back(move.at(static_cast<double>(i) / n));
    }
}

void sweep(Stock& stock, const EndShape& tool, const Move& move, int rowFrom, int rowTo) {
    std::vector<Vec3> places;
    addWay(places, move);
    sweep(stock, tool, places, rowFrom, rowTo);
}

void sweep(Stock& stock, const EndShape& tool, Way way, int rowFrom, int rowTo,
           std::optional<LoadTrace::Along> taken) {
    overPieces(stock, way, tool.radius, rowFrom, rowTo,
               [&](Vec3 from, Vec3 to, double start, double end) {
                   const Swept swept(from, to, tool);
                   if (swept.zMin() >= stock.topZ()) {
                       return;
                   }
                   std::optional<Meter> meter;
                   if (taken) {
                       meter.emplace(*taken, swept, start, end);
                   }
                   Meter* metered = meter ? &*meter : nullptr;
                   if (!tool.plainFlat() && from.y == to.y && from.z == to.z && from.x != to.x) {
                       sweepAlongX(stock, swept, std::min(from.x, to.x), std::max(from.x, to.x),
                                   rowFrom, rowTo, metered);
                   } else {
                       sweepPiece(stock, swept, rowFrom, rowTo, metered);
                   }
               });
}

double entersWood(const Stock& stock, const EndShape& body, double above, Way way, int rowFrom,
                  int rowTo) {
    double deepest = 0;
    overPieces(stock, way, body.radius, rowFrom, rowTo, [&](Vec3 from, Vec3 to, double, double) {
        const Vec3 lift{0, 0, above};
        const Swept swept(from + lift, to + lift, body);
        if (swept.zMin() >= stock.topZ()) {
            return;
        }
        overRows(stock, swept, rowFrom, rowTo, [&](int row, int c0, int c1) {
            const float* cells = stock.row(row);
            for (int c = c0; c <= c1; ++c) {
                if (stock.wood(c, row)) {
                    deepest = std::max(deepest, cells[c] - swept.height(stock.x(c), stock.y(row)));
                }
            }
        });
    });
    return deepest;
}

bool touchesWood(const Stock& stock, const EndShape& body, double above, Way way, int rowFrom,
                 int rowTo) {
    bool touches = false;
    overPieces(stock, way, body.radius, rowFrom, rowTo, [&](Vec3 from, Vec3 to, double, double) {
        const Vec3 lift{0, 0, above};
        const Swept swept(from + lift, to + lift, body);
        if (touches || swept.zMin() >= stock.topZ()) {
            return;
        }
        overRows(stock, swept, rowFrom, rowTo, [&](int row, int c0, int c1) {
            const float* cells = stock.row(row);
            for (int c = c0; c <= c1 && !touches; ++c) {
                touches = cells[c] > swept.zMin() && stock.wood(c, row) &&
                          cells[c] > swept.height(stock.x(c), stock.y(row));
            }
        });
    });
    return touches;
}

double heightLeftAt(Vec2 point, const EndShape& tool, const Move& move) {
    std::vector<Vec3> places;
    addWay(places, move);
    double lowest = infinity;
    for (std::size_t i = 1; i < places.size(); ++i) {
        lowest = std::min(lowest, Swept(places[i - 1], places[i], tool).height(point.x, point.y));
    }
    return lowest;
}

} // namespace wren
