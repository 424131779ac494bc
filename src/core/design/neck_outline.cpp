#include "design/neck_outline.h"

#include "base/error.h"
#include "base/length.h"
#include "geom/biarc.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <sstream>

#include <fmt/format.h>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

} // namespace

void checkHeadNodes(const std::vector<HeadNode>& nodes) {
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const Vec2 at = nodes[i].at;
        if (!(at.x < -1 && at.x > -600 && std::abs(at.y) < 250)) {
            throw Error(fmt::format("The node at {:g}, {:g} does not lie behind the nut; X from "
                                    "-600 to -1 and Y from -250 to 250 were expected.",
                                    at.x, at.y));
        }
        if (i > 0 && length(at - nodes[i - 1].at) < 0.5) {
            throw Error(fmt::format("Two nodes lie at {:g}, {:g}.", at.x, at.y));
        }
    }
    if (nodes.size() < 3) {
        throw Error("A headstock's outline needs three nodes at least.");
    }
}

std::vector<HeadNode> headNodes(const std::string& text) {
    std::vector<HeadNode> nodes;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ',');) {
        std::istringstream words(one);
        std::string x, y, kind;
        words >> x >> y >> kind;
        if ((kind != "s" && kind != "c") || (words >> kind)) {
            throw Error(
                fmt::format("\"{}\" is not a node; X, Y and s or c were expected, as in -20 "
                            "-27 s.",
                            one));
        }
        nodes.push_back({{parseNumber(x), parseNumber(y)}, kind == "c"});
    }
    checkHeadNodes(nodes);
    return nodes;
}

Contour curveThrough(const std::vector<HeadNode>& nodes, Vec2 from, Vec2 wayOut, Vec2 to,
                     Vec2 wayIn) {
    std::vector<HeadNode> all{{from, false}};
    all.insert(all.end(), nodes.begin(), nodes.end());
    all.push_back({to, false});
    const std::size_t n = all.size();
    std::vector<Vec2> way(n);
    for (std::size_t i = 0; i < n; ++i) {
        if (i == 0 || i + 1 == n) {
            way[i] = unit(i == 0 ? wayOut : wayIn);
        } else {
            way[i] = wayThrough(all[i - 1].at, all[i].at, all[i + 1].at);
        }
    }
    Contour out;
    for (std::size_t i = 0; i + 1 < n; ++i) {
        const HeadNode& a = all[i];
        const HeadNode& b = all[i + 1];
        const Vec2 chord = b.at - a.at;
        if (a.corner && b.corner) {
            out.push_back({Kind::line, a.at, b.at, {}});
        } else if (a.corner) {
            addBiarc(out, a.at, arrivalOf(way[i + 1], chord), b.at, way[i + 1]);
        } else if (b.corner) {
            out.push_back(arcTo(a.at, way[i], b.at));
        } else {
            addBiarc(out, a.at, way[i], b.at, way[i + 1]);
        }
    }
    return out;
}

namespace {

/// The heel's end, clockwise: from the edge at +Y to the edge at -Y.
void addHeel(Contour& out, const NeckOutline& o, const Neck& neck) {
    const double end = o.end();
    const double taper = neck.heelShape == HeelShape::tapered ? neck.heelTaper : 0;
    const Vec2 top{end, o.edge(1, end) - taper};
    const Vec2 low{end, o.edge(-1, end) + taper};
    const Vec2 topStart = out.back().to;
    const Vec2 lowStart{o.heelStart(), o.edge(-1, o.heelStart())};
    const double r = neck.heelShape == HeelShape::rounded ? neck.heelCorner : 0;
    if (r <= 0) {
        out.push_back({Kind::line, topStart, top, {}});
        out.push_back({Kind::line, top, low, {}});
        out.push_back({Kind::line, low, lowStart, {}});
        return;
    }
    // A corner's arc touches the edge and the end: on each, the tangent's length before the corner.
    const auto round = [&](Vec2 before, Vec2 corner, Vec2 after) {
        const Vec2 in = unit(corner - before);
        const Vec2 on = unit(after - corner);
        const double turn = std::acos(std::clamp(dot(in, on), -1.0, 1.0));
        const double t = r * std::tan(turn / 2);
        const Vec2 a = corner - in * t;
        const Vec2 b = corner + on * t;
        const Vec2 right{in.y, -in.x};
        out.push_back({Kind::line, out.back().to, a, {}});
        out.push_back({Kind::arcClockwise, a, b, a + right * r});
    };
    round(topStart, top, low);
    round(top, low, lowStart);
    out.push_back({Kind::line, out.back().to, lowStart, {}});
}

} // namespace

