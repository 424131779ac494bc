#pragma once

#include "job/part_job.h"

#include <tbb/parallel_for.h>

namespace wren {

/// Calls `work(i)` for every part: side by side for those cut from planks, and once they are done
/// for those glued up from them.
template <typename F>
void overParts(const std::vector<PartJob>& parts, F work) {
    for (const bool glued : {false, true}) {
        std::vector<std::size_t> now;
        for (std::size_t i = 0; i < parts.size(); ++i) {
            if ((parts[i].panel && !parts[i].panel->layers.empty()) == glued) {
                now.push_back(i);
            }
        }
        tbb::parallel_for(std::size_t{0}, now.size(), [&](std::size_t i) { work(now[i]); });
    }
}

} // namespace wren
