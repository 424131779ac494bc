#include "job/import_head.h"

#include "base/error.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double corner = 0.05;   ///< radians between ways that make a corner
constexpr double apart = 0.6;     ///< least distance between two nodes
constexpr std::size_t most = 300; ///< nodes

/// What of a clockwise outline lies beyond X = -margin, from the bass edge round to the treble one.
Contour beyondNut(const Contour& outline, double margin) {
    const double cut = -margin;
    Contour pieces; // short enough that a cut at their ends is exact
    for (const ContourPiece& p : outline) {
        const double whole = p.length();
        const int n = p.isArc() || std::min(p.from.x, p.to.x) < cut
                          ? std::max(1, static_cast<int>(whole / 0.25))
                          : 1;
        for (int i = 0; i < n; ++i) {
            ContourPiece part = p;
            part.from = p.at(whole * i / n);
            part.to = p.at(whole * (i + 1) / n);
            pieces.push_back(part);
        }
    }
    std::size_t start = pieces.size();
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const std::size_t before = (i + pieces.size() - 1) % pieces.size();
        if (pieces[i].from.x <= cut && pieces[before].from.x > cut) {
            start = i;
        }
    }
    Contour out;
    for (std::size_t i = 0; start < pieces.size() && i < pieces.size(); ++i) {
        const ContourPiece& p = pieces[(start + i) % pieces.size()];
        if (p.to.x > cut) {
            break;
        }
        out.push_back(p);
    }
    return out;
}

/// Places along it: every corner, and others no further apart than `step`.
std::vector<HeadNode> nodesAlong(const Contour& chain, double step) {
    std::vector<HeadNode> out{{chain.front().from, false}};
    double since = 0;
    for (std::size_t i = 0; i < chain.size(); ++i) {
        since += chain[i].length();
        const bool last = i + 1 == chain.size();
        const bool turns =
            !last && std::abs(cross(chain[i].wayIn(), chain[i + 1].wayOut())) > corner;
        if (!turns && !last && since < step) {
            continue;
        }
        const Vec2 at = chain[i].to;
        while (out.size() > 1 && !out.back().corner && length(out.back().at - at) < apart) {
            out.pop_back();
        }
        if (length(out.back().at - at) >= apart) {
            out.push_back({at, turns});
        }
        since = 0;
    }
    return out;
}

double deviationOf(const std::vector<HeadNode>& nodes, const Contour& chain) {
    const std::vector<HeadNode> inner(nodes.begin() + 1, nodes.end() - 1);
    const Contour curve = curveThrough(inner, nodes.front().at, chain.front().wayOut(),
                                       nodes.back().at, chain.back().wayIn());
    double worst = 0;
    for (const ContourPiece& p : curve) {
        const int n = std::max(1, static_cast<int>(p.length() / 0.5));
        for (int i = 0; i <= n; ++i) {
            worst = std::max(worst, distanceTo(chain, p.at(p.length() * i / n)));
        }
    }
    return worst;
}

} // namespace

DrawnHead headFrom(const Contour& outline, double tolerance, double margin) {
    const Contour chain = beyondNut(outline, margin);
    if (lengthOf(chain) < 40) {
        throw Error("Behind the nut the drawing holds no headstock; its nut's end at the right and "
                    "its tip at the left were expected.");
    }
    DrawnHead head;
    for (double step = 24; step >= 1; step /= 1.5) {
        head.nodes = nodesAlong(chain, step);
        if (head.nodes.size() > most) {
            break;
        }
        head.deviation = head.nodes.size() > 4 ? deviationOf(head.nodes, chain) : 1e9;
        if (head.deviation <= tolerance) {
            for (HeadNode& n : head.nodes) { // to what is typed
                n.at = {std::round(n.at.x * 100) / 100, std::round(n.at.y * 100) / 100};
            }
            return head;
        }
    }
    throw Error(fmt::format("The headstock cannot be followed within {:g} mm by {} nodes; a larger "
                            "tolerance was expected.",
                            tolerance, most));
}

} // namespace wren
