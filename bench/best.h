#pragma once

#include <algorithm>
#include <chrono>
#include <utility>

namespace wren {

template <typename F>
double secondsOf(F f) {
    using Clock = std::chrono::steady_clock;
    const auto start = Clock::now();
    f();
    return std::chrono::duration<double>(Clock::now() - start).count();
}

/// Seconds of the quickest of five goes: what other guests of the machine took is left out.
template <typename F>
double bestOfFive(F f) {
    double best = 1e99;
    for (int i = 0; i < 5; ++i) {
        best = std::min(best, secondsOf(f));
    }
    return best;
}

/// The same of two things, in turn, so that a machine that changes its speed changes both; of short
/// ones more goes.
template <typename F, typename G>
std::pair<double, double> bestInTurn(F f, G g, int goes = 5) {
    std::pair<double, double> best{1e99, 1e99};
    for (int i = 0; i < goes; ++i) {
        best.first = std::min(best.first, secondsOf(f));
        best.second = std::min(best.second, secondsOf(g));
    }
    return best;
}

} // namespace wren
