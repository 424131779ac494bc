#pragma once

#include <string>
#include <string_view>

namespace wren {

/// SHA-256 (FIPS 180-4) of the bytes, as 64 lower-case hexadecimal digits.
std::string sha256(std::string_view bytes);

} // namespace wren
