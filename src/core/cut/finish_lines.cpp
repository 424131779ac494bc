#include "cut/finish_lines.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace wren {

BackContact contactAt(const NeckBack::Slice& slice, double angle) {
    const NeckBack::Slice::Touch t = slice.touch(angle);
    return {{t.point.x, t.point.y, -t.point.z}, {t.normal.x, t.normal.y, -t.normal.z}};
}

std::vector<NeckBack::Slice> slicesFor(const NeckBack& back, double from, double to, double step) {
    std::vector<NeckBack::Slice> out;
    const int n = std::max(1, static_cast<int>(std::ceil((to - from) / step - 1e-9)));
    for (int i = 0; i <= n; ++i) {
        out.push_back(back.slice(from + (to - from) * i / n));
    }
    return out;
}

namespace {

constexpr double quarter = std::numbers::pi / 2;
constexpr double overlap = 1; ///< neighbouring stretches run into each other

/// The ridge two neighbouring contacts leave: the chord's part over a ball, and the surface's own
/// bend, s^2 / 8 (1/r + 1/R) with R = s / turn.
double ridge(const BackContact& a, const BackContact& b, double r) {
    const double s = length(b.point - a.point);
    const double turn = std::acos(std::clamp(dot(a.normal, b.normal), -1.0, 1.0));
    return s * s / (8 * r) + s * turn / 8;
}

/// From edge to edge, each as far from the last as the ridge allows in all the samples.
std::vector<double> spread(const std::vector<NeckBack::Slice>& samples, double r, double scallop) {
    std::vector<double> lines{-quarter};
    while (lines.back() < quarter) {
        const double from = lines.back();
        double low = from;
        double high = std::min(quarter, from + 0.5);
        const auto fits = [&](double to) {
            return std::all_of(samples.begin(), samples.end(), [&](const NeckBack::Slice& s) {
                return ridge(contactAt(s, from), contactAt(s, to), r) <= scallop;
            });
        };
        if (fits(high)) {
            lines.push_back(high);
            continue;
        }
        for (int i = 0; i < 14; ++i) {
            const double middle = (low + high) / 2;
            (fits(middle) ? low : high) = middle;
        }
        lines.push_back(std::max(low, from + 1e-3));
    }
    lines.back() = quarter;
    return lines;
}

/// The slope where level passes and lines along meet, and how far each goes beyond it.
constexpr double splitSlope = 50 * std::numbers::pi / 180;
constexpr double splitOverlap = 5 * std::numbers::pi / 180;

/// The contact on the steep part of a flank that has its tip at `level`: its foot or its upper end
/// where that lies beyond.
BackContact onFlank(const NeckBack::Slice& slice, int side, double level, const EndShape& end) {
    const auto at = [&](double share) { return contactAt(slice, side * quarter * (1 - share)); };
    double low = 0;
    double high = 1;
    for (int i = 0; i < 40; ++i) {
        const double middle = (low + high) / 2;
        const BackContact c = at(middle);
        const bool below = steepEnough(c) && tipTouching(c.point, c.normal, end).z < level;
        (below ? low : high) = middle;
    }
    return at(low);
}

/// Heights of the tip from the flanks' foot up to where they are no longer steep, each as far from
/// the last as the ridge allows in all the samples.
std::vector<double> spreadLevels(const std::vector<NeckBack::Slice>& samples, const EndShape& end,
                                 double scallop) {
    constexpr double least = 0.02;
    constexpr double widest = 3;
    struct Flank {
        const NeckBack::Slice* slice;
        int side;
    };
    std::vector<Flank> flanks;
    double level = 1e9;
    double top = -1e9;
    for (const NeckBack::Slice& s : samples) {
        for (int side : {-1, 1}) {
            flanks.push_back({&s, side});
            const BackContact foot = onFlank(s, side, -1e9, end);
            const BackContact last = onFlank(s, side, 1e9, end);
            level = std::min(level, tipTouching(foot.point, foot.normal, end).z);
            top = std::max(top, tipTouching(last.point, last.normal, end).z);
        }
    }
    const auto fits = [&](double from, double to) {
        return std::all_of(flanks.begin(), flanks.end(), [&](const Flank& f) {
            return ridge(onFlank(*f.slice, f.side, from, end), onFlank(*f.slice, f.side, to, end),
                         end.rounding) <= scallop;
        });
    };
    std::vector<double> levels;
    while (level < top) {
        double low = level + least;
        double high = level + widest;
        for (int i = 0; i < 12 && !fits(level, high); ++i) {
            const double middle = (low + high) / 2;
            (fits(level, middle) ? low : high) = middle;
        }
        level = fits(level, high) ? high : low;
        if (level < top) {
            levels.push_back(level);
        }
    }
    return levels;
}

} // namespace

