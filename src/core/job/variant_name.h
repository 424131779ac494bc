#pragma once

#include <string>

namespace wren {

/// Throws Error, `where` before it: empty, longer than 60 characters, or not on one line.
void checkVariantName(const std::string& name, const std::string& where = "");

} // namespace wren
