#include "proof/panel_proof.h"

#include "geom/inset.h"
#include "proof/blame.h"
#include "proof/ease.h"
#include "proof/panel_holding.h"
#include "proof/panel_walls.h"
#include "proof/surface.h"
#include "proof/travel.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

namespace wren {
namespace {

void append(Findings& to, Findings from) {
    to.insert(to.end(), std::make_move_iterator(from.begin()), std::make_move_iterator(from.end()));
}

/// Cells of the final wood against the design, both faces at once.
class Floors {
public:
    Floors(const PanelSides& sides, const PanelPlan& plan, double carveScallop, const Stock& stock)
        : sides_(sides), panel_(sides.panel), plan_(plan), carveRidge_(carveScallop), stock_(stock),
          setup_(sides.held.last()),
          field_(
              fieldOver({{stock.x(0), stock.y(0)}, stock.cell(), stock.columns(), stock.rows()})) {
        markWalls();
        markDrawn(false);
        markDrawn(true);
        markPlugs();
    }

    const PanelField& field() const { return field_; }

    void judge(std::array<ProofReport, 2>& reports) {
        for (ProofReport& r : reports) {
            r.deviation = emptyDeviation(stock_);
        }
        std::vector<std::array<Sum, 2>> rows(static_cast<std::size_t>(stock_.rows()));
        tbb::parallel_for(0, stock_.rows(), [&](int row) {
            rows[static_cast<std::size_t>(row)] = judgeRow(row, reports);
        });
        std::array<Sum, 2> sums;
        for (const std::array<Sum, 2>& row : rows) { // in order, whatever thread took them
            sums[0].add(row[0]);
            sums[1].add(row[1]);
        }
        for (std::size_t k = 0; k < 2; ++k) {
            ProofReport& r = reports[k];
            const Sum& s = sums[k];
            r.gougeMax = std::max(0.0, -s.low);
            r.excessMax = s.high;
            r.gougeAt = placed(s.lowAt);
            r.excessAt = placed(s.highestAt);
            r.excessRms = s.cells > 0 ? std::sqrt(s.squares / double(s.cells)) : 0;
            if (r.gougeMax > gougeAllowed) {
                say(r, k, s.lowAt, "gouge", r.gougeMax, gougeAllowed,
                    "cut {:.3f} mm into the {}, {:.2f} mm is allowed");
            }
            if (s.over > excessBeyondScallop) {
                say(r, k, s.highAt, "wood-left", r.deviation.value[s.highAt],
                    excessBeyondScallop + granted(s.highAt, k),
                    "{:.3f} mm of wood stays over the {}, {:.2f} mm is allowed");
            }
        }
    }

private:
    /// What is left and taken too much of cells, and where most.
    struct Sum {
        double low = 0, high = 0, squares = 0;
        double over = 0; ///< most beyond what the cut was granted
        std::size_t lowAt = 0, highestAt = 0, highAt = 0;
        long cells = 0;

        void add(const Sum& s) {
            if (s.low < low) {
                low = s.low;
                lowAt = s.lowAt;
            }
            if (s.high > high) {
                high = s.high;
                highestAt = s.highestAt;
            }
            if (s.over > over) {
                over = s.over;
                highAt = s.highAt;
            }
            squares += s.squares;
            cells += s.cells;
        }
    };

    std::array<Sum, 2> judgeRow(int row, std::array<ProofReport, 2>& reports) const {
        std::array<Sum, 2> sums;
        for (int column = 0; column < stock_.columns(); ++column) {
            const std::size_t i =
                std::size_t(row) * std::size_t(stock_.columns()) + std::size_t(column);
            if (!field_.in(i) || wall_[i]) {
                continue;
            }
            const std::array<double, 2> stands = facesAt(column, row);
            for (std::size_t k = 0; k < 2; ++k) {
                const double d = drawnOn_[k][i] ? std::numeric_limits<double>::quiet_NaN()
                                                : deviation(i, k, stands);
                if (std::isnan(d)) {
                    continue;
                }
                reports[k].deviation.value[i] = static_cast<float>(d);
                sums[k].add({std::min(d, 0.0), std::max(d, 0.0), d > 0 ? d * d : 0,
                             d - granted(i, k), i, i, i, 1});
            }
        }
        return sums;
    }

