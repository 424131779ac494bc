#include "design/neck_rod.h"

#include <algorithm>
#include <cmath>

namespace wren {

RodPlace rodPlace(const TrussRod& rod) {
    RodPlace p{rod.start, rod.start + rod.length, 0, 0};
    if (rod.adjuster == RodEnd::head) {
        p.adjusterFrom = p.from;
        p.adjusterTo = p.from + rod.adjusterLength;
    } else {
        p.adjusterFrom = p.to - rod.adjusterLength;
        p.adjusterTo = p.to;
    }
    return p;
}

RodRoom::RodRoom(const TrussRod& rod, const NeckBack& back)
    : rod_(rod), back_(back), place_(rodPlace(rod)), thinnest_(back.shaftDepth(place_.from)) {
    for (double x = place_.from; x <= place_.to; x += 2) {
        thinnest_ = std::min(thinnest_, back.shaftDepth(x));
    }
}

double RodRoom::floorAt(double x) const {
    if (rod_.from == RodFrom::back) {
        return rod_.cover + rod_.depth;
    }
    const bool follows = rod_.run == RodRun::follows;
    return rod_.depth + (follows ? std::max(0.0, back_.shaftDepth(x) - thinnest_) : 0);
}

std::optional<RodRoom::Section> RodRoom::at(double x) const {
    if (rod_.from == RodFrom::none || x < place_.from || x > place_.to) {
        return std::nullopt;
    }
    Section s{rod_.width, rod_.from == RodFrom::back ? rod_.cover : 0, floorAt(x)};
    if (rod_.adjusterLength > 0 && x >= place_.adjusterFrom && x <= place_.adjusterTo) {
        s.width = std::max(s.width, rod_.adjusterWidth);
        s.floor = std::max(s.floor, s.roof + rod_.adjusterDepth);
    }
    return s;
}

double woodOverRod(const Neck& neck, const Fretboard& board) {
    const bool carved = neck.fretFace == FretFace::carved;
    return neck.rod.cover + (carved ? board.thickness - board.slotDepth : 0);
}

double woodToBack(const NeckBack& back, Vec3 point) {
    // From several starts down the slope of the distance: the foot of the perpendicular is where
    // the way to the point has no part along the surface.
    double best = 1e9;
    for (double start : {0.0, -6.0, 6.0, -14.0, 14.0}) {
        double x = point.x;
        double y = point.y + start;
        double distance = 1e9;
        for (int i = 0; i < 40; ++i) {
            const NeckBack::Slice s = back.slice(x);
            const double half = s.halfWidth() * 0.9999;
            y = std::clamp(y, s.centre() - half, s.centre() + half);
            const double d = s.depth(y);
            const Vec2 g = s.gradient(y);
            const Vec3 way = point - Vec3{x, y, -d};
            distance = std::min(distance, length(way));
            // Projected onto the tangents (1, 0, -gx) and (0, 1, -gy).
            const double a = way.x - g.x * way.z;
            const double b = way.y - g.y * way.z;
            const double xx = 1 + g.x * g.x;
            const double yy = 1 + g.y * g.y;
            const double xy = g.x * g.y;
            const double det = xx * yy - xy * xy;
            const double dx = (a * yy - b * xy) / det;
            const double dy = (b * xx - a * xy) / det;
            x += 0.7 * dx;
            y += 0.7 * dy;
            if (std::abs(dx) + std::abs(dy) < 1e-6) {
                break;
            }
        }
        best = std::min(best, distance);
    }
    return point.z < -back.depth(point.x, point.y) ? -best : best;
}

std::vector<WoodUnder> woodUnderRod(const NeckBack& back, const TrussRod& rod, double pitch) {
    std::vector<WoodUnder> out;
    if (rod.from == RodFrom::none) {
        return out;
    }
    const RodPlace p = rodPlace(rod);
    const RodRoom room(rod, back);
    std::vector<double> places{p.from, p.adjusterFrom, p.adjusterTo, p.to};
    for (double x = p.from + pitch; x < p.to; x += pitch) {
        places.push_back(x);
    }
    std::sort(places.begin(), places.end());
    for (double x : places) {
        const std::optional<RodRoom::Section> s = room.at(x);
        if (!s) {
            continue;
        }
        double least = 1e9;
        if (rod.floor == RodFloor::flat || rod.from == RodFrom::back) {
            for (double side : {-0.5, 0.5}) {
                least = std::min(least, woodToBack(back, {x, side * s->width, -s->floor}));
            }
        } else {
            // Half a circle whose lowest point is the slot's depth.
            const double r = s->width / 2;
            least = woodToBack(back, {x, 0, -(s->floor - r)}) - r;
        }
        out.push_back({x, least});
    }
    return out;
}

} // namespace wren
