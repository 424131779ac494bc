#include "design/markers.h"

#include "design/fan.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>
#include <optional>

#include <fmt/format.h>

namespace wren {
namespace {

// Common practice, no source.
constexpr double woodToSlot = 0.5; ///< between a marker and a slot's side
constexpr double woodToEdge = 0.8; ///< between a marker and the board's edge
constexpr double woodBelow = 1.0;  ///< under a marker's floor

Vec2 turned(Vec2 v, double angle) {
    return {v.x * std::cos(angle) - v.y * std::sin(angle),
            v.x * std::sin(angle) + v.y * std::cos(angle)};
}

/// The line a fret's markers stand on, bass edge to treble edge.
FretLine lineOfMarkers(const Fretboard& b, const Fan& fan, int fret) {
    const FretLine at = fan.line(fret);
    if (b.frets == 0) {
        return at;
    }
    const FretLine before = fan.line(fret - 1);
    return {(at.bass + before.bass) * 0.5, (at.treble + before.treble) * 0.5};
}

/// In the frets' order, of each the first.
std::map<int, const FretMark*> byFret(const std::vector<FretMark>& marks) {
    std::map<int, const FretMark*> out;
    for (const FretMark& m : marks) {
        out.emplace(m.fret, &m);
    }
    return out;
}

bool hasMarker(const Fretboard& b, int fret) {
    return b.frets == 0 || fret <= b.frets + 1;
}

/// Straight side, then a half round, then back: the open shape of a wrap.
Contour wrapOutline(const Markers& m, const MarkerPlace& place, double inset, double beyond) {
    const double half = m.size / 2 - inset;
    if (half <= 0) {
        return {};
    }
    const Vec2 u = place.along;
    const Vec2 v{-u.y, u.x};
    const Vec2 foot = place.at - u * beyond;
    const Vec2 centre = place.at + u * (m.reach - m.size / 2);
    return {{ContourPiece::Kind::line, foot + v * half, centre + v * half, {}},
            {ContourPiece::Kind::arcClockwise, centre + v * half, centre - v * half, centre},
            {ContourPiece::Kind::line, centre - v * half, foot - v * half, {}},
            {ContourPiece::Kind::line, foot - v * half, foot + v * half, {}}};
}

Contour leafOutline(const Markers& m, const MarkerPlace& place, double inset) {
    const double half = m.size / 2;
    const double tipAt = m.reach / 2 - m.tip;
    // The side's arc and the tip's touch from inside: their centres stand R - t apart.
    const double side = (tipAt * tipAt + half * half - m.tip * m.tip) / (2 * (half - m.tip));
    const double r = side - inset;
    if (inset >= half) {
        return {};
    }
    const Vec2 u = place.along;
    const Vec2 v{-u.y, u.x};
    const Vec2 low = place.at - v * (side - half); // centre of the +v side's arc
    const Vec2 high = place.at + v * (side - half);
    if (inset >= m.tip) {
        const double reach = std::sqrt(std::max(0.0, r * r - (side - half) * (side - half)));
        const Vec2 a = place.at - u * reach;
        const Vec2 b = place.at + u * reach;
        return {{ContourPiece::Kind::arcClockwise, a, b, low},
                {ContourPiece::Kind::arcClockwise, b, a, high}};
    }
    const auto touch = [&](Vec2 centre, double end) {
        const Vec2 tip = place.at + u * (end * tipAt);
        return centre + (tip - centre) * (r / length(tip - centre));
    };
    const Vec2 left = place.at - u * tipAt;
    const Vec2 right = place.at + u * tipAt;
    return {{ContourPiece::Kind::arcClockwise, touch(low, -1), touch(low, 1), low},
            {ContourPiece::Kind::arcClockwise, touch(low, 1), touch(high, 1), right},
            {ContourPiece::Kind::arcClockwise, touch(high, 1), touch(high, -1), high},
            {ContourPiece::Kind::arcClockwise, touch(high, -1), touch(low, -1), left}};
}

Contour dotOutline(const Markers& m, const MarkerPlace& place, double inset) {
    const double r = m.size / 2 - inset;
    if (r <= 0) {
        return {};
    }
    const Vec2 a = place.at - place.along * r;
    const Vec2 b = place.at + place.along * r;
    return {{ContourPiece::Kind::arcClockwise, a, b, place.at},
            {ContourPiece::Kind::arcClockwise, b, a, place.at}};
}

std::vector<Vec2> pointsOn(const Contour& contour) {
    std::vector<Vec2> points;
    for (const ContourPiece& piece : contour) {
        for (int i = 0; i < 12; ++i) {
            points.push_back(piece.at(piece.length() * i / 12));
        }
    }
    return points;
}

class MarkerJudge {
public:
    explicit MarkerJudge(const Fretboard& b) : b_(b), fan_(b), face_(faceOf(b)) {}

