#pragma once

namespace wren::app {

// How the ruler's band is divided, pixels.
inline constexpr double nameWidth = 104;    ///< strips' names on the left
inline constexpr double sectionWidth = 214; ///< the cross-section on the right
inline constexpr double endNotes = 92;      ///< room for figures at the strips' right ends
inline constexpr double rulerHeight = 40;
inline constexpr double headHeight = 20; ///< a strip's name over it, where it has its own column
inline constexpr double columnGap = 30;

} // namespace wren::app
