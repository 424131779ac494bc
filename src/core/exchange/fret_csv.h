#pragma once

#include "base/length.h"
#include "design/fretboard.h"

#include <string>

namespace wren {

/// The fret table as comma-separated values (RFC 4180), distances to 0.01 mm or 0.001 in.
std::string fretTableCsv(const Fretboard& board, LengthUnit unit = LengthUnit::mm);

/// The same as a table for reading in a terminal.
std::string fretTableText(const Fretboard& board, LengthUnit unit = LengthUnit::mm);

} // namespace wren
