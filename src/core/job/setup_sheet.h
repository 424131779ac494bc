#pragma once

#include "job/derive.h"

#include <string>

namespace wren {

/// What hangs at the machine: one PDF for a setup, A4 lying. First page: the blank with the boards
/// drawn to scale and dimensioned from the datum, where the zero is taken, the programs in running
/// order with their bits, minutes and boxes to tick, cautions. Second page: what is done at the
/// bench, fret lengths and side dots. Lengths in the unit of the machine's programs. Needs
/// programs. Throws Error.
std::string setupSheetPdf(const Derived& derived);

/// Its file name, e.g. "01-fretboard-face-up.pdf".
std::string setupSheetName(const Derived& derived);

} // namespace wren
