#include "exchange/drawing.h"

#include <algorithm>
#include <limits>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

/// Points that bound a piece: its ends, and where an arc reaches furthest along the axes.
void extend(std::array<Vec2, 2>& box, const ContourPiece& piece) {
    const auto take = [&](Vec2 p) {
        box[0] = {std::min(box[0].x, p.x), std::min(box[0].y, p.y)};
        box[1] = {std::max(box[1].x, p.x), std::max(box[1].y, p.y)};
    };
    take(piece.from);
    take(piece.to);
    if (piece.kind == Kind::line) {
        return;
    }
    const double whole = piece.length();
    for (const Vec2 way : {Vec2{1, 0}, Vec2{-1, 0}, Vec2{0, 1}, Vec2{0, -1}}) {
        const Vec2 p = piece.centre + way * piece.radius();
        const ContourPiece upTo{piece.kind, piece.from, p, piece.centre};
        if (upTo.length() <= whole) {
            take(p);
        }
    }
}

} // namespace

void Drawing::line(const std::string& layer, Vec2 from, Vec2 to) {
    lines.push_back({layer, {{Kind::line, from, to, {}}}, false});
}

void Drawing::text(const std::string& layer, Vec2 at, double height, std::string words) {
    texts.push_back({layer, at, height, std::move(words)});
}

std::array<Vec2, 2> Drawing::box() const {
    constexpr double far = std::numeric_limits<double>::max();
    std::array<Vec2, 2> box{Vec2{far, far}, Vec2{-far, -far}};
    for (const DrawnLine& l : lines) {
        for (const ContourPiece& piece : l.pieces) {
            extend(box, piece);
        }
    }
    return lines.empty() ? std::array<Vec2, 2>{} : box;
}

std::vector<std::string> Drawing::layers() const {
    std::vector<std::string> names;
    const auto add = [&](const std::string& name) {
        if (std::find(names.begin(), names.end(), name) == names.end()) {
            names.push_back(name);
        }
    };
    for (const DrawnLine& l : lines) {
        add(l.layer);
    }
    for (const DrawnText& t : texts) {
        add(t.layer);
    }
    return names;
}

bool isWholeCircle(const DrawnLine& line, WholeCircle& circle) {
    if (!line.closed || line.pieces.size() != 2) {
        return false;
    }
    const ContourPiece& a = line.pieces[0];
    const ContourPiece& b = line.pieces[1];
    if (!a.isArc() || a.kind != b.kind || length(a.centre - b.centre) > 1e-9) {
        return false;
    }
    circle = {a.centre, a.radius()};
    return true;
}

} // namespace wren
