#include "cut/contour_pass.h"

#include "geom/crossing.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double noLength = 1e-6;  ///< shorter moves would not survive being written
constexpr double rampLength = 40;  ///< mm along the edge for one pass's descent
constexpr double longestLead = 5;  ///< mm
constexpr double steepFall = 0.25; ///< mm a mm of way; ramps are flatter

} // namespace

double ContourPass::overTabs(double s, double z) const {
    double out = floor_ ? std::max(z, floor_(at(s))) : z;
    for (const TabStretch& t : tabs_) {
        for (double turn : {-whole_, 0.0, whole_}) {
            const double outside = std::max({t.from + turn - s, s - t.to - turn, 0.0});
            out = std::max(out, t.top - outside);
        }
    }
    return out;
}

void ContourPass::run(PathBuilder& path, double s0, double s1, double z0, double z1,
                      const Feeds& feeds) const {
    if (s1 - s0 < noLength) {
        return;
    }
    const auto wanted = [&](double s) {
        return z0 + (z1 - z0) * (s1 > s0 ? (s - s0) / (s1 - s0) : 1);
    };
    std::vector<double> stops = pieceEnds(s0, s1);
    for (const TabStretch& t : tabs_) {
        for (double turn : {-whole_, 0.0, whole_}) {
            const double slope = t.top - std::min(z0, z1);
            if (slope > 0) {
                // The slope's foot moves while the pass still ramps; both ends cover it.
                for (double foot : {0.0, t.top - wanted(t.from + turn), slope}) {
                    stops.push_back(t.from + turn - std::max(0.0, foot));
                    stops.push_back(t.to + turn + std::max(0.0, foot));
                }
            }
        }
    }
    constexpr double pitch = 1; // along a floor that is not level
    for (double s = s0 + pitch; floor_ && s < s1; s += pitch) {
        const double lowest = std::min(z0, z1);
        if (overTabs(s - pitch, lowest) != overTabs(s, lowest)) {
            stops.push_back(s - pitch);
            stops.push_back(s);
        }
    }
    std::sort(stops.begin(), stops.end());
    for (double s : stops) {
        if (s > s0 + 1e-9 && s <= s1 + 1e-9) {
            step(path, std::min(s, s1), overTabs(s, wanted(s)), feeds);
        }
    }
}

std::vector<double> ContourPass::pieceEnds(double s0, double s1) const {
    std::vector<double> stops{s1};
    double s = 0;
    for (const ContourPiece& piece : contour_) {
        s += piece.length();
        if (s > s0 + noLength && s < s1 - noLength) {
            stops.push_back(s);
        }
    }
    return stops;
}

/// The piece that holds `s` (its end belongs to it) and the point there.
std::pair<const ContourPiece*, Vec2> ContourPass::locate(double s) const {
    double rest = std::fmod(s, whole_);
    if (rest < 1e-9 && s > 1e-9) {
        rest += whole_;
    }
    for (std::size_t i = 0; i < contour_.size(); ++i) {
        if (rest <= lengths_[i] + 1e-9) {
            return {&contour_[i], contour_[i].at(rest)};
        }
        rest -= lengths_[i];
    }
    return {&contour_.back(), contour_.back().to};
}

void ContourPass::step(PathBuilder& path, double s, double z, const Feeds& feeds) const {
    const auto [piece, p] = locate(s);
    const Vec3 to{p.x, p.y, z};
    const Vec3 way = to - path.at();
    if (dot(way, way) < noLength * noLength) {
        return;
    }
    // Down a tab's slope the end cuts: no faster into the wood than it is let straight down.
    const double fall = -way.z / std::sqrt(dot(way, way));
    const double feed = fall > steepFall ? std::min(feeds.feed, feeds.plunge / fall) : feeds.feed;
    if (piece->kind == ContourPiece::Kind::arcClockwise) {
        path.clockwise(to, piece->centre, feed);
    } else if (piece->kind == ContourPiece::Kind::arcCounter) {
        path.counter(to, piece->centre, feed);
    } else {
        path.feed(to, feed);
    }
}