    PanelField fieldOver(const CellGrid& grid) const {
        const SetupFromInstrument& to = setup_.fromInstrument;
        return sides_.memory
                   ? PanelField(panel_, to, grid, *sides_.memory->dropsOf(panel_, to, grid))
                   : PanelField(panel_, to, grid);
    }

    /// Panel Z of the wood's front and back over a cell; front under back where it is all gone.
    std::array<double, 2> facesAt(int column, int row) const {
        const double high = zero_ + up_ * stock_.high(column, row);
        const double low = zero_ + up_ * stock_.low(column, row);
        return sides_.held.back ? std::array{low, high} : std::array{high, low};
    }

    /// Whether the face itself has been brought down over a cell.
    bool carved(std::size_t i, std::size_t side) const {
        return side == 0 ? field_.frontBy[i] < 0 && field_.front[i] < panel_.top - 1e-4
                         : field_.backBy[i] < 0 && field_.back[i] > panel_.bottom + 1e-4;
    }
    /// Ridges a carved face may keep.
    double granted(std::size_t i, std::size_t side) const {
        return carved(i, side) ? carveRidge_ : 0;
    }

    double deviation(std::size_t i, std::size_t side, const std::array<double, 2>& stands) const {
        constexpr double none = std::numeric_limits<double>::quiet_NaN();
        if (plug_[i]) { // held by its tabs until it is sawn out
            return none;
        }
        if (field_.open(i)) { // right through: any wood there is too much
            const double left = stands[0] - stands[1];
            return side == 0 ? (left > 0 ? left : none) : none;
        }
        if (stands[0] <= stands[1]) {
            return side == 0 ? -(field_.front[i] - field_.back[i]) : none;
        }
        const double d = side == 0 ? stands[0] - field_.front[i] : field_.back[i] - stands[1];
        if (carved(i, side) && std::abs(d) > 1e-4) { // along the normal
            const Vec2 q = field_.at(i);
            return d * panel_.fall(side == 1).upright(
                           setup_.fromInstrument.toInstrument({q.x, q.y, 0}).xy());
        }
        const int by = side == 0 ? field_.frontBy[i] : field_.backBy[i];
        if (d > 0 && by >= 0 && std::size_t(by) < panel_.pockets.size() &&
            panel_.pockets[std::size_t(by)].slope != 0) {
            return d > excessBeyondScallop ? std::max(0.0, d - besideSlope(std::size_t(by), i)) : d;
        }
        const double point = drillPoint(by);
        // A drill ends in its own cone: beside the point wood stays as high as that.
        return point > 0 && d > 0 ? std::max(0.0, d - point) : d;
    }

    /// A level end on a slope stands on its upper rim: within its radius of a wall it cannot come
    /// down to the plane. How far it must stay over it there.
    double besideSlope(std::size_t pocket, std::size_t i) const {
        const PanelPocket& p = panel_.pockets[pocket];
        double r = 0;
        for (const PanelTask& t : plan_.tasks) {
            const Cut* cut = t.feature == pocket ? plan_.cutOf(t) : nullptr;
            r = cut ? cut->bit.radius() : r;
        }
        const Vec2 q = field_.at(i);
        const Vec2 at = setup_.fromInstrument.toInstrument({q.x, q.y, 0}).xy();
        const auto room = [&](Vec2 c) {
            double least = 1e9;
            for (const Contour& border : p.borders) {
                least = std::min(least, distanceTo(border, c));
            }
            return least;
        };
        if (room(at) >= 2 * r) {
            return 0;
        }
        // The lowest the end can stand while it covers the place: of all its allowed middles the
        // one furthest down the slope.
        constexpr int ways = 72;
        double lowest = r;
        for (int k = 0; k < ways; ++k) {
            const double a = 2 * 3.14159265358979 * k / ways;
            for (double out : {0.999, 0.8, 0.6, 0.4, 0.2, 0.0}) {
                const Vec2 step = Vec2{std::cos(a), std::sin(a)} * (out * r);
                const double down = step.x * (p.slope > 0 ? 1 : -1);
                if (down < lowest && room(at + step) >= r - 1e-3) {
                    lowest = down;
                }
            }
        }
        return std::abs(p.slope) * (lowest + r);
    }

