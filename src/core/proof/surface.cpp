#include "proof/surface.h"

#include "proof/blame.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

#include <fmt/format.h>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace wren {
namespace {

/// What one row of cells adds up to. Deviations along the normal, mm.
struct RowSum {
    double low = 0;
    double high = 0;
    int lowAt = -1;
    int highAt = -1;
    double squares = 0;
    long cells = 0;
};

/// An open marker as the rows see it: its floor, and the band its walls stand in.
struct OpenMarker {
    ConvexRows inside;  ///< clear of the walls
    ConvexRows outside; ///< walls included
    Vec2 middle;
    double floor = 0;
    std::optional<EndShape> drilled;
};

std::vector<OpenMarker> openMarkers(const BoardPart& board, const Setup& setup,
                                    const std::vector<Cut>& cuts) {
    std::vector<OpenMarker> open;
    const Cut* cut = cutOf(cuts, CutKind::markers);
    const Markers& m = board.design().markers;
    if (m.inlay == Inlay::filled && cutOf(cuts, CutKind::skim)) {
        return open;
    }
    for (const MarkerPocket& pocket : board.pockets()) {
        OpenMarker o;
        o.inside = rowsOf(markerOutline(m, pocket.place, wallAllowed, pocket.beyond), setup);
        o.outside = rowsOf(markerOutline(m, pocket.place, -wallAllowed, pocket.beyond), setup);
        o.middle = pocket.place.at;
        o.floor = pocket.floor;
        if (cut && cut->bit.kind == BitKind::drill) {
            o.drilled = EndShape::of(cut->bit);
            o.floor -= cut->bit.tipHeight();
        }
        open.push_back(std::move(o));
    }
    return open;
}

/// What is designed over each cell of one row of the stock; NaN where nothing is, or a wall is.
class DesignedRow {
public:
    DesignedRow(const BoardPart& board, const Setup& setup, const Stock& stock,
                const std::vector<OpenMarker>& markers)
        : board_(board), setup_(setup), stock_(stock), markers_(markers),
          height_(static_cast<std::size_t>(stock.columns())) {}

    /// Instrument heights.
    const std::vector<double>& at(int row) {
        std::fill(height_.begin(), height_.end(), nothing);
        const double y = setup_.fromInstrument.toInstrument({0, stock_.y(row), 0}).y;
        faceAlong(y);
        for (const FretSlot& slot : board_.slots()) {
            slotAlong(slot, y);
        }
        for (const OpenMarker& marker : markers_) {
            markerAlong(marker, stock_.y(row), y);
        }
        return height_;
    }

    double x(int column) const {
        return setup_.fromInstrument.toInstrument({stock_.x(column), 0, 0}).x;
    }

private:
    static constexpr double nothing = std::numeric_limits<double>::quiet_NaN();

    void faceAlong(double y) {
        for (int c = 0; c < stock_.columns(); ++c) {
            const double at = x(c);
            // Cheap first: most of a blank lies clear of the outline or well inside it.
            if (at <= board_.xLow() || at >= board_.xHigh() ||
                y < board_.edge(-1, at) + wallAllowed || y > board_.edge(1, at) - wallAllowed) {
                continue;
            }
            const bool nearEnd = at < head_ || at > end_;
            if (nearEnd && board_.outsideBy({at, y}) > -wallAllowed) {
                continue;
            }
            double h = board_.face(at, y);
            if (nearEnd && board_.shelf()) {
                const NutShelf& shelf = *board_.shelf();
                const Vec2 wall = shelf.wallHigh - shelf.wallLow;
                const double toHead = cross(wall, Vec2{at, y} - shelf.wallLow) / length(wall);
                if (toHead > wallAllowed) {
                    h = shelf.floor;
                } else if (toHead > -wallAllowed) {
                    h = nothing;
                }
            }
            height_[static_cast<std::size_t>(c)] = h;
        }
    }

    void slotAlong(const FretSlot& slot, double y) {
        const double half = board_.design().slotWidth / 2;
        const double middle = slot.xAt(y);
        const double square = slot.across().x; // a step along X counts this much across the slot
        const double reach = (half + wallAllowed) / square;
        forColumns(middle - reach, middle + reach, [&](std::size_t i, double at) {
            const Vec2 p{at, y};
            const double off = std::abs(at - middle) * square;
            bool floor = off <= half / 2;
            if (slot.blind) {
                // The bit's own roundness closes the slot's ends, and on the falling floor before
                // them its flat tip stands on its inner rim.
                const double s = dot(p - slot.low, slot.along());
                const double past = std::max(-s, s - length(slot.high - slot.low));
                if (past > wallAllowed) {
                    return;
                }
                floor = floor && past < -2 * half - wallAllowed;
            }
            height_[i] = std::isnan(height_[i]) || !floor ? nothing : board_.floor(at, y);
        });
    }

