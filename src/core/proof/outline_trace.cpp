#include "proof/outline_trace.h"

#include "base/error.h"
#include "post/gcode_writer.h"
#include "proof/rs274.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double slowly = 1500; ///< mm/min: the eye follows, a hand can stop it

/// Places along all that is fed, an arc's every two degrees.
std::vector<Vec2> cutPlaces(const Path& path) {
    constexpr double every = 3.14159265358979 / 90;
    std::vector<Vec2> out;
    for (const Move& m : path) {
        if (m.cuts()) {
            const int steps =
                m.isArc() ? std::max(1, static_cast<int>(std::ceil(m.sweep() / every))) : 1;
            for (int i = 0; i <= steps; ++i) {
                out.push_back(m.at(double(i) / steps).xy());
            }
        }
    }
    return out;
}

/// The tightest polygon without hollows round places, counter-clockwise (A. M. Andrew, Information
/// Processing Letters 9, 1979: lower and upper chain of the sorted places).
std::vector<Vec2> hullOf(std::vector<Vec2> places) {
    std::sort(places.begin(), places.end(),
              [](Vec2 a, Vec2 b) { return a.x != b.x ? a.x < b.x : a.y < b.y; });
    places.erase(std::unique(places.begin(), places.end()), places.end());
    if (places.size() < 3) {
        return places;
    }
    std::vector<Vec2> hull;
    for (int chain = 0; chain < 2; ++chain) {
        const std::size_t first = hull.size();
        for (Vec2 p : places) {
            while (hull.size() >= first + 2 &&
                   cross(hull.back() - hull[hull.size() - 2], p - hull.back()) <= 0) {
                hull.pop_back();
            }
            hull.push_back(p);
        }
        hull.pop_back(); // the next chain begins there
        std::reverse(places.begin(), places.end());
    }
    return hull;
}

/// As high as the program goes from place to place, over everything that it cuts.
double safeHeight(const Path& path, const std::string& name) {
    double high = -std::numeric_limits<double>::infinity();
    double cut = high;
    for (const Move& m : path) {
        const bool sideways = length(m.to.xy() - m.from.xy()) > 0;
        if (!m.cuts() && sideways) {
            high = std::max(high, m.to.z);
        }
        // A ramp may begin up there; where it ends is cut.
        cut = m.cuts() ? std::max(cut, m.to.z) : cut;
    }
    if (!(high > cut)) {
        throw Error(fmt::format("{} never stands above all that it cuts: there is no safe height "
                                "to go round it at.",
                                name));
    }
    return high;
}

} // namespace

std::string outlineTrace(const std::string& program, const std::string& name) {
    const ProgramReading reading = readProgram(program, name);
    std::vector<Vec2> hull = hullOf(cutPlaces(reading.path));
    if (hull.empty()) {
        throw Error(fmt::format("{} cuts nothing that could be gone round.", name));
    }
    Vec2 low = hull[0], high = hull[0];
    for (Vec2 p : hull) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    const double z = safeHeight(reading.path, name);
    Path path;
    const auto to = [&](Vec2 p, bool fed) {
        Move m;
        m.motion = fed ? Motion::line : Motion::rapid;
        m.from = path.empty() ? Vec3{low.x, low.y, z} : path.back().to;
        m.to = {p.x, p.y, z};
        m.feed = fed ? slowly : 0;
        path.push_back(m);
    };
    to(low, false);
    for (Vec2 p : {Vec2{high.x, low.y}, high, Vec2{low.x, high.y}, low}) {
        to(p, true);
    }
    hull.push_back(hull[0]);
    for (Vec2 p : hull) {
        to(p, true);
    }
    GcodeWriter out(reading.unit);
    out.comment(fmt::format("Goes round what {} cuts, spindle standing", name));
    out.comment(fmt::format("X {:.1f} to {:.1f}, Y {:.1f} to {:.1f} mm, at Z {:.1f}", low.x, high.x,
                            low.y, high.y, z));
    out.begin();
    out.path(path);
    out.end();
    return out.take();
}

} // namespace wren
