#include "geom/voronoi.h"

#include "base/error.h"
#include "geom/inset.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <numbers>

namespace wren {

using std::numbers::pi;
using Kind = ContourPiece::Kind;

namespace {

constexpr double stride = 0.5;    ///< mm along a crest
constexpr double same = 1e-10;    ///< mm: distances that count as one
constexpr double nearly = 2e-6;   ///< mm: the same, where borders were found to meet
constexpr double beyond = 0.05;   ///< mm past a smooth joint that still count as on it
constexpr double sameNode = 1e-4; ///< mm: places where borders meet

double angleOf(Vec2 v) {
    return std::atan2(v.y, v.x);
}

/// The turn from one direction on to another, counter-clockwise, 0 to a whole turn.
double turnTo(double from, double to) {
    const double t = std::fmod(to - from + 4 * pi, 2 * pi);
    return t > 2 * pi - 1e-7 ? 0 : t;
}

Vec2 along(double angle) {
    return {std::cos(angle), std::sin(angle)};
}

} // namespace

double VoronoiCells::Site::distance(Vec2 p) const {
    if (corner) {
        return length(p - piece.from);
    }
    if (piece.kind == Kind::line) {
        return cross(unit(piece.to - piece.from), p - piece.from);
    }
    const double out = length(p - piece.centre) - piece.radius();
    return hasTip() ? -out : out;
}

Vec2 VoronoiCells::Site::toward(Vec2 p) const {
    if (corner || piece.isArc()) {
        const Vec2 out = unit(p - middle());
        return hasTip() ? out : out * -1;
    }
    return leftOf(unit(piece.to - piece.from)) * -1;
}

double VoronoiCells::Site::within(Vec2 p) const {
    if (!corner && piece.kind == Kind::line) {
        const double far = dot(unit(piece.to - piece.from), p - piece.from);
        return std::min(far, piece.length() - far);
    }
    // A corner's fan turns the way the outline does there, clockwise.
    const Vec2 first = corner ? leftOf(piece.wayOut()) : piece.from - piece.centre;
    const double sense = hasTip() ? 1 : -1;
    const double done =
        sense * std::remainder(angleOf(p - middle()) - angleOf(first) - sense * turn / 2, 2 * pi);
    return (turn / 2 - std::abs(done)) * (corner ? 1 : piece.radius());
}

/// Follows the borders from the outline's joints inward, meeting by meeting.
class VoronoiCells::Tracing {
public:
    explicit Tracing(VoronoiCells& cells)
        : sites_(cells.sites_), reach_(cells.reach_), out_(cells) {}

    void run() {
        for (std::size_t i = 0; i < sites_.size(); ++i) {
            fromJoint(i, (i + 1) % sites_.size());
        }
        for (std::size_t n = 0; n < nodes_.size(); ++n) { // tracing finds further ones
            for (std::size_t g = 0; g < nodes_[n].gaps.size(); ++g) {
                if (!nodes_[n].gaps[g].done) {
                    nodes_[n].gaps[g].done = true;
                    const Gap gap = nodes_[n].gaps[g];
                    crest(gap.a, gap.b, nodes_[n].at, gap.way);
                }
            }
            if (nodes_.size() > 8 * sites_.size() + 16) {
                throw Error("The middle line of an outline cannot be followed.");
            }
        }
    }

private:
    /// Two sites that follow one another round a node, and the border between them.
    struct Gap {
        std::size_t a, b;
        Vec2 way;
        bool done = false;
    };
    struct Node {
        Vec2 at;
        std::vector<Gap> gaps;
    };

    /// Where two sites that follow one another in the outline part.
    void fromJoint(std::size_t a, std::size_t b) {
        const Vec2 at = sites_[a].corner ? sites_[a].piece.from : sites_[a].piece.to;
        const Vec2 before = sites_[a].corner ? sites_[b].piece.wayOut() : sites_[a].piece.wayIn();
        const Vec2 after = sites_[b].corner ? before : sites_[b].piece.wayOut();
        if (std::abs(cross(before, after)) < 1e-5 && dot(before, after) > 0) {
            straight(a, b, at, leftOf(before));
        } else if (cross(before, after) > 0) {
            crest(a, b, at, unit(leftOf(before) + leftOf(after)));
        }
    }

