#pragma once

#include "cut/feeds.h"

namespace wren {

/// The two schools of making a board.
enum class School { radiusFirst, slotsFirst };

/// How the board is to be cut; lengths in mm.
struct CutSettings {
    School school = School::radiusFirst;
    double scallop = 0.015; ///< ridge height left by the finishing passes
    double skin = 0.25;     ///< left by roughing for the finishing pass
    double through = 0.3;   ///< how far a through cut goes past the underside
    int tabsPerSide = 3;
    double tabLength = 8;   ///< of wood left standing
    double tabHeight = 1.5; ///< above the underside
    CutOverrides radius;
    CutOverrides slots;
    CutOverrides outline;

    friend bool operator==(const CutSettings&, const CutSettings&) = default;
};

/// Rapids travel this far above the blank, and come down at rapid to this much above it, mm.
inline constexpr double clearanceHeight = 6;
inline constexpr double approachHeight = 1;

} // namespace wren
