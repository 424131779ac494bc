#pragma once

#include "job/project.h"

#include <stop_token>
#include <string>
#include <vector>

namespace wren {

/// What two designs differ in, and what follows.
struct Comparison {
    struct Changed {
        std::string key;
        std::string first, second; ///< "-" where one has no such key
    };
    struct Moved {
        std::string what; ///< "strings over the face at the bridge"
        std::string unit; ///< "mm", "degrees", "g"
        double first = 0, second = 0;
    };
    std::vector<Changed> keys;
    std::vector<Moved> moved;       ///< what is the same in both is left out
    std::vector<std::string> stale; ///< programs of the first whose motion the second has not
    std::vector<std::string> fresh; ///< programs the second needs beside those they share
};

/// Both are derived with their programs, which takes seconds; throws Cancelled when told to stop.
Comparison compare(const Project& first, const Project& second, const std::stop_token& stop = {});

std::string comparisonJson(const Comparison& c);
std::string comparisonText(const Comparison& c);

} // namespace wren
