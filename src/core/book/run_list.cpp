#include "book/run_list.h"

#include "base/csv.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {

std::string runsCsv(const std::vector<RunRecord>& runs) {
    std::string out = "id,project,part,program,start,end,planned_s,taken_s,cut_mm,outcome,line,"
                      "feed_percent,spindle_percent,bit,wood,cuts,stand_in,machine,by,remark\n";
    for (const RunRecord& r : runs) {
        out += fmt::format("{},{},{},{},{},{},{:.1f},{:.1f},{:.0f},{},{},{},{},{},{},{},{},{},{},{}\n",
                           r.id, quoted(r.project), quoted(r.part), quoted(r.program), r.start,
                           r.end, r.plannedSeconds, r.takenSeconds, r.cutLength, r.outcome, r.line,
                           r.feedPercent, r.spindlePercent, quoted(r.bit), quoted(r.wood),
                           quoted(r.cuts), r.standIn ? "yes" : "no", quoted(r.machine), quoted(r.by),
                           quoted(r.remark));
    }
    return out;
}

std::string runsJson(const std::vector<RunRecord>& runs) {
    auto list = nlohmann::ordered_json::array();
    for (const RunRecord& r : runs) {
        list.push_back({{"id", r.id},
                        {"project", r.project},
                        {"part", r.part},
                        {"program", r.program},
                        {"sha256", r.sha256},
                        {"motion_sha256", r.motion},
                        {"design_hash", r.designHash},
                        {"address", r.address},
                        {"start", r.start},
                        {"end", r.end},
                        {"planned_seconds", r.plannedSeconds},
                        {"taken_seconds", r.takenSeconds},
                        {"cut_mm", r.cutLength},
                        {"outcome", r.outcome},
                        {"line", r.line},
                        {"feed_percent", r.feedPercent},
                        {"spindle_percent", r.spindlePercent},
                        {"bit", r.bit},
                        {"wood", r.wood},
                        {"cuts", r.cuts},
                        {"remark", r.remark},
                        {"stand_in", r.standIn},
                        {"machine", r.machine},
                        {"by", r.by}});
    }
    return list.dump(2) + "\n";
}

} // namespace wren
