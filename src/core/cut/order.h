#pragma once

#include <cstddef>
#include <vector>

namespace wren {

/// A cut before its place in the order and its bit are settled.
struct OpenCut {
    std::vector<std::size_t> after; ///< cuts that must come before this one, by index
    std::vector<std::size_t> bits;  ///< bits that can do it, by any number that names them
    std::vector<double> seconds;    ///< what each of them takes
};

/// A cut with its bit, in running order.
struct SettledCut {
    std::size_t cut = 0;
    std::size_t choice = 0; ///< index into its bits
};

/// The order and the bits that take the least time, each change of bit counted as
/// `secondsPerChange`; among equals the earlier cut first. Every order that respects `after` is
/// looked at, which is quick for the handful of cuts a part has. Cuts without bits must not be
/// among them.
std::vector<SettledCut> settleOrder(const std::vector<OpenCut>& cuts, double secondsPerChange);

} // namespace wren