    /// Along the normal in a smooth joint, as far as both its sites are the nearest.
    void straight(std::size_t a, std::size_t b, Vec2 from, Vec2 way) {
        double most = reach_;
        for (std::size_t s : {a, b}) {
            if (sites_[s].hasTip()) {
                most = std::min(most, sites_[s].piece.radius());
            }
        }
        const auto open = [&](double far) {
            return nearestBut(a, b, from + way * far) > far - same;
        };
        double far = 0;
        while (far < most && open(std::min(most, far + stride))) {
            far = std::min(most, far + stride);
        }
        if (far < most) {
            double shut = std::min(most, far + stride);
            for (int i = 0; i < 60; ++i) {
                const double middle = (far + shut) / 2;
                (open(middle) ? far : shut) = middle;
            }
        }
        if (far > sameNode) {
            const Vec2 end = far < reach_ ? arrive(from + way * far, a, b, way) : from + way * far;
            out_.borders_.push_back({from, end});
        }
    }

    /// Along what is as far from two sites that face one another.
    void crest(std::size_t a, std::size_t b, Vec2 from, Vec2 way) {
        Border border{from};
        double step = stride / 16;
        Vec2 at = from;
        for (int i = 0; i < 100000; ++i, step = std::min(stride, 2 * step)) {
            Vec2 next = onCrest(a, b, at + way * step);
            if (bad(a, b, next)) {
                double good = 0;
                double shut = 1;
                for (int k = 0; k < 60; ++k) {
                    const double middle = (good + shut) / 2;
                    const Vec2 there = onCrest(a, b, at + way * (step * middle));
                    (bad(a, b, there) ? shut : good) = middle;
                }
                next = onCrest(a, b, at + way * (step * good));
                const bool deep = sites_[a].distance(next) > reach_ - 1e-5;
                if (length(next - from) < sameNode) {
                    return;
                }
                if (length(next - border.back()) < 0.02 && border.size() > 1) {
                    border.pop_back();
                }
                border.push_back(deep ? next : arrive(next, a, b, way));
                out_.borders_.push_back(std::move(border));
                out_.crested_ = true;
                return;
            }
            way = unit(next - at);
            at = next;
            border.push_back(at);
        }
        throw Error("A crest of an outline's middle line does not end.");
    }

    /// The place beside `p` that is as far from one site as from the other.
    Vec2 onCrest(std::size_t a, std::size_t b, Vec2 p) const {
        for (int i = 0; i < 20; ++i) {
            const double off = sites_[a].distance(p) - sites_[b].distance(p);
            const Vec2 slope = sites_[b].toward(p) - sites_[a].toward(p);
            const double steep = dot(slope, slope);
            if (std::abs(off) < 1e-11 || steep < 1e-12) {
                break;
            }
            p = p - slope * (off / steep);
        }
        return p;
    }

    bool bad(std::size_t a, std::size_t b, Vec2 p) const {
        const double far = sites_[a].distance(p);
        return far > reach_ || sites_[a].within(p) < -same || sites_[b].within(p) < -same ||
               nearestBut(a, b, p) < far - same;
    }

    double nearestBut(std::size_t a, std::size_t b, Vec2 p) const {
        double least = 1e9;
        for (std::size_t s = 0; s < sites_.size(); ++s) {
            if (s != a && s != b) {
                least = std::min(least, sites_[s].stroke.distanceTo(p));
            }
        }
        return least;
    }

    /// Ends a border of two sites at a node, a new one where none is yet; where it lies.
    Vec2 arrive(Vec2 p, std::size_t a, std::size_t b, Vec2 way) {
        for (const Site& s : sites_) {
            if (s.hasTip() && length(p - s.middle()) < sameNode) {
                p = s.middle();
            }
        }
        const auto known = std::find_if(nodes_.begin(), nodes_.end(),
                                        [&](const Node& n) { return length(n.at - p) < sameNode; });
        Node& node = known == nodes_.end() ? nodes_.emplace_back(nodeAt(p)) : *known;
        for (Gap& g : node.gaps) {
            const bool ours = (g.a == a && g.b == b) || (g.a == b && g.b == a);
            if (ours && dot(g.way, way) < 0) {
                g.done = true;
            }
        }
        return node.at;
    }

