#include "run/answers.h"

#include "base/error.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double noPlace = 1e5; ///< mm: no bench router stands there

/// The number behind a key, whole and finite.
double numberAfter(std::string_view line, std::string_view key) {
    const std::size_t at = line.find(key);
    if (at == std::string_view::npos) {
        return 0;
    }
    const std::string_view rest = line.substr(at + key.size());
    const std::string_view word = rest.substr(0, rest.find(' '));
    double value = 0;
    const auto [end, code] = std::from_chars(word.data(), word.data() + word.size(), value);
    if (code != std::errc() || end != word.data() + word.size() || !std::isfinite(value)) {
        throw Error(fmt::format("The machine's answer \"{}\" has no number after \"{}\".",
                                line.substr(0, 60), key.substr(1)));
    }
    return value;
}

Vec3 placeAfter(std::string_view line, const char* x, const char* y, const char* z) {
    const Vec3 p{numberAfter(line, x), numberAfter(line, y), numberAfter(line, z)};
    if (std::max({std::abs(p.x), std::abs(p.y), std::abs(p.z)}) > noPlace) {
        throw Error(
            fmt::format("The machine says it stands where none can: \"{}\".", line.substr(0, 60)));
    }
    return p;
}

} // namespace

std::optional<MachineStatus> parseStatus(std::string_view line) {
    if (line.rfind("state:", 0) != 0) {
        return std::nullopt;
    }
    MachineStatus s;
    s.state = std::string(line.substr(6, line.find(' ') - 6));
    constexpr std::array states{"idle", "run", "hold", "alarm"};
    if (std::find(states.begin(), states.end(), s.state) == states.end()) {
        throw Error(fmt::format("The machine says it is in a state nobody knows: \"{}\".",
                                line.substr(0, 60)));
    }
    s.position = placeAfter(line, " x:", " y:", " z:");
    s.work = placeAfter(line, " wx:", " wy:", " wz:");
    const double room = numberAfter(line, " free:");
    if (room < 0 || room > 1e6) {
        throw Error(fmt::format("The machine says its buffer has room for {:g} bytes.", room));
    }
    s.freeBytes = static_cast<std::size_t>(room);
    s.clock = numberAfter(line, " clock:");
    s.standIn = line.find(" stand-in") != std::string_view::npos;
    return s;
}

Vec3 parseProbe(std::string_view line) {
    std::array<double, 3> at{};
    const char* p = line.data() + std::min(line.size(), std::string_view("probe:").size());
    const char* const end = line.data() + line.size();
    for (std::size_t i = 0; i < 3; ++i) {
        const auto [rest, code] = std::from_chars(p, end, at[i]);
        const bool last = i == 2;
        if (code != std::errc() || !std::isfinite(at[i]) ||
            (last ? rest != end : rest == end || *rest != ',')) {
            throw Error(
                fmt::format("The machine's probe gave no place: \"{}\".", line.substr(0, 60)));
        }
        p = rest + 1;
    }
    return {at[0], at[1], at[2]};
}

} // namespace wren
