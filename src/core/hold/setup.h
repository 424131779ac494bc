#pragma once

#include "geom/frames.h"
#include "hold/scarfed_blank.h"
#include "part/board_part.h"
#include "part/panel.h"
#include "shop/blank.h"
#include "shop/machine.h"

#include <string>
#include <vector>

namespace wren {

/// Which face of the blank Z is zeroed on.
enum class ZZero { top, bed };

const char* zZeroName(ZZero zero); ///< "top", "bed"

/// One of the ways a part too long for the machine lies on it, sliding along X: which of its cuts
/// are made there, and where its programs' X-Y zero is.
struct SlideStation {
    int number = 1;  ///< from the machine's low end, where the head lies
    double from = 0; ///< lowest and highest X of a tip, setup frame
    double to = 0;
    Vec2 zero;      ///< of its programs, setup frame
    Vec2 onMachine; ///< that place on the machine

    friend bool operator==(const SlideStation&, const SlideStation&) = default;
};

/// One way of lying on the machine: which part, in which blank, zeroed where.
struct Setup {
    PartId part;
    std::size_t side = 0; ///< of the part: 0 face up, 1 turned over
    std::string name;     ///< e.g. "face up"
    Blank blank;
    std::string datum; ///< in words, e.g. "blank's front left corner"
    ZZero zZero = ZZero::bed;
    SetupFromInstrument fromInstrument;      ///< of the board in hand; the first unless asked
    std::vector<SetupFromInstrument> places; ///< of every board in this blank
    Vec2 zeroOnMachine;                      ///< machine X-Y of the datum
    double faced = 0;                       ///< taken off the blank's face before anything else, mm
    std::optional<FromBridge> fromBridge{}; ///< a body's places are told from its bridge line
    std::optional<ScarfedBlank> scarfed{};  ///< what of the block is wood; all of it without one
    std::vector<SlideStation> stations{};   ///< in running order; none: it is cut where it lies

    /// A place of the instrument in words, counted as the fields count it: "12.3, -4.5 from the
    /// bridge line", or "12.3 mm from the nut and 4.5 mm off the centreline".
    std::string told(Vec2 instrument) const;

    /// As its programs and sheets call it: "face up", or "face up, station 2".
    std::string nameIn(std::size_t station) const;
    /// A station's number; 0 where it is cut where it lies.
    int numberOf(std::size_t station) const {
        return stations.empty() ? 0 : stations[station].number;
    }
    /// Where the frame's X-Y zero stands on the machine in a station.
    Vec2 zeroOn(std::size_t station) const {
        return stations.empty() ? zeroOnMachine
                                : stations[station].onMachine - stations[station].zero;
    }
    /// The zero of its programs in this setup.
    Vec2 zeroOf(std::size_t station) const {
        return stations.empty() ? Vec2{} : stations[station].zero;
    }
    double bottomZ() const { return zZero == ZZero::bed ? 0 : -blank.thickness; }
    double topZ() const { return bottomZ() + blank.thickness; }
    /// Height of the blank's face over the glue plane once it has been faced.
    double facedTop() const { return fromInstrument.toInstrument({0, 0, topZ()}).z - faced; }
    /// The wood over one X of the instrument, before anything is cut.
    WoodSpan woodAt(double x) const;
    /// The highest wood, in this setup, within `around` mm of an X; setup Z.
    double woodTop(double x, double around = 0) const;
    /// The same setup with another of its boards in hand.
    Setup at(std::size_t place) const;
};

/// The boards lie face up, nut to the left, their undersides on the bed: one in the middle of its
/// blank, several in rows and columns about it. The blank's centre marks lie on the machine's
/// engraved lines, so the datum is the crossing less half the blank.
Setup layBoard(const BoardPart& board, const Blank& blank, const Machine& machine, ZZero zero);

/// A blank the boards cannot be had from.
Findings judgeBlank(const BoardPart& board, const Blank& blank);

/// A way of lying that is awkward on this machine: a blank that hangs over its travel.
Findings judgePlacement(const Setup& setup, const Machine& machine);

} // namespace wren
