#pragma once

#include "job/derive.h"

#include <string>

namespace wren {

/// The setup sheet of one of the neck's sides (0 face up, 1 back up): blank, neck, pins, marks and
/// tabs drawn off the datum, how it is laid and turned over, its programs. Throws Error.
std::string neckSheetPdf(const Derived& derived, std::size_t side);
std::string neckSheetName(std::size_t side); ///< e.g. "02-neck-face-up.pdf"

} // namespace wren
