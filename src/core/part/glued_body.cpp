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

std::optional<Panel> gluedInstrument(const BodyPart& body) {
    if (!body.winged()) {
        return {};
    }
    Panel glued = *body.panel(Role::body);
    const std::vector<PartId> wings = glued.layers;
    std::erase_if(glued.pockets,
                  [](const PanelPocket& p) { return p.stage != PocketStage::own || p.fromBack; });
    std::erase_if(glued.holes, [&](const Hole& h) { return h.fromBack || wingHas(body, h); });
    std::erase_if(glued.engraved, [&](const PanelLine& l) {
        return l.fromBack || std::any_of(wings.begin(), wings.end(), [&](PartId wing) {
                   const std::vector<PanelLine>& its = body.panel(wing)->engraved;
                   return std::any_of(its.begin(), its.end(), [&](const PanelLine& other) {
                       return other.feature == l.feature;
                   });
               });
    });
    if (glued.pockets.empty() && glued.holes.empty() && glued.engraved.empty()) {
        return {};
    }
    glued.outlined = false;
    glued.free = true;
    glued.spare = 0;
    glued.frame = {0, 0};
    glued.shutIn.clear();
    glued.layers.clear();
    glued.frontFall = {};
    glued.backFall = {};
    return glued;
}

} // namespace wren
