#include "part/body_part.h"

#include "base/error.h"
#include "design/fan.h"
#include "geom/crossing.h"
#include "geom/inset.h"
#include "part/body_shapes.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

constexpr double openBeyond = 16; ///< an open pocket runs so far past the body's edge
constexpr double earOverlap = 5;  ///< an ear's pocket begins so far inside the main one
constexpr double holesMeet = 1;   ///< holes bored from both faces overlap by this
constexpr double leverSlot = 3.4; ///< width of a lever's slot, its length and its screws
constexpr double leverLong = 30;
constexpr double leverScrews = 41.3;

/// Where a piece crosses an X between its ends, the first of them beyond it.
Vec2 crossedAt(const ContourPiece& piece, Vec2 beyond, Vec2 before, double x) {
    if (!piece.isArc()) {
        return beyond + (before - beyond) * ((x - beyond.x) / (before.x - beyond.x));
    }
    const double off = x - piece.centre.x;
    const double up = std::sqrt(std::max(0.0, piece.radius() * piece.radius() - off * off));
    const Vec2 high{x, piece.centre.y + up}, low{x, piece.centre.y - up};
    const Stroke stroke(piece);
    return stroke.distanceTo(high) < stroke.distanceTo(low) ? high : low;
}

/// The part of a clockwise neck outline beyond an X, closed by a line across.
Contour heelOf(const NeckOutline& neck, double from) {
    Contour out;
    for (ContourPiece p : neck.contour()) {
        if (p.from.x < from && p.to.x < from) {
            if (!out.empty()) {
                break; // the headstock follows
            }
            continue;
        }
        const ContourPiece whole = p;
        if (p.from.x < from) {
            p.from = crossedAt(whole, p.to, p.from, from);
        }
        const bool last = p.to.x < from;
        if (last) {
            p.to = crossedAt(whole, p.from, p.to, from);
        }
        out.push_back(p);
        if (last) {
            break;
        }
    }
    out.push_back({Kind::line, out.back().to, out.front().from, {}});
    return out;
}

struct UnitSize {
    double across, along, height;
};

/// Of an invented unit for strings so far apart, its cover included.
UnitSize unitSize(PickupKind kind, double spread) {
    switch (kind) {
    case PickupKind::single:
        return {spread + 33, 19, 18};
    case PickupKind::bar:
        return {spread + 36, 32, 20};
    default:
        return {spread + 19, 38.5, 21};
    }
}

} // namespace

PanelPocket BodyPart::neckPocket(const NeckPart& neck) {
    const BodyPocket& p = body_.pocket;
    const double mouth = mouthAt(outline_, place_.neckEnd) - openBeyond;
    if (mouth <= 0) {
        throw Error(fmt::format("The body reaches up to {:.0f} mm from the nut, over the head; a "
                                "mouth beyond the nut was expected: a shorter body, or a longer "
                                "neck.",
                                mouth + openBeyond));
    }
    // A neck that came out longer or shorter ends elsewhere: its nut and the bridge stay.
    const double longer = p.heelEnd() ? place_.neckEnd - neck.outline().end() : 0;
    heel_ = movedBy(heelOf(neck.outline(), mouth - longer), {longer, 0});
    if (p.measuredWidth) {
        const double more = (*p.measuredWidth - heelWidth(neck.outline())) / 2;
        for (ContourPiece& c : heel_) {
            for (Vec2* q : {&c.from, &c.to, &c.centre}) {
                q->y += q->y > 0 ? more : -more;
            }
        }
    }
    // A heel that leans reaches further with its lower edge than with its upper one.
    heel_ = movedBy(heel_, {std::max(0.0, p.depth * std::sin(place_.angle)), 0});
    const double room = p.clearance + 2 * body_.film;
    std::vector<Contour> borders{counterClockwise(grown(heel_, room))};
    if (p.relief == CornerRelief::dogbone) {
        // A hair wider than the bit, so that it turns in them.
        borders[0] = withDogbones(borders[0], p.corner + 0.1, room + 1e-6);
    } else {
        borders = openedBy(borders, p.corner);
    }
    PanelPocket out;
    out.what = "neck pocket";
    out.cut = "neck-pocket";
    out.borders = borders;
    out.feature = {FeatureKind::neckPocket};
    out.floor = -p.depth;
    out.slope = std::tan(p.floorAngle() * std::numbers::pi / 180);
    out.levelAt = place_.neckEnd;
    return out;
}

void BodyPart::addPickups(Panel& body) {
    for (std::size_t i = 0; i < body_.pickups.size(); ++i) {
        if (body_.pickups[i].kind != PickupKind::none) {
            addPickup(body, i);
        }
    }
}

