#include "part/glued_body.h"

#include <algorithm>

namespace wren {

bool wingHas(const BodyPart& body, const Hole& hole) {
    const std::vector<PartId>& wings = body.panel(Role::body)->layers;
    return std::any_of(wings.begin(), wings.end(), [&](PartId wing) {
        const std::vector<Hole>& its = body.panel(wing)->holes;
        return std::any_of(its.begin(), its.end(), [&](const Hole& other) {
            return other.feature == hole.feature && other.at == hole.at;
        });
    });
}

namespace {

/// The contours of a face without its edge.
FaceFall contoursOf(const Contour& outline, const FaceFall& fall) {
    return {outline, EdgeProfile(), fall.slopes()};
}

} // namespace

std::optional<Panel> gluedInstrument(const BodyPart& body) {
    if (!body.winged()) {
        return {};
    }
    Panel glued = *body.panel(Role::body);
    const std::vector<PartId> wings = glued.layers;
    std::erase_if(glued.pockets, [](const PanelPocket& p) { return p.stage != PocketStage::own; });
    std::erase_if(glued.holes, [&](const Hole& h) { return wingHas(body, h); });
    std::erase_if(glued.engraved, [&](const PanelLine& l) {
        return std::any_of(wings.begin(), wings.end(), [&](PartId wing) {
            const std::vector<PanelLine>& its = body.panel(wing)->engraved;
            return std::any_of(its.begin(), its.end(), [&](const PanelLine& other) {
                return other.feature == l.feature;
            });
        });
    });
    glued.frontFall = contoursOf(glued.outline, glued.frontFall);
    glued.backFall = contoursOf(glued.outline, glued.backFall);
    if (glued.pockets.empty() && glued.holes.empty() && glued.engraved.empty() &&
        glued.frontFall.level() && glued.backFall.level()) {
        return {};
    }
    glued.outlined = false;
    glued.free = true;
    glued.spare = 0;
    glued.frame = {0, 0};
    glued.shutIn.clear();
    glued.layers.clear();
    return glued;
}

} // namespace wren