NeckOutline::NeckOutline(const Neck& neck, const Fretboard& board) : fan_(board) {
    // A nut on a fan stands askew; the head begins behind its furthest corner.
    const FretLine front = fan_.parallelTo(fan_.share(0), -fan_.behind());
    headStart_ = std::min(front.bass.x, front.treble.x) - neck.nutThickness;
    const FretLine endLine = fan_.endLine();
    end_ = std::max({fan_.endOnCentre(), endLine.bass.x, endLine.treble.x}) + neck.heelPast;
    heelStart_ = end_ - neck.heelLength;
    const Vec2 topHead{headStart_, edge(1, headStart_)};
    const Vec2 lowHead{headStart_, edge(-1, headStart_)};
    const Vec2 topHeel{heelStart_, edge(1, heelStart_)};
    contour_.push_back({Kind::line, topHead, topHeel, {}});
    addHeel(contour_, *this, neck);
    contour_.push_back({Kind::line, contour_.back().to, lowHead, {}});
    std::vector<HeadNode> nodes = neck.head.nodes;
    if (board.hand == Hand::left) { // the list runs from the bass side, which is at +Y now
        std::reverse(nodes.begin(), nodes.end());
        for (HeadNode& n : nodes) {
            n.at.y = -n.at.y;
        }
    }
    const Contour head =
        curveThrough(nodes, lowHead, lowHead - Vec2{heelStart_, edge(-1, heelStart_)}, topHead,
                     topHeel - topHead);
    contour_.insert(contour_.end(), head.begin(), head.end());
    points_ = pointsOf(contour_, 0.002);
    tip_ = std::numeric_limits<double>::infinity();
    for (Vec2 p : points_) {
        tip_ = std::min(tip_, p.x);
    }
}

double NeckOutline::edge(int side, double x) const {
    return fan_.edgeAt(side == static_cast<int>(fan_.bassSide()) ? -1 : 1, x);
}

std::vector<std::array<double, 2>> NeckOutline::stretches(double x) const {
    std::vector<double> ys;
    for (std::size_t i = 0, j = points_.size() - 1; i < points_.size(); j = i++) {
        const Vec2 a = points_[j];
        const Vec2 b = points_[i];
        if ((a.x > x) != (b.x > x)) {
            ys.push_back(a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x));
        }
    }
    std::sort(ys.begin(), ys.end());
    std::vector<std::array<double, 2>> out;
    for (std::size_t i = 0; i + 1 < ys.size(); i += 2) {
        out.push_back({ys[i], ys[i + 1]});
    }
    return out;
}

std::array<double, 2> NeckOutline::exactAcross(double x) const {
    std::array<double, 2> out{1e9, -1e9};
    const auto take = [&](const ContourPiece& piece, double y) {
        ContourPiece upTo = piece;
        upTo.to = {x, y};
        if (!piece.isArc() || upTo.length() <= piece.length() + 1e-9) {
            out = {std::min(out[0], y), std::max(out[1], y)};
        }
    };
    for (const ContourPiece& p : contour_) {
        if (!p.isArc()) {
            if ((p.from.x - x) * (p.to.x - x) <= 0 && p.from.x != p.to.x) {
                take(p, p.from.y + (p.to.y - p.from.y) * (x - p.from.x) / (p.to.x - p.from.x));
            }
        } else if (std::abs(x - p.centre.x) <= p.radius()) {
            const double h =
                std::sqrt(p.radius() * p.radius() - (x - p.centre.x) * (x - p.centre.x));
            take(p, p.centre.y + h);
            take(p, p.centre.y - h);
        }
    }
    return out;
}

std::array<double, 2> NeckOutline::across(double x) const {
    const auto all = stretches(x);
    return all.empty() ? std::array{1.0, -1.0} : std::array{all.front()[0], all.back()[1]};
}

} // namespace wren