void BodyPart::addPickup(Panel& body, std::size_t i) {
    const Pickup& p = body_.pickups[i];
    const Fan fan(board_);
    const double x = place_.bridge - p.fromBridge;
    const double inNeck = place_.toInstrument({x, 0, 0}).x;
    const double share = inNeck / ((fan.bassString(1).x + fan.trebleString(1).x) / 2);
    const Vec2 bass = fan.bassString(share);
    const Vec2 treble = fan.trebleString(share);
    const double fanned = std::atan2(treble.x - bass.x, std::abs(treble.y - bass.y));
    PickupPlace place;
    place.feature = {FeatureKind::pickup, i};
    place.what = nameOf(body_, place.feature);
    place.middle = {x, (bass.y + treble.y) / 2};
    place.angle = p.angle * std::numbers::pi / 180 + fanned;
    const UnitSize usual = unitSize(p.kind, length(treble - bass));
    place.across = p.across.value_or(std::round(2 * usual.across) / 2);
    place.along = p.along.value_or(usual.along);
    place.height = p.height.value_or(usual.height);
    const double turn = place_.side * place.angle;
    const auto box = [&](double off, double along, double across) {
        const Vec2 way{-std::sin(turn), std::cos(turn)};
        return shapeOutline(boxShape(place.middle + way * off, along, across, p.corner, turn));
    };
    PanelPocket main = pocketOf(place.what, box(0, place.along, place.across), -p.depth, 0);
    main.cut = "pickups";
    main.feature = {FeatureKind::pickup, i};
    main.visible = p.mount == PickupMount::front;
    if (p.mount == PickupMount::back) { // up through the face, its unit held from behind
        main.through = true;
        main.fromBack = true;
        main.floor = 0;
        main.mouth = body.bottom;
    }
    body.pockets.push_back(main);
    if (p.earWidth > 0 && p.earLength > 0 && p.mount != PickupMount::back) {
        const double reach = p.earLength + earOverlap;
        for (double end : {-1.0, 1.0}) {
            const double off = end * (place.across / 2 + p.earLength - reach / 2);
            PanelPocket ear =
                pocketOf(place.what + " ears", box(off, p.earWidth, reach), -p.earDepth, 0);
            ear.cut = "pickups";
            ear.feature = main.feature;
            ear.visible = main.visible;
            body.pockets.push_back(ear);
        }
    }
    pickups_.push_back(place);
}

void BodyPart::addBridge(Panel& body) {
    const Bridge& b = body_.bridge;
    const double saddles = place_.bridge + body_.bridgeAt();
    const double under = body.bottom;
    if (b.kind == BridgeKind::throughBody) {
        addStringHoles(body);
    }
    if (b.kind == BridgeKind::singles) {
        addSingles(body);
        return;
    }
    if (b.kind == BridgeKind::posts) {
        for (double side : {-1.0, 1.0}) {
            addHole(body, {FeatureKind::bridge},
                    {"post",
                     {saddles, side * b.postSpread / 2},
                     b.postSize,
                     0,
                     std::max(under, -b.postDepth),
                     false,
                     b.postDepth >= -under});
        }
        return;
    }
    for (int i = 0; i < b.screws; ++i) {
        const double y = b.screws > 1 ? b.screwSpread * (double(i) / (b.screws - 1) - 0.5) : 0;
        body.holes.push_back({"bridge screw",
                              {saddles + b.screwAhead, y},
                              b.screwPilot,
                              0,
                              -b.screwDepth,
                              false,
                              false});
        body.holes.back().feature = {FeatureKind::bridge};
    }
}

void BodyPart::addStringHoles(Panel& body) {
    const Bridge& b = body_.bridge;
    const Fan fan(board_);
    const std::vector<double> places = stringCentres(board_, board_.bridgeSpread);
    for (double y : places) {
        const double across = 2 * y / board_.bridgeSpread;
        const Vec2 saddle = fan.string(across, 1);
        const Vec2 at{saddleX(saddle) + body_.bridgeAt() + b.holesBehind, saddle.y};
        const bool ferrule = b.ferruleSize > 0;
        body.holes.push_back({"string", at, b.holeSize, 0,
                              ferrule ? body.bottom + b.ferruleDepth - holesMeet : body.bottom,
                              false, !ferrule});
        body.holes.back().feature = {FeatureKind::string};
        if (ferrule) {
            addHole(body, {FeatureKind::ferrule},
                    {"ferrule", at, b.ferruleSize, body.bottom, body.bottom + b.ferruleDepth, true,
                     false});
        }
    }
}

