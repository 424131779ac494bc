#include "part/body_part.h"

#include "base/error.h"
#include "geom/inset.h"
#include "part/body_shapes.h"

#include <algorithm>

#include <fmt/format.h>

// Plates of sheet: what stands in them is open in them, and their screws have pilots in the body.

namespace wren {
namespace {

constexpr double coverLap = 12; ///< of a cover round its cavity and ledge; common practice

/// The border's part that what stands there needs, grown by the room round it.
PanelPocket opening(const PanelPocket& in, double room, const Panel& plate) {
    PanelPocket p =
        pocketOf(in.what, grown(clockwise(in.borders.front()), room), plate.bottom, plate.top);
    p.cut = "openings";
    p.through = true;
    p.feature = in.feature;
    return p;
}

} // namespace

Contour BodyPart::plateOutline(const Plate& plate) const {
    if (!plate.nodes.empty()) {
        const Contour drawn = place_.laid(shapeOutline(plate.nodes));
        return plate.kind == PlateKind::rodCover ? movedBy(drawn, {-place_.bridge, 0}) : drawn;
    }
    return grown(hollow(), body_.cavity.ledge + coverLap);
}

void BodyPart::openPlate(Panel& plate, double room, const Panel& body) const {
    const std::vector<std::vector<Vec2>> within = polygonsOf({plate.outline});
    for (const PanelPocket& p : body.pockets) {
        using Kind = FeatureKind;
        // A pickup's own pocket is the first; its ears stay covered.
        const bool ear = !plate.pockets.empty() && plate.pockets.back().feature == p.feature;
        const bool stands = (p.feature.kind == Kind::pickup && !ear) ||
                            p.feature.kind == Kind::lever || p.feature.kind == Kind::jack;
        const std::vector<Vec2> border = pointsOf(p.borders.front(), 0.1);
        const bool under = std::any_of(border.begin(), border.end(),
                                       [&](Vec2 at) { return insideOf(within, at); });
        if (stands && under) {
            plate.pockets.push_back(opening(p, room, plate));
        }
    }
    for (const Hole& h : body.holes) {
        using Kind = FeatureKind;
        const bool stands = h.feature.kind == Kind::pot || h.feature.kind == Kind::toggle ||
                            h.feature.kind == Kind::leverScrew;
        if (stands && !h.fromBack && insideOf(within, h.at)) {
            plate.holes.push_back({h.what, h.at, h.diameter, plate.top, plate.bottom, false, true,
                                   0, 0, false, h.feature});
        }
    }
}

void BodyPart::addPlates(Panel& body, std::vector<Panel>& plates) const {
    for (std::size_t i = 0; i < body_.plates.size(); ++i) {
        const Plate& p = body_.plates[i];
        const bool back = p.kind == PlateKind::cavityCover;
        Panel plate;
        plate.id = PartId(Role::plate, static_cast<int>(i) + 1);
        plate.feature = {FeatureKind::plate, i};
        plate.wood = p.material;
        plate.copies = p.pieces;
        plate.outline = plateOutline(p);
        plate.top = p.thickness;
        plate.told = {p.kind == PlateKind::rodCover ? 0 : place_.bridge, place_.side};
        if (!back && p.kind != PlateKind::rodCover) {
            openPlate(plate, p.room, body);
        }
        const std::vector<Contour> ring = inset({counterClockwise(plate.outline)}, p.screwInset);
        if (p.screws > 0 && ring.size() != 1) {
            throw Error(fmt::format("Plate {} is too narrow for screws {:.1f} mm in from its edge.",
                                    i + 1, p.screwInset));
        }
        const FeatureId screw{FeatureKind::plateScrew, i};
        const bool pilots = p.pilot > 0 && p.kind != PlateKind::rodCover;
        for (Vec2 at : p.screws > 0 ? placesEvenly(ring.front(), p.screws) : std::vector<Vec2>{}) {
            plate.holes.push_back({"plate screw", at, p.screwHole, plate.top, plate.bottom, false,
                                   true, 0, 0, false, screw});
            if (pilots) {
                const double mouth = back ? body.bottom : 0;
                body.holes.push_back({"screw pilot", at, p.pilot, mouth,
                                      mouth + (back ? p.pilotDepth : -p.pilotDepth), back, false, 0,
                                      0, false, screw});
            }
        }
        if (back) { // it is cut with its outer face up
            plate = turnedFace(std::move(plate));
        }
        if (p.bevel > 0) {
            plate.frontFall = FaceFall(plate.outline, EdgeProfile::chamfer(p.bevel), {});
        }
        plates.push_back(std::move(plate));
    }
}

} // namespace wren
