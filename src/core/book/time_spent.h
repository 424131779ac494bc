#pragma once

#include "book/shop_book.h"

#include <string>
#include <utility>
#include <vector>

namespace wren {

/// Seconds of runs that ended well, air passes and traces left out.
struct Spent {
    double planned = 0, taken = 0;
};
using SpentBy = std::vector<std::pair<std::string, Spent>>; ///< the most taken first

/// Where time at the machine goes.
struct TimeSpent {
    SpentBy cuts, parts, instruments, bits;
};
TimeSpent timeSpent(const std::vector<RunRecord>& runs);

} // namespace wren
