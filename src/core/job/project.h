#pragma once

#include "cut/neck_settings.h"
#include "cut/panel_settings.h"
#include "cut/settings.h"
#include "design/fittings.h"
#include "design/glue_choices.h"
#include "hold/clamp.h"
#include "hold/neck_setup.h"
#include "hold/wood_seen.h"
#include "job/batch_piece.h"
#include "hold/panel_setup.h"
#include "job/variant.h"
#include "part/templates.h"
#include "shop/rough_boards.h"
#include "shop/starter.h"
#include "shop/wood_state.h"

#include <string>

namespace wren {

/// One instrument's document: everything the maker decides, and nothing that can be derived.
/// It carries its own copy of the drawer and the machine, so that one file gives the same programs
/// on every computer.
struct Project {
    // Defined once: made, copied and dropped in dozens of files, each would otherwise compile all
    // of it anew.
    Project();
    Project(const Project&);
    Project(Project&&) noexcept;
    Project& operator=(const Project&);
    Project& operator=(Project&&) noexcept;
    ~Project();

    std::string name = "Untitled";
    Fretboard board;
    Blank blank;
    Offcut offcut; ///< for test slots
    ZZero zZero = ZZero::bed;
    CutSettings cut;
    Neck neck;
    NeckBlank neckBlank;
    TurnHold neckHold;
    NeckCut neckCut;
    Body body;
    BodyWoods bodyWoods;
    BodyBlank bodyBlank;
    TurnHold bodyHold{ZZero::bed, ZZero::bed, TurnOver::sideForSide, Register::pins, 6, 14, 9};
    BodyCut bodyCut;
    Templates templates;
    FittingWeights fittings;
    GlueChoices glue;
    Sawing sawing;
    std::vector<Clamp> clamps; ///< of every part's setups
    std::vector<WoodMark> woodMarks;   ///< what is seen in the blanks
    std::vector<WoodPhoto> woodPhotos; ///< of the blanks
    SledSizes sled;
    WoodState neckWood, bodyWood; ///< today
    double settlesAt = indoorMoisture; ///< per cent, of the wood where the instrument is played
    std::vector<OwnWood> woods; ///< the maker's own, beside those that are known
    Machine machine;
    Drawer bits = starterDrawer();

    bool wantsBody() const { return body.build != BodyBuild::none; }

    /// Whether the neck carries its frets itself: then no fretboard is made.
    bool carved() const {
        return neck.joint != NeckJoint::none && neck.fretFace == FretFace::carved;
    }

    std::vector<BatchPiece> batch; ///< instruments made of this design together; none: one
    /// Boards of a batch lie on the bed side by side, on lines so far apart, and necks too; none:
    /// one blank at a time.
    std::optional<double> batchLines;

    std::vector<Variant> variants; ///< designs kept beside this one

    /// What the file held that this version does not know, as JSON; put back on saving.
    std::string unknown = "{}";

    friend bool operator==(const Project&, const Project&) = default;
};

/// A project for an instrument of this size with ordinary widths, ends and blank, so that a board
/// can be cut from it as it stands. Throws Error when a number is out of its key's range.
Project newProject(const std::string& name, int strings, double scale, int frets, Hand hand);

/// The same with a scale of its own for the treble string, square at `squareAt` ("nut", "bridge" or
/// a fret), ending along its last fret, the blank made long enough again. Throws Error.
Project withTrebleScale(const Project& project, double scale, const std::string& squareAt);

} // namespace wren
