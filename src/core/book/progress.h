#pragma once

#include "book/shop_book.h"

#include <string>
#include <vector>

namespace wren {

/// How far a part of an instrument is, by its runs.
struct PartProgress {
    std::string part;
    std::string first, last; ///< a run of it began
    int programs = 0;        ///< different ones that ended well
    int failed = 0;          ///< runs that did not
    double minutes = 0;      ///< the machine took for all of them
};

struct InstrumentProgress {
    InstrumentRow instrument;
    std::vector<PartProgress> parts; ///< in the order they were begun
    double minutes() const;
};

/// Air passes and traces cut nothing and count for their minutes alone.
std::vector<InstrumentProgress> progressOf(const std::vector<InstrumentRow>& instruments,
                                           const std::vector<RunRecord>& runs);

} // namespace wren
