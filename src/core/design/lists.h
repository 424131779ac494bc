#pragma once

#include "base/error.h"
#include "base/length.h"

#include <sstream>
#include <string>
#include <vector>

#include <fmt/format.h>

namespace wren {

/// Calls `each` with every entry of a list that is not blank.
template <typename Each>
void eachOf(const std::string& text, char mark, Each each) {
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, mark);) {
        if (one.find_first_not_of(" \t\n") != std::string::npos) {
            each(one);
        }
    }
}

/// The value, or an Error that names the entry and the range.
inline double bounded(double v, double least, double most, const std::string& in) {
    if (!(v >= least && v <= most)) {
        throw Error(fmt::format("{:g} in \"{}\" is out of range; {:g} to {:g} was expected.", v, in,
                                least, most));
    }
    return v;
}

/// All words of an entry as numbers, each within a metre. Throws Error.
inline std::vector<double> numbersOf(const std::string& one) {
    std::istringstream words(one);
    std::vector<double> v;
    for (std::string w; words >> w;) {
        v.push_back(bounded(parseNumber(w), -1000, 1000, one));
    }
    return v;
}

} // namespace wren
