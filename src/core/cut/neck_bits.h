#pragma once

#include "cut/bit_chooser.h"
#include "cut/neck_paths.h"

#include <string>
#include <vector>

namespace wren {

/// What serves for a cut of the neck, and in words what would. Lengths mm.
struct BitWant {
    BitJudge can;
    std::string words;
    BitChooser::Better better;
};

/// The widest bit that fits every slot; round ones want a ball as wide. All on one side, not empty.
BitWant slotBit(const std::vector<NeckPocket>& slots, const Setup& face);

/// How far the head's face lies below the wood about it.
double headReach(const NeckPart& part, const Setup& face);
/// For the head's level face.
BitWant headBit(double deep);
/// For the hollow before it: a ball that rolls in it, and beside a carved face passes the wall
/// before the nut.
BitWant hollowBit(const NeckPart& part, double deep);

/// A drill, or a flat bit that bores them. Holes of one diameter, not empty.
BitWant neckHoleBit(const std::vector<Hole>& holes, const NeckCut& cut);

/// A flat bit that reaches so deep beside wood.
BitWant flatBit(double deep, const std::string& words);

} // namespace wren
