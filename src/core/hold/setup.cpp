#include "hold/setup.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

const char* zZeroName(ZZero zero) {
    return zero == ZZero::top ? "top" : "bed";
}

Setup layBoard(const BoardPart& board, const Blank& blank, const Machine& machine, ZZero zero) {
    Setup setup;
    setup.part = "fretboard";
    setup.name = "face up";
    setup.blank = blank;
    setup.datum = "front left corner of the blank, nut end and bass side";
    setup.zZero = zero;
    setup.fromInstrument = SetupFromInstrument::faceUp(
        {(blank.length - board.length()) / 2, blank.width / 2, setup.bottomZ()});
    setup.zeroOnMachine = {machine.crossing.x - blank.length / 2,
                           machine.crossing.y - blank.width / 2};
    return setup;
}

Findings judgeBlank(const BoardPart& board, const Blank& blank) {
    Findings out;
    const auto tooSmall = [&](const char* side, double has, double needs) {
        Finding f;
        f.weight = Weight::stop;
        f.code = "blank-too-small";
        f.part = "fretboard";
        f.message = fmt::format("The board is {:.2f} mm {} but the blank only {:.2f} mm; it cannot "
                                "be cut from this blank.",
                                needs, side, has);
        f.value = has;
        f.limit = needs;
        f.overridable = false;
        out.push_back(f);
    };
    if (blank.length < board.length()) {
        tooSmall("long", blank.length, board.length());
    }
    if (blank.width < board.widest()) {
        tooSmall("wide", blank.width, board.widest());
    }
    if (blank.thickness < board.design().thickness) {
        tooSmall("thick", blank.thickness, board.design().thickness);
    }
    return out;
}

Findings judgePlacement(const Setup& setup, const Machine& machine) {
    const Vec2 low = setup.zeroOnMachine;
    const Vec2 high = low + Vec2{setup.blank.length, setup.blank.width};
    const double over =
        std::max({-low.x, -low.y, high.x - machine.travel.x, high.y - machine.travel.y});
    if (over <= 0) {
        return {};
    }
    Finding f;
    f.weight = Weight::caution;
    f.code = "blank-overhangs";
    f.part = setup.part;
    f.message = fmt::format("The blank reaches {:.1f} mm beyond the travel of {}; mind what it may "
                            "meet, and that its corner cannot be jogged to.",
                            over, machine.name);
    f.value = over;
    return {f};
}

} // namespace wren