    Findings judge() {
        if (!judgeShape()) {
            return std::move(out_);
        }
        std::vector<Vec2> before;
        int beforeFret = 0;
        for (const MarkerPlace& place : markerPlaces(b_)) {
            const std::vector<Vec2> points = pointsOn(markerOutline(b_.markers, place));
            if (!judgeOnBoard(place, points) || !judgeSlots(place, points)) {
                break;
            }
            if (beforeFret > 0 && !judgeApart(place, beforeFret, points, before)) {
                break;
            }
            before = points;
            beforeFret = place.fret;
        }
        judgeDepth();
        judgeLists();
        return std::move(out_);
    }

private:
    Finding& say(Weight weight, std::string code, std::string message, double value, double limit) {
        return sayOfBoard(out_, weight, std::move(code), std::move(message), value, limit);
    }

    /// Where it is, and which of the list.
    void at(Finding& f, const MarkerPlace& place) const {
        const auto& all = b_.markers.face;
        const auto it = std::find_if(all.begin(), all.end(),
                                     [&](const FretMark& m) { return m.fret == place.fret; });
        f.atX = place.at.x;
        f.feature = {FeatureKind::marker, static_cast<std::size_t>(it - all.begin())};
    }

    bool judgeShape() {
        const Markers& m = b_.markers;
        if (m.face.empty() || m.shape == MarkerShape::dot) {
            return true;
        }
        if (m.reach <= m.size) {
            say(Weight::stop, "marker-shape",
                fmt::format("The markers are {:.2f} mm long and {:.2f} mm wide; they must be "
                            "longer than wide.",
                            m.reach, m.size),
                m.reach, m.size)
                .overridable = false;
            return false;
        }
        if (m.shape == MarkerShape::leaf && m.tip >= m.size / 2 - 1e-6) {
            say(Weight::stop, "marker-shape",
                fmt::format("A tip of {:.2f} mm radius does not fit a leaf {:.2f} mm wide; under "
                            "{:.2f} mm was expected.",
                            m.tip, m.size, m.size / 2),
                m.tip, m.size / 2)
                .overridable = false;
            return false;
        }
        return true;
    }

    bool judgeOnBoard(const MarkerPlace& place, const std::vector<Vec2>& points) {
        const FretLine end = fan_.endLine();
        double room = std::numeric_limits<double>::infinity();
        for (Vec2 p : points) {
            const Vec2 along = end.treble - end.bass;
            const double toEnd = std::abs(cross(along, p - end.bass)) / length(along);
            const bool past = cross(along, p - end.bass) * fan_.bassSide() > 0;
            room = std::min(room, past ? -toEnd : toEnd);
            if (b_.markers.shape != MarkerShape::wrap) {
                for (int side : {-1, 1}) {
                    const double y = fan_.edgeAt(side, p.x);
                    room = std::min(room, (y - p.y) * (y > 0 ? 1 : -1));
                }
            }
        }
        if (room >= woodToEdge) {
            return true;
        }
        const std::string comes =
            room < 0 ? fmt::format("reaches {:.2f} mm past the board's edge", -room)
                     : fmt::format("comes within {:.2f} mm of the board's edge", room);
        at(say(Weight::stop, "marker-off-board",
               fmt::format("The marker at fret {} {}; {:.1f} mm of wood beside it is the least.",
                           place.fret, comes, woodToEdge),
               room, woodToEdge),
           place);
        return false;
    }

    bool judgeSlots(const MarkerPlace& place, const std::vector<Vec2>& points) {
        double room = std::numeric_limits<double>::infinity();
        for (int n = b_.zeroFret ? 0 : 1; n <= b_.frets; ++n) {
            const FretLine line = fan_.line(n);
            const Vec2 along = line.treble - line.bass;
            double low = std::numeric_limits<double>::infinity();
            double high = -low;
            for (Vec2 p : points) {
                const double d = cross(along, p - line.bass) / length(along);
                low = std::min(low, d);
                high = std::max(high, d);
            }
            room = std::min(room, std::max(low, -high));
        }
        room -= b_.slotWidth / 2;
        if (room >= woodToSlot) {
            return true;
        }
        at(say(Weight::stop, "marker-over-slot",
               fmt::format(
                   "The marker at fret {} {} a fret slot; {:.1f} mm of wood between them is "
                   "the least.",
                   place.fret,
                   room < 0 ? fmt::format("reaches {:.2f} mm into", -room)
                            : fmt::format("comes within {:.2f} mm of", room),
                   woodToSlot),
               room, woodToSlot),
           place);
        return false;
    }

    bool judgeApart(const MarkerPlace& place, int beforeFret, const std::vector<Vec2>& a,
                    const std::vector<Vec2>& b) {
        double least = std::numeric_limits<double>::infinity();
        for (Vec2 p : a) {
            for (Vec2 q : b) {
                least = std::min(least, length(p - q));
            }
        }
        if (place.fret != beforeFret || least >= woodToSlot) {
            return true;
        }
        at(say(Weight::stop, "markers-meet",
               fmt::format(
                   "The two markers at fret {} come within {:.2f} mm of each other; {:.1f} mm "
                   "is the least.",
                   place.fret, least, woodToSlot),
               least, woodToSlot),
           place);
        return false;
    }