bool shallowEnough(const BackContact& contact) {
    return contact.normal.z >= std::cos(splitSlope + splitOverlap);
}

bool steepEnough(const BackContact& contact) {
    return contact.normal.z <= std::cos(splitSlope - splitOverlap);
}

std::optional<BackContact> contactAtLevel(const NeckBack::Slice& slice, int side, double level,
                                          const EndShape& end) {
    constexpr double met = 1e-6;
    const BackContact c = onFlank(slice, side, level, end);
    return std::abs(tipTouching(c.point, c.normal, end).z - level) < met ? std::optional(c)
                                                                         : std::nullopt;
}

namespace {

/// X of passes across, each as far from the last as the ridge allows at all angles.
std::vector<double> spreadAlong(const NeckBack& back, double from, double to, double r,
                                double scallop) {
    constexpr double widest = 6;
    std::vector<double> xs{from};
    while (xs.back() < to - 1e-9) {
        const NeckBack::Slice here = back.slice(xs.back());
        const auto fits = [&](double x) {
            const NeckBack::Slice there = back.slice(x);
            for (double a = -1.5; a <= 1.51; a += 0.25) {
                if (ridge(contactAt(here, a), contactAt(there, a), r) > scallop) {
                    return false;
                }
            }
            return true;
        };
        double low = xs.back() + 0.02;
        double high = std::min(to, xs.back() + widest);
        for (int i = 0; i < 12 && !fits(high); ++i) {
            const double middle = (low + high) / 2;
            (fits(middle) ? low : high) = middle;
        }
        xs.push_back(fits(high) ? high : low);
    }
    return xs;
}

/// Between passes on the head's plane: a level end covers its own width on a level plane; on a
/// tilted one it touches with its rim, whose curvature across the slope is the torus's outer one.
double planeStep(const EndShape& end, double scallop, double slope, bool across) {
    const double round = std::sqrt(8 * scallop * end.rounding);
    if (slope == 0) {
        return round + 1.8 * end.flat;
    }
    const double sine = std::abs(slope) / std::sqrt(1 + slope * slope);
    return across ? round
                  : std::min(round + 1.8 * end.flat,
                             std::sqrt(8 * scallop * (end.rounding + end.flat / sine)));
}

} // namespace

