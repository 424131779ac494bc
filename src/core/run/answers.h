#pragma once

#include "geom/vec.h"

#include <cstddef>
#include <optional>
#include <string>
#include <string_view>

namespace wren {

/// What the machine said of itself last.
struct MachineStatus {
    std::string state; ///< "idle", "run", "hold", "alarm"
    Vec3 position;     ///< machine coordinates, mm
    Vec3 work;         ///< program coordinates, mm
    std::size_t freeBytes = 0;
    double clock = 0;     ///< seconds of its own time
    bool standIn = false; ///< a simulated machine, by its own word
};

/// Reads an answer to `?`; none when the line is something else. Throws Error when it is one and
/// cannot be true: an unknown state, a number that is none or not finite, a place or a room no
/// machine has.
std::optional<MachineStatus> parseStatus(std::string_view line);

/// The height a probe touched at, from "probe:x,y,z". Throws Error: not three finite numbers.
Vec3 parseProbe(std::string_view line);

} // namespace wren