void BodyPart::addSingles(Panel& body) {
    const Bridge& b = body_.bridge;
    const Fan fan(board_);
    for (double y : stringCentres(board_, board_.bridgeSpread)) {
        const Vec2 saddle = fan.string(2 * y / board_.bridgeSpread, 1);
        const double x = saddleX(saddle) + body_.bridgeAt() + b.screwAhead;
        for (int i = 0; i < b.screws; ++i) {
            body.holes.push_back({"bridge screw",
                                  {x + i * b.singlePitch, saddle.y},
                                  b.screwPilot,
                                  0,
                                  -b.screwDepth,
                                  false,
                                  false});
            body.holes.back().feature = {FeatureKind::bridge};
        }
    }
}

Contour BodyPart::hollow() const {
    return body_.cavity.nodes.empty() ? Contour{} : place_.laid(shapeOutline(body_.cavity.nodes));
}

double BodyPart::cavityFloor() const {
    const Contour hole = hollow();
    return -body_.cavity.wood - (hole.empty() ? 0 : fallOver(hole));
}

void BodyPart::addCavity(Panel& body) {
    const Cavity& c = body_.cavity;
    const Contour hole = hollow();
    if (hole.empty()) {
        return;
    }
    const double shelf = body.bottom + (c.ledge > 0 ? c.lid : 0);
    if (c.ledge > 0) {
        PanelPocket ledge = pocketOf("ledge", grown(hole, c.ledge), shelf, body.bottom);
        ledge.fromBack = true;
        ledge.feature = {FeatureKind::ledge};
        body.pockets.push_back(ledge);
        for (Vec2 at : placesEvenly(grown(hole, c.ledge / 2), c.fixings)) {
            if (c.fixing == LidFixing::magnets) {
                PanelPocket magnet = pocketOf("magnet", circleContour(at, c.fixingSize),
                                              shelf + c.fixingDepth, shelf);
                magnet.cut = "magnets";
                magnet.fromBack = true;
                magnet.visible = false;
                magnet.feature = {FeatureKind::magnet};
                body.pockets.push_back(magnet);
            } else {
                body.holes.push_back(
                    {"lid screw", at, c.fixingSize, shelf, shelf + c.fixingDepth, true, false});
                body.holes.back().feature = {FeatureKind::lidScrew};
            }
        }
    }
    PanelPocket cavity = pocketOf("cavity", hole, cavityFloor(), shelf);
    cavity.fromBack = true;
    cavity.visible = false;
    cavity.feature = {FeatureKind::cavity};
    body.pockets.push_back(cavity);
}

double BodyPart::seatFloor(std::size_t control) const {
    const Control& c = body_.controls[control];
    return -c.seatWood - fallOver(circleContour(place_.at(c.at), c.seat));
}

void BodyPart::addControls(Panel& body) {
    const bool hollowed = !body_.cavity.nodes.empty();
    const double floor = hollowed ? cavityFloor() : body.bottom;
    for (std::size_t i = 0; i < body_.controls.size(); ++i) {
        const Control& c = body_.controls[i];
        const FeatureId id = controlId(body_, i);
        const Vec2 at = place_.at(c.at);
        const bool seated = hollowed && c.seat > 0 && seatFloor(i) > floor;
        const double down = std::max(body.bottom, (seated ? seatFloor(i) : floor) - holesMeet);
        if (seated) {
            PanelPocket seat = pocketOf("seat", circleContour(at, c.seat), seatFloor(i), floor);
            seat.cut = "seats";
            seat.fromBack = true;
            seat.visible = false;
            seat.feature = {FeatureKind::seat, i};
            body.pockets.push_back(seat);
        }
        if (id.kind != FeatureKind::lever) {
            const double thread = id.kind == FeatureKind::pot ? 9.6 : 12.2;
            addHole(body, id, {c.what, at, thread, 0, down, false, false});
            continue;
        }
        PanelPocket slot = pocketOf(
            "lever", shapeOutline(boxShape(at, leverLong, leverSlot, leverSlot / 2)), down, 0);
        slot.feature = id;
        body.pockets.push_back(slot);
        for (double end : {-1.0, 1.0}) {
            body.holes.push_back(
                {"lever screw", at + Vec2{end * leverScrews / 2, 0}, 3.2, 0, down, false, false});
            body.holes.back().feature = {FeatureKind::leverScrew, i};
        }
    }
}

