#pragma once

#include "base/finding.h"

#include <string>
#include <vector>

namespace wren {

/// A reason the maker gave for going on in spite of one finding, in one part.
struct Override {
    PartId part;
    std::string code;
    std::string reason;

    friend bool operator==(const Override&, const Override&) = default;
};
using Overrides = std::vector<Override>;

/// The reason given for that finding, or nullptr.
const Override* overrideOf(const Overrides& overrides, const Finding& finding);

/// What is typed for a stop: "CODE=REASON", "PART:CODE=REASON", or the reason alone where only one
/// finding of the parts in question stands in the way. Throws Error, which names the findings: an
/// empty reason, one that fits several findings or none, a stop no reason lifts.
Override overrideFrom(const std::string& text, const Findings& findings,
                      const std::vector<PartId>& parts);

} // namespace wren
