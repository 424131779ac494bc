#include "proof/neck_proof.h"

#include "proof/blame.h"
#include "proof/neck_holes.h"
#include "proof/neck_walls.h"
#include "proof/surface.h"
#include "proof/travel.h"
#include "proof/walls.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace wren {
namespace {

constexpr double nothing = std::numeric_limits<double>::quiet_NaN();
constexpr double besideWall =
    wallAllowed; ///< cells nearer to an upright wall are left to the paths

/// Deviations of one column of cells, summed up. Along the normal, mm.
struct Sum {
    double low = 0, high = 0;
    Vec2 lowAt, highAt; ///< instrument frame
    double squares = 0;
    long cells = 0;

    void take(double d, Vec2 at) {
        if (d < low) {
            low = d;
            lowAt = at;
        }
        if (d > high) {
            high = d;
            highAt = at;
        }
        squares += d > 0 ? d * d : 0;
        ++cells;
    }
    void add(const Sum& o) {
        if (o.low < low) {
            low = o.low;
            lowAt = o.lowAt;
        }
        if (o.high > high) {
            high = o.high;
            highAt = o.highAt;
        }
        squares += o.squares;
        cells += o.cells;
    }
};

/// Compares both surfaces of one column of the final stock with the design.
class ColumnJudge {
public:
    ColumnJudge(const NeckPart& part, const Setup& back, const NeckPlan& plan, const Stock& stock)
        : part_(part), setup_(back), plan_(plan), stock_(stock),
          widest_(plan.sides[1].cutOf(CutKind::finish)
                      ? plan.sides[1].cutOf(CutKind::finish)->bit.radius()
                      : 3) {
        if (part.carved()) {
            carved_ = designedHeights(*part.carved(), back, plan.sides[0].cuts, stock);
        }
    }

    void judge(int column, Sum& face, Sum& back, float* faceField, float* backField) const {
        const double x = setup_.fromInstrument.toInstrument({stock_.x(column), 0, 0}).x;
        const NeckOutline& o = part_.outline();
        const std::array lines{o.stretches(x - besideWall), o.stretches(x),
                               o.stretches(x + besideWall)};
        if (lines[1].empty()) {
            return;
        }
        const NeckBack::Slice slice = part_.back().slice(x);
        const double front = part_.face(x);
        const double slope = (part_.face(x + 1e-4) - part_.face(x - 1e-4)) / 2e-4;
        const double lean = 1 / std::sqrt(1 + slope * slope);
        const bool atEdge = std::abs(x - o.headStart()) < 0.3; // the hollow's crisp upper edge
        const std::vector<NeckPocket> pockets = pocketsAt(x);
        const std::vector<Hole> holes = holesAt(x);
        const double bed = setup_.fromInstrument.toSetup({0, 0, 0}).z;
        const std::size_t columns = static_cast<std::size_t>(stock_.columns());
        for (int row = 0; row < stock_.rows(); ++row) {
            const double y = setup_.fromInstrument.toInstrument({0, stock_.y(row), 0}).y;
            if (!clearOfWalls(lines, y)) {
                continue;
            }
            const Vec2 at{x, y};
            const std::size_t i =
                static_cast<std::size_t>(row) * columns + static_cast<std::size_t>(column);
            if (inHole(holes, at)) {
                continue;
            }
            // Side two of the setup is up: the stock's top is the back, its underside the front.
            const double deep = slice.depth(y);
            const double tall = stock_.high(column, row) - bed;
            const Vec2 g = slice.gradient(y);
            const double d = (tall - deep) / std::sqrt(1 + g.x * g.x + g.y * g.y);
            if (!underTab(at, deep)) {
                back.take(d, at);
                backField[i] = static_cast<float>(d);
            }
            double upright = lean;
            double designed = nothing;
            if (const double on = part_.onCarved(at); on > besideWall) {
                designed = carved_[i];
                const double s = y / part_.carved()->face().radiusAt(x);
                upright = std::sqrt(1 - s * s);
            } else if (on < -besideWall && !atEdge) {
                designed = floorOf(pockets, at, front);
            }
            if (!std::isnan(designed)) {
                const double stands = -(stock_.low(column, row) - bed); // Z of the front
                const double e = (stands - designed) * upright;
                face.take(e, at);
                faceField[i] = static_cast<float>(e);
            }
        }
    }

private:
    /// Inside the outline, and no wall of it nearer than the paths are asked about.
    static bool clearOfWalls(const std::array<std::vector<std::array<double, 2>>, 3>& lines,
                             double y) {
        return std::all_of(lines.begin(), lines.end(), [y](const auto& line) {
            return std::any_of(line.begin(), line.end(), [y](const std::array<double, 2>& s) {
                return y > s[0] + besideWall && y < s[1] - besideWall;
            });
        });
    }

    std::vector<NeckPocket> pocketsAt(double x) const {
        std::vector<NeckPocket> out;
        for (const NeckPocket& p : part_.pockets()) {
            const std::array<double, 2> reach = p.reach();
            if (!p.fromBack && x > reach[0] - besideWall && x < reach[1] + besideWall) {
                out.push_back(p);
            }
        }
        return out;
    }

