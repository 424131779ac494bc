#pragma once

#include "book/records.h"
#include "job/wants.h"

namespace wren {

/// A fitting whose size a cut depends on and that nobody has measured in hand yet.
struct NotInHand {
    Wanted wanted;
    std::string state; ///< "not on the list", "needed", "ordered", "here" and not measured
    std::string says;  ///< one sentence
};

/// What of an instrument's fittings a cut depends on and is not written down as measured; the newest
/// entry of that name counts, one of this instrument before one of none.
std::vector<NotInHand> notInHand(const Derived& derived, const std::vector<Record>& hardware);

/// Those that a part's cuts depend on.
std::vector<NotInHand> notInHandFor(const std::vector<NotInHand>& all, PartId part);

} // namespace wren
