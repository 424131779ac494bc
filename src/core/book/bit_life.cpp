#include "book/bit_life.h"

#include <algorithm>
#include <cstdlib>

namespace wren {
namespace {

bool cuts(const RunRecord& r, bool withStandIns) {
    const auto has = [&](const char* tail) { return r.program.find(tail) != std::string::npos; };
    return !r.bit.empty() && (withStandIns || !r.standIn) && r.takenSeconds > 0 &&
           !has("-air.nc") && !has("-trace.nc");
}

/// A run that was stopped has gone as much of its way as of its time.
double wayOf(const RunRecord& r) {
    const double share = r.outcome == "done" || r.plannedSeconds <= 0
                             ? 1
                             : std::min(1.0, r.takenSeconds / r.plannedSeconds);
    return r.cutLength * share;
}

void tell(BitLife& life, const Record& event) {
    const std::string what = event.field("event");
    if (what == "new") {
        life.since = std::max(life.since, event.time);
    } else if (what == "broken") {
        life.broken = std::max(life.broken, event.time);
    } else {
        life.sharpened = std::max(life.sharpened, event.time);
    }
}

} // namespace

BitWork BitLife::all() const {
    BitWork sum;
    for (const auto& [wood, work] : byWood) {
        sum.seconds += work.seconds;
        sum.mm += work.mm;
    }
    return sum;
}

std::optional<SlotReading> BitLife::slotIn(const std::string& wood) const {
    const auto it = std::find_if(slots.begin(), slots.end(),
                                 [&](const SlotReading& s) { return s.wood == wood; });
    return it == slots.end() ? std::nullopt : std::optional(*it);
}

std::vector<BitLife> bitLives(const std::vector<RunRecord>& runs, const std::vector<Record>& bits,
                              const std::vector<Record>& measurements, bool withStandIns) {
    std::map<std::string, BitLife> lives;
    const auto of = [&](const std::string& bit) -> BitLife& {
        BitLife& life = lives[bit];
        life.bit = bit;
        return life;
    };
    for (const Record& event : bits) {
        tell(of(event.field("name")), event);
    }
    for (auto& [name, life] : lives) { // what became of the one before is not this one's
        life.sharpened = life.sharpened < life.since ? "" : life.sharpened;
        life.broken = life.broken < life.since ? "" : life.broken;
    }
    for (const Record& event : bits) {
        BitLife& life = of(event.field("name"));
        life.sharpenings += event.field("event") == "sharpened" && event.time >= life.since;
    }
    for (const RunRecord& r : runs) {
        if (!cuts(r, withStandIns)) {
            continue;
        }
        BitLife& life = of(r.bit);
        if (r.start < life.since) {
            continue;
        }
        const double mm = wayOf(r);
        BitWork& work = life.byWood[r.wood];
        work.seconds += r.takenSeconds;
        work.mm += mm;
        if (r.start >= life.sharpened) {
            life.sinceSharp.seconds += r.takenSeconds;
            life.sinceSharp.mm += mm;
        }
    }
    for (const Record& m : measurements) { // newest first
        if (m.field("size") == "fretboard.slot_width" && !m.field("bit").empty() &&
            m.time >= of(m.field("bit")).since) {
            of(m.field("bit"))
                .slots.push_back({std::atof(m.field("value").c_str()), m.field("wood"), m.time});
        }
    }
    std::vector<BitLife> out;
    for (auto& [name, life] : lives) {
        out.push_back(std::move(life));
    }
    return out;
}

} // namespace wren