    /// Z of the deepest floor here; NaN beside a wall or in a corner the bit's roundness leaves.
    double floorOf(const std::vector<NeckPocket>& pockets, Vec2 at, double front) const {
        double z = front;
        for (const NeckPocket& p : pockets) {
            const Vec2 own = p.own(at);
            const double inX = std::min(own.x - p.box[0].x, p.box[1].x - own.x);
            const double inY = std::min(own.y - p.box[0].y, p.box[1].y - own.y);
            if (inX < -besideWall || inY < -besideWall) {
                continue;
            }
            const Cut* cut = cutOf(p.kind);
            const double r = cut ? cut->bit.radius() : 0;
            const bool corner =
                inX < r && inY < r && length(Vec2{r - inX, r - inY}) > r - besideWall;
            // A round floor's sides are as steep as walls near its rim.
            const bool wall = inX < besideWall || inY < besideWall || (p.round && inY < 0.1 * r);
            if (wall || corner || (p.round && inX < r)) {
                // An end inside another pocket is no wall there.
                return std::any_of(pockets.begin(), pockets.end(),
                                   [&](const NeckPocket& q) {
                                       return q.floor < p.floor && q.holds(at) &&
                                              std::min(at.y - q.box[0].y, q.box[1].y - at.y) > r &&
                                              std::min(at.x - q.box[0].x, q.box[1].x - at.x) > r;
                                   })
                           ? deepestAt(pockets, at, front)
                           : nothing;
            }
            z = std::min(z, p.floorAt(at));
        }
        return z;
    }

    const Cut* cutOf(NeckPocketKind pocket) const { return cutOfPocket(plan_.sides[0], pocket); }

    static double deepestAt(const std::vector<NeckPocket>& pockets, Vec2 at, double front) {
        double z = front;
        for (const NeckPocket& p : pockets) {
            if (p.holds(at)) {
                z = std::min(z, p.floorAt(at));
            }
        }
        return z;
    }

    std::vector<Hole> holesAt(double x) const {
        std::vector<Hole> out;
        for (const Hole& h : part_.holes()) {
            if (!h.byHand && std::abs(x - h.at.x) < h.diameter / 2 + 0.3) {
                out.push_back(h);
            }
        }
        return out;
    }
    static bool inHole(const std::vector<Hole>& holes, Vec2 at) {
        return std::any_of(holes.begin(), holes.end(),
                           [&](const Hole& h) { return length(at - h.at) < h.diameter / 2 + 0.3; });
    }

    /// A tab keeps the bit off the flank's foot: that is cleaned up by hand.
    bool underTab(Vec2 at, double deep) const {
        return std::any_of(plan_.tabs.begin(), plan_.tabs.end(), [&](const NeckTab& tab) {
            const Vec2 v = at - tab.at;
            return deep < tab.top + widest_ + 1 &&
                   std::abs(dot(v, tab.along)) <= tab.half + 2 * widest_ + 1 &&
                   std::abs(cross(tab.along, v)) <= 2 * widest_ + 2;
        });
    }

