#pragma once

#include "job/derive.h"

namespace wren {

/// What hangs at the machine for one setup of a piece of the body; the last page of the body itself
/// lists what is drilled by hand. Needs programs. Throws Error.
std::string bodySheetPdf(const Derived& derived, const PanelJob& job, std::size_t side);
std::string bodySheetName(const Derived& derived, const PanelJob& job, std::size_t side);

} // namespace wren
