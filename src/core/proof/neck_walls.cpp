#include "proof/neck_walls.h"

#include "cut/neck_outline_cut.h"
#include "proof/tied_wood.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double step = 1; ///< mm between the places along a wall

/// Pieces in the instrument's frame, found by their X.
class Near {
public:
    Near(const CuttingPieces& all, const Setup& setup, double low, double high)
        : low_(low), buckets_(static_cast<std::size_t>((high - low) / width) + 1) {
        for (CutPiece p : all.all()) {
            p.a = setup.fromInstrument.toInstrument(p.a);
            p.b = setup.fromInstrument.toInstrument(p.b);
            const double r = p.end->radius + 1;
            const auto from = index(std::min(p.a.x, p.b.x) - r);
            const auto to = index(std::max(p.a.x, p.b.x) + r);
            for (std::size_t i = from; i <= to; ++i) {
                buckets_[i].push_back(p);
            }
        }
    }
    const std::vector<CutPiece>& at(double x) const { return buckets_[index(x)]; }

private:
    static constexpr double width = 8;
    std::size_t index(double x) const {
        return static_cast<std::size_t>(
            std::clamp((x - low_) / width, 0.0, static_cast<double>(buckets_.size() - 1)));
    }
    double low_;
    std::vector<std::vector<CutPiece>> buckets_;
};

class Walls {
public:
    Walls(const NeckPart& part, const Setup& setup, const NeckPlan& plan,
          const std::vector<RunProgram>& programs)
        : part_(part), plan_(plan), programs_(programs), pieces_(programs),
          near_(pieces_, setup, part.outline().tip() - 30, part.outline().end() + 30),
          partName_(setup.part), fromFront_(setup.side == 0) {}

    void pockets() {
        for (const NeckPocket& p : part_.pockets()) {
            const Cut* how = cutOfPocket(plan_.sides[fromFront_ ? 0 : 1], p.kind);
            if (!how || p.fromBack == fromFront_) {
                continue;
            }
            const double r = how->bit.radius();
            if (p.runsAcross()) {
                wallsAcross(p);
                continue;
            }
            // Its sides along the neck, clear of the rounded corners.
            for (double x = p.box[0].x + r; x < p.box[1].x - r; x += step) {
                for (double y : {p.box[0].y, p.box[1].y}) {
                    const Vec2 at = p.out({x, y});
                    if (at.x < part_.outline().end() - r && !swallowed(p, at)) {
                        const double deep = p.bottomAt(x) - (fromFront_ ? 0 : 0.6);
                        judge(at, 0, deep, fmt::format("A side of the {} slot", wordOf(p.kind)),
                              EndShape::of(how->bit).rounding > 0 ? how : nullptr);
                    }
                }
            }
        }
    }

    /// A nut's slot and a ledge run out of the wood sideways: their walls stand across.
    void wallsAcross(const NeckPocket& p) {
        for (double x : {p.box[0].x, p.box[1].x}) {
            for (double y = p.box[0].y; y < p.box[1].y; y += step) {
                const Vec2 at = p.out({x, y});
                const std::array<double, 2> wood = part_.outline().across(at.x);
                const bool stands =
                    part_.onCarved(at + p.way * (x > p.middle().x ? 0.1 : -0.1)) > 0;
                if (at.y > wood[0] && at.y < wood[1] && (p.kind == NeckPocketKind::nut || stands)) {
                    judge(at, p.mouth, p.floor, fmt::format("A wall of the {}", wordOf(p.kind)));
                }
            }
        }
    }

