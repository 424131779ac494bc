#include "job/run_advice.h"

#include <cmath>

#include <fmt/format.h>

namespace wren {

std::optional<RunAdvice> adviceFor(const PostedProgram& program, const std::string& wood,
                                   const std::vector<Experience>& experience) {
    const std::string cuts = fmt::format("{}", fmt::join(program.program.what, " + "));
    const Experience* e = experienceFor(experience, program.program.bit.name, wood, cuts);
    if (!e) {
        return {};
    }
    RunAdvice out;
    out.feedPercent = e->feedPercent;
    out.minutes = program.time.seconds / 60 * e->minutesRatio;
    const int turned = e->feedPercent + e->takenOff;
    out.says = fmt::format("{} in {} ended well at {} % feed on {} (run {}{}).", e->bit, e->wood,
                           turned, e->when.substr(0, 10), e->evidence.front(),
                           e->runs > 1 ? fmt::format(" and {} before", e->runs - 1) : "");
    if (e->mishaps > 0) {
        out.says += fmt::format(" {} written down since: {} % now.",
                                e->mishaps == 1 ? "One mishap was"
                                                : fmt::format("{} mishaps were", e->mishaps),
                                e->feedPercent);
    }
    if (std::abs(e->minutesRatio - 1) >= 0.05) {
        out.says += fmt::format(" It takes {:.2f} times the planned minutes.", e->minutesRatio);
    }
    return out;
}

} // namespace wren
