#pragma once

#include "book/shop_book.h"
#include "base/part_id.h"

#include <string>
#include <vector>

namespace wren {

/// What of an instrument is cut, by its runs that ended well: that can no longer change. A stand-in
/// cuts no wood: its runs count only where they are asked for.
class CutAlready {
public:
    CutAlready() = default; ///< nothing is known to be
    CutAlready(const std::vector<RunRecord>& runs, const std::string& project,
               bool withStandIns = false);

    /// The first run that made a cut of one of these words ("neck-pocket"); null: none has.
    const RunRecord* any(const std::vector<std::string>& words) const;
    /// The first run of a part.
    const RunRecord* of(PartId part) const;

private:
    std::vector<RunRecord> done_; ///< oldest first
};

} // namespace wren