    double drillPoint(int by) const {
        const auto i = static_cast<std::size_t>(by);
        if (by < 0 || i < panel_.pockets.size()) {
            return 0;
        }
        for (const PanelTask& t : plan_.tasks) {
            const Cut* cut = t.feature == i ? plan_.cutOf(t) : nullptr;
            if (cut && cut->bit.kind == BitKind::drill) {
                return cut->bit.tipHeight() + 1e-3;
            }
        }
        return 0;
    }

    /// Cells an upright wall runs through, or beside: those are judged from the paths.
    void markWalls() {
        wall_.assign(field_.front.size(), 0);
        const auto mark = [&](const Contour& c) {
            for (const ContourPiece& p : c) {
                const double l = p.length();
                const int n = std::max(1, static_cast<int>(std::ceil(l / (stock_.cell() / 2))));
                for (int i = 0; i <= n; ++i) {
                    const Vec2 at = p.at(l * i / n);
                    const Vec2 s = setup_.fromInstrument.toSetup({at.x, at.y, 0}).xy();
                    const int column = static_cast<int>(std::lround(stock_.column(s.x)));
                    const int row = static_cast<int>(std::lround(stock_.row(s.y)));
                    for (int r = std::max(0, row - 1); r <= std::min(stock_.rows() - 1, row + 1);
                         ++r) {
                        for (int q = std::max(0, column - 1);
                             q <= std::min(stock_.columns() - 1, column + 1); ++q) {
                            wall_[std::size_t(r) * std::size_t(stock_.columns()) + std::size_t(q)] =
                                1;
                        }
                    }
                }
            }
        };
        mark(panel_.outline);
        for (const PanelPocket& p : panel_.pockets) {
            for (const Contour& c : p.borders) {
                mark(c);
            }
        }
        for (const PanelPocket& p : panel_.shutIn) {
            for (const Contour& c : p.borders) {
                mark(c);
            }
        }
        for (const Hole& h : panel_.holes) {
            mark(circleContour(h.at, h.diameter));
        }
    }

    /// Cells within the width of lines drawn into a face: those are judged from the tip's way.
    void markDrawn(bool back) {
        std::vector<char>& drawn = drawnOn_[back ? 1 : 0];
        drawn.assign(field_.front.size(), 0);
        const Cut* cut = plan_.sides[back ? 1 : 0].cutOf(CutKind::engraving);
        if (!cut) {
            return;
        }
        for (const PanelLine& line : panel_.engraved) {
            if (line.fromBack != back) {
                continue;
            }
            const double half = EndShape::of(cut->bit).radiusAt(line.depth) + stock_.cell();
            for (Vec2 at : placesAlong(line.way, stock_.cell() / 2)) {
                const Vec2 s = setup_.fromInstrument.toSetup({at.x, at.y, 0}).xy();
                for (double y = -half; y <= half; y += stock_.cell()) {
                    for (double x = -half; x <= half; x += stock_.cell()) {
                        if (const auto i = field_.cellAt(s + Vec2{x, y})) {
                            drawn[*i] = 1;
                        }
                    }
                }
            }
        }
    }

    /// What stays of cut-outs, and the tabs that hold it.
    void markPlugs() {
        plug_.assign(field_.front.size(), 0);
        for (const PanelPlug& plug : plan_.plugs) {
            const PanelPocket& pocket = panel_.pockets[plug.pocket];
            const double radius = plug.free / 2;
            std::vector<std::vector<Vec2>> polygons;
            for (const Contour& c : pocket.borders) {
                polygons.push_back(laid(c));
            }
            std::vector<std::vector<Vec2>> middle;
            for (const Contour& c : inset(pocket.borders, plug.free - stock_.cell())) {
                middle.push_back(laid(c));
            }
            fillCells(field_.grid, middle, [&](std::size_t i) { plug_[i] = 1; });
            fillCells(field_.grid, polygons, [&](std::size_t i) {
                const Vec2 q = field_.at(i);
                const Vec2 p = setup_.fromInstrument.toInstrument({q.x, q.y, 0}).xy();
                for (const PanelTab& t : plug.tabs) {
                    plug_[i] = plug_[i] || length(p - t.at) < t.reach(radius);
                }
            });
        }
    }

    std::vector<Vec2> laid(const Contour& c) const {
        std::vector<Vec2> points = pointsOf(c, 0.01);
        for (Vec2& p : points) {
            p = setup_.fromInstrument.toSetup({p.x, p.y, 0}).xy();
        }
        return points;
    }

