#pragma once

#include "job/check.h"
#include "job/derive.h"

#include <stop_token>

namespace wren {

/// Where a program is run: a setup of a part, or one station of it.
struct WhereRun {
    std::size_t side = 0;
    std::size_t station = 0;
};

/// The setup of that name as `wren hold` and the report call it; the first for an empty one. Throws
/// Error naming those there are.
WhereRun setupNamed(const PartJob& job, const std::string& name);

/// Any program, from wherever it comes, run with a bit in a setup of a part on the wood that lies
/// there before the setup's own programs: judged against the machine's travel and bed, against what
/// a rapid, the bit's flutes and the collet nut may meet, and against the part itself: the first
/// line that takes wood off it by more than 0.05 mm is named. Throws Error at a line that cannot be
/// read, Cancelled.
ProgramCheck checkOnPart(const Derived& derived, const PartJob& job, WhereRun where,
                         const std::string& text, const std::string& name, const Bit& bit,
                         const std::stop_token& stop = {});

/// The bit a program's own header names, from the drawer, or null.
const Bit* bitInHeader(const std::string& text, const Drawer& drawer);

} // namespace wren
