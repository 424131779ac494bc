#pragma once

#include <cstddef>
#include <string>
#include <vector>

namespace wren {

/// What is cut while the same blanks lie on the machine.
struct BenchLoad {
    std::string first, last;        ///< bits
    std::string kind;               ///< loads of one kind are laid the same way
    std::vector<std::size_t> after; ///< loads that must come before it, by index
};

/// The order with the fewest bits changed between loads; among equals the one that goes on with
/// loads of one kind most often, then the earlier load first. Exact up to about a million states,
/// beyond that the best next step each time. At most 64 loads are looked at exactly.
std::vector<std::size_t> orderOfLoads(const std::vector<BenchLoad>& loads);

} // namespace wren
