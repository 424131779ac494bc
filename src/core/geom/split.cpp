#include "geom/split.h"

#include "base/error.h"
#include "geom/crossing.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

/// The pieces, parted where the line crosses them.
Contour parted(const Contour& closed, const Stroke& line) {
    Contour out;
    for (const ContourPiece& piece : closed) {
        const Stroke stroke(piece);
        const Meetings met = crossings(stroke, line);
        std::vector<double> at;
        at.reserve(2);
        for (int i = 0; i < met.count; ++i) {
            at.push_back(stroke.fractionOf(met.at[static_cast<std::size_t>(i)]));
        }
        std::sort(at.begin(), at.end());
        ContourPiece rest = piece;
        for (double f : at) {
            if (f > 1e-9 && f < 1 - 1e-9) { // else it meets the line with its end
                ContourPiece first = rest;
                first.to = rest.from = stroke.at(f);
                out.push_back(first);
            }
        }
        out.push_back(rest);
    }
    return out;
}

} // namespace

Contour partLeftOf(const Contour& closed, Vec2 a, Vec2 b) {
    const Vec2 way = unit(b - a);
    constexpr double far = 1e4; // mm, beyond any part
    const Contour pieces =
        parted(closed, Stroke({ContourPiece::Kind::line, a - way * far, b + way * far, {}}));
    const auto kept = [&](std::size_t i) {
        const ContourPiece& p = pieces[i % pieces.size()];
        return cross(way, p.at(p.length() / 2) - a) > 0;
    };
    std::size_t first = 0;
    int begun = 0;
    for (std::size_t i = 1; i <= pieces.size(); ++i) {
        if (kept(i) && !kept(i - 1)) {
            first = i;
            ++begun;
        }
    }
    if (begun != 1) {
        throw Error(
            fmt::format("the line parts the outline {}; once across was expected",
                        begun == 0 ? std::string("nowhere") : fmt::format("in {} places", begun)));
    }
    Contour out;
    for (std::size_t i = first; kept(i); ++i) {
        out.push_back(pieces[i % pieces.size()]);
    }
    out.push_back({ContourPiece::Kind::line, out.back().to, out.front().from, {}});
    return out;
}

} // namespace wren
