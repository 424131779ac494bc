#pragma once

#include "book/shop_book.h"

#include <string>
#include <string_view>
#include <vector>

namespace wren {

/// Small letters (of the Latin alphabet), as texts and what is typed are compared.
std::string searchable(std::string_view text);

/// What a run can be found by, one text a run, in their order: day, names, bit, wood, cuts, how it
/// came out.
std::vector<std::string> searchTexts(const std::vector<RunRecord>& runs);

/// Which of the texts hold every word that is typed, in their order; all of them for no word.
std::vector<std::size_t> found(const std::vector<std::string>& texts, std::string_view typed);

} // namespace wren
