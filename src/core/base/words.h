#pragma once

#include <cctype>
#include <string>

namespace wren {

/// "the pocket"; what ends in its number or in words of its own is a name already: "plate 1".
inline std::string withArticle(const std::string& name) {
    const bool own = !name.empty() && (name.back() == '"' ||
                                       std::isdigit(static_cast<unsigned char>(name.back())) != 0);
    return own ? name : "the " + name;
}

} // namespace wren
