#include "design/facets.h"

#include "base/error.h"
#include "exchange/neck_drawing.h"
#include "job/hand_sheet.h"
#include "job/hand_text.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr int fine = 2001;  ///< places of a section that is told
constexpr int coarse = 201; ///< and of one that is only looked at: a hundredth of a millimetre

/// Facets of the section at x, of the sides at smaller and larger Y, and what they are taken from.
struct Station {
    double x = 0;
    double low = 0, high = 0; ///< Y of the blank's sides
    double depth = 0;         ///< of the blank there
    std::vector<Vec2> section;
    std::array<Facets, 2> sides;
};

Station stationAt(const NeckPart& neck, double x, int places) {
    Station s;
    s.x = x;
    s.section = neck.section(x, places);
    s.low = s.section.front().x;
    s.high = s.section.back().x;
    const double middle = (s.low + s.high) / 2;
    for (int side : {0, 1}) {
        std::vector<Vec2> half;
        for (Vec2 p : s.section) {
            half.push_back({(side == 0 ? -1 : 1) * (p.x - middle), -p.y});
            s.depth = std::max(s.depth, -p.y);
        }
        s.sides[static_cast<std::size_t>(side)] = facetsOf(half);
    }
    return s;
}

/// The section in its blank with the flats on it, moved along to stand beside others.
void draw(Drawing& d, const Station& s, double shift, const std::string& words) {
    const auto at = [&](double y, double z) { return Vec2{shift + y, z}; };
    for (std::size_t i = 1; i < s.section.size(); i += 10) {
        const Vec2 a = s.section[i - 1];
        const Vec2 b = s.section[std::min(i + 9, s.section.size() - 1)];
        d.line("section", at(a.x, a.y), at(b.x, b.y));
    }
    d.line("section", at(s.low, 0), at(s.high, 0));
    d.line("blank", at(s.low, 0), at(s.low, -s.depth));
    d.line("blank", at(s.low, -s.depth), at(s.high, -s.depth));
    d.line("blank", at(s.high, -s.depth), at(s.high, 0));
    for (int side : {0, 1}) {
        const Facets& f = s.sides[static_cast<std::size_t>(side)];
        const double edge = side == 0 ? s.low : s.high;
        const double in = side == 0 ? 1 : -1;
        d.line("first", at(edge, -f.downSide), at(edge + in * f.inBack, -s.depth));
        const double u = f.upperOnFirst / std::sqrt(2.0), l = f.lowerOnFirst / std::sqrt(2.0);
        d.line("second", at(edge, -f.upperDownSide), at(edge + in * u, -f.downSide - u));
        d.line("second", at(edge + in * f.lowerInBack, -s.depth),
               at(edge + in * (f.inBack - l), -s.depth + l));
    }
    d.text("words", at(s.low, 3), 2.5, words);
}

/// How deep the blank's back or the straight flats between two stations would go into the neck, and
/// where.
struct TooDeep {
    double x = 0, by = 0;
};
TooDeep worstBetween(const NeckPart& neck, const Station& a, const Station& b) {
    TooDeep worst;
    for (int i = 1; i < 16; ++i) {
        const double t = i / 16.0;
        const Station m = stationAt(neck, a.x + (b.x - a.x) * t, coarse);
        const double shallow = m.depth - (a.depth * (1 - t) + b.depth * t);
        if (shallow > worst.by) {
            worst = {m.x, shallow};
        }
        for (std::size_t side : {0U, 1U}) {
            const auto between = [&](auto of) { return of(a) * (1 - t) + of(b) * t; };
            const double edge = between([&](const Station& s) { return side ? s.high : -s.low; });
            const double down = between([&](const Station& s) { return s.sides[side].downSide; });
            const double own = side ? m.high : -m.low;
            // The flat stands at 45 degrees: its distance from the line that touches the section.
            const double cut = (own + m.sides[side].downSide - edge - down) / std::sqrt(2.0);
            if (cut > worst.by) {
                worst = {m.x, cut};
            }
        }
    }
    return worst;
}

