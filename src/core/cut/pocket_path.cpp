#include "cut/neck_paths.h"

#include <algorithm>
#include <cmath>

namespace wren {

namespace {

/// A pocket laid into a setup: u along it, v across from its middle, v to the left of u.
class LaidPocket {
public:
    LaidPocket(const NeckWork& work, const NeckPocket& pocket, const Bit& bit)
        : work_(work), pocket_(pocket), r_(bit.radius()), level_(cutsFlat(bit.kind)) {
        const auto lay = [&](Vec2 own) {
            const Vec2 p = pocket.out(own);
            return work.place({p.x, p.y, 0}).xy();
        };
        const Vec2 low = pocket.box[0];
        origin_ = lay({low.x, pocket.middle().y});
        u_ = (lay({low.x + 1, pocket.middle().y}) - origin_);
        v_ = {-u_.y, u_.x};
    }

    double from() const { return r_; }
    double to() const { return std::max(r_, pocket_.length() - r_); }
    double half() const { return std::max(0.0, pocket_.width() / 2 - r_); }
    double top() const {
        return pocket_.fromBack ? work_.setup.woodTop(pocket_.middle().x)
                                : work_.place({0, 0, pocket_.mouth}).z;
    }
    double bottom() const { return work_.place({0, 0, pocket_.floor}).z; }
    Vec3 at(double u, double v, double z) const {
        const Vec2 p = origin_ + u_ * u + v_ * v;
        return {p.x, p.y, z};
    }
    /// A level end touches a slope with its rim.
    double floorUnder(double u, double level) const {
        const double reach = level_ && !pocket_.run.empty() ? r_ : 0;
        double z = level;
        for (double du : {-reach, 0.0, reach}) {
            const double deep = pocket_.bottomAt(pocket_.box[0].x + u + du);
            z = std::max(z, work_.place({0, 0, deep}).z);
        }
        return z;
    }

    /// Places along it with the tip's height on the way down to `level`: straight between them.
    std::vector<Vec2> run(double level) const {
        std::vector<Vec2> out{{from(), floorUnder(from(), level)}};
        for (Vec2 p : pocket_.run) {
            const double u = p.x - pocket_.box[0].x;
            if (u > from() + 1e-6 && u < to() - 1e-6) {
                out.push_back({u, floorUnder(u, level)});
            }
        }
        out.push_back({to(), floorUnder(to(), level)});
        const auto plain = [&](Vec2 p) { return p.y == level; };
        if (std::all_of(out.begin(), out.end(), plain)) {
            out.erase(out.begin() + 1, out.end() - 1);
        }
        return out;
    }

private:
    const NeckWork& work_;
    const NeckPocket& pocket_;
    double r_;
    bool level_;
    Vec2 origin_, u_, v_;
};

} // namespace

Path pocketPath(const NeckWork& work, const std::vector<NeckPocket>& pockets, const Bit& bit,
                const Feeds& feeds) {
    PathBuilder path({0, 0, work.clear()});
    for (const NeckPocket& pocket : pockets) {
        const LaidPocket p(work, pocket, bit);
        const double top = p.top();
        const double depth = top - p.bottom();
        const int levels = levelsFor(depth, feeds.depthPerPass);
        // Loops from the middle outward, the last along the walls.
        const double half = p.half();
        const int loops =
            half < 1e-6 ? 0 : static_cast<int>(std::ceil(half / (0.8 * bit.radius()) - 1e-9));
        path.travelTo(p.at(p.from(), 0, 0).xy(), work.clear(), work.approach());
        path.feed(p.at(p.from(), 0, top), feeds.plunge);
        double z = top;
        for (int i = 1; i <= levels; ++i) {
            const std::vector<Vec2> run = p.run(top - depth * i / levels);
            const auto forth = [&](double v) {
                for (Vec2 q : run) {
                    path.feed(p.at(q.x, v, q.y), feeds.feed);
                }
            };
            const auto back = [&](double v) {
                for (auto q = run.rbegin(); q != run.rend(); ++q) {
                    path.feed(p.at(q->x, v, q->y), feeds.feed);
                }
            };
            const double next = run.front().y;
            const double ramp = std::min(p.to() - p.from(), 40.0);
            path.feed(p.at(p.from() + ramp, 0, p.floorUnder(p.from() + ramp, (z + next) / 2)),
                      feeds.feed);
            path.feed(p.at(p.from(), 0, next), feeds.feed);
            forth(0);
            for (int k = 1; k <= loops; ++k) {
                const double h = half * k / loops;
                // Counter-clockwise inside a pocket climbs.
                path.feed(p.at(p.to(), h, run.back().y), feeds.feed);
                back(h);
                forth(-h);
                path.feed(p.at(p.to(), h, run.back().y), feeds.feed);
            }
            back(half);
            path.feed(p.at(p.from(), 0, next), feeds.feed);
            z = next;
        }
        path.rapid({path.at().x, path.at().y, work.clear()});
    }
    return path.take();
}

} // namespace wren
