#include "proof/air_pass.h"

#include "base/error.h"
#include "proof/rs274.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

/// Where the value of a line's word stands, comments left aside; of `letter` in either case.
struct WordPlace {
    std::size_t from = std::string::npos, size = 0;
    explicit operator bool() const { return from != std::string::npos; }
};

bool ofNumber(char c) {
    return (c >= '0' && c <= '9') || c == '.' || c == '-' || c == '+' || c == ' ' || c == '\t';
}

WordPlace wordIn(const std::string& line, char letter) {
    bool comment = false;
    for (std::size_t i = 0; i < line.size() && line[i] != ';'; ++i) {
        comment = (comment || line[i] == '(') && line[i] != ')';
        if (comment || std::toupper(static_cast<unsigned char>(line[i])) != letter) {
            continue;
        }
        std::size_t end = i + 1;
        while (end < line.size() && ofNumber(line[end])) {
            ++end;
        }
        while (end > i + 1 && (line[end - 1] == ' ' || line[end - 1] == '\t')) {
            --end;
        }
        return {i + 1, end - i - 1};
    }
    return {};
}

/// Whether the line has that G word: "G53" as "G53" or "g 53".
bool hasG(std::string line, const std::string& number) {
    for (;;) {
        const WordPlace g = wordIn(line, 'G');
        if (!g) {
            return false;
        }
        std::string value = line.substr(g.from, g.size);
        std::erase_if(value, [](char c) { return c == ' ' || c == '\t'; });
        if (value == number) {
            return true;
        }
        line.erase(g.from - 1, g.size + 1);
    }
}

/// The same height so much further up, in the program's unit, with no fewer decimals.
std::string lifted(const std::string& value, double by, bool inch) {
    std::string digits = value;
    std::erase_if(digits, [](char c) { return c == ' ' || c == '\t'; });
    const std::size_t point = digits.find('.');
    const std::size_t told = point == std::string::npos ? 0 : digits.size() - point - 1;
    const int decimals = static_cast<int>(std::max<std::size_t>(told, inch ? 5 : 4));
    std::string out = fmt::format("{:.{}f}", std::stod(digits) + by, decimals);
    out.erase(out.find_last_not_of('0') + 1);
    out.erase(out.back() == '.' ? out.size() - 1 : out.size());
    return out == "-0" ? "0" : out;
}

std::string liftedLine(const std::string& line, Rs274Reader& reader, double lift,
                       const std::string& where) {
    const LineEffect effect = reader.read(line);
    if (effect.probeTo) {
        throw Error(fmt::format("{}: a probe cannot be lifted; it would miss its plate.", where));
    }
    const WordPlace z = wordIn(line, 'Z');
    const bool ofWork = z && !reader.incremental() && !hasG(line, "53") && !hasG(line, "10");
    if (!ofWork) {
        return line;
    }
    const bool inch = reader.unit() == LengthUnit::inch;
    const double by = inch ? lift / mmPerInch : lift;
    return line.substr(0, z.from) + lifted(line.substr(z.from, z.size), by, inch) +
           line.substr(z.from + z.size);
}

/// Throws where the lifted program does not move as the other does, a lift above it.
void compare(const std::string& program, const std::string& air, const std::string& name,
             double lift) {
    const Path was = readProgram(program, name).path;
    const Path now = readProgram(air, name).path;
    constexpr double rounding = 0.001;
    for (std::size_t i = 0; i < was.size(); ++i) {
        const bool same = now.size() == was.size() && now[i].motion == was[i].motion &&
                          length(now[i].to.xy() - was[i].to.xy()) < rounding;
        const double by = same ? now[i].to.z - was[i].to.z : 0;
        const bool up = std::abs(by - lift) < rounding;
        const bool byMachine = std::abs(by) < rounding && !was[i].cuts(); // G53
        if (!same || !(up || byMachine)) {
            throw Error(fmt::format("{}, line {}: this move cannot be lifted; a height of its own "
                                    "in absolute coordinates was expected before it.",
                                    name, was[i].line));
        }
    }
}

} // namespace

std::string airPass(const std::string& program, const std::string& name, double lift) {
    if (!(lift > 0) || lift > 500) {
        throw Error(fmt::format("A lift of {:g} mm was asked for; more than 0 and up to 500 mm was "
                                "expected.",
                                lift));
    }
    std::string out;
    Rs274Reader reader(name);
    int number = 0;
    for (std::size_t from = 0; from < program.size();) {
        const std::size_t end = std::min(program.find('\n', from), program.size());
        const std::string where = fmt::format("{}, line {}", name, ++number);
        out += liftedLine(program.substr(from, end - from), reader, lift, where);
        out += end < program.size() ? "\n" : "";
        from = end + 1;
    }
    compare(program, out, name, lift);
    const std::string told =
        fmt::format("(AIR PASS: all heights {:g} mm up, else as {})\n", lift, name);
    const bool tape = !out.empty() && out[0] == '%';
    const std::size_t head = tape ? std::min(out.find('\n'), out.size() - 1) + 1 : 0;
    return out.insert(head, told);
}

} // namespace wren
