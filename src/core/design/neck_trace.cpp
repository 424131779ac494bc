#include "design/neck_trace.h"

#include "base/error.h"
#include "base/length.h"

#include <algorithm>
#include <cmath>
#include <numbers>
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

std::vector<Vec2> pointsFrom(const std::string& name, const std::string& text) {
    std::vector<Vec2> points;
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
        points.push_back({parseNumber(x), parseNumber(y)});
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
    const std::vector<Vec2>& p = t.points;
    if (p.size() < fewest) {
        throw Error(fmt::format("Section {} has {} points; at least {} from edge to edge were "
                                "expected.",
                                t.name, p.size(), fewest));
    }
    for (std::size_t i = 1; i < p.size(); ++i) {
        if (p[i].x - p[i - 1].x < 0.01) {
            throw Error(
                fmt::format("Section {} turns back at its point {} ({:g} {:g}) and would "
                            "cross itself; every point lies nearer the treble edge than the "
                            "one before.",
                            t.name, i + 1, p[i].x, p[i].y));
        }
    }
    if (std::abs(p.front().y - p.back().y) > levelEdges) {
        throw Error(fmt::format("The edges of section {} lie {:.2f} mm apart in height; up to {:g} "
                                "mm was expected: level the picture first.",
                                t.name, std::abs(p.front().y - p.back().y), levelEdges));
    }
    for (std::size_t i = 1; i + 1 < p.size(); ++i) {
        const double share = (p[i].x - p.front().x) / (p.back().x - p.front().x);
        const double edge = p.front().y + share * (p.back().y - p.front().y);
        if (p[i].y - edge < 0.1) {
            throw Error(fmt::format("Point {} of section {} ({:g} {:g}) lies no deeper than its "
                                    "edges; depth is counted downward from them.",
                                    i + 1, t.name, p[i].x, p[i].y));
        }
    }
}

} // namespace

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
        check(t);
        const bool twice = std::any_of(traces.begin(), traces.end(),
                                       [&](const NeckTrace& o) { return o.name == t.name; });
        if (twice) {
            throw Error(
                fmt::format("Two sections are called {}; each needs its own name.", t.name));
        }
        traces.push_back(std::move(t));
    }
    return traces;
}

std::string neckTracesText(const std::vector<NeckTrace>& traces) {
    std::string text;
    for (const NeckTrace& t : traces) {
        text += (text.empty() ? "" : "; ") + t.name + ":";
        for (std::size_t i = 0; i < t.points.size(); ++i) {
            text += fmt::format("{} {:g} {:g}", i == 0 ? "" : ",", t.points[i].x, t.points[i].y);
        }
    }
    return text;
}

NaturalSpline traceProfile(const NeckTrace& trace, bool mirrored) {
    const std::vector<Vec2>& p = trace.points;
    const double middle = (p.front().x + p.back().x) / 2;
    const double half = (p.back().x - p.front().x) / 2;
    std::vector<Vec2> shares; // section angle and depth below the edges
    for (const Vec2& q : p) {
        const double u = std::clamp((q.x - middle) / half, -1.0, 1.0);
        const double edge = p.front().y + (u + 1) / 2 * (p.back().y - p.front().y);
        shares.push_back({std::asin(mirrored ? -u : u), q.y - edge});
    }
    if (mirrored) {
        std::reverse(shares.begin(), shares.end());
    }
    std::vector<double> angles;
    std::vector<double> depths;
    for (const Vec2& s : shares) {
        angles.push_back(s.x);
        depths.push_back(s.y);
    }
    const double spine = NaturalSpline(angles, depths).at(0);
    for (double& d : depths) {
        d /= spine;
    }
    return NaturalSpline(std::move(angles), std::move(depths));
}

} // namespace wren
