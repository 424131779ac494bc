#include "book/experience.h"

#include <algorithm>

namespace wren {
namespace {

constexpr int perMishap = 10; ///< per cent; common practice, no source
constexpr int leastFeed = 50;

bool counts(const RunRecord& r, bool withStandIns) {
    const auto has = [&](const char* tail) { return r.program.find(tail) != std::string::npos; };
    return r.outcome == "done" && (withStandIns || !r.standIn) && !r.bit.empty() &&
           !has("-air.nc") && !has("-trace.nc") && !has(" from line ");
}

} // namespace

std::vector<Experience> experienceOf(const std::vector<RunRecord>& runs,
                                     const std::vector<Record>& mishaps, bool withStandIns) {
    struct Sums {
        double planned = 0, taken = 0;
    };
    std::vector<Experience> out;
    std::vector<Sums> sums;
    for (const RunRecord& r : runs) { // newest first
        if (!counts(r, withStandIns)) {
            continue;
        }
        const auto it = std::find_if(out.begin(), out.end(), [&](const Experience& e) {
            return e.bit == r.bit && e.wood == r.wood && e.cuts == r.cuts;
        });
        const auto i = static_cast<std::size_t>(it - out.begin());
        if (it == out.end()) {
            Experience e;
            e.bit = r.bit;
            e.wood = r.wood;
            e.cuts = r.cuts;
            e.feedPercent = r.feedPercent;
            e.when = r.end.empty() ? r.start : r.end;
            out.push_back(std::move(e));
            sums.push_back({});
        }
        ++out[i].runs;
        out[i].evidence.push_back(r.id);
        sums[i].planned += r.plannedSeconds;
        sums[i].taken += r.takenSeconds;
    }
    for (std::size_t i = 0; i < out.size(); ++i) {
        Experience& e = out[i];
        e.minutesRatio = sums[i].planned > 0 ? sums[i].taken / sums[i].planned : 1;
        for (const Record& m : mishaps) {
            const bool its = m.field("bit") == e.bit && m.field("wood") == e.wood &&
                             (m.field("cuts").empty() || m.field("cuts") == e.cuts);
            e.mishaps += its && m.time >= e.when ? 1 : 0;
        }
        if (e.mishaps > 0) {
            const int lowest = std::min(leastFeed, e.feedPercent);
            e.takenOff = e.feedPercent - std::max(lowest, e.feedPercent - perMishap * e.mishaps);
            e.feedPercent -= e.takenOff;
        }
    }
    return out;
}

const Experience* experienceFor(const std::vector<Experience>& all, const std::string& bit,
                                const std::string& wood, const std::string& cuts) {
    const auto it = std::find_if(all.begin(), all.end(), [&](const Experience& e) {
        return e.bit == bit && e.wood == wood && e.cuts == cuts;
    });
    return it == all.end() ? nullptr : &*it;
}

} // namespace wren
