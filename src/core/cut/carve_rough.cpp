#include "cut/carve_paths.h"
#include "cut/settings.h"
#include "geom/inset.h"
#include "geom/region.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double fineness = 0.03;  ///< chords of the regions' borders
constexpr double terrace = 2;      ///< mm between heights of the contours told apart by roughing
constexpr double besideWall = 0.3; ///< the upright wall below an edge keeps so much
constexpr double aroundPin = 1.5;
constexpr double far = 2000;

Ring ringOf(const Contour& c) {
    return pointsOf(counterClockwise(c), fineness);
}

Region regionOf(const std::vector<Contour>& borders) {
    Region out;
    for (const Contour& c : borders) {
        out = out + Region(ringOf(c));
    }
    return out;
}

/// What a slope has brought down by `drop` or more.
Region fallenBy(const SlopeLine& s, double drop) {
    if (s.bow > 0) {
        const double radius = s.bow - s.beyondFor(drop);
        return radius > 0.5 ? Region(ringOf(circleContour(s.centre, 2 * radius))) : Region();
    }
    const Vec2 along{-s.out.y, s.out.x};
    const Vec2 on = s.at + s.out * s.beyondFor(drop);
    return Region(Ring{on - along * far, on - along * far + s.out * far,
                       on + along * far + s.out * far, on + along * far});
}

std::vector<Contour> bordersOf(const Region& region) {
    std::vector<Contour> out;
    for (const Ring& ring : region.rings()) {
        Contour c;
        for (std::size_t i = 0; i < ring.size(); ++i) {
            c.push_back({ContourPiece::Kind::line, ring[i], ring[(i + 1) % ring.size()], {}});
        }
        out.push_back(std::move(c));
    }
    return out;
}

/// What may be cleared at each level below the face.
class Levels {
public:
    Levels(const PanelWork& work, const FaceFall& fall, double ballRadius, double bitRadius,
           const std::vector<Hole>& keepOff)
        : outline_(work.panel.outline), fall_(fall), stock_(work.cut.carveStock),
          whole_(ringOf(outline_)), edge_(fall.edge().drop(0)) {
        const double channel = std::max(2 * ballRadius + 0.4, 2 * bitRadius + besideWall + 0.3);
        within_ = regionOf(inset({clockwise(outline_)}, channel));
        for (const Hole& h : keepOff) {
            within_ = within_ -
                      Region(ringOf(circleContour(h.at, h.diameter + 2 * (bitRadius + aroundPin))));
        }
        wall_ = regionOf(inset({clockwise(outline_)}, besideWall));
        reach_ = carveDepth(fall, ballRadius) - fall.deepest() + channelBelowTip;
    }

    Region at(double level) const {
        Region out;
        const double most = fall_.deepest() - edge_;
        for (double brought = 0; brought <= most + 1e-9; brought += terrace) {
            out = out + at(level, brought);
            if (fall_.slopes().empty()) {
                break;
            }
        }
        return out;
    }

private:
    /// Where the slopes have brought the face down by at least so much.
    Region at(double level, double brought) const {
        const double wanted = level + stock_ - brought;
        if (wanted > edge_ && level > edge_ + brought + reach_) {
            return {};
        }
        Region stays;
        if (wanted > edge_) {
            stays = wall_;
        } else if (wanted > 0) {
            const double d = fall_.edge().inTo(wanted);
            stays = d > 0 ? regionOf(inset({counterClockwise(outline_)}, d)) : whole_;
        }
        Region clear = within_ - stays;
        if (brought > 0) {
            Region fallen;
            for (const SlopeLine& s : fall_.slopes()) {
                fallen = fallen + fallenBy(s, brought);
            }
            clear = clear & fallen;
        }
        return clear;
    }

    const Contour& outline_;
    const FaceFall& fall_;
    double stock_;
    Region whole_;
    double edge_; ///< how far the edge itself falls
    Region within_;
    Region wall_;
    double reach_; ///< of the ball below the foot of the edge
};

/// The upward share of the normal where the edge is steepest, slopes included.
double leastUpright(const FaceFall& fall) {
    const Vec2 n = fall.edge().normal(0);
    double gradient = 0;
    for (const SlopeLine& s : fall.slopes()) {
        gradient = std::max(gradient, s.gradient);
    }
    return n.y / std::max(1e-9, std::hypot(n.x + n.y * gradient, n.y));
}

} // namespace

double carveDepth(const FaceFall& fall, double ballRadius) {
    return fall.deepest() + ballRadius * (1 - leastUpright(fall));
}

double carveTrench(const FaceFall& fall, Vec2 at, double ballRadius) {
    return fall.level() ? 0
                        : fall.edge().drop(0) + fall.slopeDrop(at) +
                              ballRadius * (1 - leastUpright(fall)) + channelBelowTip;
}

double carveLength(const Panel& panel, const FaceFall& fall, double ballRadius, double ridge) {
    const double round = lengthOf(panel.outline);
    const double lines = double(fall.edge().places(ridge, ballRadius).size());
    constexpr double look = 4;
    double sloped = 0;
    const auto box = panel.box();
    const std::vector<Vec2> outline = pointsOf(panel.outline, 0.1);
    for (double y = box[0].y; y <= box[1].y && !fall.slopes().empty(); y += look) {
        for (double x = box[0].x; x <= box[1].x; x += look) {
            sloped += inside(outline, {x, y}) && fall.slopeDrop({x, y}) > 0 ? look * look : 0;
        }
    }
    constexpr double levelDepth = 3;
    return round * (lines + 2 * carveDepth(fall, ballRadius) / levelDepth) +
           sloped / std::sqrt(8 * ridge * ballRadius);
}

Path carveRoughPath(const PanelWork& work, const CarvedFace& face, double ballRadius,
                    const std::vector<Hole>& keepOff, const Bit& bit, const Feeds& feeds) {
    const Levels regions(work, face.fall, ballRadius, bit.radius(), keepOff);
    BodyCut level = work.cut;
    level.floorStock = 0;
    level.stockToLeave = 0.1;
    const PanelWork each{work.panel, work.setup, level, work.spoilDepth};
    const double deep = carveDepth(face.fall, ballRadius) + channelBelowTip;
    const int levels = levelsFor(deep, feeds.depthPerPass);
    const double from = face.back ? work.panel.bottom : work.panel.top;
    const double down = face.back ? 1 : -1;
    Path path;
    for (int i = 1; i <= levels; ++i) {
        PanelPocket p;
        p.borders = bordersOf(regions.at(deep * i / levels));
        if (p.borders.empty()) {
            continue;
        }
        p.fromBack = face.back;
        p.mouth = from + down * deep * (i - 1) / levels;
        p.floor = from + down * deep * i / levels;
        append(path, clearPocketPath(each, p, bit, feeds));
    }
    return path;
}

} // namespace wren
