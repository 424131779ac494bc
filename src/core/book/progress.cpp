#include "book/progress.h"

#include <algorithm>
#include <map>
#include <set>

namespace wren {

double InstrumentProgress::minutes() const {
    double sum = 0;
    for (const PartProgress& p : parts) {
        sum += p.minutes;
    }
    return sum;
}

std::vector<InstrumentProgress> progressOf(const std::vector<InstrumentRow>& instruments,
                                           const std::vector<RunRecord>& runs) {
    std::vector<InstrumentProgress> out;
    std::map<std::string, std::size_t> byName;
    for (const InstrumentRow& row : instruments) {
        byName[row.name] = out.size();
        out.push_back({row, {}});
    }
    std::map<std::pair<std::size_t, std::string>, std::set<std::string>> done;
    for (auto r = runs.rbegin(); r != runs.rend(); ++r) { // oldest first
        const auto at = byName.find(r->project);
        if (at == byName.end()) {
            continue;
        }
        std::vector<PartProgress>& parts = out[at->second].parts;
        auto part = std::find_if(parts.begin(), parts.end(),
                                 [&](const PartProgress& p) { return p.part == r->part; });
        if (part == parts.end()) {
            parts.push_back({r->part, r->start, {}, 0, 0, 0});
            part = parts.end() - 1;
        }
        part->last = r->start;
        part->minutes += r->takenSeconds / 60;
        const bool cuts = r->program.find("-air.nc") == std::string::npos &&
                          r->program.find("-trace.nc") == std::string::npos;
        if (cuts && r->outcome == "done") {
            const std::string whole = r->program.substr(0, r->program.find(" from line"));
            part->programs += done[{at->second, r->part}].insert(whole).second ? 1 : 0;
        } else if (cuts && r->outcome != "running") {
            ++part->failed;
        }
    }
    return out;
}

} // namespace wren
