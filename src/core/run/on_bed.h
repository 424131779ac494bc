#pragma once

#include "hold/setup.h"
#include "run/talk.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// Something flat on the machine's bed, as a probe plate may lie on it: machine X-Y, height of its
/// face over the bed, mm. A real machine has it; a stand-in is told.
struct OnBed {
    Vec2 low, high;
    double top = 0;

    bool under(Vec2 p) const {
        return p.x >= low.x && p.x <= high.x && p.y >= low.y && p.y <= high.y;
    }
};

/// A stand-in's words for it: "lies X0 Y0 X1 Y1 TOP", and for a bed with nothing on it.
inline constexpr const char* bareBed = "bare";
std::string saidOf(const OnBed& thing);
std::optional<OnBed> onBedFrom(const std::string& line); ///< none: the line says something else

/// What lies there for a setup: the blank, on a fixture board of a thickness (0: none).
std::vector<OnBed> onBed(const Setup& setup, std::size_t station, double under);

/// Has a stand-in hold those, and nothing else, on its bed; says nothing to a real machine. Throws
/// as Talk::line() does.
void layOnBed(Talk& talk, const std::vector<OnBed>& things);

} // namespace wren
