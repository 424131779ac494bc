#pragma once

#include "book/bit_life.h"
#include "book/experience.h"
#include "job/derive.h"
#include "job/run_advice.h"

#include <set>
#include <string>
#include <vector>

namespace wren {

/// One thing a maker does at the machine, in the order it is done.
struct RoomStep {
    enum class Kind {
        hand,  ///< at the bench, before a program
        mark,  ///< the blank's marks
        lay,   ///< the blank on the bed
        clamp, ///< it is held
        turn,  ///< turned over, or slid to its next station
        home,
        travel, ///< to where the plate lies
        park,   ///< the spindle where hands reach it
        mount,  ///< a bit in the collet
        probe,
        air, ///< a program through the air
        cut,
        free, ///< the part off its tabs
    };
    Kind kind = Kind::hand;
    std::string id;      ///< in the book, for its tick; a program's changes with what it moves
    std::string title;   ///< "Mount flat-6"
    std::string says;    ///< one sentence
    std::string number;  ///< "28.0 mm out of the collet"; mostly one, or empty
    std::string caution; ///< where one is due
    PartId part;
    std::size_t side = 0, station = 0;
    int program = 0;      ///< its number in running order; 0: none yet
    bool byHand = false;  ///< the machine has no word for it
    double minutes = 0;   ///< it takes, where that is known
    std::optional<RunAdvice> advice{}; ///< of the book, before a cut
    std::optional<Vec2> spot{}; ///< of the plate, machine X-Y: travelled to, and probed at

    bool ofMachine() const {
        return !byHand && (kind == Kind::home || kind == Kind::travel || kind == Kind::park ||
                           kind == Kind::probe || kind == Kind::air || kind == Kind::cut);
    }
};

/// What of the shop's book bears on the steps.
struct ShopKnows {
    std::vector<Experience> experience;
    std::vector<Record> hardware, notes;
    std::vector<BitLife> lives{};
};

/// From the first mark to the last tab, for everything that is posted; in `unit`. With what the book
/// knows: fittings nobody has measured and notes for the next time stand on the first step of the
/// part they concern, advice and the likely minutes on its cuts, what a bit's slots measured on
/// those of the slots.
std::vector<RoomStep> roomSteps(const Derived& derived, LengthUnit unit,
                                const ShopKnows* knows = nullptr);

/// The first that is neither ticked nor, being a program, done by the book; steps.size() at the end.
std::size_t nextStep(const std::vector<RoomStep>& steps, const std::set<std::string>& ticked,
                     const std::vector<bool>& programsDone);

/// The way of lying a step belongs to: part, side and station.
std::string lyingOf(const RoomStep& step);

/// Where bits are changed: off the work, in front, the spindle up; machine X-Y.
Vec2 parkPlace(const Machine& machine);

/// How much of a program's planned time is behind once the machine has come to a line of it, 0 to 1;
/// none: the program is not as it was posted.
std::optional<double> timeBehind(const Derived& derived, int program, int line);

/// How many minutes a maker is free from a step on: until the next that wants hands.
double freeMinutes(const std::vector<RoomStep>& steps, std::size_t from);

} // namespace wren
