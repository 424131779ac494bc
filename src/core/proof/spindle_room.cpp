#include "proof/spindle_room.h"

#include "proof/clamp_check.h"
#include "proof/travel.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

class RoomJudge {
public:
    RoomJudge(const Setup& setup, const Machine& machine, double under)
        : setup_(setup), machine_(machine), under_(under) {}

    void program(const RunProgram& p) {
        if (machine_.end.gap) {
            fits(p);
            comesDown(p);
        }
        overWood(p);
    }
    Findings take() { return std::move(out_); }

private:
    Finding& say(const RunProgram& p, const char* code, std::string message, double value,
                 double limit) {
        Finding& f = sayOf(setup_.part, out_, Weight::stop, code, std::move(message), value, limit);
        f.program = p.file;
        return f;
    }

    void fits(const RunProgram& p) {
        const SpindleSum sum = spindleSum(setup_, machine_, under_, p);
        if (sum.total() > *machine_.end.gap + 1e-9) {
            say(p, "no-room-under-spindle",
                fmt::format("{}: {}{:.1f} mm of blank, {:.1f} of lift, {:.1f} of bit and {:.1f} of "
                            "collet nut are {:.1f} mm; from the spindle's nose, all the way up, to "
                            "the spoil board are {:.1f} mm.",
                            p.file,
                            sum.fixture > 0
                                ? fmt::format("{:.1f} mm of fixture board, ", sum.fixture)
                                : std::string(),
                            sum.blank, sum.lift, sum.bit, sum.nut, sum.total(), *machine_.end.gap),
                sum.total(), *machine_.end.gap);
        }
    }

    void comesDown(const RunProgram& p) {
        const double lowest = extentsOf(p.path)[0].z - setup_.bottomZ() + under_;
        const double reached =
            *machine_.end.gap - machine_.travel.z - machine_.end.nutLength - p.bit.reachOrUsual();
        if (reached > lowest + 1e-9) {
            say(p, "bit-ends-above",
                fmt::format("{}: {} sticks out {:.1f} mm, so with the spindle all the way down its "
                            "tip stands {:.1f} mm over the spoil board, and the program goes down "
                            "to {:.1f} mm: a bit that sticks out further, or something under the "
                            "blank, was expected.",
                            p.file, p.bit.name, p.bit.reachOrUsual(), reached, lowest),
                reached, lowest);
        }
    }

    void overWood(const RunProgram& p) {
        ClampBox wood;
        wood.half = Vec2{setup_.blank.length, setup_.blank.width} * 0.5;
        wood.middle = wood.half;
        wood.high = setup_.topZ();
        const auto touch = firstTouch(p, wood, machine_.end, 0, ToolPart::nose);
        if (touch) {
            const Move& m = p.path[touch->move];
            say(p, "spindle-on-wood",
                fmt::format("{}, line {}: {} comes down on the blank; a bit that sticks out "
                            "further was expected.",
                            p.file, m.line,
                            touch->with == ToolPart::shoe ? "the dust shoe" : "the spindle's nose"),
                touch->by, 0)
                .line = m.line;
        }
    }

    const Setup& setup_;
    const Machine& machine_;
    double under_;
    Findings out_;
};

} // namespace

double leastOut(const Bit& bit, double deepest) {
    constexpr double overWood = 3; // mm the nut keeps clear
    return std::max(bit.fluteLength, deepest + overWood);
}

SpindleSum spindleSum(const Setup& setup, const Machine& machine, double under,
                      const RunProgram& program) {
    SpindleSum sum;
    sum.fixture = under;
    sum.blank = setup.blank.thickness;
    sum.lift = std::max(0.0, extentsOf(program.path)[1].z - setup.topZ());
    const double usual = program.bit.reachOrUsual();
    const double deepest = setup.topZ() - extentsOf(program.path)[0].z;
    sum.bit = program.bit.reach > 0 ? usual : std::min(usual, leastOut(program.bit, deepest));
    sum.nut = machine.end.nutLength;
    return sum;
}

std::optional<Tightest> tightestOf(const Setup& setup, const Machine& machine, double under,
                                   const std::vector<RunProgram>& programs) {
    std::optional<Tightest> out;
    for (const RunProgram& p : programs) {
        const SpindleSum sum = spindleSum(setup, machine, under, p);
        if (!out || sum.total() > out->sum.total()) {
            out = Tightest{p.file, p.bit.name, sum};
        }
    }
    return out;
}

Findings judgeSpindleRoom(const Setup& setup, const Machine& machine, double under,
                          const std::vector<RunProgram>& programs) {
    RoomJudge judge(setup, machine, under);
    for (const RunProgram& p : programs) {
        judge.program(p);
    }
    return judge.take();
}

} // namespace wren
