#include "proof/panel_walls.h"

#include "base/words.h"
#include "geom/bands.h"
#include "geom/edge_distance.h"
#include "geom/inset.h"
#include "proof/pieces_by_place.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <set>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double step = 0.8;       ///< mm between the places along a wall
constexpr double floorPlay = 0.03; ///< a tip so far over the floor still made its wall
constexpr double mouthPlay = 0.05; ///< nearer to the mouth than this nothing is a wall

/// Every line of a panel along which places are judged.
std::vector<Contour> wallsOf(const Panel& panel) {
    std::vector<Contour> out{panel.outline};
    for (const PanelPocket& p : panel.pockets) {
        out.insert(out.end(), p.borders.begin(), p.borders.end());
    }
    for (const Hole& h : panel.holes) {
        out.push_back(circleContour(h.at, h.diameter));
    }
    for (const PanelLine& line : panel.engraved) {
        out.push_back(line.way);
    }
    return out;
}

class Judge {
public:
    Judge(const Panel& panel, const Setup& setup, const PanelPlan& plan, const BodyCut& cut,
          const std::vector<RunProgram>& programs, bool fromBack)
        : panel_(panel), setup_(setup), plan_(plan), cut_(cut), programs_(programs),
          part_(setup.part), back_(fromBack), near_(programs, setup, wallsOf(panel)),
          within_({pointsOf(panel.outline, 0.005)}), edge_(panel.outline, 1) {
        for (const PanelPocket& p : panel.pockets) {
            polygons_.emplace_back(polygonsOf(p.borders));
            boxes_.push_back(boxOf(p.borders.front()));
        }
    }

    WallReport all() {
        for (std::size_t i = 0; i < panel_.pockets.size(); ++i) {
            const bool mine = panel_.pockets[i].fromBack == back_ || plan_.halved.count(i) > 0;
            if (mine && made(i)) {
                pocket(i);
            }
        }
        for (std::size_t i = 0; i < panel_.holes.size(); ++i) {
            if (panel_.holes[i].fromBack == back_ && made(panel_.pockets.size() + i)) {
                hole(panel_.holes[i]);
            }
        }
        outline();
        edges();
        engraved();
        return std::move(report_);
    }

private:
    bool made(std::size_t feature) const {
        return std::any_of(plan_.tasks.begin(), plan_.tasks.end(),
                           [&](const PanelTask& t) { return t.feature == feature; });
    }

    template <typename See>
    static void along(const Contour& contour, See see) {
        for (const ContourPiece& p : contour) {
            const double l = p.length();
            const int n = std::max(1, static_cast<int>(l / step));
            for (int i = 0; i < n; ++i) {
                see(p, l * (i + 0.5) / n);
            }
        }
    }

    /// Whether another pocket of this face takes the wood on both sides of a wall, or one it opens
    /// into does.
    bool swallowed(std::size_t self, Vec2 at) const {
        const PanelPocket& mine = panel_.pockets[self];
        for (std::size_t k = 0; k < panel_.pockets.size(); ++k) {
            const PanelPocket& p = panel_.pockets[k];
            if (k == self || p.fromBack != back_) {
                continue;
            }
            const double deeper = (back_ ? 1 : -1) * (p.floorAt(at.x) - mine.mouth);
            if (deeper > mouthPlay && (polygons_[k].holds(at) || beside(k, at, 0.1))) {
                return true;
            }
        }
        for (const Hole& h : panel_.holes) {
            if (h.fromBack == back_ && length(h.at - at) < h.diameter / 2 + 0.1) {
                return true;
            }
        }
        return false;
    }

    /// Whether a place lies nearer than that to a pocket's outer border.
    bool beside(std::size_t pocket, Vec2 at, double near) const {
        const std::array<Vec2, 2>& box = boxes_[pocket];
        return at.x > box[0].x - near && at.y > box[0].y - near && at.x < box[1].x + near &&
               at.y < box[1].y + near &&
               distanceTo(panel_.pockets[pocket].borders.front(), at) < near;
    }

    void pocket(std::size_t index) {
        const PanelPocket& p = panel_.pockets[index];
        for (const Contour& border : p.borders) {
            along(border, [&](const ContourPiece& piece, double s) {
                const Vec2 at = piece.at(s);
                const bool outside = !within_.holds(at) || edge_.at(at) < 0.1;
                if (outside || swallowed(index, at) || tabbed(index, at)) {
                    return;
                }
                // A level end leans on the upper side of a slope.
                const double slope = std::abs(p.slope) * 8;
                const bool halved = plan_.halved.count(index) > 0;
                const double floor = halved ? partingOf(panel_) : p.floorAt(at.x);
                const double deep = floor + (back_ ? -1 : 1) * (floorPlay + slope);
                const double face = faceAt(at);
                const double from = back_ == p.fromBack ? p.mouth : p.floor;
                const double mouth = back_ ? std::max(from, face) : std::min(from, face);
                if (back_ ? mouth < deep : mouth > deep) { // else carving has taken the wall too
                    judge(at, mouth, deep, "A wall of " + withArticle(p.what));
                }
            });
        }
    }