    Vec2 placed(std::size_t i) const {
        const Vec2 at = field_.at(i);
        return setup_.fromInstrument.toInstrument({at.x, at.y, 0}).xy();
    }

    void say(ProofReport& r, std::size_t side, std::size_t i, const char* code, double value,
             double limit, const char* text) const {
        const Vec2 at = field_.at(i);
        const int by = side == 0 ? field_.frontBy[i] : field_.backBy[i];
        const std::string what = by < 0 ? (side == 0 ? "front face" : "back")
                                        : "floor of the " + featureName(panel_, by);
        const Vec3 p = setup_.fromInstrument.toInstrument({at.x, at.y, 0});
        Finding& f = sayOf(r.part, r.findings, Weight::stop, code, "", value, limit);
        f.atX = p.x;
        // Its place in the setup that cut it.
        const Setup& own = side == 0 ? sides_.held.face : setup_;
        const std::size_t programs = side == 0 || !sides_.held.back ? 0 : 1;
        const Vec2 there = own.fromInstrument.toSetup(p).xy();
        std::string where;
        if (const auto who = deepestAt(there, sides_.programs[programs])) {
            f.program = sides_.programs[programs][who->program].file;
            f.line = sides_.programs[programs][who->program].path[who->move].line;
            where = fmt::format("{}, line {}: ", f.program, f.line);
        }
        f.message = where + fmt::format(fmt::runtime(text), value, what, limit) +
                    fmt::format(", at {}.", own.told(p.xy()));
    }

    const PanelSides& sides_;
    const Panel& panel_;
    const PanelPlan& plan_;
    double carveRidge_;
    const Stock& stock_;
    const Setup& setup_;
    // The panel's Z over the setup's: both stand upright, asked of every cell.
    double zero_ = setup_.fromInstrument.toInstrument({0, 0, 0}).z;
    double up_ = setup_.fromInstrument.toInstrument({0, 0, 1}).z > zero_ ? 1 : -1;
    PanelField field_;
    std::vector<char> wall_;
    std::vector<char> plug_;
    std::array<std::vector<char>, 2> drawnOn_; ///< front and back
};

} // namespace

PartProof provePanel(const PanelSides& sides, const PanelPlan& plan, const BodyCut& cut,
                     const Machine& machine, double cell, const std::stop_token& stop) {
    PartRun run;
    std::array<WallReport, 2> walls;
    const auto wallsOf = [&](std::size_t k) { // read from the programs alone
        if (!sides.programs[k].empty()) {
            walls[k] = judgePanelWalls(sides.panel, sides.held.side(k), plan, cut,
                                       sides.programs[k], k == 1);
        }
    };
    tbb::parallel_invoke([&] { run = runPart(sides, cell, stop); }, [&] { wallsOf(0); },
                         [&] { wallsOf(1); });
    PartProof proof;
    const auto report = [&](std::size_t k) {
        ProofReport& r = proof.sides[k];
        const Setup& setup = sides.held.side(k);
        r.part = setup.part;
        r.setup = setup.name;
        r.cell = cell;
        for (const Collision& c : run.collisions[k]) {
            r.findings.push_back(collisionFinding(c, sides.programs[k][c.program], setup));
        }
        if (!sides.programs[k].empty()) {
            append(r.findings, judgeTravel(setup, machine, sides.programs[k]));
            addLoads(r, setup, machine, plan.sides[k].cuts, sides.programs[k], run.loads[k]);
            r.wallMax = walls[k].worst;
            append(r.findings, std::move(walls[k].findings));
        }
    };
    std::optional<Floors> floors;
    tbb::parallel_invoke([&] { report(0); }, [&] { report(1); },
                         [&] { floors.emplace(sides, plan, cut.carveScallop, *run.whole); });
    Findings holding;
    tbb::parallel_invoke(
        [&] { floors->judge(proof.sides); },
        [&] { holding = judgePanelHolding(sides, plan, floors->field(), *run.whole); });
    append(proof.sides[sides.held.back ? 1 : 0].findings, std::move(holding));
    for (ProofReport& r : proof.sides) {
        r.passed = !hasStop(r.findings);
    }
    proof.stock = run.whole;
    return proof;
}

} // namespace wren
