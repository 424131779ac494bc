#include "proof/stock.h"

#include "proof/pass_row.h"
#include "proof/swept.h"
#include "proof/swept_arc.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace wren {
namespace {

constexpr double arcTolerance = 0.001; ///< mm

/// Calls f(first column, last column) for the cells whose centres lie in an X interval.
template <typename F>
void overColumns(const Stock& stock, std::pair<double, double> span, F f) {
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

/// Calls f(row, first column, last column) for the cells whose centres the tool covers.
template <typename F>
void overRows(const Stock& stock, const Swept& swept, int rowFrom, int rowTo, F f) {
    const int first = std::max(rowFrom, static_cast<int>(std::ceil(stock.row(swept.yMin()))));
    const int last = std::min(rowTo - 1, static_cast<int>(std::floor(stock.row(swept.yMax()))));
    for (int row = first; row <= last; ++row) {
        overColumns(stock, swept.span(stock.y(row)), [&](int c0, int c1) { f(row, c0, c1); });
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
            if (lo > hi) {
                return;
            }
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
        PassRow cells(stock, swept, r, meter);
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
        PassRow cells(stock, swept, row, meter);
        cells.lower(c0, m0);
        cells.level(m0, m1, static_cast<float>(swept.height((x0 + x1) / 2, y)));
        cells.lower(m1, c1 + 1);
    });
}

/// The disc of the tool's end where an arc's piece begins or ends.
void sweepDisc(Stock& stock, const EndShape& tool, Vec3 at, int rowFrom, int rowTo,
               Meter<SweptArc>* meter) {
    const Swept disc(at, at, tool);
    overRows(stock, disc, rowFrom, rowTo, [&](int row, int c0, int c1) {
        PassRow<Swept, SweptArc> cells(stock, disc, row, meter);
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
        PassRow<SweptArc> cells(stock, arc, row, meter);
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
