#include "job/before_cutting.h"

#include "base/error.h"
#include "proof/air_pass.h"
#include "proof/outline_trace.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double usualLift = mmPerInch; ///< common practice, no source
constexpr double leastLift = 5;         ///< what a chip or a bowed blank takes of it

std::string withTail(const PostedProgram& p, const char* tail) {
    const std::string& file = p.program.file;
    return file.substr(0, file.rfind('.')) + tail + ".nc";
}

} // namespace

double airLift(const PostedProgram& p, const Machine& machine) {
    const double over = machine.travel.z - (p.extents[1].z - p.extents[0].z);
    const double lift = std::min(usualLift, std::floor(over * 10) / 10);
    return lift < leastLift ? 0 : lift;
}

BeforeCutting beforeCutting(const PostedProgram& p, const Machine& machine) {
    BeforeCutting out;
    out.lift = airLift(p, machine);
    if (out.lift > 0) {
        out.air = airPass(p.program.text, p.program.file, out.lift);
    }
    try {
        out.trace = outlineTrace(p.program.text, p.program.file);
    } catch (const Error&) {
        // it is sent all the same: there is no height to go round it at
    }
    return out;
}

PostedProgram runAs(const PostedProgram& p, RunHow how, const Setup& setup,
                    const Machine& machine) {
    if (how == RunHow::cut) {
        return p;
    }
    const BeforeCutting before = beforeCutting(p, machine);
    Program program = p.program;
    program.file = how == RunHow::air ? airName(p) : traceName(p);
    program.text = how == RunHow::air ? before.air : before.trace;
    if (program.text.empty()) {
        throw Error(how == RunHow::air
                        ? fmt::format("{} needs {:.0f} mm of the machine's {:.0f} mm of Z travel: "
                                      "no room is left for an air pass above it.",
                                      p.program.file, p.extents[1].z - p.extents[0].z,
                                      machine.travel.z)
                        : fmt::format("{} never stands above all that it cuts: there is no safe "
                                      "height to go round it at.",
                                      p.program.file));
    }
    const RunProgram read = readBack({program}, setup).front();
    return PostedProgram::of(std::move(program), read, machine);
}

std::string airName(const PostedProgram& p) {
    return withTail(p, "-air");
}

std::string traceName(const PostedProgram& p) {
    return withTail(p, "-trace");
}

} // namespace wren
