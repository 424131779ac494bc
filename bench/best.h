#pragma once

#include <algorithm>
#include <chrono>

namespace wren {

/// Seconds of the quickest of five goes: what other guests of the machine took is left out.
template <typename F>
double bestOfFive(F f) {
    using Clock = std::chrono::steady_clock;
    double best = 1e99;
    for (int i = 0; i < 5; ++i) {
        const auto start = Clock::now();
        f();
        best = std::min(best, std::chrono::duration<double>(Clock::now() - start).count());
    }
    return best;
}

} // namespace wren
