#include "design/engraving.h"

#include "design/letters.h"
#include "design/lists.h"

#include <algorithm>
#include <numbers>

namespace wren {
namespace {

constexpr double leastDepth = 0.05;
constexpr double mostDepth = 4;
constexpr double lowest = 1.5; ///< of letters
constexpr double highest = 120;

std::string trimmed(const std::string& text) {
    const std::size_t a = text.find_first_not_of(" \t\n");
    return a == std::string::npos ? std::string()
                                  : text.substr(a, text.find_last_not_of(" \t\n") - a + 1);
}

Engraving readOne(const std::string& one) {
    const std::size_t colon = one.find(':');
    std::istringstream words(one.substr(0, colon));
    std::string face, kind, rest;
    words >> face >> kind;
    std::getline(words, rest);
    const bool lettered = kind == "words";
    const std::vector<double> v = numbersOf(rest);
    if (colon == std::string::npos || (face != "front" && face != "back") ||
        (!lettered && kind != "shape") || v.size() != (lettered ? 5 : 1)) {
        throw Error(
            fmt::format("\"{}\" is not an engraving; front or back, words with X Y, height, "
                        "turn and depth, or shape with a depth, a colon and the words or "
                        "nodes were expected, as in back words 40 0 8 0 0.5: No. 3.",
                        one.substr(0, 60)));
    }
    Engraving e;
    e.fromBack = face == "back";
    e.depth = bounded(v.back(), leastDepth, mostDepth, one.substr(0, colon));
    const std::string tail = trimmed(one.substr(colon + 1));
    if (!lettered) {
        e.nodes = shapeNodes(tail);
        return e;
    }
    e.middle = {v[0], v[1]};
    e.height = bounded(v[2], lowest, highest, one.substr(0, colon));
    e.turn = bounded(v[3], -360, 360, one.substr(0, colon));
    e.words = tail;
    if (tail.empty()) {
        throw Error(fmt::format("\"{}\" has nothing behind its colon; words were expected.", one));
    }
    return e;
}

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

std::vector<Engraving> engravingList(const std::string& text) {
    std::vector<Engraving> out;
    eachOf(text, ';', [&](const std::string& one) { out.push_back(readOne(one)); });
    return out;
}

std::string engravingText(const std::vector<Engraving>& engravings) {
    std::string text;
    for (const Engraving& e : engravings) {
        text += fmt::format("{}{} ", text.empty() ? "" : "; ", e.fromBack ? "back" : "front");
        text += e.nodes.empty() ? fmt::format("words {:g} {:g} {:g} {:g} {:g}: {}", e.middle.x,
                                              e.middle.y, e.height, e.turn, e.depth, e.words)
                                : fmt::format("shape {:g}: {}", e.depth, shapeText(e.nodes));
    }
    return text;
}

void checkEngravings(const std::string& text) {
    for (const Engraving& e : engravingList(text)) {
        if (e.nodes.empty()) {
            lettering(e.words, e.height);
        } else {
            shapeOutline(e.nodes);
        }
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