std::vector<double> stationsOf(const Derived& d, const std::vector<double>& at) {
    const NeckPart& neck = d.neck->part;
    const double from = neck.back().headTo(), to = neck.back().heelFrom();
    std::vector<double> out = at;
    for (std::size_t i = 0; at.empty() && i < neck.back().stations(); ++i) {
        out.push_back(std::clamp(neck.back().stationX(i), from, to));
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end(),
                          [](double a, double b) { return std::abs(a - b) < 0.01; }),
              out.end());
    for (double x : out) {
        if (x < from - 0.01 || x > to + 0.01) {
            throw Error(fmt::format("{:.1f} mm from the nut the neck turns into head or heel; a "
                                    "place from {:.1f} to {:.1f} mm was expected.",
                                    x, from, to));
        }
    }
    if (out.size() < 2) {
        throw Error("Facets run straight from one place to another: two places along the neck were "
                    "expected.");
    }
    return out;
}

} // namespace

HandSheet facetSheet(const Derived& d, const HandSizes& size, const std::vector<double>& at) {
    if (!d.neck) {
        throw Error("There is no neck to carve in this project.");
    }
    const NeckPart& neck = d.neck->part;
    HandSheet out{"facets", "Carving the neck by facets", {}, {}, {}, {}, false};
    out.drawing.title = d.project.name + " facets";
    HandSheet::Table blank{"The blank before carving", {"from nut", "wide", "deep"}, {}};
    HandSheet::Table first{
        "First facet, 45 degrees", {"from nut", "side", "down the side", "in from edge"}, {}};
    HandSheet::Table second{
        "Second facets, halving its corners",
        {"from nut", "side", "down the side", "down the first", "in from edge", "up the first"},
        {}};
    std::vector<Station> all;
    double shift = 0;
    for (double x : stationsOf(d, at)) {
        all.push_back(stationAt(neck, x, fine));
        const Station& s = all.back();
        blank.rows.push_back({size(x), size(s.high - s.low), size(s.depth)});
        for (std::size_t side : {0U, 1U}) {
            const Facets& f = s.sides[side];
            const char* word = sideWord(d.project, side == 0 ? -1 : 1);
            first.rows.push_back({size(x), word, size(f.downSide), size(f.inBack)});
            second.rows.push_back({size(x), word, size(f.upperDownSide), size(f.upperOnFirst),
                                   size(f.lowerInBack), size(f.lowerOnFirst)});
        }
        draw(out.drawing, s, shift - s.low, size(x) + " from the nut");
        shift += s.high - s.low + 18;
    }
    out.tables = {blank, first, second};
    out.steps = {"Saw and plane the neck to its outline and, from the glue face, to the depths of "
                 "the blank, straight from one place to the next.",
                 "Mark down both sides and in from both edges at each place, join the marks with a "
                 "straight edge, and take the wood between the two lines off flat: the first "
                 "facet.",
                 "Mark the second facets down the side, in from the edge and on the first facet; "
                 "take them off. What is left is rounded by eye and by the section's template.",
                 "Keep off the places where head and heel begin until the shaft is done."};
    for (std::size_t i = 1; i < all.size(); ++i) {
        const TooDeep worst = worstBetween(neck, all[i - 1], all[i]);
        if (worst.by > 0.1) {
            out.cautions.push_back(
                fmt::format("Straight from {:.1f} to {:.1f} mm from the nut, back and first facet "
                            "would go {:.1f} mm into the neck at {:.1f} mm: ask for a place there "
                            "too.",
                            all[i - 1].x, all[i].x, worst.by, worst.x));
        }
    }
    out.cautions.push_back(
        "Clamp the neck and cut away from the hand that holds it. Over a truss rod "
        "the wood is thin: measure before the last strokes.");
    return out;
}

} // namespace wren