std::vector<FinishStretch> finishLines(const NeckPart& part, const Bit& bit, double scallop,
                                       FinishWay way, FinishShare share) {
    const NeckBack& back = part.back();
    const NeckOutline& o = part.outline();
    const EndShape end = EndShape::of(bit);
    const double r = end.rounding;
    const double asked = 0.9 * scallop;
    const bool across = way == FinishWay::across;
    std::vector<FinishStretch> out;
    const auto add = [&](double from, double to, bool hollow) {
        const bool wanted =
            share.of == FinishShare::Of::all || hollow == (share.of == FinishShare::Of::rest);
        if (to <= from || !wanted) {
            return;
        }
        out.push_back({from, to, {}, false, hollow});
        out.back().lines = across ? spreadAlong(back, from, to, r, asked)
                                  : spread(slicesFor(back, from, to, (to - from) / 8), r, asked);
        if (way == FinishWay::split && !hollow) { // the feet of a transition's flanks rise
            out.back().levels =
                spreadLevels(slicesFor(back, from, to, (to - from) / 8), end, asked);
        }
    };
    const double keep = share.keepOff;
    if (share.of != FinishShare::Of::rest) {
        FinishStretch head{o.tip() - bit.radius(), back.headFrom() + overlap, {}, true, false};
        const auto box = part.boundingBox();
        const double step = planeStep(end, asked, back.headSlope(), across);
        const double first = across ? head.from : box[0].y - pastEdge;
        const double last = across ? head.to + step : box[1].y + pastEdge + step;
        for (double v = first; v < last; v += step) {
            head.lines.push_back(across ? std::min(v, head.to) : v);
        }
        out.push_back(std::move(head));
    }
    add(back.headFrom() - overlap, back.headTo() + keep + overlap, true);
    add(back.headTo() + keep - overlap, back.heelFrom() - keep + overlap, false);
    add(back.heelFrom() - keep - overlap, back.heelTo() + overlap, true);
    add(back.heelTo() - overlap, o.end() + pastEdge, false);
    return out;
}

double finishLength(const NeckPart& part, const std::vector<FinishStretch>& stretches,
                    FinishWay way) {
    double sum = 0;
    for (const FinishStretch& s : stretches) {
        const double x = (s.from + s.to) / 2;
        const auto wood = part.outline().across(std::min(x, part.outline().end() - 1));
        const double round = wood[1] - wood[0] + part.back().slice(x).spine();
        const auto lines =
            static_cast<double>(std::count_if(s.lines.begin(), s.lines.end(), [&](double line) {
                return s.levels.empty() || shallowEnough(contactAt(part.back().slice(x), line));
            }));
        sum += lines * (way == FinishWay::across ? round : s.to - s.from) +
               2 * static_cast<double>(s.levels.size()) * (s.to - s.from);
    }
    return sum;
}

namespace {

/// The greatest curvature of a section where it is hollow, 1/mm: a traced one may be.
double hollowAcross(const NeckBack::Slice& s) {
    constexpr double between = 0.03;
    double most = 0;
    for (double a = -1.4; a < 1.4; a += between) {
        const BackContact p = contactAt(s, a);
        const BackContact q = contactAt(s, a + between);
        const Vec2 way{q.point.y - p.point.y, q.point.z - p.point.z};
        const double turn = p.normal.y * q.normal.z - p.normal.z * q.normal.y; // convex: negative
        const double l = wren::length(way);
        if (l > 1e-6) {
            most = std::max(most, turn / l);
        }
    }
    return most;
}

} // namespace

double tightestHollow(const NeckPart& part, double from, double to) {
    const NeckBack& back = part.back();
    double most = 0;
    for (double x = from; x < to; x += 1) {
        for (double u : {-0.97, -0.8, -0.5, 0.0, 0.5, 0.8, 0.97}) {
            most = std::max(most, back.curvatureAlong(u, x));
        }
        most = std::max(most, hollowAcross(back.slice(x)));
    }
    return most > 0 ? 1 / most : std::numeric_limits<double>::infinity();
}

bool rollsIn(const Bit& bit, double hollow) {
    const EndShape end = EndShape::of(bit);
    return end.rounding <= 0.95 * hollow && end.flat * end.flat / (2 * hollow) <= finishChord;
}

double reachBelow(const NeckPart& part, const Bit& bit) {
    const NeckBack& back = part.back();
    const EndShape end = EndShape::of(bit);
    double lowest = 0;
    for (double x = back.headTo(); x < back.heelFrom(); x += 10) {
        const NeckBack::Slice s = back.slice(x);
        for (double a : {-quarter, quarter}) {
            const BackContact c = contactAt(s, a * 0.9999);
            lowest = std::min(lowest, tipTouching(c.point, c.normal, end).z);
        }
    }
    return -lowest;
}

} // namespace wren
