#include "proof/surface.h"

#include "proof/blame.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>
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

/// Which cells of a row lie in a slot's middle, in a slot's side, or on the open face. The slots
/// run straight across, so one list serves every row.
enum class Place : char { face, slotFloor, wall };

std::vector<Place> placesAlong(const BoardPart& board, const Setup& setup, const Stock& stock) {
    std::vector<Place> places(static_cast<std::size_t>(stock.columns()), Place::face);
    const double half = board.design().slotWidth / 2;
    for (int c = 0; c < stock.columns(); ++c) {
        const double x = setup.fromInstrument.toInstrument({stock.x(c), 0, 0}).x;
        const int slot = board.nearestSlot(x);
        const double d =
            slot < 0 ? 1e9 : std::abs(x - board.slotCentres()[static_cast<std::size_t>(slot)]);
        if (d <= half / 2) {
            places[static_cast<std::size_t>(c)] = Place::slotFloor;
        } else if (d <= half + wallAllowed) {
            places[static_cast<std::size_t>(c)] = Place::wall;
        }
    }
    return places;
}

RowSum compareRow(const BoardPart& board, const Setup& setup, const Stock& stock,
                  const std::vector<Place>& places, int row, float* deviation) {
    RowSum sum;
    const double y = setup.fromInstrument.toInstrument({0, stock.y(row), 0}).y;
    const double face = setup.fromInstrument.toSetup({0, y, board.face(y)}).z;
    const double floor = setup.fromInstrument.toSetup({0, y, board.floor(y)}).z;
    const double normal = board.faceNormalZ(y);
    const float* heights = stock.row(row);
    for (int c = 0; c < stock.columns(); ++c) {
        const Place place = places[static_cast<std::size_t>(c)];
        const double x = setup.fromInstrument.toInstrument({stock.x(c), 0, 0}).x;
        const bool inside = x > wallAllowed && x < board.length() - wallAllowed &&
                            std::abs(y) < board.halfWidth(x) - wallAllowed;
        if (!inside || place == Place::wall) {
            continue;
        }
        const double d = (heights[c] - (place == Place::face ? face : floor)) * normal;
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

SurfaceReport compareSurface(const BoardPart& board, const Setup& setup, const CutSettings& cut,
                             const std::vector<RunProgram>& programs, const Stock& stock) {
    SurfaceReport report;
    DeviationField& field = report.deviation;
    field.columns = stock.columns();
    field.rows = stock.rows();
    field.cell = stock.cell();
    const auto columns = static_cast<std::size_t>(stock.columns());
    field.value.assign(columns * static_cast<std::size_t>(stock.rows()),
                       std::numeric_limits<float>::quiet_NaN());
    const std::vector<Place> places = placesAlong(board, setup, stock);
    std::vector<RowSum> rows(static_cast<std::size_t>(stock.rows()));
    tbb::parallel_for(0, stock.rows(), [&](int r) {
        const auto i = static_cast<std::size_t>(r);
        rows[i] = compareRow(board, setup, stock, places, r, field.value.data() + i * columns);
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
    report.excessRms = all.cells ? std::sqrt(all.squares / static_cast<double>(all.cells)) : 0;
    if (report.gougeMax > gougeAllowed) {
        report.findings.push_back(
            gougeFinding(report.gougeMax, {stock.x(all.lowAt), stock.y(lowRow)}, setup, programs));
    }
    const double allowed = cut.scallop + excessBeyondScallop;
    if (report.excessMax > allowed) {
        Finding f;
        f.weight = Weight::stop;
        f.code = "leftover";
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
