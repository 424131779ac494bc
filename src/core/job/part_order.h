#pragma once

#include "job/part_job.h"

#include <tbb/parallel_for_each.h>
#include <tbb/task_group.h>

namespace wren {

/// Works on every part, side by side: `first(i)` of each, then its `then(i)`. Parts glued up from
/// others wait with the latter until theirs are done.
template <typename First, typename Then>
void overParts(const std::vector<PartJob>& parts, First first, Then then) {
    std::vector<std::size_t> layers;
    std::vector<std::size_t> glued;
    tbb::task_group all;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const PartJob& job = parts[i];
        if (job.panel && !job.panel->layers.empty()) {
            glued.push_back(i);
        } else if (job.id.isLayer()) {
            layers.push_back(i);
        } else {
            all.run([=, &first, &then] {
                first(i);
                then(i);
            });
        }
    }
    all.run([&] {
        tbb::task_group early;
        for (std::size_t i : glued) {
            early.run([&first, i] { first(i); });
        }
        for (std::size_t i : layers) {
            early.run([&first, &then, i] {
                first(i);
                then(i);
            });
        }
        early.wait();
        tbb::parallel_for_each(glued, then);
    });
    all.wait();
}

} // namespace wren
