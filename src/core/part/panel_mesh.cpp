#include "part/panel_mesh.h"

#include "base/error.h"
#include "geom/bands.h"
#include "geom/inset.h"
#include "geom/stack_mesh.h"

#include <algorithm>
#include <cmath>
#include <deque>
#include <map>
#include <numbers>

namespace wren {
namespace {

/// Distances from the edge at which triangles must end to follow its profile within `chord`.
std::vector<double> ringsOf(const EdgeProfile& edge, double chord) {
    std::vector<double> rings;
    if (edge.hasEdge() && edge.rounded()) {
        const double r = edge.size();
        const double quarter = std::numbers::pi / 2;
        const int n = int(std::ceil(quarter / (2 * std::acos(1 - chord / r))));
        for (int i = 1; i <= n; ++i) {
            rings.push_back(r * (1 - std::cos(quarter * i / n)));
        }
    } else if (edge.hasEdge()) {
        rings.push_back(edge.size());
    }
    return rings;
}

/// Where a trough begins in its board's face, out past the board's ends.
std::vector<Vec2> rimOf(const Trough& trough) {
    constexpr double step = 2, past = 1; // mm
    std::vector<Vec2> low, high;
    const int n = std::max(1, int((trough.to() - trough.from()) / step));
    for (int i = -1; i <= n + 1; ++i) {
        const double x = trough.from() + (trough.to() - trough.from()) * std::clamp(i, 0, n) / n;
        const std::array<double, 2> y = trough.across(x, 0);
        low.push_back({x + (i < 0 ? -past : i > n ? past : 0), y[0]});
        high.push_back({low.back().x, y[1]});
    }
    low.insert(low.end(), high.rbegin(), high.rend());
    return low;
}

/// Something cut out of the wood: from a height up, from one down, or between two.
struct Hollow {
    Bands region;
    bool through = false;
    bool closed = false; ///< shut in between two heights
    bool fromBack = false;
    int face = 0;    ///< its floor; of a closed one, what ends the wood under it
    int ceiling = 0; ///< of a closed one
};

/// A panel as wood between faces. The first two faces are its front and back; then come the floors,
/// and as they are met, the lower of a front and of floors that may lie over it.
class Piece {
public:
    Piece(const Panel& panel, double chord) : panel_(panel), chord_(chord) {
        for (bool back : {false, true}) {
            const FaceFall& fall = panel_.fall(back);
            PlanFace f{[this, back](double x, double y) {
                           return panel_.faceAt({x, y}, back);
                       },
                       {}};
            if (!fall.level()) {
                f.upright = [&fall](double x, double y) { return fall.upright({x, y}); };
            }
            faces_.push_back(std::move(f));
        }
        addLines();
        addHollows();
    }

    PlanStack stack() {
        return {lines_, [this](Vec2 p) { return over(p); },
                [this](int i) -> const PlanFace& { return faces_[static_cast<std::size_t>(i)]; }};
    }

private:
    void addLines() {
        lines_.push_back(pointsOf(panel_.outline, chord_ / 2));
        for (bool back : {false, true}) {
            for (double d : ringsOf(panel_.fall(back).edge(), chord_ / 2)) {
                for (const Contour& c : inset({counterClockwise(panel_.outline)}, d)) {
                    lines_.push_back(pointsOf(c, chord_ / 2));
                }
            }
        }
        if (const Trough* trough = panel_.frontFall.trough()) {
            lines_.push_back(rimOf(*trough));
        }
        if (lines_.size() > 1) {
            addStrips();
        }
    }

    /// Lines across, since large pieces of the plan with many corners are slow to triangulate.
    void addStrips() {
        constexpr double wide = 60; // mm
        const auto [low, high] = panel_.box();
        const int n = static_cast<int>((high.x - low.x) / wide);
        for (int i = 1; i <= n; i += 2) {
            const double a = low.x + (high.x - low.x) * i / (n + 1);
            const double b = low.x + (high.x - low.x) * (i + 1) / (n + 1);
            lines_.push_back({{a, low.y - 1}, {b, low.y - 1}, {b, high.y + 1}, {a, high.y + 1}});
        }
    }

    Bands regionOf(const std::vector<Contour>& borders) {
        std::vector<std::vector<Vec2>> polygons;
        polygons.reserve(borders.size());
        for (const Contour& c : borders) {
            polygons.push_back(pointsOf(c, chord_ / 2));
        }
        lines_.insert(lines_.end(), polygons.begin(), polygons.end());
        return Bands(polygons);
    }

    int plane(double z, double slope = 0, double levelAt = 0) {
        faces_.push_back(
            {[=](double x, double) { return z + slope * (x - levelAt); }, PlanFunction()});
        return static_cast<int>(faces_.size()) - 1;
    }

