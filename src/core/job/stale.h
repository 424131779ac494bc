#pragma once

#include "book/shop_book.h"
#include "job/posted.h"

namespace wren {

/// What no longer follows from the project of what was posted from it.
struct Staleness {
    std::vector<std::string> changed; ///< "board.thickness: 6 mm, was 5.8 mm", in the keys' order
    struct Stale {
        std::string program;
        std::string part;
        bool cut = false; ///< by the book: that can no longer change
    };
    std::vector<Stale> stale; ///< programs that would move otherwise today, or not be there
    std::size_t good = 0;     ///< how many would be posted the same
};

/// Of one folder; `runs` as the book tells them. Of folders of older versions nothing of what
/// changed is known.
Staleness stalenessOf(const PostedFolder& posted, const Derived& derived,
                      const std::vector<RunRecord>& runs);

/// What was decided then and is decided now, where that differs: two of decidedKeys().
std::vector<std::string> changesBetween(const std::string& before, const Project& now);

std::string stalenessText(const PostedFolder& posted, const Staleness& found);

} // namespace wren