void BodyPart::addEdges(Panel& body) {
    for (std::size_t i = 0; i < body_.jacks.size(); ++i) {
        const Jack& jack = body_.jacks[i];
        const FeatureId id{FeatureKind::jack, i};
        const Vec2 at = place_.at(jack.at);
        if (jack.kind == JackKind::cup) {
            addHole(body, id, {"jack cup", at, jack.cupSize, 0, -jack.cupDepth, false, false});
        } else if (jack.kind == JackKind::edge) {
            bench_.push_back({"jack", at, jack.size,
                              "square to the edge, halfway between the faces, into the cavity, "
                              "before the neck goes on"});
            bench_.back().feature = id;
        }
    }
    for (std::size_t i = 0; i < body_.straps.size(); ++i) {
        bench_.push_back({"strap button", place_.at(body_.straps[i].at), 3.2,
                          "20 mm deep, square to the edge, halfway between the faces"});
        bench_.back().feature = {FeatureKind::strap, i};
    }
}

void BodyPart::addFreeHoles(Panel& body) {
    for (std::size_t i = 0; i < body_.holes.size(); ++i) {
        const FreeHole& h = body_.holes[i];
        const double mouth = h.fromBack ? body.bottom : 0;
        const double far = h.fromBack ? 0 : body.bottom;
        const double floor = h.depth ? mouth + (h.fromBack ? *h.depth : -*h.depth) : far;
        addHole(body, {FeatureKind::hole, i},
                {"hole", place_.at(h.at), h.diameter, mouth, floor, h.fromBack, !h.depth});
    }
}

void BodyPart::addChambers(Panel& core, double face) {
    for (std::size_t i = 0; i < body_.chambers.size(); ++i) {
        const Chamber& c = body_.chambers[i];
        PanelPocket p = pocketOf("chamber", place_.laid(shapeOutline(c.nodes)),
                                 core.bottom + body_.chamberFloor, face);
        p.cut = "chambers";
        p.feature = {FeatureKind::chamber, i};
        p.visible = false;
        core.pockets.push_back(p);
    }
}

void BodyPart::addChannels(Panel& panel, double face) {
    for (std::size_t i = 0; i < body_.channels.size(); ++i) {
        const Channel& c = body_.channels[i];
        const Vec2 a = place_.at(c.from);
        const Vec2 b = place_.at(c.to);
        const double turn = std::atan2(b.y - a.y, b.x - a.x);
        PanelPocket p = pocketOf("channel",
                                 shapeOutline(boxShape((a + b) * 0.5, length(b - a) + c.width,
                                                       c.width, c.width / 2, turn)),
                                 face - c.depth, face);
        p.cut = "channels";
        p.feature = {FeatureKind::channel, i};
        p.visible = false;
        panel.pockets.push_back(p);
    }
}

void BodyPart::makeLid() {
    const Cavity& c = body_.cavity;
    const Contour hole = hollow();
    if (hole.empty() || c.ledge <= 0) {
        return;
    }
    Panel lid;
    lid.id = Role::lid;
    lid.wood = woods_.lid;
    lid.bottom = -body_.thickness;
    // Into the recess as it came out, or as it was when the lid was cut.
    const Contour recess = grown(hole, c.ledge);
    const std::optional<double> wide = c.cutWidth ? c.cutWidth : c.measuredWidth;
    const double more = wide ? (*wide - widthOf(recess)) / 2 : 0;
    lid.top = lid.bottom + (c.cutDepth ? c.cutDepth : c.measuredDepth).value_or(c.lid);
    lid.outline = grown(hole, c.ledge - c.clearance + more);
    if (c.relief > 0) {
        std::vector<Contour> inner = inset({counterClockwise(hole)}, 1);
        if (!inner.empty()) {
            PanelPocket p = pocketOf("relief", inner.front(), lid.top - c.relief, lid.top);
            p.borders = inner;
            p.visible = false;
            p.feature = {FeatureKind::relief};
            lid.pockets.push_back(p);
        }
    }
    for (PanelPocket p : panels_.back().pockets) {
        if (p.feature.kind == FeatureKind::magnet) { // opposite its fellow in the ledge
            p.mouth = lid.top;
            p.floor = lid.top - c.fixingDepth;
            p.fromBack = false;
            lid.pockets.push_back(p);
        }
    }
    for (const Hole& h : panels_.back().holes) {
        if (h.feature.kind == FeatureKind::lidScrew) {
            lid.holes.push_back(
                {"lid screw", h.at, h.diameter + 0.8, lid.top, lid.bottom, false, true});
            lid.holes.back().feature = h.feature;
        }
    }
    panels_.push_back(std::move(lid));
}

} // namespace wren
