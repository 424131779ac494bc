#include "run/corridor.h"

#include <algorithm>
#include <limits>

namespace wren {
namespace {

double toSegment(Vec3 p, Vec3 a, Vec3 b) {
    const Vec3 way = b - a;
    const double squared = dot(way, way);
    const double share = squared > 0 ? std::clamp(dot(p - a, way) / squared, 0.0, 1.0) : 0;
    return length(p - (a + way * share));
}

} // namespace

double distanceToMove(Vec3 place, const Move& move) {
    const int n = chordsFor(move, 0.01);
    double least = std::numeric_limits<double>::infinity();
    for (int i = 0; i < n; ++i) {
        least =
            std::min(least, toSegment(place, move.at(double(i) / n), move.at(double(i + 1) / n)));
    }
    return least;
}

std::optional<Corridor::Stray> Corridor::strays(Vec3 place, int sent) {
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t i = from_; i < path_.size() && path_[i].line <= sent; ++i) {
        const double off = distanceToMove(place, path_[i]);
        if (off <= width) { // the earliest of them: it cannot have come further for sure
            from_ = i;
            return {};
        }
        least = std::min(least, off);
    }
    if (from_ >= path_.size() || least == std::numeric_limits<double>::infinity()) {
        return {};
    }
    return Stray{least, path_[from_].line};
}

std::optional<Corridor::Stray> Corridor::endsElsewhere(Vec3 place) const {
    const double off = path_.empty() ? 0 : length(place - path_.back().to);
    return off <= width ? std::nullopt : std::optional(Stray{off, path_.back().line});
}

} // namespace wren