    /// Whether a tab of its plug stands there.
    bool tabbed(std::size_t pocket, Vec2 at) const {
        return std::any_of(plan_.plugs.begin(), plan_.plugs.end(), [&](const PanelPlug& plug) {
            return plug.pocket == pocket &&
                   std::any_of(plug.tabs.begin(), plug.tabs.end(), [&](const PanelTab& t) {
                       return length(t.at - at) < t.reach(plug.free / 2);
                   });
        });
    }

    double faceAt(Vec2 at) const { return panel_.faceAt(at, back_); }

    /// Where a rounding or a chamfer is too steep for the field: places of the surface against the
    /// ball's own way.
    void edges() {
        const FaceFall& fall = panel_.fall(back_);
        if (!fall.edge().hasEdge() || plan_.carvedBy[back_ ? 1 : 0] <= 0) {
            return;
        }
        const double face = back_ ? panel_.bottom : panel_.top;
        const double down = back_ ? 1 : -1;
        const auto in = [&](Vec2 p) {
            return std::any_of(polygons_.begin(), polygons_.end(),
                               [&](const Bands& polygon) { return polygon.holds(p); });
        };
        along(clockwise(panel_.outline), [&](const ContourPiece& piece, double s) {
            const Vec2 inward = leftOf(piece.wayAt(s)) * -1;
            for (double d : {0.0, 0.1, 0.25, 0.45}) {
                const Vec2 at = piece.at(s) + inward * d;
                if (in(at) || edge_.at(at) < d - 1e-3) {
                    continue; // wood that is gone, or nearer to another stretch of the edge
                }
                const double z = face + down * fall.drop(at);
                const double left = near_.overBall({at.x, at.y, z}, back_);
                if (left < -gougeAllowed || left > cut_.carveScallop + excessBeyondScallop) {
                    sayEdge(at, left);
                }
            }
        });
    }

    /// The tip's own way against the lines and their depth.
    void engraved() {
        std::set<std::string> said;
        for (const PanelLine& line : panel_.engraved) {
            if (line.fromBack != back_) {
                continue;
            }
            for (Vec2 at : placesAlong(line.way, step)) {
                const double wanted = faceAt(at) + (back_ ? line.depth : -line.depth);
                const PiecesByPlace::Tip tip = near_.tipAt(at, wanted, back_);
                const double low = std::max(0.0, tip.below);
                const bool off = tip.aside > wallAllowed;
                report_.worst = off ? report_.worst : std::max(report_.worst, tip.aside);
                if ((off || low > gougeAllowed || -tip.below > excessBeyondScallop) &&
                    said.insert(line.what).second) {
                    sayEngraved(line, at, tip);
                }
            }
        }
    }

    void sayEngraved(const PanelLine& line, Vec2 at, const PiecesByPlace::Tip& tip) {
        const bool off = tip.aside > wallAllowed;
        const std::string how = tip.aside > 1e8 ? std::string("not drawn")
                                : off           ? fmt::format("{:.3f} mm aside", tip.aside)
                                      : fmt::format("{:.3f} mm too {}", std::abs(tip.below),
                                                    tip.below > 0 ? "deep" : "shallow");
        sayOf(part_, report_.findings, Weight::stop, "engraving",
              fmt::format("The engraving {} is {} at {}; {:.2f} mm are allowed.", line.what, how,
                          setup_.told(at),
                          off             ? wallAllowed
                          : tip.below > 0 ? gougeAllowed
                                          : excessBeyondScallop),
              off ? tip.aside : std::abs(tip.below), wallAllowed)
            .atX = at.x;
    }

    void sayEdge(Vec2 at, double left) {
        if (edgeSaid_) {
            return;
        }
        edgeSaid_ = true;
        const double limit = left < 0 ? gougeAllowed : cut_.carveScallop + excessBeyondScallop;
        sayOf(part_, report_.findings, Weight::stop, "edge",
              left > 1e8 ? fmt::format("The edge is not cut at {}.", setup_.told(at))
                         : fmt::format("The {} edge is {} by {:.3f} mm at {}; {:.3f} mm "
                                       "are allowed.",
                                       back_ ? "back's" : "front's",
                                       left < 0 ? "cut into" : "left standing", std::abs(left),
                                       setup_.told(at), limit),
              left, limit)
            .atX = at.x;
    }

