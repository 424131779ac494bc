#include "design/neck_trace.h"

#include "base/error.h"
#include "base/length.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>
#include <sstream>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr std::size_t fewest = 5;
constexpr double levelEdges =
    1; ///< mm the two edges may differ; a traced picture is a little askew

std::string trimmed(const std::string& text) {
    const auto from = text.find_first_not_of(" \t\n");
    return from == std::string::npos ? std::string()
                                     : text.substr(from, text.find_last_not_of(" \t\n") - from + 1);
}

std::vector<TracePoint> pointsFrom(const std::string& name, const std::string& text) {
    std::vector<TracePoint> points;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ',');) {
        std::istringstream words(one);
        std::string x, y, more;
        words >> x >> y;
        if (y.empty() || (words >> more)) {
            throw Error(fmt::format("\"{}\" is not a point of section {}; across and deep were "
                                    "expected, as in -18 6.2.",
                                    trimmed(one), name));
        }
        points.push_back({{parseNumber(x), parseNumber(y)}});
    }
    return points;
}

void check(const NeckTrace& t) {
    if (t.name.empty() || !std::all_of(t.name.begin(), t.name.end(), [](unsigned char c) {
            return std::isalnum(c) != 0 || c == '-';
        })) {
        throw Error(fmt::format("\"{}\" cannot name a section; letters, digits and dashes were "
                                "expected.",
                                t.name));
    }
    const std::vector<TracePoint>& p = t.points;
    if (p.size() < fewest) {
        throw Error(fmt::format("Section {} has {} points; at least {} from edge to edge were "
                                "expected.",
                                t.name, p.size(), fewest));
    }
    for (std::size_t i = 1; i < p.size(); ++i) {
        if (p[i].at.x - p[i - 1].at.x < 0.01) {
            throw Error(
                fmt::format("Section {} turns back at its point {} ({:g} {:g}) and would "
                            "cross itself; every point lies nearer the treble edge than the "
                            "one before.",
                            t.name, i + 1, p[i].at.x, p[i].at.y));
        }
    }
    if (std::abs(p.front().at.y - p.back().at.y) > levelEdges) {
        throw Error(fmt::format("The edges of section {} lie {:.2f} mm apart in height; up to {:g} "
                                "mm was expected: level the picture first.",
                                t.name, std::abs(p.front().at.y - p.back().at.y), levelEdges));
    }
    for (std::size_t i = 1; i + 1 < p.size(); ++i) {
        const double share = (p[i].at.x - p.front().at.x) / (p.back().at.x - p.front().at.x);
        const double edge = p.front().at.y + share * (p.back().at.y - p.front().at.y);
        if (p[i].at.y - edge < 0.1) {
            throw Error(fmt::format("Point {} of section {} ({:g} {:g}) lies no deeper than its "
                                    "edges; depth is counted downward from them.",
                                    i + 1, t.name, p[i].at.x, p[i].at.y));
        }
    }
}

} // namespace

void checkTraces(const std::vector<NeckTrace>& traces) {
    std::set<std::string> names;
    for (const NeckTrace& t : traces) {
        check(t);
        if (!names.insert(t.name).second) {
            throw Error(
                fmt::format("Two sections are called {}; each needs its own name.", t.name));
        }
    }
}

std::vector<NeckTrace> neckTraces(const std::string& text) {
    std::vector<NeckTrace> traces;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ';');) {
        if (trimmed(one).empty()) {
            continue;
        }
        const std::size_t colon = one.find(':');
        if (colon == std::string::npos) {
            throw Error(fmt::format("\"{}\" is not a section; a name, a colon and points were "
                                    "expected, as in mine: -21 0, -18 6.2, 0 13.5, 18 6.4, 21 0.",
                                    trimmed(one).substr(0, 40)));
        }
        NeckTrace t;
        t.name = trimmed(one.substr(0, colon));
        t.points = pointsFrom(t.name, one.substr(colon + 1));
        traces.push_back(std::move(t));
    }
    checkTraces(traces);
    return traces;
}

TracePlace::TracePlace(const std::vector<Vec2>& laid, double mmPerPixel, bool bassOnRight)
    : laid_(laid), mmPerPixel_(mmPerPixel) {
    std::sort(laid_.begin(), laid_.end(), [](Vec2 a, Vec2 b) { return a.x < b.x; });
    const Vec2 edges = laid_.back() - laid_.front();
    middle_ = (laid_.back() + laid_.front()) * 0.5;
    way_ = edges * ((bassOnRight ? -1 : 1) / std::max(length(edges), 1e-9));
    down_ = {-way_.y, way_.x};
    double sum = 0;
    for (Vec2 p : laid_) {
        sum += dot(down_, p - middle_);
    }
    down_ = down_ * (sum < 0 ? -1 : 1); // the picture may show the neck either way up
}

Vec2 TracePlace::toSection(Vec2 p) const {
    return Vec2{dot(way_, p - middle_), dot(down_, p - middle_)} * mmPerPixel_;
}

Vec2 TracePlace::toPicture(Vec2 s) const {
    return middle_ + (way_ * s.x + down_ * s.y) * (1 / mmPerPixel_);
}

std::vector<TracePoint> TracePlace::points() const {
    const auto tidy = [](double v) { return std::round(v * 100) / 100 + 0.0; };
    std::vector<TracePoint> out;
    for (Vec2 p : laid_) {
        const Vec2 s = toSection(p);
        out.push_back({{tidy(s.x), tidy(s.y)}});
    }
    if (out.front().at.x > out.back().at.x) {
        std::reverse(out.begin(), out.end());
    }
    return out;
}

namespace {

/// Section angle against depth below the edges, from the bass edge.
struct Angles {
    std::vector<double> angle;
    std::vector<double> depth;
    double middle, half; ///< across
    Vec2 low, high;      ///< the edges

    explicit Angles(const NeckTrace& trace)
        : low(trace.points.front().at), high(trace.points.back().at) {
        middle = (low.x + high.x) / 2;
        half = (high.x - low.x) / 2;
        for (const auto& [p, unknown] : trace.points) {
            const double u = std::clamp((p.x - middle) / half, -1.0, 1.0);
            angle.push_back(std::asin(u));
            depth.push_back(p.y - edgeAt(u));
        }
    }
    double edgeAt(double u) const { return low.y + (u + 1) / 2 * (high.y - low.y); }
};

} // namespace

std::vector<Vec2> traceCurve(const NeckTrace& trace, int n) {
    const Angles a(trace);
    const NaturalSpline depth(a.angle, a.depth);
    std::vector<Vec2> out;
    for (int i = 0; i <= n; ++i) {
        const double angle = std::numbers::pi * (static_cast<double>(i) / n - 0.5);
        const double u = std::sin(angle);
        out.push_back({a.middle + a.half * u, a.edgeAt(u) + depth.at(angle)});
    }
    return out;
}

NaturalSpline traceProfile(const NeckTrace& trace, bool mirrored) {
    Angles a(trace);
    if (mirrored) {
        std::reverse(a.angle.begin(), a.angle.end());
        std::reverse(a.depth.begin(), a.depth.end());
        for (double& angle : a.angle) {
            angle = -angle;
        }
    }
    const double spine = NaturalSpline(a.angle, a.depth).at(0);
    for (double& d : a.depth) {
        d /= spine;
    }
    return NaturalSpline(std::move(a.angle), std::move(a.depth));
}

} // namespace wren
