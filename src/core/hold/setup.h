#pragma once

#include "geom/frames.h"
#include "part/board_part.h"
#include "shop/blank.h"
#include "shop/machine.h"

#include <string>

namespace wren {

/// Which face of the blank Z is zeroed on.
enum class ZZero { top, bed };

const char* zZeroName(ZZero zero); ///< "top", "bed"

/// One way of lying on the machine: which part, in which blank, zeroed where.
struct Setup {
    std::string part;
    std::string name; ///< e.g. "face up"
    Blank blank;
    std::string datum; ///< in words, e.g. "blank's front left corner"
    ZZero zZero = ZZero::bed;
    SetupFromInstrument fromInstrument;
    Vec2 zeroOnMachine; ///< machine X-Y of the datum

    double bottomZ() const { return zZero == ZZero::bed ? 0 : -blank.thickness; }
    double topZ() const { return bottomZ() + blank.thickness; }
};

/// The fretboard lies face up in the middle of its blank, nut to the left, its underside on the
/// bed. The blank's centre marks lie on the machine's engraved lines, so the datum is the crossing
/// less half the blank.
Setup layBoard(const BoardPart& board, const Blank& blank, const Machine& machine, ZZero zero);

/// A blank the board cannot be had from.
Findings judgeBlank(const BoardPart& board, const Blank& blank);

/// A way of lying that is awkward on this machine: a blank that hangs over its travel.
Findings judgePlacement(const Setup& setup, const Machine& machine);

} // namespace wren
