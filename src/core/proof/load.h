#pragma once

#include "base/finding.h"
#include "cut/cut.h"
#include "proof/simulate.h"
#include "shop/wood.h"

#include <algorithm>
#include <optional>
#include <string>
#include <vector>

namespace wren {

/// What one pass of the recipe takes: the measure of every other.
struct OwnPass {
    double depth = 0;  ///< mm
    double area = 0;   ///< the end's own section down to that depth, mm2
    double chip = 0;   ///< mm a tooth
    double plunge = 0; ///< mm/min straight down
    /// Breaks sooner: flutes longer than 5 diameters. Slotting bits have a pass of their own, which
    /// is small already.
    bool slender = false;
    bool byHand = false; ///< the maker's own figures allow more than the recipe's

    /// How much more than its own pass a bit may take; common practice, no source.
    double headroom() const { return slender ? 1.2 : 1.25; }
};

/// The recipe's pass of a bit in a wood; figures set by hand in `cuts` made with it count where
/// they are larger.
OwnPass ownPass(const Bit& bit, const Wood& wood, const Machine& machine,
                const std::vector<Cut>& cuts = {});

/// Where a program asks most of its bit.
struct LoadPeak {
    double depth = 0;     ///< of the wood taken, mean over its width, mm
    double width = 0;     ///< of engagement, mm
    double area = 0;      ///< wood taken per mm of way, mm2
    double ofAllowed = 0; ///< 1: as much as is allowed
    int line = 0;         ///< in the program
    std::size_t move = 0; ///< in its path
    Vec3 at;              ///< of the tip, setup frame
};

/// Where a program first meets wood: the tip, setup frame.
struct FirstTouch {
    int line = 0;
    Vec3 at;
};

/// What a program asks of its bit, from its posted text and the wood it met.
struct ProgramLoad {
    std::string program;
    OwnPass own;
    LoadPeak peak;                   ///< sideways
    LoadPeak plunge;                 ///< straight down
    LoadPeak chip;                   ///< `area` is the chip, mm a tooth
    LoadPeak fall;                   ///< straight down: `area` is the feed, mm/min
    double watts = 0;                ///< at its peak, roughly
    std::optional<FirstTouch> touch; ///< none: it meets no wood
    double cutSeconds = 0;           ///< fed through wood, distance over feed
    double airSeconds = 0;           ///< fed through air
    std::vector<float> ofAllowed;    ///< by move, at its worst

    double most() const; ///< of the wood that is allowed, sideways or straight down
    int mostLine() const;

private:
    const LoadPeak& worst() const;
};

/// Whether cells are too coarse to tell how wide a bit cuts.
inline bool fewCellsWide(const Bit& bit) {
    return EndShape::of(bit).plainFlat() && bit.diameter < 2;
}

/// Wood taken per mm of way is averaged over so much of it, mm; longer where a bit is few cells
/// wide and where a round end takes a cell's wood by and by.
inline double loadWindow(const Bit& bit) {
    if (!EndShape::of(bit).plainFlat()) {
        return std::max(2.0, bit.radius());
    }
    return fewCellsWide(bit) ? 5 : 2;
}

ProgramLoad loadOf(const RunProgram& program, const LoadTrace& trace, const OwnPass& own,
                   const Wood& wood);

/// A run of cutting moves, from a fraction of the first to one of the last.
struct PathStretch {
    std::size_t firstMove = 0;
    double firstFraction = 0;
    std::size_t lastMove = 0;
    double lastFraction = 0;
};

/// Straight down, cutting.
bool goesStraightDown(const Move& move);

/// Straight plunges through more than `ofOwn` times the bit's own pass, by move.
std::vector<std::size_t> plungesDeeperThan(double ofOwn, const RunProgram& program,
                                           const LoadTrace& trace, const OwnPass& own);

/// How fast a move may be fed that drives its end into wood, mm/min: its own feed where it falls
/// little.
double feedDown(const Move& move, const OwnPass& own);

/// The fastest a move may be fed through the wood it takes, mm/min: where its end is driven down,
/// as fast as it may plunge.
double feedAllowed(const Move& move, const LoadTrace::Taken& taken, const OwnPass& own);

/// Where more than `ofOwn` times the bit's own pass is taken; each begins where the wood has been
/// met over a window of way.
std::vector<PathStretch> heavierThan(double ofOwn, const RunProgram& program,
                                     const LoadTrace& trace, const OwnPass& own);

/// A stop for each program that takes more than its bit is given, with its worst place.
Findings judgeLoads(const Setup& setup, const std::vector<RunProgram>& programs,
                    const std::vector<ProgramLoad>& loads);

} // namespace wren
