#include "job/notation.h"

#include "base/length.h"
#include "design/engraving.h"
#include "design/lists.h"

#include <fmt/format.h>

namespace wren {
namespace {

std::string trimmed(const std::string& text) {
    const std::size_t a = text.find_first_not_of(" \t\n");
    return a == std::string::npos ? std::string()
                                  : text.substr(a, text.find_last_not_of(" \t\n") - a + 1);
}

Engraving engravingFrom(const std::string& one) {
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
    e.depth = bounded(v.back(), 0.05, 4, one.substr(0, colon));
    const std::string tail = trimmed(one.substr(colon + 1));
    if (!lettered) {
        e.nodes = shapeNodes(tail);
        return e;
    }
    e.middle = {v[0], v[1]};
    e.height = bounded(v[2], 1.5, 120, one.substr(0, colon));
    e.turn = bounded(v[3], -360, 360, one.substr(0, colon));
    e.words = tail;
    if (tail.empty()) {
        throw Error(fmt::format("\"{}\" has nothing behind its colon; words were expected.", one));
    }
    return e;
}

} // namespace

std::vector<TabPlace> tabList(const std::string& text) {
    std::vector<TabPlace> tabs;
    std::istringstream in(text);
    for (std::string word; in >> word;) {
        const char edge = word.front();
        if (edge != 'b' && edge != 't') {
            throw Error(fmt::format("\"{}\" is not a tab; b or t for the bass or treble edge and "
                                    "a distance from the nut were expected, as in b60.",
                                    word));
        }
        tabs.push_back({edge == 'b', parseLength(word.substr(1), LengthUnit::mm)});
    }
    return tabs;
}

std::vector<Control> controlList(const std::string& text) {
    std::vector<Control> out;
    eachOf(text, ',', [&](const std::string& one) {
        std::istringstream words(one);
        std::string what, x, y, more;
        words >> what >> x >> y;
        if ((what != "pot" && what != "toggle" && what != "lever") || y.empty() ||
            (words >> more)) {
            throw Error(fmt::format("\"{}\" is not a control; pot, toggle or lever, X and Y were "
                                    "expected, as in pot 60 95.",
                                    one));
        }
        out.push_back({what,
                       {bounded(parseNumber(x), -1000, 1000, one),
                        bounded(parseNumber(y), -1000, 1000, one)}});
    });
    return out;
}

std::vector<StrapButton> strapList(const std::string& text) {
    std::vector<StrapButton> out;
    eachOf(text, ',', [&](const std::string& one) {
        std::istringstream words(one);
        std::string x, y, more;
        words >> x >> y;
        if (y.empty() || (words >> more)) {
            throw Error(fmt::format("\"{}\" is not a place; X and Y were expected.", one));
        }
        out.push_back({{bounded(parseNumber(x), -1000, 1000, one),
                        bounded(parseNumber(y), -1000, 1000, one)}});
    });
    return out;
}

std::vector<Channel> channelList(const std::string& text) {
    std::vector<Channel> out;
    eachOf(text, ';', [&](const std::string& one) {
        const std::vector<double> v = numbersOf(one);
        if (v.size() != 6) {
            throw Error(fmt::format("\"{}\" is not a channel; X Y, X Y, width and depth were "
                                    "expected, as in -60 20 40 80 8 10.",
                                    one));
        }
        out.push_back(
            {{v[0], v[1]}, {v[2], v[3]}, bounded(v[4], 1, 60, one), bounded(v[5], 0.5, 100, one)});
        if (length(out.back().to - out.back().from) < 1) {
            throw Error(fmt::format("The channel \"{}\" goes nowhere.", one));
        }
    });
    return out;
}

std::vector<FaceSlope> slopeList(const std::string& text, bool back) {
    std::vector<FaceSlope> out;
    eachOf(text, ';', [&](const std::string& one) {
        const std::vector<double> v = numbersOf(one);
        if (v.size() != 6 && v.size() != 7) {
            throw Error(
                fmt::format("\"{}\" is not a contour; X Y, X Y, angle, radius and at will a "
                            "bow were expected, as in 30 -60 110 0 12 40.",
                            one));
        }
        out.push_back({{v[0], v[1]},
                       {v[2], v[3]},
                       bounded(v[4], 1, 40, one),
                       bounded(v[5], 1, 400, one),
                       v.size() > 6 ? bounded(v[6], 0, 300, one) : 0,
                       back});
        if (length(out.back().to - out.back().from) < 1) {
            throw Error(fmt::format("The contour \"{}\" begins and ends in one place.", one));
        }
        if (2 * out.back().bow > length(out.back().to - out.back().from)) {
            throw Error(fmt::format("The contour \"{}\" bows by more than half its length; a "
                                    "flatter arc was expected.",
                                    one));
        }
    });
    return out;
}

std::vector<Recess> recessList(const std::string& text) {
    std::vector<Recess> out;
    eachOf(text, ';', [&](const std::string& one) {
        const std::size_t colon = one.find(':');
        std::istringstream words(one.substr(0, colon));
        std::string face, depth, more;
        words >> face >> depth;
        Recess r;
        r.fromBack = face == "back";
        r.inlay = face == "inlay";
        if (colon == std::string::npos || (face != "front" && !r.fromBack && !r.inlay) ||
            depth.empty() || (r.inlay && depth == "through") || (words >> more)) {
            throw Error(fmt::format("\"{}\" is not a recess; front, back or inlay, a depth or "
                                    "through, a colon and nodes were expected, as in front 3: 0 0 "
                                    "r4, 30 0 r4, 30 20 r4, 0 20 r4.",
                                    one.substr(0, 60)));
        }
        if (depth != "through") {
            r.depth = bounded(parseNumber(depth), 0.2, 100, one.substr(0, colon));
        }
        r.nodes = shapeNodes(one.substr(colon + 1));
        shapeOutline(r.nodes);
        out.push_back(std::move(r));
    });
    return out;
}

std::vector<WireHole> wireList(const std::string& text) {
    std::vector<WireHole> out;
    eachOf(text, ';', [&](const std::string& one) {
        const std::vector<double> v = numbersOf(one);
        if (v.size() != 7) {
            throw Error(fmt::format("\"{}\" is not a wire's hole; X Y depth, X Y depth and a "
                                    "diameter were expected, as in -130 0 15 -40 0 15 6.",
                                    one));
        }
        WireHole w;
        w.from = {v[0], v[1]};
        w.to = {v[3], v[4]};
        w.fromDepth = bounded(v[2], 0, 100, one);
        w.toDepth = bounded(v[5], 0, 100, one);
        w.diameter = bounded(v[6], 1, 20, one);
        if (w.length() < 1) {
            throw Error(fmt::format("The wire's hole \"{}\" goes nowhere.", one));
        }
        out.push_back(w);
    });
    return out;
}

std::vector<Chamber> chamberList(const std::string& text) {
    std::vector<Chamber> out;
    eachOf(text, ';', [&](const std::string& one) {
        out.push_back({shapeNodes(one)});
        shapeOutline(out.back().nodes);
    });
    return out;
}

std::vector<Engraving> engravingList(const std::string& text) {
    std::vector<Engraving> out;
    eachOf(text, ';', [&](const std::string& one) {
        out.push_back(engravingFrom(one));
        checkEngraving(out.back());
    });
    return out;
}

} // namespace wren
