#include "part/neck_part.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren {
namespace {

constexpr double beyond = 2;     ///< an open pocket's box reaches this far outside the wood
constexpr double wellBeyond = 8; ///< and so far that no bit's roundness stays in its corners
constexpr double cleanUp = 0.5;  ///< of blank over a carved face's crown

} // namespace

std::array<Vec2, 4> NeckPocket::corners() const {
    return {out(box[0]), out({box[0].x, box[1].y}), out(box[1]), out({box[1].x, box[0].y})};
}

std::array<double, 2> NeckPocket::reach() const {
    std::array<double, 2> x{1e9, -1e9};
    for (Vec2 c : corners()) {
        x = {std::min(x[0], c.x), std::max(x[1], c.x)};
    }
    return x;
}

double NeckPocket::bottomAt(double x) const {
    if (run.empty()) {
        return floor;
    }
    const auto after =
        std::upper_bound(run.begin(), run.end(), x, [](double at, Vec2 p) { return at < p.x; });
    if (after == run.begin() || after == run.end()) {
        return after == run.begin() ? run.front().y : run.back().y;
    }
    const Vec2 a = *(after - 1);
    return a.y + (after->y - a.y) * (x - a.x) / (after->x - a.x);
}

double NeckPocket::floorAt(Vec2 instrument) const {
    const Vec2 p = own(instrument);
    if (!round) {
        return bottomAt(p.x);
    }
    const double r = width() / 2;
    const double off = std::min(std::abs(p.y - middle().y), r);
    // Its ends are rounded like its sides.
    const double inX = std::max({box[0].x + r - p.x, p.x - (box[1].x - r), 0.0});
    const double d = std::min(r, std::hypot(off, inX));
    return bottomAt(p.x) + r - std::sqrt(r * r - d * d);
}

NeckPart::NeckPart(const Neck& neck, const Fretboard& board)
    : neck_(neck), board_(board), outline_(neck, board), back_(neck, board, outline_),
      tuners_(tunerPlaces(neck, board, outline_)) {
    for (double x = outline_.tip(); x <= outline_.end(); x += 1) {
        const NeckBack::Slice s = back_.slice(x);
        const auto wood = outline_.across(x);
        if (wood[0] <= wood[1]) {
            deepest_ = std::max(deepest_, s.depth(std::clamp(s.centre(), wood[0], wood[1])));
        }
    }
    if (neck_.fretFace == FretFace::carved) {
        makeCarved();
    }
    makePockets();
    makeHoles();
}

void NeckPart::makeCarved() {
    Fretboard face = board_;
    face.end = BoardEnd::straight;
    face.endSlant = 0;
    face.nutShelf = 0; // the nut stands on the glue plane or in its slot
    face.pastLastFret += outline_.end() - neck_.heelPast - Fan(face).endOnCentre();
    carved_.emplace(face);
}

double NeckPart::onCarved(Vec2 at) const {
    if (!carved_) {
        return -1e9;
    }
    const ContourPiece& wall = carved_->outline()[3];
    const Vec2 low = wall.from.y < wall.to.y ? wall.from : wall.to;
    const Vec2 high = wall.from.y < wall.to.y ? wall.to : wall.from;
    const double past = neck_.heelPast > 0 ? outline_.end() - neck_.heelPast - at.x : 1e9;
    return std::min(past, cross(at - low, high - low) / wren::length(high - low));
}

double NeckPart::blankTop() const {
    return carved_ ? carved_->design().thickness + cleanUp : 0;
}

double NeckPart::frontAt(Vec2 at) const {
    return onCarved(at) > 0 ? carved_->face(at.x, at.y) : face(at.x);
}

double NeckPart::hollowLength() const {
    const Headstock& h = neck_.head;
    if (h.kind == HeadKind::tilted) {
        return 0;
    }
    return std::sqrt(std::max(0.0, 2 * h.curve * h.drop - h.drop * h.drop));
}

void NeckPart::makeRodPockets() {
    const TrussRod& rod = neck_.rod;
    const RodPlace p = rodPlace(rod);
    const RodRoom room(rod, back_);
    const bool back = rod.from == RodFrom::back;
    const bool wide = rod.adjusterLength > 0 &&
                      (rod.adjusterWidth > rod.width || (!back && rod.adjusterDepth > rod.depth));
    NeckPocket slot = along(NeckPocketKind::rod, p.from, p.to, 0, rod.width, rod.depth);
    slot.round = rod.floor == RodFloor::round;
    slot.fromBack = back;
    if (back) {
        slot.floor = -rod.cover;
    } else if (rod.run == RodRun::follows) {
        constexpr double pitch = 8; // the shaft bows far less than 0.001 mm over that
        const int n = std::max(1, static_cast<int>(slot.length() / pitch));
        for (int i = 0; i <= n; ++i) {
            const double x = slot.box[0].x + slot.length() * i / n;
            slot.run.push_back({x, -room.floorAt(x)});
            slot.floor = std::min(slot.floor, slot.run.back().y);
        }
    }
    pockets_.push_back(slot);
    if (wide) {
        const double deep =
            std::max({rod.adjusterDepth, room.floorAt(p.adjusterFrom), room.floorAt(p.adjusterTo)});
        NeckPocket end = along(NeckPocketKind::adjuster, p.adjusterFrom, p.adjusterTo, 0,
                               std::max(rod.width, rod.adjusterWidth), back ? rod.cover : deep);
        end.fromBack = back;
        pockets_.push_back(end);
    }
}