    /// Every site as near as the nearest, round a place in the outline's order.
    Node nodeAt(Vec2 p) const {
        double far = 1e9;
        for (const Site& s : sites_) {
            far = std::min(far, s.stroke.distanceTo(p));
        }
        const bool onTip = std::any_of(sites_.begin(), sites_.end(), [&](const Site& s) {
            return s.hasTip() && s.middle() == p;
        });
        struct Seen {
            std::size_t site;
            double first, last; ///< directions of its feet
        };
        std::vector<Seen> seen;
        for (std::size_t i = 0; i < sites_.size(); ++i) {
            const Site& s = sites_[i];
            if (s.stroke.distanceTo(p) > far + (onTip ? 2 * sameNode : nearly)) {
                continue;
            }
            if (s.hasTip() && length(p - s.middle()) < sameNode) {
                seen.push_back({i, angleOf(s.piece.from - p), angleOf(s.piece.to - p)});
                continue;
            }
            if (s.within(p) > -beyond) { // or its end is the nearest: that is another site's
                const double to = angleOf(s.toward(p));
                seen.push_back({i, to, to});
            }
        }
        Node node{p, {}};
        for (std::size_t k = 0; k < seen.size(); ++k) {
            const Seen& one = seen[k];
            const Seen& next = seen[(k + 1) % seen.size()];
            const double gap = turnTo(one.last, next.first);
            // Along a smooth joint's normal it is followed from the joint.
            node.gaps.push_back({one.site, next.site, along(one.last + gap / 2), gap < 1e-4});
        }
        return node;
    }

    const std::vector<Site>& sites_;
    double reach_;
    VoronoiCells& out_;
    std::deque<Node> nodes_;
};

VoronoiCells::VoronoiCells(const Contour& outline, double reach) : reach_(reach) {
    const Contour pieces = counterClockwise(outline);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const ContourPiece& p = pieces[i];
        sites_.push_back({p, Stroke(p), false, p.isArc() ? p.length() / p.radius() : 0});
        const ContourPiece& next = pieces[(i + 1) % pieces.size()];
        const Vec2 way = p.wayIn();
        const Vec2 on = next.wayOut();
        if (cross(way, on) < -1e-5) {
            const ContourPiece at{Kind::line, p.to, p.to + way, {}};
            const ContourPiece point{Kind::line, p.to, p.to + way * 1e-9, {}};
            sites_.push_back({at, Stroke(point), true, std::atan2(-cross(way, on), dot(way, on))});
        }
    }
    Tracing(*this).run();
}

std::size_t VoronoiCells::cellAt(Vec2 p) const {
    std::size_t best = 0;
    double least = 1e9;
    for (std::size_t s = 0; s < sites_.size(); ++s) {
        const double far = sites_[s].stroke.distanceTo(p) - (sites_[s].corner ? nearly : 0);
        if (far < least) {
            least = far;
            best = s;
        }
    }
    return best;
}

double VoronoiCells::distance(std::size_t cell, Vec2 p) const {
    return sites_[cell].distance(p);
}

namespace {

/// From an arc's middle to the middle of its length.
double middleAngle(const ContourPiece& arc) {
    return angleOf(arc.at(arc.length() / 2) - arc.centre);
}

} // namespace

Vec2 VoronoiCells::shares(std::size_t cell, Vec2 p) const {
    const Site& s = sites_[cell];
    if (s.corner) {
        throw Error("An inward corner of the outline has no length to be laid out by.");
    }
    const double turn =
        s.piece.isArc()
            ? std::remainder(angleOf(p - s.middle()) - middleAngle(s.piece), 2 * pi) *
                  s.piece.radius() * (s.hasTip() ? 1 : -1)
            : dot(unit(s.piece.to - s.piece.from), p - s.piece.from) - s.piece.length() / 2;
    return {turn, distance(cell, p)};
}

Vec2 VoronoiCells::placeAt(std::size_t cell, Vec2 shares) const {
    const Site& s = sites_[cell];
    if (s.corner) {
        throw Error("An inward corner of the outline has no length to be laid out by.");
    }
    if (!s.piece.isArc()) {
        const Vec2 way = unit(s.piece.to - s.piece.from);
        return s.piece.from + way * (s.piece.length() / 2 + shares.x) + leftOf(way) * shares.y;
    }
    const double radius = s.piece.radius();
    const double sense = s.hasTip() ? 1 : -1;
    return s.middle() +
           along(middleAngle(s.piece) + sense * shares.x / radius) * (radius - sense * shares.y);
}

std::optional<Vec2> VoronoiCells::tipOf(std::size_t cell) const {
    const Site& s = sites_[cell];
    const double deep = s.corner ? 0 : s.hasTip() ? s.piece.radius() : reach_;
    return deep < reach_ ? std::optional(s.middle()) : std::nullopt;
}

} // namespace wren
