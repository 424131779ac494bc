#pragma once

#include "job/derive.h"

namespace wren {

/// Proves every part that has programs, side by side where none needs another's wood. Returns what
/// was found. A proof of `before` stands where the part's inputs and its programs' motion and names
/// are the same. Throws Cancelled.
Findings proveParts(Derived& derived, const std::stop_token& stop, const Derived* before);

} // namespace wren