    void markerAlong(const OpenMarker& marker, double setupY, double y) {
        const auto toInstrument = [&](std::pair<double, double> s) {
            const double a = setup_.fromInstrument.toInstrument({s.first, 0, 0}).x;
            const double b = setup_.fromInstrument.toInstrument({s.second, 0, 0}).x;
            return std::pair{std::min(a, b), std::max(a, b)};
        };
        const auto outside = marker.outside.at(setupY);
        if (outside.first > outside.second) {
            return;
        }
        const auto whole = toInstrument(outside);
        const auto inside = marker.inside.at(setupY);
        const auto clear =
            inside.first <= inside.second ? toInstrument(inside) : std::pair{1.0, 0.0};
        forColumns(whole.first, whole.second, [&](std::size_t i, double at) {
            if (std::isnan(height_[i])) {
                return;
            }
            height_[i] = nothing;
            if (at >= clear.first && at <= clear.second) {
                const double d = length(Vec2{at, y} - marker.middle);
                height_[i] =
                    marker.floor +
                    (marker.drilled ? marker.drilled->heightAt(std::min(d, marker.drilled->radius))
                                    : 0);
            }
        });
    }

    /// Calls f(index, x) for the cells whose centres lie between two instrument X.
    template <typename F>
    void forColumns(double x0, double x1, F f) {
        const double a = setup_.fromInstrument.toSetup({x0, 0, 0}).x;
        const double b = setup_.fromInstrument.toSetup({x1, 0, 0}).x;
        const double cell = stock_.cell();
        const int c0 = std::max(0, static_cast<int>(std::ceil(std::min(a, b) / cell - 0.5)));
        const int c1 = std::min(stock_.columns() - 1,
                                static_cast<int>(std::floor(std::max(a, b) / cell - 0.5)));
        for (int c = c0; c <= c1; ++c) {
            f(static_cast<std::size_t>(c), x(c));
        }
    }

    const BoardPart& board_;
    const Setup& setup_;
    const Stock& stock_;
    const std::vector<OpenMarker>& markers_;
    std::vector<double> height_;
    /// Beyond these the board's ends may pass through a row.
    double head_ = std::max({board_.outline()[3].from.x, board_.outline()[3].to.x,
                             board_.shelf() ? board_.shelf()->wallLow.x + 1 : -1e9,
                             board_.shelf() ? board_.shelf()->wallHigh.x + 1 : -1e9}) +
                   0.1;
    double end_ = std::min(board_.outline()[1].from.x, board_.outline()[1].to.x) - 0.1;
};

RowSum compareRow(const BoardPart& board, const Setup& setup, const Stock& stock,
                  DesignedRow& designed, int row, float* deviation) {
    RowSum sum;
    const double y = setup.fromInstrument.toInstrument({0, stock.y(row), 0}).y;
    const double low = board.boundingBox()[0].y;
    const double high = board.boundingBox()[1].y;
    if (y < low || y > high) {
        return sum;
    }
    const std::vector<double>& heights = designed.at(row);
    const double base = setup.fromInstrument.toSetup({0, 0, 0}).z;
    const float* cells = stock.row(row);
    const ArchedFace& face = board.face();
    for (int c = 0; c < stock.columns(); ++c) {
        const double wanted = heights[static_cast<std::size_t>(c)];
        if (std::isnan(wanted)) {
            continue;
        }
        // The normal's share along Z, without the cone's lean along X, which is under 0.001.
        const double s = y / face.radiusAt(designed.x(c));
        const double d = (cells[c] - (base + wanted)) * std::sqrt(std::max(0.0, 1 - s * s));
        deviation[c] = static_cast<float>(d);
        sum.squares += d > 0 ? d * d : 0;
        ++sum.cells;
        if (d < sum.low) {
            sum.low = d;
            sum.lowAt = c;
        }
        if (d > sum.high) {
            sum.high = d;
            sum.highAt = c;
        }
    }
    return sum;
}

Finding gougeFinding(double depth, Vec2 at, const Setup& setup,
                     const std::vector<RunProgram>& programs) {
    Finding f;
    f.weight = Weight::stop;
    f.code = "gouge";
    f.part = setup.part;
    f.value = depth;
    f.limit = gougeAllowed;
    f.atX = setup.fromInstrument.toInstrument({at.x, at.y, 0}).x;
    std::string where;
    if (const auto who = deepestAt(at, programs)) {
        f.program = programs[who->program].file;
        f.line = programs[who->program].path[who->move].line;
        where = fmt::format("{}, line {}: ", f.program, f.line);
    }
    f.message = fmt::format("{}cuts {:.3f} mm below the designed surface, {:.1f} mm from the nut; "
                            "{:.2f} mm is allowed.",
                            where, depth, *f.atX, gougeAllowed);
    return f;
}

} // namespace

