#include "design/shape.h"

#include "base/error.h"
#include "base/length.h"
#include "geom/biarc.h"
#include "geom/inset.h"
#include "geom/stroke_grid.h"

#include <algorithm>
#include <limits>
#include <sstream>

#include <fmt/format.h>

namespace wren {

using Kind = ContourPiece::Kind;

ContourPiece bulgedPiece(Vec2 a, Vec2 b, double bulge) {
    // An arc of a radius of kilometres is not told from a line, and its centre is too far to reckon
    // with.
    constexpr double flat = 2e-5; // mm off its chord
    if (std::abs(bulge) * length(b - a) / 2 < flat) {
        return {Kind::line, a, b, {}};
    }
    // The centre stands off the chord's middle by (1 - b2) / (4 b) chords, to its left.
    const Vec2 middle = (a + b) * 0.5;
    const Vec2 centre = middle + leftOf(b - a) * ((1 - bulge * bulge) / (4 * bulge));
    return {bulge > 0 ? Kind::arcCounter : Kind::arcClockwise, a, b, centre};
}

namespace {

double bulgeOf(const ContourPiece& p) {
    if (!p.isArc()) {
        return 0;
    }
    const double b = std::tan(p.length() / p.radius() / 4);
    return p.kind == Kind::arcCounter ? b : -b;
}

ShapeNode readNode(const std::string& one) {
    std::istringstream words(one);
    std::string x, y, kind, more;
    words >> x >> y >> kind;
    ShapeNode node;
    const auto bad = [&] {
        return Error(fmt::format("\"{}\" is not a node; X, Y and s, c or r with a radius were "
                                 "expected, as in 40 -60 r8, and b with a bulge at will.",
                                 one));
    };
    if (kind.empty()) {
        throw bad();
    }
    node.at = {parseNumber(x), parseNumber(y)};
    if (kind == "s") {
        node.smooth = true;
    } else if (kind[0] == 'r' && kind.size() > 1) {
        node.round = parseNumber(kind.substr(1));
    } else if (kind != "c") {
        throw bad();
    }
    if (words >> more) {
        if (more.size() < 2 || more[0] != 'b') {
            throw bad();
        }
        node.bulge = parseNumber(more.substr(1));
    }
    if (words >> more) {
        throw bad();
    }
    if (!(std::abs(node.at.x) < 2000 && std::abs(node.at.y) < 1000 && node.round >= 0 &&
          node.round < 1000 && std::abs(node.bulge.value_or(0)) < 1000)) {
        throw Error(fmt::format("The node \"{}\" lies out of bounds; X within 2000, Y within 1000 "
                                "and a rounding under 1000 mm were expected.",
                                one));
    }
    return node;
}

} // namespace

namespace {
constexpr const char* tooFewNodes = "An outline needs three nodes at least, or two that arcs join.";
} // namespace

void checkNodes(const std::vector<ShapeNode>& nodes) {
    for (std::size_t i = 1; i < nodes.size(); ++i) {
        if (length(nodes[i].at - nodes[i - 1].at) < 0.01) {
            throw Error(fmt::format("Two nodes lie at {:g}, {:g}.", nodes[i].at.x, nodes[i].at.y));
        }
    }
    const bool arcs = std::all_of(nodes.begin(), nodes.end(),
                                  [](const ShapeNode& n) { return n.bulge.value_or(0) != 0; });
    if (nodes.size() < 2 || (nodes.size() == 2 && !arcs)) {
        throw Error(tooFewNodes);
    }
}

std::vector<ShapeNode> shapeNodes(const std::string& text) {
    std::vector<ShapeNode> nodes;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ',');) {
        nodes.push_back(readNode(one));
    }
    checkNodes(nodes);
    return nodes;
}

std::vector<ShapeNode> roundedNodes(std::vector<ShapeNode> nodes) {
    // Flatter than that an arc is a line: its way turns by less than a millionth.
    constexpr double straight = 1e-7;
    const auto round = [](double v, double by) { return std::round(v * by) / by + 0.0; };
    for (ShapeNode& n : nodes) {
        n.at = {round(n.at.x, 1e4), round(n.at.y, 1e4)};
        if (n.bulge && std::abs(*n.bulge) <= straight) {
            n.bulge.reset();
        } else if (n.bulge) {
            n.bulge = round(*n.bulge, 1e10);
        }
    }
    return nodes;
}

