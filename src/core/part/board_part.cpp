#include "part/board_part.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();

/// The end of smaller Y first.
std::array<Vec2, 2> byHeight(const FretLine& line) {
    return line.bass.y < line.treble.y ? std::array{line.bass, line.treble}
                                       : std::array{line.treble, line.bass};
}

double distanceToPiece(Vec2 p, const ContourPiece& piece) {
    if (piece.kind == ContourPiece::Kind::line) {
        return distanceToSegment(p, piece.from, piece.to);
    }
    const Vec2 a = piece.from - piece.centre;
    const Vec2 b = piece.to - piece.centre;
    const Vec2 d = p - piece.centre;
    // Arcs of a board's end turn through less than half a circle.
    if (cross(a, d) <= 0 && cross(d, b) <= 0) {
        return std::abs(length(d) - piece.radius());
    }
    return std::min(length(p - piece.from), length(p - piece.to));
}

} // namespace

BoardPart::BoardPart(const Fretboard& board)
    : board_(board), face_(faceOf(board)), floor_(face_.raised(-board.slotDepth)) {
    const Fan fan(board);
    const int bass = fan.bassSide() < 0 ? -1 : 1;
    for (int side : {-1, 1}) {
        const int which = side == bass ? -1 : 1;
        const double at = fan.edgeAt(which, 0);
        edges_[side < 0 ? 0 : 1] = {at, (fan.edgeAt(which, 1000) - at) / 1000};
    }
    makeOutline(fan);
    makeSlots(fan);
    for (const MarkerPlace& place : markerPlaces(board)) {
        const double floor = face(place.at.x, place.at.y) - board.markers.depth;
        double beyond = 0;
        if (board.markers.shape == MarkerShape::wrap) {
            // Where the wrap meets the edge at a slant, one corner of its foot lies further in.
            const Edge& e = edges_[place.at.y < 0 ? 0 : 1];
            const Vec2 way{1, e.slope};
            const double lean = std::abs(dot(place.along, way) / cross(place.along, way));
            beyond = board.markers.size / 2 * lean + 0.5;
        }
        pockets_.push_back({place, floor, beyond, markerOutline(board.markers, place, 0, beyond)});
    }
}

void BoardPart::makeOutline(const Fan& fan) {
    const auto head = byHeight(fan.parallelTo(0, -fan.behind()));
    const auto end = byHeight(fan.endLine());
    using Kind = ContourPiece::Kind;
    outline_ = {{Kind::line, head[1], end[1], {}},
                {Kind::line, end[1], end[0], {}},
                {Kind::line, end[0], head[0], {}},
                {Kind::line, head[0], head[1], {}}};
    low_ = {std::min(head[0].x, head[1].x), std::min(head[0].y, end[0].y)};
    high_ = {std::max(end[0].x, end[1].x), std::max(head[1].y, end[1].y)};
    if (board_.end == BoardEnd::radiused) {
        outline_[1].kind = Kind::arcClockwise;
        outline_[1].centre = {fan.endOnCentre() - board_.endRadius, 0};
        high_.x = std::max(high_.x, fan.endOnCentre());
    }
    if (board_.nutShelf > 0) {
        const auto wall = byHeight(fan.parallelTo(0, board_.nutShelf - fan.behind()));
        shelf_ = NutShelf{wall[0], wall[1], board_.shelfFloor};
    }
}

void BoardPart::makeSlots(const Fan& fan) {
    for (int n = board_.zeroFret ? 0 : 1; n <= board_.frets; ++n) {
        const auto ends = byHeight(fan.line(n));
        FretSlot slot{n, ends[0], ends[1], board_.blindMargin > 0};
        const Vec2 inward = slot.along() * board_.blindMargin;
        slot.low = slot.low + inward;
        slot.high = slot.high - inward;
        slots_.push_back(slot);
    }
}

double BoardPart::edge(int side, double x) const {
    const Edge& e = edges_[side < 0 ? 0 : 1];
    return e.at + e.slope * x;
}

std::optional<std::array<double, 2>> BoardPart::across(double x) const {
    double low = edge(-1, x);
    double high = edge(1, x);
    for (int i : {1, 3}) {
        const ContourPiece& end = outline_[static_cast<std::size_t>(i)];
        if (end.kind == ContourPiece::Kind::arcClockwise) {
            const double dx = x - end.centre.x;
            if (dx < 0) {
                continue; // the arc bounds only what lies beyond its middle
            }
            const double half = std::sqrt(std::max(0.0, end.radius() * end.radius() - dx * dx));
            low = std::max(low, end.centre.y - half);
            high = std::min(high, end.centre.y + half);
            continue;
        }
        // Clockwise travel keeps the board on the right: n . (p - from) >= 0 inside.
        const Vec2 way = end.to - end.from;
        const Vec2 n{way.y, -way.x};
        const double rest = n.x * (x - end.from.x);
        if (std::abs(n.y) < 1e-12 * std::abs(n.x)) {
            if (rest < 0) {
                return std::nullopt;
            }
            continue;
        }
        const double y = end.from.y - rest / n.y;
        (n.y > 0 ? low : high) = n.y > 0 ? std::max(low, y) : std::min(high, y);
    }
    if (low >= high) {
        return std::nullopt;
    }
    return std::array{low, high};
}

double BoardPart::widest() const {
    return high_.y - low_.y;
}

double BoardPart::edgeThickness(double x) const {
    return std::min(face(x, edge(-1, x)), face(x, edge(1, x)));
}

int BoardPart::nearestSlot(Vec2 p) const {
    if (slots_.empty()) {
        return -1;
    }
    // Slots do not cross inside the board, so "past this slot" splits the list in two.
    const auto right = std::partition_point(slots_.begin(), slots_.end(),
                                            [&](const FretSlot& s) { return s.offset(p) > 0; });
    const auto i = static_cast<int>(right - slots_.begin());
    if (i == 0) {
        return 0;
    }
    if (right == slots_.end()) {
        return i - 1;
    }
    return (right - 1)->offset(p) < -right->offset(p) ? i - 1 : i;
}

bool BoardPart::onShelf(Vec2 p) const {
    return shelf_ && cross(shelf_->wallHigh - shelf_->wallLow, p - shelf_->wallLow) > 0;
}

double BoardPart::outsideBy(Vec2 p) const {
    double d = infinity;
    for (const ContourPiece& piece : outline_) {
        d = std::min(d, distanceToPiece(p, piece));
    }
    const auto y = across(p.x);
    const bool inside = y && p.x > low_.x && p.x < high_.x && p.y > (*y)[0] && p.y < (*y)[1];
    return inside ? -d : d;
}

std::array<Vec3, 2> BoardPart::boundingBox() const {
    return {Vec3{low_.x, low_.y, 0}, Vec3{high_.x, high_.y, board_.thickness}};
}

} // namespace wren
