#include "exchange/neck_back_surface.h"

#include <algorithm>
#include <cmath>

#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>

namespace wren {
namespace {

/// One section of the back from edge to edge of the outline, as Hermite's form of a cubic spline:
/// points and, for each, the third of its way to the next.
struct Section {
    std::vector<Vec3> points;
    std::vector<Vec3> thirds;
};

Section sectionAt(const NeckPart& part, double x, int pieces) {
    const NeckBack::Slice s = part.back().slice(x);
    const std::array<double, 2> wood = part.outline().exactAcross(x);
    const auto angleAt = [&](double y) {
        return std::asin(std::clamp((y - s.centre()) / s.halfWidth(), -1.0, 1.0));
    };
    const double a0 = angleAt(wood[0]);
    const double step = (angleAt(wood[1]) - a0) / pieces;
    Section section;
    for (int i = 0; i <= pieces; ++i) {
        const double a = a0 + step * i;
        constexpr double h = 1e-4;
        section.points.push_back(s.touch(a).point);
        section.thirds.push_back((s.touch(a + h).point - s.touch(a - h).point) * (step / (6 * h)));
    }
    // The section may be narrower than the wood by a rounding's worth, or by a kink of the outline.
    section.points.front().y = wood[0];
    section.points.back().y = wood[1];
    return section;
}

/// The poles of such a section, its own points among them.
std::vector<Vec3> polesOf(const Section& s) {
    std::vector<Vec3> poles;
    for (std::size_t i = 0; i < s.points.size(); ++i) {
        if (i > 0) {
            poles.push_back(s.points[i] - s.thirds[i]);
        }
        poles.push_back(s.points[i]);
        if (i + 1 < s.points.size()) {
            poles.push_back(s.points[i] + s.thirds[i]);
        }
    }
    return poles;
}

/// A row of poles at x and how it changes with X, as seen from inside the stretch [from, to].
struct Row {
    double x = 0;
    std::vector<Vec3> here, byX;
};

Row rowAt(const NeckPart& part, double x, double from, double to, int pieces) {
    constexpr double h = 1e-3;
    const auto poles = [&](double at) {
        constexpr double in = 1e-7; // where the outline has a corner each side has its own
        return polesOf(sectionAt(part, std::clamp(at, from + in, to - in), pieces));
    };
    Row row{x, poles(x), {}};
    const double a = x - from < h ? 0 : -h; // differences that stay on this side
    const double b = to - x < h ? 0 : h;
    const std::vector<Vec3> before = a < 0 ? poles(x + a) : b > 0 ? poles(x + 2 * h) : row.here;
    const std::vector<Vec3> after = b > 0 ? poles(x + b) : poles(x - 2 * h);
    for (std::size_t i = 0; i < row.here.size(); ++i) {
        const Vec3 slope = a < 0 && b > 0 ? (after[i] - before[i]) * (1 / (2 * h))
                           : b > 0 ? (after[i] * 4 - row.here[i] * 3 - before[i]) * (1 / (2 * h))
                                   : (row.here[i] * 3 - before[i] * 4 + after[i]) * (1 / (2 * h));
        row.byX.push_back(slope);
    }
    return row;
}

constexpr double close = 0.001; ///< the surface follows its definition within this, mm

/// How far the middle between two rows, as the spline has it, is from the definition's.
double offBetween(const NeckPart& part, const Row& a, const Row& b) {
    const double step = b.x - a.x;
    const double x = a.x + step / 2;
    const NeckBack::Slice s = part.back().slice(x);
    double off = 0;
    for (std::size_t i = 0; i < a.here.size(); i += 3) {
        const Vec3 p = (a.here[i] + b.here[i]) * 0.5 + (a.byX[i] - b.byX[i]) * (step / 8);
        const double u = std::clamp((p.y - s.centre()) / s.halfWidth(), -1.0, 1.0);
        const NeckBack::Slice::Touch touch = s.touch(std::asin(u));
        off = std::max(off, std::abs(dot(p - touch.point, touch.normal)));
    }
    const std::array<double, 2> wood = part.outline().exactAcross(x);
    for (std::size_t i : {std::size_t{0}, a.here.size() - 1}) {
        const double y = (a.here[i].y + b.here[i].y) / 2 + (a.byX[i].y - b.byX[i].y) * step / 8;
        off = std::max(off, std::abs(y - wood[i == 0 ? 0 : 1]));
    }
    return off;
}

/// Rows over a stretch, so close that the surface through them follows its definition.
std::vector<Row> rowsOver(const NeckPart& part, double from, double to, int pieces) {
    constexpr double longest = 25, shortest = 0.4; // mm
    std::vector<Row> rows{rowAt(part, from, from, to, pieces)};
    std::vector<Row> ahead{rowAt(part, to, from, to, pieces)};
    while (!ahead.empty()) {
        const double step = ahead.back().x - rows.back().x;
        if (step > longest ||
            (step > shortest && offBetween(part, rows.back(), ahead.back()) > close)) {
            ahead.push_back(rowAt(part, rows.back().x + step / 2, from, to, pieces));
        } else {
            rows.push_back(ahead.back());
            ahead.pop_back();
        }
    }
    return rows;
}

/// How many pieces across a section follow it everywhere along the neck.
int piecesAcross(const NeckPart& part) {
    const NeckBack& back = part.back();
    int pieces = 14;
    const auto off = [&](double x) {
        const Section s = sectionAt(part, x, pieces);
        const NeckBack::Slice slice = back.slice(x);
        double most = 0;
        for (std::size_t i = 0; i + 1 < s.points.size(); ++i) {
            const Vec3 p =
                (s.points[i] + s.points[i + 1]) * 0.5 + (s.thirds[i] - s.thirds[i + 1]) * (3.0 / 8);
            const double u = (p.y - slice.centre()) / slice.halfWidth();
            const NeckBack::Slice::Touch touch = slice.touch(std::asin(std::clamp(u, -1.0, 1.0)));
            most = std::max(most, std::abs(dot(p - touch.point, touch.normal)));
        }
        return most;
    };
    for (double x = back.headFrom() + 1; x < back.heelTo(); x += 20) {
        while (pieces < 60 && off(x) > close) {
            pieces += 6;
        }
    }
    return pieces;
}

/// Knots of such a spline: double ones inside, so that pieces join smoothly.
template <typename At>
void setKnots(TColStd_Array1OfReal& knots, TColStd_Array1OfInteger& times, At at) {
    const int n = knots.Length() - 1;
    for (int i = 0; i <= n; ++i) {
        knots.SetValue(i + 1, at(i));
        times.SetValue(i + 1, i == 0 || i == n ? 4 : 2);
    }
}

/// A stretch of the back from edge to edge of the outline. Its long borders are the neck's own
/// edges, where it stands upright: no boolean operation could find them.
Handle(Geom_BSplineSurface) backSurface(const std::vector<Row>& rows) {
    std::vector<std::vector<Vec3>> poleRows;
    const auto moved = [](const Row& row, double by) {
        std::vector<Vec3> poles = row.here;
        for (std::size_t i = 0; i < poles.size(); ++i) {
            poles[i] = poles[i] + row.byX[i] * by;
        }
        return poles;
    };
    // Under double knots the points themselves are no poles, but for the first and the last.
    const auto isPole = [](std::size_t i, std::size_t n) {
        return i == 0 || i + 1 == n || i % 3 != 0;
    };
    for (std::size_t i = 0; i < rows.size(); ++i) {
        if (i > 0) {
            poleRows.push_back(moved(rows[i], (rows[i - 1].x - rows[i].x) / 3));
        }
        if (i == 0 || i + 1 == rows.size()) {
            poleRows.push_back(rows[i].here);
        }
        if (i + 1 < rows.size()) {
            poleRows.push_back(moved(rows[i], (rows[i + 1].x - rows[i].x) / 3));
        }
    }
    const std::size_t sectionPieces = (rows.front().here.size() - 1) / 3;
    const int across = static_cast<int>(2 * sectionPieces + 2);
    TColgp_Array2OfPnt poles(1, static_cast<int>(poleRows.size()), 1, across);
    for (std::size_t i = 0; i < poleRows.size(); ++i) {
        int column = 0;
        for (std::size_t k = 0; k < poleRows[i].size(); ++k) {
            if (isPole(k, poleRows[i].size())) {
                const Vec3 p = poleRows[i][k];
                poles.SetValue(static_cast<int>(i) + 1, ++column, gp_Pnt(p.x, p.y, p.z));
            }
        }
    }
    const int along = static_cast<int>(rows.size());
    TColStd_Array1OfReal uKnots(1, along);
    TColStd_Array1OfInteger uTimes(1, along);
    setKnots(uKnots, uTimes, [&](int i) { return rows[static_cast<std::size_t>(i)].x; });
    TColStd_Array1OfReal vKnots(1, across / 2);
    TColStd_Array1OfInteger vTimes(1, across / 2);
    setKnots(vKnots, vTimes, [](int i) { return double(i); });
    return new Geom_BSplineSurface(poles, uKnots, vKnots, uTimes, vTimes, 3, 3);
}

/// Where the outline's pieces meet along shaft and transitions, with both their ends.
std::vector<double> outlineBreaks(const NeckPart& part) {
    const double from = part.back().headFrom();
    const double to = part.back().heelTo();
    std::vector<double> at{from, to};
    for (const ContourPiece& p : part.outline().contour()) {
        if (p.from.x > from + 0.1 && p.from.x < to - 0.1) {
            at.push_back(p.from.x);
        }
    }
    std::sort(at.begin(), at.end());
    at.erase(std::unique(at.begin(), at.end(), [](double a, double b) { return b - a < 0.05; }),
             at.end());
    return at;
}

} // namespace

std::vector<Handle(Geom_BSplineSurface)> backSurfaces(const NeckPart& part) {
    const std::vector<double> breaks = outlineBreaks(part);
    const int pieces = piecesAcross(part);
    std::vector<Handle(Geom_BSplineSurface)> out;
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
        out.push_back(backSurface(rowsOver(part, breaks[i], breaks[i + 1], pieces)));
    }
    return out;
}

} // namespace wren
