#include "exchange/svg.h"

#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double margin = 2; ///< round the lines, so that none is cut by the picture's edge

std::string number(double v) {
    std::string s = fmt::format("{:.4f}", v);
    s.erase(s.find_last_not_of('0') + 1);
    if (s.back() == '.') {
        s.pop_back();
    }
    return s == "-0" ? "0" : s;
}

std::string point(Vec2 p) {
    return number(p.x) + "," + number(-p.y);
}

std::string escaped(const std::string& text) {
    std::string out;
    for (char c : text) {
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            out += c;
        }
    }
    return out;
}

std::string pathOf(const DrawnLine& line) {
    std::string d = fmt::format("M{}", point(line.pieces.front().from));
    for (const ContourPiece& piece : line.pieces) {
        if (piece.kind == ContourPiece::Kind::line) {
            d += fmt::format(" L{}", point(piece.to));
            continue;
        }
        // Clockwise seen from above is clockwise on the page too: both mirror Y alike.
        const double r = piece.radius();
        const bool large = piece.length() > r * 3.14159265358979;
        const bool clockwise = piece.kind == ContourPiece::Kind::arcClockwise;
        d += fmt::format(" A{0},{0} 0 {1},{2} {3}", number(r), large ? 1 : 0, clockwise ? 1 : 0,
                         point(piece.to));
    }
    return line.closed ? d + " Z" : d;
}

void writeLine(std::string& out, const DrawnLine& line) {
    WholeCircle circle;
    if (isWholeCircle(line, circle)) {
        out += fmt::format("    <circle cx=\"{}\" cy=\"{}\" r=\"{}\"/>\n", number(circle.centre.x),
                           number(-circle.centre.y), number(circle.radius));
    } else if (!line.pieces.empty()) {
        out += fmt::format("    <path d=\"{}\"/>\n", pathOf(line));
    }
}

} // namespace

std::string toSvg(const Drawing& drawing) {
    const auto [low, high] = drawing.box();
    const double w = high.x - low.x + 2 * margin;
    const double h = high.y - low.y + 2 * margin;
    std::string out =
        fmt::format("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n"
                    "<svg xmlns=\"http://www.w3.org/2000/svg\" version=\"1.1\" width=\"{0}mm\" "
                    "height=\"{1}mm\" viewBox=\"{2} {3} {0} {1}\">\n  <title>{4}</title>\n",
                    number(w), number(h), number(low.x - margin), number(-high.y - margin),
                    escaped(drawing.title));
    for (const std::string& layer : drawing.layers()) {
        out += fmt::format("  <g id=\"{}\" fill=\"none\" stroke=\"#000000\" "
                           "stroke-width=\"0.1\">\n",
                           escaped(layer));
        for (const DrawnLine& line : drawing.lines) {
            if (line.layer == layer) {
                writeLine(out, line);
            }
        }
        for (const DrawnText& t : drawing.texts) {
            if (t.layer == layer) {
                out += fmt::format("    <text x=\"{}\" y=\"{}\" font-size=\"{}\" "
                                   "font-family=\"sans-serif\" fill=\"#000000\" "
                                   "stroke=\"none\">{}</text>\n",
                                   number(t.at.x), number(-t.at.y), number(t.height / 0.7),
                                   escaped(t.text));
            }
        }
        out += "  </g>\n";
    }
    return out + "</svg>\n";
}

} // namespace wren
