#pragma once

#include "book/shop_book.h"

#include <string>
#include <vector>

namespace wren {

// Runs as lists, for others to read: times of day UTC, times in seconds, ways in mm.
std::string runsCsv(const std::vector<RunRecord>& runs);
std::string runsJson(const std::vector<RunRecord>& runs);

} // namespace wren
