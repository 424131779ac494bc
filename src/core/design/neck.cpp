#include "design/neck.h"

#include "base/error.h"
#include "base/length.h"

#include <array>
#include <cmath>
#include <sstream>

#include <fmt/format.h>

namespace wren {
namespace {

struct NamedShape {
    const char* name;
    double value;
};
constexpr std::array<NamedShape, 5> shapes{
    {{"V", -1}, {"soft-V", -0.5}, {"C", 0}, {"D", 0.5}, {"U", 1}}};

double shapeValue(const std::string& word) {
    for (const NamedShape& s : shapes) {
        if (word == s.name) {
            return s.value;
        }
    }
    try {
        const double value = parseNumber(word);
        if (value >= -1 && value <= 1) {
            return value;
        }
    } catch (const Error&) {
        // said below
    }
    throw Error(
        fmt::format("\"{}\" is not a shape; V, soft-V, C, D, U, a number from -1 to 1, or @ and a "
                    "traced section's name was expected.",
                    word));
}

NeckStation stationFrom(const std::string& text) {
    std::istringstream in(text);
    std::vector<std::string> words;
    for (std::string word; in >> word;) {
        words.push_back(word);
    }
    if (words.size() < 3) {
        throw Error(fmt::format("\"{}\" is not a station; a fret, a thickness and a shape were "
                                "expected, as in 1 20.5 C.",
                                text));
    }
    NeckStation s;
    s.fret = parseNumber(words.front());
    std::string thickness;
    for (std::size_t i = 1; i + 1 < words.size(); ++i) {
        thickness += words[i] + " ";
    }
    s.thickness = parseLength(thickness, LengthUnit::mm);
    const std::string& shape = words.back();
    if (shape.front() == '@') {
        s.trace = shape.substr(1);
        return s;
    }
    const std::size_t slash = shape.find('/');
    s.bass = mixOf(shapeValue(shape.substr(0, slash)));
    s.treble = slash == std::string::npos ? s.bass : mixOf(shapeValue(shape.substr(slash + 1)));
    return s;
}

} // namespace

SectionMix mixOf(double value) {
    return value < 0 ? SectionMix{-value, 1 + value, 0} : SectionMix{0, 1 - value, value};
}

std::string shapeWord(const SectionMix& mix) {
    const double value = mix.u - mix.v;
    for (const NamedShape& s : shapes) {
        if (std::abs(value - s.value) < 1e-9) {
            return s.name;
        }
    }
    return fmt::format("{:g}", value);
}

SectionMix shapeMix(const std::string& word) {
    return mixOf(shapeValue(word));
}

void checkStations(const std::vector<NeckStation>& stations) {
    for (std::size_t i = 1; i < stations.size(); ++i) {
        if (stations[i].fret <= stations[i - 1].fret) {
            throw Error(fmt::format("The station at fret {:g} follows the one at fret {:g}; they "
                                    "stand in order from the nut.",
                                    stations[i].fret, stations[i - 1].fret));
        }
    }
    if (stations.size() < 2) {
        throw Error(fmt::format("{} {}; at least two stations were expected, as in 1 20.5 C, 12 "
                                "22.5 C.",
                                stations.size(), stations.size() == 1 ? "station" : "stations"));
    }
}

std::vector<NeckStation> neckStations(const std::string& text) {
    std::vector<NeckStation> stations;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, ',');) {
        stations.push_back(stationFrom(one));
        const NeckStation& s = stations.back();
        if (!(s.fret >= 0 && s.fret <= 36)) {
            throw Error(fmt::format("A station at fret {:g}; 0 to 36 was expected.", s.fret));
        }
        if (!(s.thickness >= 5 && s.thickness <= 60)) {
            throw Error(fmt::format("The neck is {:g} mm thick at fret {:g}; 5 to 60 mm was "
                                    "expected.",
                                    s.thickness, s.fret));
        }
    }
    checkStations(stations);
    return stations;
}

std::array<std::optional<int>, 2> pinFretPair(const std::string& text) {
    std::vector<int> frets = fretList(text);
    if (!frets.empty() && frets.size() != 2) {
        throw Error(fmt::format("{} {}; two frets for the glue-up pins were expected, as in 2 19.",
                                frets.size(), frets.size() == 1 ? "fret" : "frets"));
    }
    if (frets.empty()) {
        return {};
    }
    return {frets[0], frets[1]};
}

} // namespace wren
