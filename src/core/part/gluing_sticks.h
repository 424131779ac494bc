#pragma once

#include "part/panel.h"

#include <vector>

namespace wren {

// Thin sticks that hold a body's layers in their place while they are glued: each seam gets two
// holes where a pocket of the glued body takes the wood away afterwards, so that nothing of them is
// seen (common practice, no source). mm.

inline constexpr double stickSize = 2;
inline constexpr double stickDepth = 6; ///< of its hole in the core; it goes through the other

/// The nearer they are, the more their play turns the layer.
inline constexpr double sticksApart = 60;

/// Drills them: through top and back, into the core. The seam of a layer that finds no two places
/// goes without; returns those layers.
std::vector<PartId> addGluingSticks(std::vector<Panel>& layers, const Panel& glued);

} // namespace wren
