#pragma once

#include "book/records.h"
#include "book/shop_book.h"

namespace wren {

/// What is typed of a run that this application did not send: from another sender, or from before.
const RecordKind& runKind();

/// A run of "name=value" as it was typed, ended well unless told otherwise. Throws Error as
/// recordFrom() does.
RunRecord runFrom(const std::vector<std::string>& typed);

} // namespace wren
