#pragma once

#include "cut/move.h"

namespace wren {

/// Strings moves together, each starting where the last one ended. Moves of no length are dropped.
class PathBuilder {
public:
    explicit PathBuilder(Vec3 start) : at_(start) {}

    Vec3 at() const { return at_; }

    PathBuilder& rapid(Vec3 to) { return add(Motion::rapid, to, 0, {}); }
    PathBuilder& feed(Vec3 to, double feed) { return add(Motion::line, to, feed, {}); }
    PathBuilder& clockwise(Vec3 to, Vec2 centre, double feed) {
        return add(Motion::arcClockwise, to, feed, {centre.x, centre.y, 0});
    }
    PathBuilder& counter(Vec3 to, Vec2 centre, double feed) {
        return add(Motion::arcCounter, to, feed, {centre.x, centre.y, 0});
    }
    PathBuilder& dwell(double seconds) {
        if (!path_.empty()) {
            path_.back().dwell += seconds;
        }
        return *this;
    }

    /// Up to `z` at rapid, across, and down to `approach` (above the wood) still at rapid.
    PathBuilder& travelTo(Vec2 to, double z, double approach) {
        rapid({at_.x, at_.y, z});
        rapid({to.x, to.y, z});
        return rapid({to.x, to.y, approach});
    }

    Path take() { return std::move(path_); }

private:
    PathBuilder& add(Motion motion, Vec3 to, double feed, Vec3 centre) {
        if (to == at_) {
            return *this;
        }
        Move move;
        move.motion = motion;
        move.from = at_;
        move.to = to;
        move.centre = centre;
        move.feed = feed;
        path_.push_back(move);
        at_ = to;
        return *this;
    }

    Vec3 at_;
    Path path_;
};

} // namespace wren
