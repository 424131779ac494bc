#include "part/judge_edges.h"

#include "part/judge_hardware.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

// mm; common practice, no source.
constexpr double offEdge = 3;      ///< as far as a screw or a barrel may be drawn off the edge
constexpr double aroundBarrel = 3; ///< of flat edge on either side of a jack's hole
constexpr double washerOver = 6;   ///< wider than the hole
constexpr double dishWorth = 0.3;  ///< a washer stands as hollow before it wants a dish
constexpr double throughWood = 40; ///< from the edge to the cavity a barrel and its drill reach
constexpr double barrelLong = 35;  ///< of a jack, from the edge inward

/// The smallest radius the outline's edge has within `reach` of a place; none where it is straight.
std::optional<double> edgeRadius(const Contour& outline, Vec2 at, double reach) {
    std::optional<double> least;
    for (const ContourPiece& piece : outline) {
        if (piece.isArc() && distanceTo(Contour{piece}, at) < reach) {
            least = std::min(least.value_or(piece.radius()), piece.radius());
        }
    }
    return least;
}

Vec2 inwardAt(const Contour& outline, Vec2 at) {
    const ContourPiece* nearest = &outline.front();
    for (const ContourPiece& piece : outline) {
        if (distanceTo(Contour{piece}, at) < distanceTo(Contour{*nearest}, at)) {
            nearest = &piece;
        }
    }
    if (nearest->isArc()) {
        const Vec2 out = unit(at - nearest->centre);
        return nearest->kind == ContourPiece::Kind::arcClockwise ? out * -1.0 : out;
    }
    const Vec2 way = nearest->wayOut();
    return {way.y, -way.x}; // the outline is clockwise: its wood lies at the right
}

class Judge {
public:
    explicit Judge(const BodyPart& part) : part_(part), body_(part.design()) {}

    Findings all() {
        for (std::size_t i = 0; i < body_.jacks.size(); ++i) {
            if (body_.jacks[i].kind == JackKind::edge) {
                const FeatureId id{FeatureKind::jack, i};
                meets(body_.jacks[i].at, id);
                thickEnough(body_.jacks[i], id);
                washer(body_.jacks[i], id);
                barrel(body_.jacks[i], id);
            }
        }
        for (std::size_t i = 0; i < body_.straps.size(); ++i) {
            meets(body_.straps[i].at, {FeatureKind::strap, i});
        }
        return std::move(out_);
    }

private:
    void say(Weight weight, const char* code, std::string text, double value, double limit, Vec2 at,
             FeatureId id) {
        Finding& f = sayOf(Role::body, out_, weight, code, std::move(text), value, limit);
        f.atX = part_.place().toInstrument({at.x, at.y, 0}).x;
        f.feature = id;
    }

    void meets(Vec2 fromBridge, FeatureId id) {
        const Vec2 at = part_.place().at(fromBridge);
        const double off = distanceTo(part_.outline(), at);
        if (off > offEdge) {
            say(Weight::caution, "off-edge",
                fmt::format("{} is drawn {:.1f} mm off the body's edge; it is drilled into the "
                            "edge: {:g} mm at most was expected.",
                            capital(nameOf(body_, id)), off, offEdge),
                off, offEdge, at, id);
        }
    }

    /// What the roundings leave of the edge must hold the barrel's hole.
    void thickEnough(const Jack& jack, FeatureId id) {
        const BodyFaces& faces = body_.faces;
        const double lost = (faces.frontEdge == EdgeForm::square ? 0 : faces.frontSize) +
                            (faces.backEdge == EdgeForm::square ? 0 : faces.backSize);
        const Vec2 at = nearestOn(part_.outline(), part_.place().at(jack.at));
        const double flat = body_.thickness - lost;
        const double wanted = jack.size + 2 * aroundBarrel;
        if (flat < wanted) {
            say(Weight::caution, "thin-edge",
                fmt::format("The edge leaves {:.1f} mm of flat for {}'s hole of {:.1f} mm; {:.1f} "
                            "mm is wanted: smaller roundings there, or a jack in a cup.",
                            flat, nameOf(body_, id), jack.size, wanted),
                flat, wanted, at, id);
        }
    }

    void washer(const Jack& jack, FeatureId id) {
        const EdgeSeat seat = edgeSeat(part_, jack);
        if (seat.dish > dishWorth) {
            say(Weight::note, "washer-dish",
                fmt::format("The edge is round where {} sits, {:.0f} mm of radius: a dish {:.1f} "
                            "mm deep and {:.0f} mm across gives its washer a flat seat.",
                            nameOf(body_, id), *seat.radius, seat.dish, seat.across),
                seat.dish, dishWorth, seat.at, id);
        }
    }

    /// It must come out in the cavity, where its nut and wires are reached, and meet nothing there.
    void barrel(const Jack& jack, FeatureId id) {
        if (part_.hollow().empty()) {
            return; // wired in some other way
        }
        const EdgeSeat seat = edgeSeat(part_, jack);
        const std::optional<double> wall = woodToCavity(part_, jack);
        if (!wall) {
            say(Weight::caution, "jack-unreached",
                fmt::format("Square to the edge, {}'s hole does not come into the cavity within "
                            "{:g} mm: its nut and its wires could not be reached.",
                            nameOf(body_, id), throughWood),
                throughWood, throughWood, seat.at, id);
            return;
        }
        meetsControls(jack, id, seat, *wall);
    }

    void meetsControls(const Jack& jack, FeatureId id, const EdgeSeat& seat, double wall) {
        const Vec2 from = seat.at + seat.inward * wall;
        const Vec2 to = seat.at + seat.inward * std::max(wall, barrelLong);
        for (std::size_t i = 0; i < body_.controls.size(); ++i) {
            const FeatureId control = controlId(body_, i);
            const ControlRoom room = roomOf(control.kind);
            const bool under = body_.cavity.wood + room.deep < (body_.thickness - jack.size) / 2;
            const double apart =
                distanceToSegment(part_.place().at(body_.controls[i].at), from, to) - room.around -
                jack.size / 2;
            if (apart < 0 && !under) {
                say(Weight::caution, "jack-meets-control",
                    fmt::format("{} reaches {:g} mm in from the edge and would meet {} there, by "
                                "{:.1f} mm.",
                                capital(nameOf(body_, id)), barrelLong, theOne(body_, control),
                                -apart),
                    apart, 0, seat.at, id);
            }
        }
    }

    const BodyPart& part_;
    const Body& body_;
    Findings out_;
};

} // namespace

EdgeSeat edgeSeat(const BodyPart& part, const Jack& jack) {
    EdgeSeat out;
    out.at = nearestOn(part.outline(), part.place().at(jack.at));
    out.inward = inwardAt(part.outline(), out.at);
    out.across = jack.size + washerOver;
    const double half = out.across / 2;
    out.radius = edgeRadius(part.outline(), out.at, half);
    if (out.radius && *out.radius > half) {
        out.dish = *out.radius - std::sqrt(*out.radius * *out.radius - half * half);
    }
    return out;
}

std::optional<double> woodToCavity(const BodyPart& part, const Jack& jack) {
    const EdgeSeat seat = edgeSeat(part, jack);
    const std::vector<Vec2> points = pointsOf(part.hollow(), 0.05);
    for (double wood = 0; !points.empty() && wood <= throughWood; wood += 0.25) {
        if (inside(points, seat.at + seat.inward * wood)) {
            return wood;
        }
    }
    return std::nullopt;
}

Findings judgeEdges(const BodyPart& part) {
    return Judge(part).all();
}

} // namespace wren