    void outline() {
        const Cut* how = plan_.sides[fromFront_ ? 0 : 1].cutOf(CutKind::outline);
        if (!how) {
            return;
        }
        const double r = how->bit.radius();
        const double parting = outlineParting(part_);
        for (const ContourPiece& piece : part_.outline().contour()) {
            const double l = piece.length();
            const int n = std::max(1, static_cast<int>(l / step));
            for (int i = 0; i < n; ++i) {
                const double s = l * (i + 0.5) / n;
                const Vec2 p = piece.at(s);
                const Vec2 way = piece.wayAt(s);
                const bool tabbed =
                    std::any_of(plan_.tabs.begin(), plan_.tabs.end(),
                                [&](const NeckTab& t) { return t.under(p, r + 4); });
                // A nut's slot runs out through the wall.
                const bool open =
                    fromFront_ && std::any_of(part_.pockets().begin(), part_.pockets().end(),
                                              [&](const NeckPocket& q) { return q.holds(p); });
                if (tabbed || open) {
                    continue;
                }
                // Seen from outside, in the middle of the wall's height on that side.
                const Vec2 out{-way.y, way.x};
                double front = part_.frontAt(p - out * 0.05);
                double back = -part_.back().depth(p.x, p.y - out.y * 0.05);
                if (plan_.sharedOutline) {
                    back = fromFront_ ? std::max(back, parting) : back;
                    front = fromFront_ ? front : std::min(front, parting);
                    if (front - back < 1) {
                        continue; // hardly any of it is this side's
                    }
                }
                // Fret slots cross the wall's upper part rightly.
                const double deep =
                    fromFront_ ? back + 0.2 : (front + std::max(back, front - 2)) / 2;
                judge(p, front, deep, "The outline");
            }
        }
    }

    void holes(bool fromBack) {
        for (const Hole& hole : part_.holes()) {
            if (hole.fromBack != fromBack || hole.byHand) {
                continue;
            }
            double reached = 0;
            const CutPiece* who = nullptr;
            for (const CutPiece& p : near_.at(hole.at.x)) {
                for (Vec3 tip : {p.a, p.b}) {
                    const bool deep =
                        fromBack ? tip.z > hole.mouth + 0.5 : tip.z < hole.mouth - 0.5;
                    const double d = length(tip.xy() - hole.at);
                    if (deep && d + p.end->radius < hole.diameter / 2 + 1 &&
                        d + p.end->radius > reached) {
                        reached = d + p.end->radius;
                        who = &p;
                    }
                }
            }
            if (who) {
                // A drill's own size is what the hole was said to take; its place is judged.
                const double error = reached - hole.diameter / 2;
                note(std::abs(error), hole.at.x, who, "A " + hole.what + " hole",
                     wallAllowed + (who->end->rounding == 0 && who->end->slope == 0 ? 0 : 0.03));
            }
        }
    }

    WallReport take() { return std::move(report_); }

private:
    /// An end or side that lies inside a wider pocket at least as deep.
    bool swallowed(const NeckPocket& p, Vec2 at) const {
        return std::any_of(part_.pockets().begin(), part_.pockets().end(),
                           [&](const NeckPocket& q) {
                               const std::array<double, 2> reach = q.reach();
                               return &q != &p && q.floor <= p.floor && at.x > reach[0] - 5 &&
                                      at.x < reach[1] + 5 && q.width() > p.width();
                           });
    }

    /// The nearest any upright bit comes to the wall's place below `mouth`, less its radius.
    /// `round`: the cut that makes it with a round end, whose whole width stands a rounding over
    /// its tip. Other round ends are judged by the heights they leave.
    void judge(Vec2 at, double mouth, double deep, const std::string& what,
               const Cut* round = nullptr) {
        double error = 1e9;
        const CutPiece* who = nullptr;
        for (const CutPiece& p : near_.at(at.x)) {
            const bool own = round && p.end->rounding > 0 && programs_[p.program].has(round->kind);
            if (p.end->slope > 0 || (p.end->rounding > 0) != bool(round) || (round && !own)) {
                continue;
            }
            // It takes part only if it stands in the wall's height there.
            const double lowest = std::min(p.a.z, p.b.z);
            const double highest = std::max(p.a.z, p.b.z);
            if (fromFront_ ? lowest > std::min(mouth - 0.05, deep + 0.05) : highest < deep + 0.05) {
                continue;
            }
            const double d = distanceToSegment(at, p.a.xy(), p.b.xy()) - p.end->radius;
            if (d < error) {
                error = d;
                who = &p;
            }
        }
        if (who) {
            note(std::abs(error), at.x, who, what, wallAllowed);
        }
    }

    void note(double error, double x, const CutPiece* who, const std::string& what,
              double allowed) {
        report_.worst = std::max(report_.worst, error);
        if (error <= allowed || said_ == what) {
            return;
        }
        said_ = what;
        Finding f;
        f.weight = Weight::stop;
        f.code = "wall";
        f.part = partName_;
        f.value = error;
        f.limit = allowed;
        f.atX = x;
        f.program = programs_[who->program].file;
        f.line = who->line;
        f.message =
            fmt::format("{}, line {}: {} is out by {:.3f} mm at {:.1f} mm from the nut; {:.2f} "
                        "mm is allowed.",
                        f.program, f.line, what, error, x, allowed);
        report_.findings.push_back(std::move(f));
    }