const char* wordOf(NeckPocketKind kind) {
    switch (kind) {
    case NeckPocketKind::rod:
        return "rod";
    case NeckPocketKind::adjuster:
        return "adjuster";
    case NeckPocketKind::carbon:
        return "carbon";
    case NeckPocketKind::ledge:
        return "ledge";
    case NeckPocketKind::nut:
        return "nut";
    }
    return "";
}

NeckPocket NeckPart::along(NeckPocketKind kind, double from, double to, double y, double width,
                           double depth) const {
    if (to >= outline_.end()) {
        to = outline_.end() + beyond;
    }
    return {kind, {Vec2{from, y - width / 2}, Vec2{to, y + width / 2}}, -depth};
}

void NeckPart::makePockets() {
    const TrussRod& rod = neck_.rod;
    if (rod.from != RodFrom::none) {
        makeRodPockets();
        for (double side : {-1.0, 1.0}) {
            if (rod.carbonWidth > 0) {
                pockets_.push_back(along(NeckPocketKind::carbon, rod.carbonStart,
                                         rod.carbonStart + rod.carbonLength, side * rod.carbonOff,
                                         rod.carbonWidth, rod.carbonDepth));
            }
        }
    }
    makeNutPockets();
}

void NeckPart::makeNutPockets() {
    const Fan fan(carved_ ? carved_->design() : board_); // a carved face has no ledge of its own
    const FretLine front = fan.parallelTo(fan.share(0), -fan.behind());
    const Vec2 low = front.bass.y < front.treble.y ? front.bass : front.treble;
    const Vec2 high = front.bass.y < front.treble.y ? front.treble : front.bass;
    const Vec2 across = (high - low) * (1 / length(high - low));
    NeckPocket nut{NeckPocketKind::nut, {}, -neck_.nutSlot};
    nut.way = {across.y, -across.x};
    const Vec2 a = nut.own(low);
    const Vec2 b = nut.own(high);
    if (carved_) {
        NeckPocket ledge = nut;
        ledge.kind = NeckPocketKind::ledge;
        ledge.floor = 0;
        ledge.mouth = blankTop();
        // Back to where the head's face has fallen away, all across.
        const double back = a.x - nut.own({outline_.headStart(), 0}).x +
                            std::abs(nut.way.y) * (b.y - a.y) + wellBeyond;
        ledge.box = {Vec2{a.x - back, a.y - wellBeyond}, Vec2{a.x, b.y + wellBeyond}};
        pockets_.push_back(ledge);
        if (neck_.heelPast > 0) { // beyond the carved face the wood is as a board would leave it
            const double end = outline_.end();
            const auto wood = outline_.across(end - neck_.heelPast);
            ledge.way = {1, 0};
            ledge.box = {Vec2{end - neck_.heelPast, wood[0] - wellBeyond},
                         Vec2{end + wellBeyond, wood[1] + wellBeyond}};
            pockets_.push_back(ledge);
        }
    }
    if (neck_.nutSlot > 0) {
        // A nut that stands askew may reach where the head already widens: out of the wood there,
        // by what a bit's own radius leaves round.
        const auto clearOf = [&](double y, double way) {
            const auto inWood = [&](double x) {
                const Vec2 p = nut.out({x, y - way * (beyond - 0.05)});
                const std::array<double, 2> wood = outline_.exactAcross(p.x);
                return p.y > wood[0] && p.y < wood[1];
            };
            for (double gone = 0;
                 gone < wellBeyond && (inWood(a.x) || inWood(a.x - neck_.nutThickness));
                 gone += 0.5) {
                y += way * 0.5;
            }
            return y;
        };
        nut.box = {Vec2{a.x - neck_.nutThickness, clearOf(a.y - beyond, -1)},
                   Vec2{a.x, clearOf(b.y + beyond, 1)}};
        pockets_.push_back(nut);
    }
}

std::array<Vec3, 2> NeckPart::boundingBox() const {
    double low = 0;
    double high = 0;
    for (Vec2 p : outline_.points()) {
        low = std::min(low, p.y);
        high = std::max(high, p.y);
    }
    return {Vec3{outline_.tip(), low, -deepest_},
            Vec3{outline_.end(), high, carved_ ? carved_->design().thickness : 0}};
}

