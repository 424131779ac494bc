#include "book/machine_hours.h"

#include <algorithm>
#include <map>

namespace wren {

std::vector<MachineHours> machineHours(const std::vector<RunRecord>& runs,
                                       const std::vector<Record>& machines, bool withStandIns) {
    std::map<std::string, MachineHours> all;
    for (const Record& r : machines) {
        MachineHours& m = all[r.field("name")];
        const std::string event = r.field("event");
        if (event == "surfaced") {
            m.surfaced = std::max(m.surfaced, r.time);
        } else if (event == "serviced") {
            m.serviced = std::max(m.serviced, r.time);
        }
    }
    for (const RunRecord& r : runs) {
        if (r.machine.empty() || (r.standIn && !withStandIns)) {
            continue;
        }
        MachineHours& m = all[r.machine];
        const double hours = r.takenSeconds / 3600;
        m.hours += hours;
        m.sinceServiced += r.start >= m.serviced ? hours : 0;
        m.sinceSurfaced += r.start >= m.surfaced ? hours : 0;
    }
    std::vector<MachineHours> out;
    for (auto& [name, m] : all) {
        m.machine = name;
        out.push_back(std::move(m));
    }
    return out;
}

} // namespace wren