    const NeckPart& part_;
    const NeckPlan& plan_;
    const std::vector<RunProgram>& programs_;
    CuttingPieces pieces_;
    Near near_;
    PartId partName_;
    bool fromFront_;
    std::string said_;
    WallReport report_;
};

} // namespace

WallReport judgeNeckWalls(const NeckPart& part, const Setup& setup, const NeckPlan& plan,
                          std::size_t side, const std::vector<RunProgram>& programs) {
    Walls walls(part, setup, plan, programs);
    walls.pockets();
    walls.outline();
    if (side == 0) {
        walls.holes(false);
    } else {
        walls.holes(true);
    }
    return walls.take();
}

Findings judgeNeckHolding(const NeckPart& part, const Setup& back, const NeckPlan& plan,
                          const NeckCut& cut, const Stock& stock) {
    Findings out;
    const Cut* outline = plan.sides[1].cutOf(CutKind::outline);
    if (!outline) {
        return out;
    }
    const double r = outline->bit.radius();
    const auto cellAt = [&](Vec2 instrument) {
        const Vec2 at = back.fromInstrument.toSetup({instrument.x, instrument.y, 0}).xy();
        return std::pair{static_cast<int>(std::lround(stock.column(at.x))),
                         static_cast<int>(std::lround(stock.row(at.y)))};
    };
    const auto within = [&](int c, int row) {
        return c >= 0 && row >= 0 && c < stock.columns() && row < stock.rows();
    };
    double thickest = 0;
    Vec2 thickAt;
    // The laps climb the tabs at 45 degrees, those from the front up to the blank's face.
    const double slope =
        2 + (plan.sharedOutline ? part.blankTop() - outlineParting(part) : cut.tabHeight);
    for (const ContourPiece& piece : part.outline().contour()) {
        const double l = piece.length();
        const int n = std::max(1, static_cast<int>(l));
        for (int i = 0; i < n; ++i) {
            const double s = l * (i + 0.5) / n;
            const Vec2 way = piece.wayAt(s);
            const Vec2 p = piece.at(s) + Vec2{-way.y, way.x} * r;
            const bool tabbed =
                std::any_of(plan.tabs.begin(), plan.tabs.end(),
                            [&](const NeckTab& t) { return t.under(p, r + slope); });
            const auto [c, row] = cellAt(p);
            if (tabbed || !within(c, row)) {
                continue;
            }
            const double left = woodOver(stock, c, row) + throughBy;
            if (left > thickest) {
                thickest = left;
                thickAt = p;
            }
        }
    }
    if (thickest > 0) {
        Finding& f = saySkinLeft(Role::neck, out, thickest,
                                 fmt::format("{:.0f} mm from the nut", thickAt.x));
        f.atX = thickAt.x;
    }
    for (const NeckTab& tab : plan.tabs) {
        // From just inside the outline across the outline's channel, in the middle of the tab.
        const Vec2 away{-tab.along.y, tab.along.x};
        double thinnest = 1e9;
        for (double d = 0; d <= 2 * r + 1; d += 0.5) {
            const auto [c, row] = cellAt(tab.at + away * d);
            if (within(c, row)) {
                thinnest = std::min(thinnest, woodOver(stock, c, row));
            }
        }
        if (thinnest < holdingWood) {
            Finding& f = sayOf(
                Role::neck, out, Weight::stop, "tab-cut-away",
                fmt::format("The tab {:.0f} mm from the nut is left {:.2f} mm thick; {:.1f} mm "
                            "is the least that holds: taller tabs give it.",
                            tab.at.x, std::max(0.0, thinnest), holdingWood),
                thinnest, holdingWood);
            f.atX = tab.at.x;
        }
    }
    TiedWood tied(stock);
    tied.fromRim();
    // A place on the shaft that no slot or hole takes: beside the rod, half way out.
    const double x = (part.outline().heelStart() + part.outline().headStart()) / 2;
    const auto [c, row] = cellAt({x, part.outline().edge(1, x) * 0.8});
    if (within(c, row) && !tied.at(c, row)) {
        sayPartFree(Role::neck, out, "neck");
    }
    return out;
}

} // namespace wren
