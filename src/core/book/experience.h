#pragma once

#include "book/records.h"
#include "book/shop_book.h"

#include <string>
#include <vector>

namespace wren {

/// What runs that ended well say about the next of their like: the same bit, wood and cuts, and no
/// other.
struct Experience {
    std::string bit, wood, cuts;
    int feedPercent = 100; ///< what the feed had been turned to; lowered by mishaps since
    int runs = 0;          ///< that it is drawn from
    int mishaps = 0;       ///< after the run the feed is taken from
    int takenOff = 0;      ///< per cent, for those
    std::string when;      ///< that run ended
    double minutesRatio = 1; ///< taken over planned, of all of them together
    std::vector<std::int64_t> evidence; ///< the runs' numbers, newest first
};

/// Of real machines' finished runs; air passes, traces and what was taken up again do not count.
/// The feed is the newest run's; each mishap of that bit, wood and cuts after it takes ten per cent
/// off, down to half.
std::vector<Experience> experienceOf(const std::vector<RunRecord>& runs,
                                     const std::vector<Record>& mishaps, bool withStandIns = false);
/// Of one, or null.
const Experience* experienceFor(const std::vector<Experience>& all, const std::string& bit,
                                const std::string& wood, const std::string& cuts);

} // namespace wren