DeviationField emptyDeviation(const Stock& stock) {
    DeviationField field;
    field.columns = stock.columns();
    field.rows = stock.rows();
    field.cell = stock.cell();
    field.value.assign(static_cast<std::size_t>(stock.columns()) *
                           static_cast<std::size_t>(stock.rows()),
                       std::numeric_limits<float>::quiet_NaN());
    return field;
}

std::vector<float> designedHeights(const BoardPart& board, const Setup& setup,
                                   const std::vector<Cut>& cuts, const Stock& stock) {
    const std::vector<OpenMarker> markers = openMarkers(board, setup, cuts);
    const auto columns = static_cast<std::size_t>(stock.columns());
    std::vector<float> heights(columns * static_cast<std::size_t>(stock.rows()));
    tbb::parallel_for(
        tbb::blocked_range<int>(0, stock.rows(), 16), [&](const tbb::blocked_range<int>& some) {
            DesignedRow designed(board, setup, stock, markers);
            for (int r = some.begin(); r < some.end(); ++r) {
                const std::vector<double>& row = designed.at(r);
                std::copy(row.begin(), row.end(),
                          heights.begin() +
                              static_cast<std::ptrdiff_t>(static_cast<std::size_t>(r) * columns));
            }
        });
    return heights;
}

SurfaceReport compareSurface(const BoardPart& board, const Setup& setup, const BoardPlan& plan,
                             const CutSettings& cut, const std::vector<RunProgram>& programs,
                             const Stock& stock, DeviationField& field) {
    SurfaceReport report;
    const auto columns = static_cast<std::size_t>(stock.columns());
    const std::vector<OpenMarker> markers = openMarkers(board, setup, plan.face().cuts);
    std::vector<RowSum> rows(static_cast<std::size_t>(stock.rows()));
    tbb::parallel_for(
        tbb::blocked_range<int>(0, stock.rows(), 16), [&](const tbb::blocked_range<int>& some) {
            DesignedRow designed(board, setup, stock, markers);
            for (int r = some.begin(); r < some.end(); ++r) {
                const auto i = static_cast<std::size_t>(r);
                rows[i] =
                    compareRow(board, setup, stock, designed, r, field.value.data() + i * columns);
            }
        });
    RowSum all;
    int lowRow = 0;
    int highRow = 0;
    for (int r = 0; r < stock.rows(); ++r) {
        const RowSum& row = rows[static_cast<std::size_t>(r)];
        all.squares += row.squares;
        all.cells += row.cells;
        if (row.low < all.low) {
            all.low = row.low;
            all.lowAt = row.lowAt;
            lowRow = r;
        }
        if (row.high > all.high) {
            all.high = row.high;
            all.highAt = row.highAt;
            highRow = r;
        }
    }
    report.gougeMax = -all.low;
    report.excessMax = all.high;
    const auto placed = [&](double column, double row) {
        return setup.fromInstrument.toInstrument({column, row, 0}).xy();
    };
    report.gougeAt = placed(stock.x(all.lowAt), stock.y(lowRow));
    report.excessAt = placed(stock.x(all.highAt), stock.y(highRow));
    report.excessRms = all.cells ? std::sqrt(all.squares / static_cast<double>(all.cells)) : 0;
    if (report.gougeMax > gougeAllowed) {
        report.findings.push_back(
            gougeFinding(report.gougeMax, {stock.x(all.lowAt), stock.y(lowRow)}, setup, programs));
    }
    const double allowed = cut.scallop + excessBeyondScallop;
    if (report.excessMax > allowed) {
        Finding f;
        f.weight = Weight::stop;
        f.code = "wood-left";
        f.part = setup.part;
        f.value = report.excessMax;
        f.limit = allowed;
        f.atX = setup.fromInstrument.toInstrument({stock.x(all.highAt), stock.y(highRow), 0}).x;
        f.message =
            fmt::format("{:.3f} mm of wood stays above the designed surface, {:.1f} mm from "
                        "the nut; {:.3f} mm is allowed.",
                        f.value, *f.atX, allowed);
        report.findings.push_back(f);
    }
    return report;
}

} // namespace wren