    void hole(const Hole& h) {
        const double deep = h.floor + (back_ ? -1 : 1) * floorPlay;
        double mouth = h.mouth;
        for (std::size_t k = 0; k < panel_.pockets.size(); ++k) {
            if (panel_.pockets[k].slope != 0 && polygons_[k].holds(h.at)) {
                mouth -= std::abs(panel_.pockets[k].slope) * 10; // a slope goes lower beside it
            }
        }
        for (int i = 0; i < 8; ++i) {
            const double a = 0.3 + i * 3.14159265358979 / 4;
            const Vec2 at = h.at + Vec2{std::cos(a), std::sin(a)} * (h.diameter / 2);
            const double face = faceAt(at);
            const double from = back_ ? std::max(mouth, face) : std::min(mouth, face);
            judge(at, from, deep, "The wall of the " + h.what + (h.what == "hole" ? "" : " hole"));
        }
    }

    void outline() {
        const Cut* how = plan_.sides[back_ ? 1 : 0].cutOf(CutKind::outline);
        if (!how) {
            return;
        }
        const double r = how->bit.radius();
        double deep = back_ ? panel_.top : panel_.bottom;
        if (plan_.sharedOutline) {
            deep = partingOf(panel_);
        }
        deep += (back_ ? -1 : 1) * floorPlay; // a posted height is rounded to its last decimal
        along(panel_.outline, [&](const ContourPiece& piece, double s) {
            const Vec2 at = piece.at(s);
            const bool tabbed =
                std::any_of(plan_.tabs.begin(), plan_.tabs.end(),
                            [&](const PanelTab& t) { return length(t.at - at) < t.reach(r); });
            bool open = false;
            for (std::size_t k = 0; k < panel_.pockets.size(); ++k) {
                open = open || polygons_[k].holds(at) || beside(k, at, 0.3);
            }
            if (!tabbed && !open) {
                judge(at, faceAt(at), deep, "The outline");
            }
        });
    }

    void judge(Vec2 at, double mouth, double deep, const std::string& what) {
        const double under = mouth + (back_ ? mouthPlay : -mouthPlay);
        const PiecesByPlace::Near left = near_.nearest(at, deep, back_);
        const PiecesByPlace::Near past = near_.nearest(at, under, back_);
        const bool gouged = past.off < -wallAllowed;
        const PiecesByPlace::Near& worst = gouged ? past : left;
        const double error = gouged ? -past.off : std::max(0.0, left.off);
        if (error < 1e8) {
            report_.worst = std::max({report_.worst, error, std::max(0.0, -past.off)});
        }
        if (error <= wallAllowed) {
            return;
        }
        for (const Finding& f : report_.findings) {
            if (f.code == "wall" && f.message.find(what) != std::string::npos) {
                return; // one sentence a wall is enough
            }
        }
        Finding& f = sayOf(part_, report_.findings, Weight::stop, "wall", "", error, wallAllowed);
        f.atX = at.x;
        std::string where;
        if (worst.piece) {
            f.program = programs_[worst.piece->program].file;
            f.line = worst.piece->line;
            where = fmt::format("{}, line {}: ", f.program, f.line);
        }
        f.message = error < 1e8 ? fmt::format("{}{} is {} by {:.3f} mm at {}; {:.2f} mm is "
                                              "allowed.",
                                              where, what, gouged ? "cut into" : "left standing",
                                              error, setup_.told(at), wallAllowed)
                                : fmt::format("{} is not cut at {}.", what, setup_.told(at));
    }

    const Panel& panel_;
    const Setup& setup_;
    const PanelPlan& plan_;
    const BodyCut& cut_;
    const std::vector<RunProgram>& programs_;
    PartId part_;
    bool back_;
    PiecesByPlace near_;
    std::vector<Bands> polygons_; ///< of each pocket
    std::vector<std::array<Vec2, 2>> boxes_;
    Bands within_; ///< the outline
    EdgeDistance edge_;
    bool edgeSaid_ = false;
    WallReport report_;
};

} // namespace

WallReport judgePanelWalls(const Panel& panel, const Setup& setup, const PanelPlan& plan,
                           const BodyCut& cut, const std::vector<RunProgram>& programs,
                           bool fromBack) {
    return Judge(panel, setup, plan, cut, programs, fromBack).all();
}

} // namespace wren
