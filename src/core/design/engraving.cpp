#include "design/engraving.h"

#include "design/letters.h"

#include <algorithm>
#include <numbers>

namespace wren {
namespace {

/// A contour with every place of it sent elsewhere; `flips` when that mirrors it.
template <typename To>
Contour sent(Contour c, bool flips, To to) {
    using Kind = ContourPiece::Kind;
    for (ContourPiece& p : c) {
        p.from = to(p.from);
        p.to = to(p.to);
        if (p.isArc()) {
            p.centre = to(p.centre);
            if (flips) {
                p.kind = p.kind == Kind::arcClockwise ? Kind::arcCounter : Kind::arcClockwise;
            }
        }
    }
    return c;
}

} // namespace

void checkEngraving(const Engraving& e) {
    if (e.nodes.empty()) {
        lettering(e.words, e.height);
    } else {
        checkNodes(e.nodes);
        shapeOutline(e.nodes);
    }
}

std::vector<Contour> engravedLines(const Engraving& e, const BodyPlace& place) {
    if (!e.nodes.empty()) {
        return {place.laid(shapeOutline(e.nodes))};
    }
    const Lettering drawn = lettering(e.words, e.height);
    const Vec2 middle = place.at(e.middle);
    // Seen from behind, the nut at the left, up is the other way.
    const double up = e.fromBack ? -1 : 1;
    const double turn = e.turn * std::numbers::pi / 180;
    const Vec2 along{std::cos(turn), up * std::sin(turn)};
    const Vec2 rise{-std::sin(turn), up * std::cos(turn)};
    std::vector<Contour> out;
    for (const Contour& line : drawn.lines) {
        out.push_back(sent(line, e.fromBack, [&](Vec2 p) {
            return middle + along * (p.x - drawn.width / 2) + rise * (p.y - e.height / 2);
        }));
    }
    return out;
}

} // namespace wren
