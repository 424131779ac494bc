#pragma once

#include <string>

namespace wren {

/// A length of mm to the nearest 1/64 in, in lowest terms, as a rule at the bench is read:
/// "2 7/16 in".
std::string sixtyFourths(double mm);

} // namespace wren
