#include "book/time_spent.h"

#include <algorithm>
#include <unordered_map>

namespace wren {
namespace {

using Sums = std::unordered_map<std::string, Spent>;

void add(Sums& sums, const std::string& of, const RunRecord& r) {
    if (!of.empty()) {
        Spent& s = sums[of];
        s.planned += r.plannedSeconds;
        s.taken += r.takenSeconds;
    }
}

SpentBy sorted(const Sums& sums) {
    SpentBy out(sums.begin(), sums.end());
    std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) {
        return a.second.taken != b.second.taken ? a.second.taken > b.second.taken
                                                : a.first < b.first;
    });
    return out;
}

} // namespace

TimeSpent timeSpent(const std::vector<RunRecord>& runs) {
    Sums cuts, parts, instruments, bits;
    for (const RunRecord& r : runs) {
        const bool real = r.program.find("-air.nc") == std::string::npos &&
                          r.program.find("-trace.nc") == std::string::npos;
        if (r.outcome == "done" && real) {
            add(cuts, r.cuts, r);
            add(parts, r.part, r);
            add(instruments, r.project, r);
            add(bits, r.bit, r);
        }
    }
    return {sorted(cuts), sorted(parts), sorted(instruments), sorted(bits)};
}

} // namespace wren
