#include "proof/stock.h"

#include "proof/swept.h"
#include "proof/swept_arc.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace wren {
namespace {

constexpr double arcTolerance = 0.001; ///< mm

/// Cells of a row that are lowered together where the swept surface is smooth; halved, down to the
/// fewest worth it, where it is not.
constexpr int mostTogether = 32;
constexpr int fewestTogether = 8;
constexpr double smooth = 1e-5; ///< mm, where it is checked; between, within 0.0001

/// Side by side in four lanes, as one processor step.
float highestOf(const float* cells, int count) {
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

/// What a move takes in one band of rows, bin by bin; the trace, which all bands share, is told
/// once.
class Tally {
public:
    explicit Tally(LoadTrace::Along along) : along_(along), first_(along.bins()) {
        if (emptyBins().size() < along_.bins()) {
            emptyBins().resize(along_.bins());
        }
        bins_ = emptyBins().data();
    }
    ~Tally() {
        for (std::size_t k = first_; k <= last_ && k < along_.bins(); ++k) {
            if (bins_[k].cells > 0) {
                along_.add(k, bins_[k].height, bins_[k].cells);
                bins_[k] = {};
            }
        }
    }
    Tally(const Tally&) = delete;
    Tally& operator=(const Tally&) = delete;

    std::size_t count() const { return along_.bins(); }
    void add(std::size_t bin, float height) {
        first_ = std::min(first_, bin);
        last_ = std::max(last_, bin);
        bins_[bin].height += height;
        ++bins_[bin].cells;
    }

private:
    struct Bin {
        double height = 0;
        int cells = 0;
    };
    /// Empty between moves.
    static std::vector<Bin>& emptyBins() {
        thread_local std::vector<Bin> all;
        return all;
    }

    LoadTrace::Along along_;
    Bin* bins_;
    std::size_t first_;
    std::size_t last_ = 0;
};

/// Books the wood cells lose under the bin of the way in which the tool reaches them.
template <typename Piece>
class Meter {
public:
    /// A piece from one fraction of the whole move to another.
    Meter(Tally& tally, const Piece& piece, double from, double to)
        : tally_(tally), piece_(piece), from_(from), span_(to - from) {}

    /// What each place of a row loses, mm.
    void take(const PlacesInRow& places, const float* lost) {
        std::array<double, mostTogether> x;
        std::array<float, mostTogether> height;
        int n = 0;
        for (int i = 0; i < places.count; ++i) {
            x[static_cast<std::size_t>(n)] = places.x(i);
            height[static_cast<std::size_t>(n)] = lost[i];
            n += lost[i] >= rounding ? 1 : 0;
        }
        if (n > 0) {
            book(x.data(), height.data(), n, places.y);
        }
    }

private:
    static constexpr float rounding = 0.0005F; ///< mm

    void book(const double* x, const float* height, int n, double y) {
        std::array<double, mostTogether> at;
        std::array<int, mostTogether> bin;
        const int last = static_cast<int>(tally_.count()) - 1;
        if (last > 0) {
            piece_.reached(x, n, y, at.data());
        }
        const double bins = last > 0 ? last + 1 : 0;
        for (int i = 0; i < n && last > 0; ++i) {
            const auto k = static_cast<std::size_t>(i);
            const double along = std::min(std::max(from_ + span_ * at[k], 0.0), 1.0);
            bin[k] = std::min(static_cast<int>(along * bins), last);
        }
        for (int i = 0; i < n; ++i) {
            const auto k = static_cast<std::size_t>(i);
            tally_.add(last > 0 ? static_cast<std::size_t>(bin[k]) : 0, height[k]);
        }
    }

    Tally& tally_;
    const Piece& piece_;
    double from_;
    double span_;
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

/// One row of a pass: of a shape, booked by when a piece of the way, often the same, reaches it.
template <typename Shape, typename Piece = Shape>
class Row {
public:
    Row(Stock& stock, const Shape& swept, int row, Meter<Piece>* meter)
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

/// Calls f(row, first column, last column) for those cells of overRows() that a tool may still
/// lower which has cut where the piece begins.
template <typename F>
void overFreshRows(const Stock& stock, const Swept& swept, int rowFrom, int rowTo, F f) {
    overRows(stock, swept, rowFrom, rowTo, [&](int row, int c0, int c1) {
        double lo = stock.x(c0) - stock.cell() / 2;
        double hi = stock.x(c1) + stock.cell() / 2;
        if (swept.flatAndLevel()) {
            // All its start covers is as low already.
            const auto [from, to] = swept.startSpan(stock.y(row));
            if (from <= to) {
                const int d0 = static_cast<int>(std::ceil(stock.column(from)));
                const int d1 = static_cast<int>(std::floor(stock.column(to)));
                if (c0 < d0) {
                    f(row, c0, std::min(c1, d0 - 1));
                }
                if (d1 < c1) {
                    f(row, std::max(c0, d1 + 1), c1);
                }
                return;
            }
        } else {
            swept.keepAhead(stock.y(row), lo, hi);
        }
        c0 = std::max(c0, static_cast<int>(std::floor(stock.column(lo))));
        c1 = std::min(c1, static_cast<int>(std::ceil(stock.column(hi))));
        if (c0 <= c1) {
            f(row, c0, c1);
        }
    });
}

void sweepPiece(Stock& stock, const Swept& swept, int rowFrom, int rowTo, bool chained,
                Meter<Swept>* meter) {
    const auto row = [&](int r, int c0, int c1) {
        Row cells(stock, swept, r, meter);
        if (swept.flatAndLevel()) {
            cells.level(c0, c1 + 1, static_cast<float>(swept.zMin()));
            return;
        }
        int c = c0;
        for (; c + mostTogether <= c1; c += mostTogether) {
            cells.lowerTogether(c);
        }
        cells.lower(c, c1 + 1);
    };
    if (chained && swept.travels()) {
        overFreshRows(stock, swept, rowFrom, rowTo, row);
    } else {
        overRows(stock, swept, rowFrom, rowTo, row);
    }
}

/// A level pass of a rounded end along X, the bulk of a radius: all cells of a row between the two
/// ends get the same height.
void sweepAlongX(Stock& stock, const Swept& swept, double x0, double x1, int rowFrom, int rowTo,
                 Meter<Swept>* meter) {
    overRows(stock, swept, rowFrom, rowTo, [&](int row, int c0, int c1) {
        const double y = stock.y(row);
        const int m0 = std::clamp(static_cast<int>(std::ceil(stock.column(x0))), c0, c1 + 1);
        const int m1 = std::clamp(static_cast<int>(std::floor(stock.column(x1))) + 1, m0, c1 + 1);
        Row cells(stock, swept, row, meter);
        cells.lower(c0, m0);
        cells.level(m0, m1, static_cast<float>(swept.height((x0 + x1) / 2, y)));
        cells.lower(m1, c1 + 1);
    });
}

/// Calls f(first column, last column) for the cells whose centres lie in an X interval.
template <typename F>
void overColumns(const Stock& stock, SweptArc::Span span, F f) {
    if (span.first > span.second) {
        return;
    }
    const int c0 = std::max(0, static_cast<int>(std::ceil(stock.column(span.first))));
    const int c1 =
        std::min(stock.columns() - 1, static_cast<int>(std::floor(stock.column(span.second))));
    if (c0 <= c1) {
        f(c0, c1);
    }
}

/// The disc of the tool's end where an arc's piece begins or ends.
void sweepDisc(Stock& stock, const EndShape& tool, Vec3 at, int rowFrom, int rowTo,
               Meter<SweptArc>* meter) {
    const Swept disc(at, at, tool);
    overRows(stock, disc, rowFrom, rowTo, [&](int row, int c0, int c1) {
        Row<Swept, SweptArc> cells(stock, disc, row, meter);
        if (tool.plainFlat()) {
            cells.level(c0, c1 + 1, static_cast<float>(at.z));
        } else {
            cells.lower(c0, c1 + 1);
        }
    });
}

void sweepWedge(Stock& stock, const SweptArc& arc, bool flat, int rowFrom, int rowTo,
                Meter<SweptArc>* meter) {
    const Stock& grid = stock;
    const int first = std::max(rowFrom, static_cast<int>(std::ceil(grid.row(arc.yMin()))));
    const int last = std::min(rowTo - 1, static_cast<int>(std::floor(grid.row(arc.yMax()))));
    for (int row = first; row <= last; ++row) {
        Row<SweptArc> cells(stock, arc, row, meter);
        for (const SweptArc::Span& span : arc.spans(stock.y(row))) {
            overColumns(stock, span, [&](int c0, int c1) {
                if (flat) {
                    cells.level(c0, c1 + 1, static_cast<float>(arc.zMin()));
                } else {
                    cells.lower(c0, c1 + 1);
                }
            });
        }
    }
}

} // namespace

void addWay(std::vector<Vec3>& places, const Move& move) {
    const int n = chordsFor(move, arcTolerance);
    places.push_back(move.from);
    for (int i = 1; i <= n; ++i) {
        places.push_back(move.at(static_cast<double>(i) / n));
    }
}

void sweep(Stock& stock, const EndShape& tool, const Move& move, int rowFrom, int rowTo,
           std::optional<LoadTrace::Along> taken, bool chained) {
    const std::vector<SweptArc> arc = arcPiecesOf(move, tool);
    if (arc.empty()) {
        std::vector<Vec3> places;
        addWay(places, move);
        sweep(stock, tool, places, rowFrom, rowTo, taken, chained);
        return;
    }
    if (move.from.z >= stock.topZ()) {
        return;
    }
    std::optional<Tally> tally;
    if (taken) {
        tally.emplace(*taken);
    }
    const auto n = static_cast<double>(arc.size());
    for (std::size_t i = 0; i < arc.size(); ++i) {
        const auto k = static_cast<double>(i);
        std::optional<Meter<SweptArc>> meter;
        if (tally) {
            meter.emplace(*tally, arc[i], k / n, (k + 1) / n);
        }
        Meter<SweptArc>* metered = meter ? &*meter : nullptr;
        if (i == 0 && !chained) {
            sweepDisc(stock, tool, move.from, rowFrom, rowTo, metered);
        }
        sweepWedge(stock, arc[i], tool.plainFlat(), rowFrom, rowTo, metered);
        if (i + 1 == arc.size()) {
            sweepDisc(stock, tool, move.to, rowFrom, rowTo, metered);
        }
    }
}

void sweep(Stock& stock, const EndShape& tool, Way way, int rowFrom, int rowTo,
           std::optional<LoadTrace::Along> taken, bool chained) {
    std::optional<Tally> tally;
    if (taken) {
        tally.emplace(*taken);
    }
    overPieces(stock, way, tool.radius, rowFrom, rowTo,
               [&](Vec3 from, Vec3 to, double start, double end) {
                   const Swept swept(from, to, tool);
                   if (swept.zMin() >= stock.topZ()) {
                       return;
                   }
                   std::optional<Meter<Swept>> meter;
                   if (tally) {
                       meter.emplace(*tally, swept, start, end);
                   }
                   Meter<Swept>* metered = meter ? &*meter : nullptr;
                   if (!tool.plainFlat() && from.y == to.y && from.z == to.z && from.x != to.x) {
                       sweepAlongX(stock, swept, std::min(from.x, to.x), std::max(from.x, to.x),
                                   rowFrom, rowTo, metered);
                   } else {
                       sweepPiece(stock, swept, rowFrom, rowTo, chained || start > 0, metered);
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
    double lowest = Swept::infinity;
    const auto passes = [&](Vec3 from, Vec3 to) {
        lowest = std::min(lowest, Swept(from, to, tool).height(point.x, point.y));
    };
    if (isLevelArc(move)) {
        passes(move.from, move.from);
        for (const SweptArc& piece : arcPiecesOf(move, tool)) {
            lowest = std::min(lowest, piece.height(point));
        }
        passes(move.to, move.to);
        return lowest;
    }
    std::vector<Vec3> places;
    addWay(places, move);
    for (std::size_t i = 1; i < places.size(); ++i) {
        passes(places[i - 1], places[i]);
    }
    return lowest;
}

} // namespace wren
