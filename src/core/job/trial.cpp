#include "job/trial.h"

#include "base/error.h"
#include "job/keys.h"

#include <fmt/format.h>

namespace wren {
namespace {

struct PieceKeys {
    const char* wood;
    const char* thickness;
};

/// Of the piece a part is cut from.
PieceKeys pieceKeys(PartId part) {
    switch (part.role) {
    case Role::board:
        return {"blank.wood", "blank.thickness"};
    case Role::neck:
        return {"neck_blank.wood", "neck_blank.thickness"};
    case Role::body:
    case Role::core:
    case Role::wing:
        return {"body.wood", "body_blank.thickness"};
    case Role::top:
        return {"body.top_wood", "body_blank.top_thickness"};
    case Role::back:
        return {"body.back_wood", "body_blank.back_thickness"};
    case Role::lid:
        return {"cavity.lid_wood", "body_blank.lid_thickness"};
    default:
        throw Error(fmt::format("The {} has no piece of its own that a trial could be cut from; "
                                "fretboard, neck, body, its layers, its wings or its lid was "
                                "expected.",
                                part.name()));
    }
}

} // namespace

Project trialOf(const Project& project, const std::vector<PartId>& parts, const std::string& wood,
                double thickness) {
    Project p = project;
    for (PartId part : parts) {
        const PieceKeys keys = pieceKeys(part);
        p = withKey(p, keys.wood, wood);
        p = withKey(p, keys.thickness, fmt::format("{:.4f}mm", thickness));
    }
    p.name += " trial";
    return p;
}

} // namespace wren
