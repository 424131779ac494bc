#pragma once

#include "job/override.h"
#include "job/posted_program.h"
#include "job/project.h"
#include "proof/fit.h"
#include "proof/neck_proof.h"
#include "proof/panel_proof.h"
#include "proof/seat.h"

#include <array>
#include <optional>
#include <stop_token>

namespace wren {

/// What follows for the neck. Its programs stand behind the board's in Derived::programs.
struct NeckJob {
    NeckPart part;
    NeckSetups setups;
    bool placed = false;              ///< the blank can hold it
    double volume = 0;                ///< mm3
    std::vector<WoodUnder> woodUnder; ///< along the rod's slot, by the design
    NeckPlan plan;
    std::array<std::vector<RunProgram>, 2> readBack;
    std::optional<NeckProof> proof;
    Findings drawn; ///< what drawing it found

    NeckSides sides(TurnOver turn) const { return {part, setups, turn, readBack}; }
};

/// What follows for one piece of the body at one stage.
struct PanelJob {
    std::size_t panel = 0; ///< among the part's panels
    PanelSetups setups;
    bool placed = false;
    PanelPlan plan;
    PanelPrograms readBack;
    std::shared_ptr<const Stock> start; ///< glued up from earlier pieces; none: a plank
    std::optional<PanelProof> proof;

    PartId part() const { return setups.face.part; }
    std::string name() const { return part().name(); }
};

/// What follows for the body: its pieces in the order they are made, lid last. Their programs stand
/// behind the neck's.
struct BodyJob {
    BodyPart part;
    std::vector<PanelJob> panels;
    double volume = 0;          ///< mm3 of the finished body without its lid; with the programs
    std::optional<Fit> neckFit; ///< the neck in its pocket, the lid in its ledge, as cut
    std::optional<Fit> lidFit;
    std::vector<Fit> inlayFits;   ///< of each inlay's plug
    std::optional<Seat> neckSeat; ///< the heel on its pocket's floor

    const PanelJob* of(PartId id) const; ///< or nullptr
    const Panel& panelOf(const PanelJob& job) const { return part.panels()[job.panel]; }
    PanelSides sides(const PanelJob& job, TurnOver turn) const {
        return {panelOf(job), job.setups, turn, job.readBack, job.start};
    }
};

/// Where a program of the whole job stands among those of its own setup.
struct ProgramPlace {
    const Setup* setup = nullptr;
    int side = -1;         ///< -1 the board's, 0 and 1 the face and back of neck or panel
    int panel = -1;        ///< of the body's pieces; -1 the neck's or the board's
    std::size_t index = 0; ///< among that side's
};

/// Everything that follows from a project. Filled in three steps, each on top of the last, so that
/// a window can show the drawing before the programs and the programs before the proof.
struct Derived {
    Project project;
    std::string designHash;
    Overrides overrides; ///< of stops it really has; they stand in those parts' headers

    // Step 1: the drawing
    std::vector<FretPlace> frets;
    std::optional<BoardPart> board; ///< none when the design cannot be made
    std::optional<Setup> setup;     ///< none when the blank cannot hold it
    // Step 2: the programs
    std::optional<BoardPlan> plan;
    std::vector<PostedProgram> programs; ///< of all parts, in running order
    std::vector<RunProgram> readBack;    ///< the board's
    // Step 3: the proof
    std::optional<ProofReport> proof; ///< the board's

    std::optional<NeckJob> neck; ///< filled step by step too; none when there is no neck to make

    std::optional<BodyJob> body; ///< none when there is no body to make

    Findings findings; ///< of all steps so far
    double seconds() const;
    double secondsPlain() const;
    /// Fed through air, distance over feed; of what is proved of these parts, or of all.
    double secondsInAir(const std::vector<PartId>& parts = {}) const;
    const ProgramLoad* loadOf(const std::string& program) const; ///< or nullptr: not proved
    ProgramPlace placeOf(std::size_t program) const;
    std::vector<PartId> parts() const; ///< that the project wants
    /// The body's piece, or nullptr where the part is none.
    const PanelJob* panelOf(PartId part) const;
    bool wantsNeck() const { return project.neck.joint != NeckJoint::none; }
};

/// What `before` has drawn already of a neck that has not changed since is taken over from it.
Derived deriveDrawing(const Project& project, const Derived* before = nullptr);
/// Both do nothing when the step before gave nothing to work on. Throw Cancelled.
void derivePrograms(Derived& derived, const std::stop_token& stop = {});
void deriveProof(Derived& derived, const std::stop_token& stop = {});

/// All three steps.
Derived derive(const Project& project, const std::stop_token& stop = {});

/// Gives reasons for stops of something proved: those that fit none are dropped, the headers of the
/// parts concerned are written anew. Motion and line numbers stay. Throws Cancelled.
void giveReasons(Derived& derived, const Overrides& overrides, const std::stop_token& stop = {});

} // namespace wren
