#pragma once

namespace wren {

// Least wood of a body, mm; common practice, no source.
inline constexpr double bodyWoodCaution = 2.5; ///< between a floor and the far side
inline constexpr double bodyEdgeCaution = 4;   ///< between a pocket and the body's edge
inline constexpr double pocketWebCaution = 3;  ///< between neighbouring pockets

} // namespace wren
