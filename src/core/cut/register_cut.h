#pragma once

#include "cut/cut.h"
#include "hold/held.h"
#include "shop/bit.h"

#include <optional>

namespace wren {

/// The holes of a blank's register pins right through it, face up, for a part whose recipe knows
/// of none. Nothing without pins; where no bit makes them, that is found.
std::optional<Cut> registerCut(const Held& held, const Drawer& drawer, const Machine& machine,
                               Findings& findings);

} // namespace wren
