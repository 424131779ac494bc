#pragma once

#include "job/derive.h"
#include "job/list_keys.h"

namespace wren {

/// A change that does away with a finding.
struct Cure {
    std::string label;            ///< "Make the pocket 14.2 mm deep"
    std::vector<Setting> changes; ///< full paths
    std::string remove;           ///< the thing to take out instead; empty for none
};

/// What would cure a finding, the smallest change first; none where only the maker can know.
std::vector<Cure> curesFor(const Derived& derived, const Finding& finding);

/// A project cured. Throws Error.
Project cured(const Project& project, const Cure& cure);

} // namespace wren
