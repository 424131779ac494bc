#pragma once

#include "job/batch.h"

namespace wren {

/// The programs of one instrument, or of those of its parts that are named, in running order.
Batch inRunningOrder(const Derived& derived, const std::vector<PartId>& parts = {});

/// Everything there is to do at the machine, in order, with a box for each: blanks to lay on, what
/// is done by hand before, bits to put in, programs with their minutes. A4, as many pages as it
/// takes.
std::string orderSheetPdf(const Batch& batch, const std::string& title, LengthUnit unit);

} // namespace wren
