#pragma once

#include "job/derive.h"

namespace wren {

/// Plans every part that lies on the machine, side by side where none needs another's wood, and
/// eases the plans; plans of `before` whose inputs are the same are taken over. Returns what was
/// found. Throws Cancelled.
Findings planParts(Derived& derived, const std::stop_token& stop, const Derived* before);

/// Writes the programs of all plans and reads them back; what moves as in `before` is taken over.
/// Throws Cancelled.
void postParts(Derived& derived, const std::stop_token& stop, const Derived* before = nullptr);

/// Writes the programs' headers anew where they would differ. Throws Cancelled.
void postHeaders(Derived& derived, const std::stop_token& stop);

} // namespace wren
