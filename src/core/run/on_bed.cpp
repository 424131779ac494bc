#include "run/on_bed.h"

#include "hold/fixture_board.h"

#include <array>
#include <charconv>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr std::string_view lies = "lies";

}

std::string saidOf(const OnBed& t) {
    return fmt::format("{} {:.3f} {:.3f} {:.3f} {:.3f} {:.4f}", lies, t.low.x, t.low.y, t.high.x,
                       t.high.y, t.top);
}

std::optional<OnBed> onBedFrom(const std::string& line) {
    if (line.rfind(lies, 0) != 0) {
        return {};
    }
    std::array<double, 5> v{};
    const char* at = line.data() + lies.size();
    const char* const end = line.data() + line.size();
    for (double& number : v) {
        if (at == end || *at != ' ') {
            return {};
        }
        const auto [rest, code] = std::from_chars(at + 1, end, number);
        if (code != std::errc()) {
            return {};
        }
        at = rest;
    }
    if (at != end) {
        return {};
    }
    return OnBed{{v[0], v[1]}, {v[2], v[3]}, v[4]};
}

std::vector<OnBed> onBed(const Setup& setup, std::size_t station, double under) {
    const Vec2 low = setup.zeroOn(station);
    const Vec2 high = low + Vec2{setup.blank.length, setup.blank.width};
    std::vector<OnBed> out{{low, high, under + setup.blank.thickness}};
    if (under > 0) { // it reaches out at the ends, or along the edges of a blank that slides
        const Vec2 shelf = setup.stations.empty() ? Vec2{probeShelf, 0} : Vec2{0, probeShelf};
        out.push_back({low - shelf, high + shelf, under});
    }
    return out;
}

void layOnBed(Talk& talk, const std::vector<OnBed>& things) {
    if (!talk.status().standIn) {
        return;
    }
    talk.line(bareBed);
    for (const OnBed& thing : things) {
        talk.line(saidOf(thing));
    }
}

} // namespace wren
