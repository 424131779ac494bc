#pragma once

#include "part/body_part.h"

#include <optional>

namespace wren {

/// When a thing is cut in a body that is glued up; nothing for what leaves no choice.
std::optional<CutWhen> cutWhen(const Body& body, FeatureId feature);

/// Pockets of the glued body that the maker wants cut while its layers are apart: marked as cut
/// before, and each layer they go through given its share. A share that reaches the layer's
/// underside only is cut from behind, one that reaches both faces right through.
void shareAmong(std::vector<Panel>& layers, Panel& glued, const Body& body);

/// How long a bit must be to get to the bottom of something, mm, going through not counted.
struct BitReach {
    double glued = 0; ///< in the glued body, or a body in one piece
    double apart = 0; ///< in the deepest of its layers; 0 for what is cut after gluing
};
BitReach reachFor(const BodyPart& part, FeatureId feature);

} // namespace wren
