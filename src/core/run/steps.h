#pragma once

#include "hold/setup.h"
#include "run/talk.h"

#include <optional>
#include <vector>

namespace wren {

// What a maker has a machine do before a program runs, one thing at a time; nothing of it happens
// by itself. All throw Error, with the machine held and reset where it may have gone wrong, or
// Cancelled on a stop.

/// Out of an alarm, where it is in one.
void unlock(Talk& talk);
/// To its corner, the spindle up first.
void home(Talk& talk);
void lift(Talk& talk);                         ///< the spindle, all the way up
void travelTo(Talk& talk, Vec2 machine);       ///< the spindle up first
void jog(Talk& talk, Vec3 by, double feed);    ///< by so much, mm, mm/min
/// The machine Z of the plate's face under the bit, at the place where it stands.
double probe(Talk& talk, const Machine& machine);
/// The setup's zero in X and Y, and what the plate of that Z lies on for Z, in the work offset of
/// the description.
void setZero(Talk& talk, const Setup& setup, const Machine& machine, std::size_t station,
             double plateZ);

/// What the description has no word for of what `readyAll()` does; empty when it has all of them.
std::vector<std::string> missingWords(const Controller& controller);

/// All of that in order, the plate at `spot`, or at the first of probePlaces(). `under`: thickness
/// of the fixture board under the blank, 0 for none.
void readyAll(Talk& talk, const Setup& setup, const Machine& machine, std::size_t station = 0,
              std::optional<Vec2> spot = {}, double under = 0);

/// What is wrong with a probed height: the blank would lie outside Z's travel, or, where the
/// machine Z of what it lies on is known, be another thickness than it was measured. Empty when it
/// may be right.
std::string doubtOf(double plateZ, const Setup& setup, const Machine& machine,
                    std::optional<double> bedZ = {});

/// Where the probe plate may lie for a setup, machine X-Y, the likeliest first: beside the blank
/// when the bed is meant, there where a fixture board under it reaches out; near its edges when its
/// top is. Those inside the travel. Throws Error when there is none.
std::vector<Vec2> probePlaces(const Setup& setup, const Machine& machine, std::size_t station = 0,
                              bool onFixture = false);

} // namespace wren