std::vector<ShapeNode> mirroredShape(const std::vector<ShapeNode>& half) {
    constexpr double on = 0.01;
    double side = 0;
    for (const ShapeNode& n : half) {
        if (std::abs(n.at.y) <= on) {
            continue;
        }
        if (side * n.at.y < 0) {
            throw Error(fmt::format("The half to be mirrored crosses the centreline at {:g}, {:g}; "
                                    "nodes on one side of it were expected.",
                                    n.at.x, n.at.y));
        }
        side = n.at.y;
    }
    std::vector<ShapeNode> all = half;
    for (std::size_t i = half.size(); i-- > 0;) {
        ShapeNode n = half[i];
        const bool shared = std::abs(n.at.y) <= on;
        n.at.y = -n.at.y;
        // The way to the next node was the way from it; travelled back and mirrored, it bends the
        // same way.
        n.bulge = i > 0 ? half[i - 1].bulge : std::optional<double>();
        if (!shared) {
            all.push_back(n);
        } else if (i + 1 == half.size()) {
            all.back().bulge = n.bulge;
        }
    }
    return all;
}

namespace {

/// Directions of travel into and out of each node; of corners without an arc beside them none.
struct Ways {
    std::optional<Vec2> in, out;
};

std::vector<Ways> waysOf(const std::vector<ShapeNode>& nodes) {
    const std::size_t n = nodes.size();
    std::vector<Ways> ways(n);
    for (std::size_t i = 0; i < n; ++i) {
        const ShapeNode& next = nodes[(i + 1) % n];
        if (nodes[i].bulge) {
            const ContourPiece p = bulgedPiece(nodes[i].at, next.at, *nodes[i].bulge);
            ways[i].out = p.wayAt(0);
            ways[(i + 1) % n].in = p.wayAt(p.length());
        }
    }
    for (std::size_t i = 0; i < n; ++i) {
        if (!nodes[i].smooth) {
            continue;
        }
        Ways& w = ways[i];
        const Vec2 way =
            w.in    ? *w.in
            : w.out ? *w.out
                    : wayThrough(nodes[(i + n - 1) % n].at, nodes[i].at, nodes[(i + 1) % n].at);
        w.in = w.in.value_or(way);
        w.out = w.out.value_or(way);
    }
    return ways;
}

void addSpan(Contour& out, const ShapeNode& a, const std::optional<Vec2>& wayA, const ShapeNode& b,
             const std::optional<Vec2>& wayB) {
    const Vec2 chord = b.at - a.at;
    if (a.bulge) {
        out.push_back(bulgedPiece(a.at, b.at, *a.bulge));
    } else if (a.smooth && b.smooth) {
        addBiarc(out, a.at, *wayA, b.at, *wayB);
    } else if (a.smooth) {
        out.push_back(arcTo(a.at, *wayA, b.at));
    } else if (b.smooth) {
        addBiarc(out, a.at, arrivalOf(*wayB, chord), b.at, *wayB);
    } else {
        out.push_back({Kind::line, a.at, b.at, {}});
    }
}

/// The corner between two pieces replaced by an arc that touches both: its centre stands off both
/// by its radius, on the side they turn to.
ContourPiece fillet(ContourPiece& before, ContourPiece& after, double r) {
    const Vec2 corner = before.to;
    const double turn = cross(before.wayAt(before.length()), after.wayAt(0));
    const double side = turn > 0 ? 1 : -1;
    const auto moved = [&](const ContourPiece& p) {
        ContourPiece m = p;
        if (p.isArc()) {
            const bool toCentre = (p.kind == Kind::arcCounter) == (side > 0);
            const double k = std::max(1e-9, (p.radius() + (toCentre ? -r : r)) / p.radius());
            m.from = p.centre + (p.from - p.centre) * k;
            m.to = p.centre + (p.to - p.centre) * k;
        } else {
            const Vec2 off = leftOf(unit(p.to - p.from)) * (side * r);
            m.from = p.from + off;
            m.to = p.to + off;
        }
        return m;
    };
    const Meetings m = meetings(moved(before), moved(after));
    const auto foot = [](const ContourPiece& p, Vec2 centre) {
        if (p.isArc()) {
            return p.centre + unit(centre - p.centre) * p.radius();
        }
        const Vec2 way = unit(p.to - p.from);
        return p.from + way * dot(centre - p.from, way);
    };
    std::optional<Vec2> centre;
    for (int i = 0; i < m.count; ++i) {
        const Vec2 c = m.at[static_cast<std::size_t>(i)];
        const double fa = Stroke(before).fractionOf(foot(before, c));
        const double fb = Stroke(after).fractionOf(foot(after, c));
        if (fa > 0 && fa <= 1 && fb >= 0 && fb < 1 &&
            (!centre || length(c - corner) < length(*centre - corner))) {
            centre = c;
        }
    }
    if (!centre || std::abs(turn) < 1e-6) {
        throw Error(fmt::format("The corner at {:.2f}, {:.2f} has no room for a rounding of {:g} "
                                "mm; longer sides or a smaller radius were expected.",
                                corner.x, corner.y, r));
    }
    const Vec2 a = foot(before, *centre);
    const Vec2 b = foot(after, *centre);
    before.to = a;
    after.from = b;
    return {side > 0 ? Kind::arcCounter : Kind::arcClockwise, a, b, *centre};
}

} // namespace

