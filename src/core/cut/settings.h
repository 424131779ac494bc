#pragma once

#include "cut/feeds.h"

#include <string>
#include <vector>

namespace wren {

/// The two schools of making a board.
enum class School { radiusFirst, slotsFirst };

/// Whether the blank is faced flat before anything else.
enum class Facing { automatic, always, never };

/// A tab the maker placed, on one of the board's long edges.
struct TabPlace {
    bool bass = true;
    double at = 60;        ///< its middle from the nut
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const TabPlace&, const TabPlace&) = default;
};

/// How the board is to be cut; lengths in mm.
struct CutSettings {
    School school = School::radiusFirst;
    Facing facing = Facing::automatic;
    double scallop = 0.015;         ///< ridge height left by the finishing passes
    std::optional<double> stepover; ///< between finishing passes, instead of the ridge height
    double stockToLeave = 0.25;     ///< left by roughing for the finishing pass
    double through = 0.3;           ///< how far a through cut goes past the underside
    int tabsPerSide = 3;
    double tabLength = 8;            ///< of wood left standing
    double tabHeight = 1.5;          ///< above the underside
    std::vector<TabPlace> tabPlaces; ///< empty for the recipe's own
    double wallStock = 0.2; ///< left on the outline for its last full-depth lap; 0: no such lap
    CutOverrides faced;
    CutOverrides radius;
    CutOverrides slots;
    CutOverrides shelf;
    CutOverrides markers;
    CutOverrides outline;

    friend bool operator==(const CutSettings&, const CutSettings&) = default;
};

/// Rapids travel this far above the blank, and come down at rapid to this much above it, mm.
inline constexpr double clearanceHeight = 6;
inline constexpr double approachHeight = 1;

} // namespace wren
