#pragma once

#include "job/override.h"
#include "job/part_job.h"
#include "job/project.h"
#include "proof/fit.h"
#include "proof/seat.h"

#include <optional>
#include <stop_token>

namespace wren {

/// The neck as it is drawn.
struct NeckDrawn {
    NeckPart part;
    double volume = 0;                ///< mm3
    std::vector<WoodUnder> woodUnder; ///< along the rod's slot, by the design
    Findings found;
};

/// The body as it is drawn, and how what lies in it fits once it is proved.
struct BodyDrawn {
    BodyPart part;
    std::optional<Fit> neckFit; ///< the neck in its pocket, the lid in its ledge, as cut
    std::optional<Fit> lidFit;
    std::vector<Fit> inlayFits;   ///< of each inlay's plug
    std::optional<Seat> neckSeat; ///< the heel on its pocket's floor
};

/// Where a program of the whole job stands among those of its own setup.
struct ProgramPlace {
    const PartJob* job = nullptr; ///< none: there is no such program
    std::size_t side = 0;         ///< 0 face up, 1 turned over
    std::size_t index = 0;        ///< among that side's

    const Setup& setup() const { return job->plan().sides[side].setup; }
};

/// What the pieces weigh by, apart from their volumes that stand with them.
struct Weighed {
    Vec3 board, neck;              ///< centres of volume, instrument frame
    std::vector<PieceOfWood> body; ///< layers or wings, lid, plugs, plates; body frame
    /// Of a neck that goes through, mm3: what the body's tail, pockets and holes leave of it.
    std::optional<double> neckVolume;
};

/// Everything that follows from a project. Filled in three steps, each on top of the last, so that
/// a window can show the drawing before the programs and the programs before the proof.
struct Derived {
    // Defined once, as Project's are.
    Derived();
    Derived(const Derived&);
    Derived(Derived&&) noexcept;
    Derived& operator=(const Derived&);
    Derived& operator=(Derived&&) noexcept;
    ~Derived();

    Project project;
    std::string designHash;
    Overrides overrides; ///< of stops it really has; they stand in those parts' headers
    /// Whether what each program does to the wood is remembered, so that after a change only what
    /// meets it is run again: for a window, since it takes room. As it was `before`.
    bool remembers = false;

    // Step 1: the drawing
    std::vector<FretPlace> frets;
    std::optional<BoardPart> board; ///< none when the design cannot be made
    std::optional<NeckDrawn> neck;  ///< none when there is no neck to make
    std::optional<BodyDrawn> body;  ///< none when there is no body to make
    /// In the order they are made: what could be drawn and laid on the machine. Steps 2 and 3, the
    /// programs and the proof, go on in here.
    std::vector<PartJob> parts;
    std::vector<PostedProgram> programs; ///< of all parts, in running order

    std::optional<Weighed> weighed; ///< with the programs

    Findings findings; ///< of all steps so far

    const PartJob* job(PartId part) const;      ///< or nullptr: not wanted, or it cannot be drawn
    bool proved() const;                        ///< some part is
    std::vector<const PartJob*> pieces() const; ///< the flat ones
    // Of one part; null, or nothing, while there is none.
    const Setup* lies(PartId part, std::size_t side = 0) const; ///< where its blank can hold it
    const BoardPlan* boardPlan() const;
    const std::vector<RunProgram>& read(PartId part, std::size_t side = 0) const;
    const ProofReport* proofOf(PartId part, std::size_t side = 0) const;
    double seconds() const;
    double secondsPlain() const;
    /// Fed through air, distance over feed; of what is proved of these parts, or of all.
    double secondsInAir(const std::vector<PartId>& of = {}) const;
    const ProgramLoad* loadOf(const std::string& program) const; ///< or nullptr: not proved
    ProgramPlace placeOf(std::size_t program) const;
    std::vector<PartId> wanted() const; ///< the parts that the project asks for
    bool wantsNeck() const { return project.neck.joint != NeckJoint::none; }
};

/// What `before` has drawn already of a neck that has not changed since is taken over from it.
Derived deriveDrawing(const Project& project, const Derived* before = nullptr);
/// Both do nothing when the step before gave nothing to work on. Of parts whose inputs are those of
/// `before` the programs, and where they move alike the proof, are taken over. Throw Cancelled.
void derivePrograms(Derived& derived, const std::stop_token& stop = {},
                    const Derived* before = nullptr);
void deriveProof(Derived& derived, const std::stop_token& stop = {},
                 const Derived* before = nullptr);

/// All three steps.
Derived derive(const Project& project, const std::stop_token& stop = {});
/// All three for one part, cut from a plank: its programs are numbered by themselves.
Derived deriveOnly(const Project& project, PartId part);

/// A part's outline in plan, its own frame; empty while it is not drawn.
Contour outlineOf(const Derived& derived, const PartJob& job);

/// What running a part's programs needs; refers to the job and the programs.
PartSides sidesOf(const Derived& derived, const PartJob& job, const SidePrograms& programs);
inline PartSides sidesOf(const Derived& derived, const PartJob& job) {
    return sidesOf(derived, job, job.read);
}
/// The part as designed, lying as it does at the end.
Stock designedStock(const Derived& derived, const PartJob& job, double cell);

/// Gives reasons for stops of something proved: those that fit none are dropped, the headers of the
/// parts concerned are written anew. Motion and line numbers stay. Throws Cancelled.
void giveReasons(Derived& derived, const Overrides& overrides, const std::stop_token& stop = {});

} // namespace wren
