#pragma once

#include "job/derive.h"

namespace wren {

/// Whether an instrument that is weighed keeps its head up, and can be carried an evening long;
/// nothing before it is weighed, or without a body.
Findings judgeBalance(const Derived& derived);

} // namespace wren