double NeckPart::sectionArea(double x) const {
    const auto wood = outline_.across(x);
    if (wood[0] >= wood[1]) {
        return 0;
    }
    const NeckBack::Slice s = back_.slice(x);
    const double front = face(x);
    // Over the section's angle, where the steep edges are smooth: dy = w cos a da.
    const auto angleAt = [&](double y) {
        return std::asin(std::clamp((y - s.centre()) / s.halfWidth(), -1.0, 1.0));
    };
    const double a0 = angleAt(wood[0]);
    const double a1 = angleAt(wood[1]);
    constexpr int n = 64; // Simpson
    double area = 0;
    for (int i = 0; i <= n; ++i) {
        const double a = a0 + (a1 - a0) * i / n;
        const double f = (front - s.touch(a).point.z) * s.halfWidth() * std::cos(a);
        area += f * (i == 0 || i == n ? 1 : (i % 2 ? 4 : 2));
    }
    area *= (a1 - a0) / n / 3;
    // Beyond the section's own width the back is level across.
    const double past = std::max(0.0, s.centre() - s.halfWidth() - wood[0]) +
                        std::max(0.0, wood[1] - s.centre() - s.halfWidth());
    area += past * (front + s.depth(wood[0]));
    if (onCarved({x, (wood[0] + wood[1]) / 2}) > 0) {
        // The arch over the glue plane, Simpson's rule again; a slanting nut cuts it whole.
        double arch = 0;
        for (int i = 0; i <= n; ++i) {
            const double y = wood[0] + (wood[1] - wood[0]) * i / n;
            arch += carved_->face(x, y) * (i == 0 || i == n ? 1 : (i % 2 ? 4 : 2));
        }
        area += arch * (wood[1] - wood[0]) / n / 3;
    }
    // Pockets, from one of their sides to the next: the deepest of those that overlap.
    std::vector<double> sides{wood[0], wood[1]};
    bool round = false;
    for (const NeckPocket& p : pockets_) {
        const std::array<double, 2> reach = p.reach();
        if (p.fromBack || x < reach[0] || x > reach[1]) {
            continue;
        }
        // Where the line X = x meets its four sides.
        const std::array<Vec2, 4> corners = p.corners();
        for (std::size_t k = 0; k < 4; ++k) {
            const Vec2 a = corners[k];
            const Vec2 b = corners[(k + 1) % 4];
            if ((a.x - x) * (b.x - x) <= 0 && a.x != b.x) {
                const double y = a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x);
                sides.push_back(std::clamp(y, wood[0], wood[1]));
            }
        }
        round = round || p.round;
    }
    std::sort(sides.begin(), sides.end());
    double taken = 0;
    const int strips = round ? 100 : 1; // level floors need one
    for (std::size_t k = 0; k + 1 < sides.size(); ++k) {
        const double w = (sides[k + 1] - sides[k]) / strips;
        for (int i = 0; i < strips && w > 0; ++i) {
            const Vec2 at{x, sides[k] + (i + 0.5) * w};
            double floor = front;
            for (const NeckPocket& pocket : pockets_) {
                if (!pocket.fromBack && pocket.holds(at)) {
                    floor = std::min(floor, pocket.floorAt(at));
                }
            }
            taken += (front - floor) * w;
        }
    }
    return area - taken;
}

double NeckPart::volume() const {
    // Gauss's two points in pieces of a millimetre.
    constexpr double piece = 1;
    double sum = 0;
    for (double x = outline_.tip(); x < outline_.end(); x += piece) {
        const double h = std::min(piece, outline_.end() - x);
        const double off = h / 2 / std::sqrt(3.0);
        sum += (sectionArea(x + h / 2 - off) + sectionArea(x + h / 2 + off)) * h / 2;
    }
    if (carved_) {
        sum -= carved_->cutOut();
    }
    for (const Hole& hole : holes_) {
        if (hole.byHand) {
            continue;
        }
        const double area = std::numbers::pi * hole.diameter * hole.diameter / 4;
        sum -= area * std::abs(hole.mouth - hole.floor);
    }
    return sum;
}

std::vector<Vec2> NeckPart::section(double x, int n) const {
    std::vector<Vec2> out;
    const auto wood = outline_.across(x);
    if (wood[0] >= wood[1]) {
        return out;
    }
    const NeckBack::Slice s = back_.slice(x);
    const auto angleAt = [&](double y) {
        return std::asin(std::clamp((y - s.centre()) / s.halfWidth(), -1.0, 1.0));
    };
    const double a0 = angleAt(wood[0]);
    const double a1 = angleAt(wood[1]);
    for (int i = 0; i < n; ++i) {
        const Vec3 p = s.touch(a0 + (a1 - a0) * i / (n - 1)).point;
        out.push_back({p.y, p.z});
    }
    // Beyond the section's own width, as on a head, the back is level across.
    if (wood[0] < out.front().x - 1e-9) {
        out.insert(out.begin(), {wood[0], -s.depth(wood[0])});
    }
    if (wood[1] > out.back().x + 1e-9) {
        out.push_back({wood[1], -s.depth(wood[1])});
    }
    return out;
}

} // namespace wren
