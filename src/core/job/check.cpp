#include "job/check.h"

#include "base/error.h"
#include "cut/plain_time.h"
#include "job/report.h"
#include "proof/rs274.h"
#include "proof/travel.h"

#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

class Judge {
public:
    explicit Judge(ProgramCheck& check) : check_(check) {}

    void span(char axis, double needs, double travel) {
        if (needs > travel + 1e-6) {
            add("outside-travel", 0, needs, travel,
                fmt::format("{} moves over {:.1f} mm in {}; the machine travels {:.1f} mm.",
                            check_.file, needs, axis, travel));
        }
    }

    void spindle(const ProgramReading& reading) {
        if (onlyGoesRound(reading)) {
            return;
        }
        for (const Move& m : reading.path) {
            if (m.cuts() && !m.spindleOn) {
                add("spindle-off", m.line, 0, 0,
                    fmt::format("{}, line {}: a cut begins while the spindle stands still.",
                                check_.file, m.line));
                return;
            }
        }
    }

    void ending(const ProgramReading& reading) {
        if (!reading.ends || !reading.spindleOffAtEnd) {
            add("no-end", reading.lines, 0, 0,
                fmt::format("{} does not {}.", check_.file,
                            reading.ends ? "stop the spindle at its end" : "end with M2 or M30"));
        }
    }

private:
    /// At one height, the spindle never asked for: what is fed there cuts nothing.
    static bool onlyGoesRound(const ProgramReading& reading) {
        const Path& path = reading.path;
        const auto fed = std::find_if(path.begin(), path.end(),
                                      [](const Move& m) { return m.cuts(); });
        return std::none_of(fed, path.end(), [&](const Move& m) {
            return m.spindleOn || m.from.z != fed->from.z || m.to.z != fed->from.z;
        });
    }

    void add(const char* code, int line, double value, double limit, std::string message) {
        Finding f;
        f.weight = Weight::stop;
        f.code = code;
        f.program = check_.file;
        f.line = line;
        f.value = value;
        f.limit = limit;
        f.message = std::move(message);
        check_.findings.push_back(std::move(f));
    }

    ProgramCheck& check_;
};

} // namespace

Vec3 parseBed(const std::string& text) {
    std::vector<double> parts;
    std::size_t from = 0;
    while (from <= text.size()) {
        const std::size_t comma = std::min(text.find(',', from), text.size());
        parts.push_back(parseLength(text.substr(from, comma - from)));
        from = comma + 1;
    }
    if (parts.size() != 3 || parts[0] <= 0 || parts[1] <= 0 || parts[2] <= 0) {
        throw Error(fmt::format("\"{}\" is not a bed; X,Y,Z in mm, such as 900,600,110, was "
                                "expected.",
                                text));
    }
    return {parts[0], parts[1], parts[2]};
}

ProgramCheck checkProgram(const std::string& text, const std::string& name, Vec3 travel) {
    const ProgramReading reading = readProgram(text, name);
    ProgramCheck check;
    check.file = name;
    check.lines = reading.lines;
    check.unit = reading.unit;
    check.extents = extentsOf(reading.path);
    Machine machine; // only its rapid rate matters here
    machine.maxFeed = 1e9;
    check.secondsPlain = plainSeconds(reading.path, machine);
    for (const Move& m : reading.path) {
        (m.cuts() ? check.cutLength : check.rapidLength) += m.length();
    }
    const Vec3 size = check.extents[1] - check.extents[0];
    Judge judge(check);
    judge.span('X', size.x, travel.x);
    judge.span('Y', size.y, travel.y);
    judge.span('Z', size.z, travel.z);
    judge.spindle(reading);
    judge.ending(reading);
    return check;
}

std::string checkText(const ProgramCheck& c) {
    return fmt::format("{}: {} lines, {}\n"
                       "X {:.3f} to {:.3f}, Y {:.3f} to {:.3f}, Z {:.3f} to {:.3f} mm\n"
                       "cutting {:.0f} mm, rapid {:.0f} mm, {:.1f} minutes by distance over feed\n",
                       c.file, c.lines, c.unit == LengthUnit::inch ? "in inches" : "in millimetres",
                       c.extents[0].x, c.extents[1].x, c.extents[0].y, c.extents[1].y,
                       c.extents[0].z, c.extents[1].z, c.cutLength, c.rapidLength,
                       c.secondsPlain / 60);
}

std::string checkJson(const ProgramCheck& c) {
    using json = nlohmann::ordered_json;
    const json doc = {
        {"file", c.file},
        {"lines", c.lines},
        {"units", c.unit == LengthUnit::inch ? "inch" : "mm"},
        {"extents_mm",
         {{"min", {c.extents[0].x, c.extents[0].y, c.extents[0].z}},
          {"max", {c.extents[1].x, c.extents[1].y, c.extents[1].z}}}},
        {"cut_mm", c.cutLength},
        {"rapid_mm", c.rapidLength},
        {"seconds_plain", c.secondsPlain},
        {"findings", json::parse(findingsJson(c.findings))},
    };
    return doc.dump(2) + "\n";
}

} // namespace wren
