#pragma once

#include "job/derive.h"

namespace wren {

/// What hangs at the machine for one setup of a part: its blank with distances, zero, hand steps,
/// programs, cautions; bench work on pages of its own. Needs programs. Throws Error.
std::string sheetPdf(const Derived& derived, const PartJob& job, std::size_t side);
/// "02-neck-face-up.pdf": numbered through all setups in the order they are made.
std::string sheetName(const Derived& derived, const PartJob& job, std::size_t side);

// The same by kind of part.
std::string boardSheetPdf(const Derived& derived, const PartJob& job);
std::string neckSheetPdf(const Derived& derived, const PartJob& job, std::size_t side);
std::string panelSheetPdf(const Derived& derived, const PartJob& job, std::size_t side);

} // namespace wren
