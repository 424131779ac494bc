#pragma once

#include "job/derive.h"

namespace wren {

/// Proves every part that has programs, side by side where none needs another's wood. Returns what
/// was found. Throws Cancelled.
Findings proveParts(Derived& derived, const std::stop_token& stop);

} // namespace wren
