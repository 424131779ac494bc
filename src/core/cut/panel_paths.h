#pragma once

#include "cut/contour_pass.h"
#include "cut/hole_path.h"
#include "cut/panel_settings.h"
#include "hold/panel_setup.h"

#include <vector>

namespace wren {

/// What every path of a panel's setup starts from. All paths are in its frame, and start and end at
/// clearance height.
struct PanelWork {
    const Panel& panel;
    const Setup& setup;
    const BodyCut& cut;
    double spoilDepth = 0;

    double clear() const;
    double approach() const;
    double z(double panelZ) const { return setup.fromInstrument.toSetup({0, 0, panelZ}).z; }
};

/// A border laid into a setup, what lay on its left still there.
Contour laidBorder(const Contour& border, const Setup& setup);

/// How deep a pocket is cut in a setup, and how its floor lies there.
struct PocketDepth {
    double top = 0, bottom = 0; ///< setup Z; the bottom where it is deepest
    double slope = 0;           ///< of the floor, per mm of setup X
    double levelAt = 0, level = 0;
    double floorAt(double x) const { return level + slope * (x - levelAt); }
};
PocketDepth depthOf(const PanelWork& work, const PanelPocket& pocket);

/// Clears a pocket in levels with rings from its middle outward, climbing, down a ramp into each;
/// leaves stock on its walls (and, sloping floors, under it). Empty when the bit finds no room.
Path clearPocketPath(const PanelWork& work, const PanelPocket& pocket, const Bit& bit,
                     const Feeds& feeds);

/// The last lap along a pocket's walls at full depth, led on and off obliquely; in levels
/// (`inLevels`) when corners are still full of wood.
Path pocketWallPath(const PanelWork& work, const PanelPocket& pocket, const Bit& bit,
                    const Feeds& feeds, bool inLevels);

/// A sloping floor in lines across the slope, a flat end's upper rim on the plane.
Path slopePath(const PanelWork& work, const PanelPocket& pocket, const Bit& bit,
               const Feeds& feeds);

/// Wood left standing at an outline; panel frame.
struct PanelTab {
    Vec2 at;
    double half = 6;
    double height = 3;
    double under = 0; ///< wood that carving the far face has taken away below it
    bool ear = false; ///< full height: it carries a pin of a sawn outside

    /// How far from it a bit of that radius may be up on its slopes.
    double reach(double radius) const {
        return half + 2 * radius + (ear ? 2 * height + clearance : height) + under + 2;
    }
    static constexpr double clearance = 6; ///< mm a bit lifts over an ear
};
/// What stays of a cut-out's wood, tied to the part until it is sawn out by hand.
struct PanelPlug {
    std::size_t pocket; ///< index among the panel's
    std::vector<PanelTab> tabs;
    double free = 0; ///< so far from the pocket's wall it begins, mm
};

/// Spread round the outline where it is straightest, clear of pockets that run out of it.
std::vector<PanelTab> panelTabs(const Panel& panel, const BodyCut& cut);
/// The ears of a sawn outside instead.
std::vector<PanelTab> earTabs(const Panel& panel, const SawnOutside& sawn);

/// What of an outline's wall is cut from a side.
enum class EdgeShare {
    whole, ///< right through
    upper, ///< from the front down to the parting
    lower  ///< the rest from behind
};
/// Z in the panel where an outline shared by both sides is parted.
double partingOf(const Panel& panel);

Path panelOutlinePath(const PanelWork& work, const std::vector<PanelTab>& tabs, const Bit& bit,
                      const Feeds& feeds, EdgeShare share);

/// Tabs of a cut-out's plug, where its wall is straightest.
std::vector<PanelTab> plugTabs(const Panel& panel, const PanelPocket& pocket, const BodyCut& cut);
/// Laps inside a cut-out's wall, right through, its plug left standing on the tabs.
Path plugPath(const PanelWork& work, const PanelPocket& pocket, const std::vector<PanelTab>& tabs,
              const Bit& bit, const Feeds& feeds);

/// Draws lines into a face, each at its depth below it. The nearest end comes next.
Path engravePath(const PanelWork& work, const std::vector<PanelLine>& lines, const Feeds& feeds);

/// One lap round the outline, its stock to leave off it, for a bandsaw to follow outside.
Path panelGuidePath(const PanelWork& work, const Bit& bit, const Feeds& feeds);

/// A notch from the blank's edge inward at a place of the panel, down to setup Z `bottom`.
Path panelNotchPath(const PanelWork& work, Vec2 at, double bottom, const Bit& bit,
                    const Feeds& feeds);

/// The mouths and ends of holes as a setup sees them.
std::vector<Bore> boresOf(const PanelWork& work, const std::vector<Hole>& holes, const Bit& bit);

} // namespace wren