    void addHollows() {
        for (const PanelPocket& p : panel_.pockets) {
            hollows_.push_back({regionOf(p.borders), p.through, false, p.fromBack,
                                plane(p.floor, p.slope, p.levelAt)});
        }
        for (const PanelPocket& p : panel_.shutIn) {
            hollows_.push_back({regionOf({p.borders.front()}), false, true, false,
                                plane(std::min(p.floor, p.mouth)),
                                plane(std::max(p.floor, p.mouth))});
        }
        for (const Hole& h : panel_.holes) {
            hollows_.push_back({regionOf({circleContour(h.at, h.diameter)}), h.through, false,
                                h.fromBack, plane(h.floor)});
        }
    }

    double heightOf(int face, Vec2 p) const {
        return faces_[static_cast<std::size_t>(face)].height(p.x, p.y);
    }

    std::vector<StackSpan> over(Vec2 p) {
        if (!outline_.holds(p)) {
            return {};
        }
        std::vector<int> tops{0};
        std::vector<int> bottoms{1};
        std::vector<const Hollow*> shut;
        for (const Hollow& h : hollows_) {
            if (!h.region.holds(p)) {
                continue;
            }
            if (h.through) {
                return {};
            }
            if (h.closed) {
                shut.push_back(&h);
            } else {
                (h.fromBack ? bottoms : tops).push_back(h.face);
            }
        }
        std::vector<StackSpan> spans{{endOf(bottoms, p, true), endOf(tops, p, false)}};
        if (heightOf(spans[0].low, p) >= heightOf(spans[0].high, p)) {
            return {};
        }
        std::sort(shut.begin(), shut.end(), [&](const Hollow* a, const Hollow* b) {
            return heightOf(a->face, p) < heightOf(b->face, p);
        });
        for (const Hollow* h : shut) {
            split(spans, *h, p);
        }
        return spans;
    }

    /// What a hollow within the wood leaves of the uppermost span.
    void split(std::vector<StackSpan>& spans, const Hollow& h, Vec2 p) const {
        if (spans.empty()) {
            return;
        }
        const StackSpan whole = spans.back();
        if (heightOf(h.ceiling, p) <= heightOf(whole.low, p) ||
            heightOf(h.face, p) >= heightOf(whole.high, p)) {
            return; // beside the wood that is left
        }
        spans.pop_back();
        if (heightOf(h.face, p) > heightOf(whole.low, p)) {
            spans.push_back({whole.low, h.face});
        }
        if (heightOf(h.ceiling, p) < heightOf(whole.high, p)) {
            spans.push_back({h.ceiling, whole.high});
        }
    }

    /// Where wood ends among several faces: the lowest of those over it, the highest of those under
    /// it. A level one that ends it here ends it on the whole piece of the plan, unless a carved
    /// face may fall past it.
    int endOf(std::vector<int> among, Vec2 p, bool under) {
        std::sort(among.begin(), among.end());
        const auto further = [&](int a, int b) {
            return under ? heightOf(a, p) > heightOf(b, p) : heightOf(a, p) < heightOf(b, p);
        };
        const auto level = [&](int f) { return !faces_[static_cast<std::size_t>(f)].upright; };
        if (among.size() == 1 || std::all_of(among.begin(), among.end(), level)) {
            return *std::min_element(among.begin(), among.end(), further);
        }
        const auto known = together_.find(among);
        if (known != together_.end()) {
            return known->second;
        }
        const auto at = [this, among, under](double x, double y) {
            return *std::min_element(among.begin(), among.end(), [&](int a, int b) {
                return under ? heightOf(a, {x, y}) > heightOf(b, {x, y})
                             : heightOf(a, {x, y}) < heightOf(b, {x, y});
            });
        };
        faces_.push_back({[this, at](double x, double y) {
                              return heightOf(at(x, y), {x, y});
                          },
                          [this, at](double x, double y) {
                              const PlanFace& f = faces_[static_cast<std::size_t>(at(x, y))];
                              return f.upright ? f.upright(x, y) : 1;
                          }});
        return together_[among] = static_cast<int>(faces_.size()) - 1;
    }

    const Panel& panel_;
    double chord_;
    Bands outline_{{pointsOf(panel_.outline, chord_ / 2)}};
    std::vector<std::vector<Vec2>> lines_;
    std::vector<Hollow> hollows_;
    std::deque<PlanFace> faces_; ///< stays where it is while more are added
    std::map<std::vector<int>, int> together_;
};

} // namespace

Mesh panelMesh(const Panel& panel, double chord, const Watch& watch) {
    Piece piece(panel, chord);
    Mesh mesh = meshOf(piece.stack(), chord);
    if (watch.stop.stop_requested()) {
        throw Cancelled();
    }
    return mesh;
}

} // namespace wren