Contour shapeOutline(const std::vector<ShapeNode>& nodes) {
    const std::size_t n = nodes.size();
    if (n < 2) {
        throw Error(tooFewNodes);
    }
    const std::vector<Ways> ways = waysOf(nodes);
    std::vector<Contour> spans(n);
    for (std::size_t i = 0; i < n; ++i) {
        const std::size_t k = (i + 1) % n;
        addSpan(spans[i], nodes[i], ways[i].out, nodes[k], ways[k].in);
    }
    Contour out;
    std::vector<std::optional<ContourPiece>> arcs(n);
    for (std::size_t i = 0; i < n; ++i) {
        if (nodes[i].round > 0) {
            arcs[i] = fillet(spans[(i + n - 1) % n].back(), spans[i].front(), nodes[i].round);
        }
    }
    for (std::size_t i = 0; i < n; ++i) {
        if (arcs[i]) {
            out.push_back(*arcs[i]);
        }
        for (const ContourPiece& p : spans[i]) {
            if (length(p.to - p.from) > 1e-9) {
                out.push_back(p);
            }
        }
    }
    if (const std::optional<Vec2> at = selfCrossing(out)) {
        throw Error(fmt::format("The outline crosses itself at {:.2f}, {:.2f}.", at->x, at->y));
    }
    if (areaOf(out) < 1) {
        throw Error(fmt::format("The outline at {:.1f}, {:.1f} encloses nothing.", nodes[0].at.x,
                                nodes[0].at.y));
    }
    return clockwise(out);
}

std::vector<ShapeNode> nodesOf(const Contour& closed) {
    std::vector<ShapeNode> nodes;
    for (const ContourPiece& p : closed) {
        nodes.push_back({p.from, false, 0, bulgeOf(p)});
    }
    return nodes;
}

std::vector<ShapeNode> boxShape(Vec2 middle, double length, double width, double round,
                                double angle) {
    const Vec2 u{std::cos(angle), std::sin(angle)};
    const double r = std::min(round, std::min(length, width) / 2 - 0.001);
    std::vector<ShapeNode> nodes;
    for (Vec2 s : {Vec2{-1, -1}, Vec2{-1, 1}, Vec2{1, 1}, Vec2{1, -1}}) {
        const Vec2 p = middle + u * (s.x * length / 2) + leftOf(u) * (s.y * width / 2);
        nodes.push_back({p, false, std::max(0.0, r), {}});
    }
    return nodes;
}

std::optional<Vec2> selfCrossing(const Contour& closed) {
    std::vector<Stroke> strokes;
    for (const ContourPiece& p : closed) {
        strokes.emplace_back(p);
    }
    const StrokeGrid grid(strokes);
    const std::size_t n = strokes.size();
    std::optional<Vec2> found;
    for (std::size_t i = 0; i < n && !found; ++i) {
        grid.near(strokes[i].low(), strokes[i].high(), [&](std::size_t k) {
            if (k <= i) {
                return false;
            }
            const Meetings m = crossings(strokes[i], strokes[k]);
            for (int j = 0; j < m.count; ++j) {
                const Vec2 p = m.at[static_cast<std::size_t>(j)];
                const bool joined =
                    (k == i + 1 && length(p - strokes[i].piece().to) < 1e-5) ||
                    (i == 0 && k + 1 == n && length(p - strokes[0].piece().from) < 1e-5);
                if (!joined) {
                    found = p;
                    return true;
                }
            }
            return false;
        });
    }
    return found;
}

Hollow hollowOf(const Contour& border, double leave) {
    constexpr double smooth = 1e-3; ///< radians
    constexpr double sharp = 0.35;
    Hollow least;
    const auto see = [&](double radius, Vec2 at) {
        if (radius < least.radius) {
            least = {radius, at};
        }
    };
    for (std::size_t i = 0; i < border.size(); ++i) {
        const ContourPiece& p = border[i];
        if (p.kind == Kind::arcCounter) {
            see(p.radius(), p.at(p.length() / 2));
        }
        const Vec2 in = p.wayIn();
        const Vec2 out = border[(i + 1) % border.size()].wayOut();
        const double turn = std::atan2(cross(in, out), dot(in, out));
        if (turn > sharp) {
            see(0, p.to);
        } else if (turn > smooth) { // a round bit stands off the corner by r / cos - r
            see(leave / (1 / std::cos(turn / 2) - 1), p.to);
        }
    }
    return least;
}

double tightestHollow(const Contour& border, double leave) {
    return hollowOf(border, leave).radius;
}

} // namespace wren
