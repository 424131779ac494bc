#pragma once

#include <string>

namespace wren {

/// A field of comma-separated values (RFC 4180): quoted where it has to be.
inline std::string quoted(const std::string& text) {
    if (text.find_first_of(",\"\n\r") == std::string::npos) {
        return text;
    }
    std::string out = "\"";
    for (char c : text) {
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    }
    return out + "\"";
}

} // namespace wren