namespace {

/// Calls f(distance, along) for places of a piece, 0.25 mm apart or less.
template <typename F>
void alongPiece(const ContourPiece& piece, Vec2 p, F f) {
    const double l = piece.length();
    const int n = std::max(1, static_cast<int>(l / 0.25));
    for (int i = 0; i <= n; ++i) {
        f(length(piece.at(l * i / n) - p), l * i / n);
    }
}

} // namespace

double placeOn(const Contour& line, Vec2 p) {
    // Only pieces that come as near as the nearest one's own places are walked along.
    std::vector<double> away;
    away.reserve(line.size());
    for (const ContourPiece& piece : line) {
        away.push_back(Stroke(piece).distanceTo(p));
    }
    const auto nearest = std::min_element(away.begin(), away.end());
    double enough = 1e9;
    if (nearest != away.end()) {
        alongPiece(line[static_cast<std::size_t>(nearest - away.begin())], p,
                   [&](double d, double) { enough = std::min(enough, d); });
    }
    double best = 1e9;
    double place = 0;
    double s = 0;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (away[i] <= enough + 1e-9) {
            alongPiece(line[i], p, [&](double d, double along) {
                if (d < best) {
                    best = d;
                    place = s + along;
                }
            });
        }
        s += line[i].length();
    }
    return place;
}

double ContourPass::placeOf(Vec2 p) const {
    return placeOn(contour_, p);
}

double leadOver(double radius, double stock) {
    // A chord of length l dips l2 / (2 r) under its arc's tangent.
    return std::min(longestLead, 0.9 * std::sqrt(2 * stock * radius));
}

Path contourPath(const ContourPasses& job, const Feeds& feeds) {
    const ContourPass& contourPass = job.channel;
    const int laps = std::max(
        1, static_cast<int>(std::ceil((job.top - job.bottom) / feeds.depthPerPass - 1e-9)));
    const double ramp = std::min({rampLength, job.longestRamp, contourPass.whole() / 2});
    PathBuilder path({0, 0, job.clear});
    path.travelTo(contourPass.at(0), job.clear, job.approach);
    path.feed({contourPass.at(0).x, contourPass.at(0).y, job.top}, feeds.plunge);
    double z = job.top;
    for (int lap = 1; lap <= laps; ++lap) {
        const double next = job.top + (job.bottom - job.top) * lap / laps;
        contourPass.run(path, 0, ramp, z, next, feeds);
        contourPass.run(path, ramp, contourPass.whole(), next, next, feeds);
        z = next;
    }
    contourPass.run(path, 0, ramp, z, z, feeds); // the last ramp's own wedge
    if (job.wall) {
        const ContourPass& last = *job.wall;
        // Round corners the two lines are not equally long: each is asked for the other's place.
        const double start = last.placeOf(contourPass.at(ramp + job.lead));
        const auto over = [&](const ContourPass& on, double s) {
            const Vec2 p = on.at(s);
            return Vec3{p.x, p.y, on.overTabs(s, z)};
        };
        // Obliquely onto the wall, once round and a little further, and off it again.
        const Vec3 on = over(last, start);
        const double leave = std::fmod(start + job.lead, last.whole());
        const Vec3 off = over(contourPass, contourPass.placeOf(last.at(leave)) + job.lead);
        if (on.z > z) {
            path.feed({path.at().x, path.at().y, on.z}, feeds.feed);
        }
        path.feed(on, feeds.feed);
        last.run(path, start, last.whole(), z, z, feeds);
        if (leave < start) { // the overlap runs past the lap's own beginning
            last.run(path, 0, start, z, z, feeds);
            last.run(path, start, last.whole(), z, z, feeds);
        }
        last.run(path, 0, leave, z, z, feeds);
        path.feed({off.x, off.y, std::max(off.z, path.at().z)}, feeds.feed);
    }
    path.rapid({path.at().x, path.at().y, job.clear});
    return path.take();
}

} // namespace wren