    const NeckPart& part_;
    const Setup& setup_;
    const NeckPlan& plan_;
    const Stock& stock_;
    double widest_;
    std::vector<float> carved_; ///< heights of a carved face, cell by cell
};

void judgeSurface(ProofReport& report, const Sum& sum, const char* what, double allowed,
                  const Setup& setup, const std::vector<RunProgram>& programs) {
    report.gougeMax = std::max(0.0, -sum.low);
    report.excessMax = sum.high;
    report.gougeAt = {sum.lowAt.x, sum.lowAt.y};
    report.excessAt = {sum.highAt.x, sum.highAt.y};
    report.excessRms = sum.cells ? std::sqrt(sum.squares / static_cast<double>(sum.cells)) : 0;
    if (report.gougeMax > gougeAllowed) {
        const Vec2 at = setup.fromInstrument.toSetup({sum.lowAt.x, sum.lowAt.y, 0}).xy();
        const auto who = deepestAt(at, programs);
        const std::string file = who ? programs[who->program].file : std::string();
        const int line = who ? programs[who->program].path[who->move].line : 0;
        Finding& f = sayOf(
            Role::neck, report.findings, Weight::stop, "gouge",
            fmt::format(
                "{}cuts {:.3f} mm below the designed {}, {:.1f} mm from the nut and {:.1f} mm "
                "off the centreline; {:.2f} mm is allowed.",
                who ? fmt::format("{}, line {}: ", file, line) : "", report.gougeMax, what,
                sum.lowAt.x, sum.lowAt.y, gougeAllowed),
            report.gougeMax, gougeAllowed);
        f.program = file;
        f.line = line;
        f.atX = sum.lowAt.x;
    }
    if (report.excessMax > allowed) {
        sayOf(
            Role::neck, report.findings, Weight::stop, "wood-left",
            fmt::format("{:.3f} mm of wood stays above the designed {}, {:.1f} mm from the nut and "
                        "{:.1f} mm off the centreline; {:.3f} mm is allowed.",
                        report.excessMax, what, sum.highAt.x, sum.highAt.y, allowed),
            report.excessMax, allowed)
            .atX = sum.highAt.x;
    }
}

/// Straight down from the rod's room to the back, in the stock as it stands; over a rod from the
/// back also the wood between the slot as it was cut and the glue plane.
void measureRod(PartProof& proof, const NeckPart& part, const Setup& setup, const PartRun& run) {
    const TrussRod& rod = part.design().rod;
    const RodRoom room(rod, part.back());
    const RodPlace p = rodPlace(rod);
    const Stock& stock = *run.whole;
    const double glue = setup.fromInstrument.toSetup({0, 0, 0}).z;
    double least = 1e9;
    for (double x = p.from + 5; x < std::min(p.to, part.outline().end()) - 5; x += 4) {
        const Vec2 at = setup.fromInstrument.toSetup({x, 0, 0}).xy();
        const int c = static_cast<int>(std::lround(stock.column(at.x)));
        const int r = static_cast<int>(std::lround(stock.row(at.y)));
        const std::optional<RodRoom::Section> section = room.at(x);
        if (!section || c < 0 || r < 0 || c >= stock.columns() || r >= stock.rows()) {
            continue;
        }
        const double from =
            rod.from == RodFrom::back ? glue + section->floor : double(stock.low(c, r));
        proof.woodUnderRod.push_back({x, stock.high(c, r) - from});
        least = std::min(least, proof.woodUnderRod.back().wood);
    }
    for (const FloorSeen& floor : run.floors[1]) {
        if (floor.seen) {
            const double over = woodOverRod(part.design(), part.board()) - rod.cover;
            least = std::min(least, floor.lowest - glue + over);
        }
    }
    proof.rodWoodLeast = proof.woodUnderRod.empty() ? 0 : least;
}

void append(Findings& to, Findings from) {
    to.insert(to.end(), std::make_move_iterator(from.begin()), std::make_move_iterator(from.end()));
}

} // namespace

PartProof proveNeck(const NeckPart& part, const PartSides& sides, const NeckPlan& plan,
                    const NeckCut& cut, const Machine& machine, double cell,
                    const std::stop_token& stop) {
    PartProof proof;
    const SidePrograms& programs = sides.programs;
    const PartRun run = runPart(sides, cell, stop);
    const Stock& stock = *run.whole;
    const std::array<const Setup*, 2> lies{&sides.held.face, &*sides.held.back};
    for (std::size_t side : {0U, 1U}) {
        ProofReport& r = proof.sides[side];
        r.part = Role::neck;
        r.setup = lies[side]->name;
        r.cell = cell;
        r.deviation = emptyDeviation(stock);
        for (const Collision& c : run.collisions[side]) {
            r.findings.push_back(collisionFinding(c, programs[side][c.program], *lies[side]));
        }
        append(r.findings, judgeTravel(*lies[side], machine, programs[side]));
        append(r.findings, judgeFilledFloors(Role::neck, sides.fillings[side], run.floors[side]));
        addLoads(r, *lies[side], machine, plan.sides[side].cuts, programs[side], run.loads[side]);
    }
    std::vector<std::array<Sum, 2>> sums(static_cast<std::size_t>(stock.columns()));
    const ColumnJudge judge(part, *lies[1], plan, stock);
    tbb::parallel_for(0, stock.columns(), [&](int c) {
        auto& s = sums[static_cast<std::size_t>(c)];
        judge.judge(c, s[0], s[1], proof.sides[0].deviation.value.data(),
                    proof.sides[1].deviation.value.data());
    });
    std::array<Sum, 2> all;
    for (const auto& s : sums) {
        all[0].add(s[0]);
        all[1].add(s[1]);
    }
    judgeSurface(proof.sides[0], all[0], "front", cut.scallop + excessBeyondScallop, *lies[0],
                 programs[0]);
    judgeSurface(proof.sides[1], all[1], "back", cut.scallop + excessBeyondScallop, *lies[1],
                 programs[1]);
    for (std::size_t side : {0U, 1U}) {
        ProofReport& r = proof.sides[side];
        WallReport walls = judgeNeckWalls(part, *lies[side], plan, side, programs[side]);
        r.wallMax = walls.worst;
        append(r.findings, std::move(walls.findings));
    }
    if (part.carved()) {
        ProofReport& r = proof.sides[0];
        WallReport walls = judgeWalls(*part.carved(), *lies[0], CuttingPieces(programs[0]),
                                      programs[0], BoardShare::face);
        r.wallMax = std::max(r.wallMax, walls.worst);
        append(r.findings, std::move(walls.findings));
    }
    append(proof.sides[1].findings, judgeNeckHolding(part, *lies[1], plan, cut, stock));
    append(proof.sides[1].findings, judgeNeckHoles(part, *lies[1], plan, stock));
    measureRod(proof, part, *lies[1], run);
    for (ProofReport& r : proof.sides) {
        r.passed = !hasStop(r.findings);
    }
    proof.stock = run.whole;
    return proof;
}

} // namespace wren