    void judgeDepth() {
        if (b_.markers.face.empty()) {
            return;
        }
        double least = b_.thickness;
        double at = 0;
        for (const MarkerPlace& place : markerPlaces(b_)) {
            const double floor = face_.heightAt(place.at.x, place.at.y) - b_.markers.depth;
            if (floor < least) {
                least = floor;
                at = place.at.x;
            }
        }
        if (least < woodBelow) {
            say(least <= 0 ? Weight::stop : Weight::caution, "marker-deep",
                fmt::format("The markers leave {:.2f} mm of wood beneath them; {:.1f} mm or more "
                            "is wanted.",
                            least, woodBelow),
                least, woodBelow)
                .atX = at;
        }
    }

    /// Frets named in a list that the board does not have.
    void judgeLists() {
        for (const std::vector<FretMark>* list : {&b_.markers.face, &b_.markers.side}) {
            for (const auto& [n, mark] : byFret(*list)) {
                const double x = fan_.line(n).middle();
                if (!hasMarker(b_, n) || x > fan_.endOnCentre()) {
                    Finding& f = say(Weight::caution, "marker-without-fret",
                                     fmt::format("A marker is asked for at fret {} but the board "
                                                 "ends before it; it is left out.",
                                                 n),
                                     n, b_.frets);
                    f.atX = fan_.endOnCentre();
                    f.feature = {list == &b_.markers.face ? FeatureKind::marker
                                                          : FeatureKind::sideDot,
                                 static_cast<std::size_t>(mark - list->data())};
                    return;
                }
            }
        }
    }

    const Fretboard& b_;
    Fan fan_;
    ArchedFace face_;
    Findings out_;
};

} // namespace

int markerFretAt(const Fretboard& board, double x) {
    constexpr int most = 36;
    const Fan fan(board);
    const auto off = [&](int fret) {
        return std::abs(lineOfMarkers(board, fan, fret).middle() - x);
    };
    int nearest = 1;
    for (int n = 2; n <= (board.frets > 0 ? board.frets : most); ++n) {
        nearest = off(n) < off(nearest) ? n : nearest;
    }
    return nearest;
}

bool twoAt(const Markers& markers, const FretMark& mark) {
    return mark.count.value_or(mark.fret % 12 == 0 ? markers.atOctave : 1) == 2;
}

std::vector<MarkerPlace> markerPlaces(const Fretboard& b) {
    const Fan fan(b);
    const Markers& m = b.markers;
    std::vector<MarkerPlace> places;
    for (const auto& [n, mark] : byFret(m.face)) {
        const FretLine line = lineOfMarkers(b, fan, n);
        if (!hasMarker(b, n) || line.middle() > fan.endOnCentre()) {
            continue;
        }
        const Vec2 across = (line.treble - line.bass) * (1 / length(line.treble - line.bass));
        const Vec2 middle{line.middle(), 0};
        const bool two = twoAt(m, *mark);
        if (m.shape == MarkerShape::wrap) {
            places.push_back({n, line.bass, across});
            if (two) {
                places.push_back({n, line.treble, across * -1});
            }
            continue;
        }
        const double tilt = m.shape == MarkerShape::leaf ? m.tilt * std::numbers::pi / 180 : 0;
        const Vec2 lies = turned(across, tilt);
        if (two) {
            places.push_back({n, middle - across * (m.spread / 2), lies});
            places.push_back({n, middle + across * (m.spread / 2), lies});
        } else {
            places.push_back({n, middle, lies});
        }
    }
    return places;
}

std::vector<SideDot> sideDots(const Fretboard& b) {
    const Fan fan(b);
    const ArchedFace face = faceOf(b);
    const Markers& m = b.markers;
    const double nut = fan.line(0).bass.x;
    std::vector<SideDot> dots;
    for (const auto& [n, mark] : byFret(m.side)) {
        const FretLine line = lineOfMarkers(b, fan, n);
        if (!hasMarker(b, n) || line.middle() > fan.endOnCentre()) {
            continue;
        }
        const bool two = twoAt(m, *mark);
        for (double shift : two ? std::vector{-m.sideSize, m.sideSize} : std::vector{0.0}) {
            const double x = line.bass.x + shift;
            const double y = fan.edgeAt(-1, x);
            const double z = face.heightAt(x, y) - m.sideBelow;
            dots.push_back({n, x - nut, z, {x, y, z}});
        }
    }
    return dots;
}

Contour markerOutline(const Markers& m, const MarkerPlace& place, double inset, double beyond) {
    switch (m.shape) {
    case MarkerShape::wrap:
        return wrapOutline(m, place, inset, beyond);
    case MarkerShape::leaf:
        return leafOutline(m, place, inset);
    case MarkerShape::dot:
        break;
    }
    return dotOutline(m, place, inset);
}

double tightestRadius(const Markers& m) {
    return m.shape == MarkerShape::leaf ? m.tip : m.size / 2;
}

Findings judgeMarkers(const Fretboard& b) {
    return MarkerJudge(b).judge();
}

} // namespace wren
