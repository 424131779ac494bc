#include "design/string_set.h"

#include "base/error.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <numbers>

#include <fmt/format.h>

namespace wren {
namespace {

// Of steel wire; usual handbook values, from memory.
constexpr double density = 7.85;     ///< g/cm3
constexpr double stiffness = 200000; ///< Young's modulus, N/mm2

/// mm2
double areaOf(double diameter) {
    return std::numbers::pi / 4 * diameter * diameter;
}

} // namespace

double noteFrequency(const std::string& note) {
    constexpr const char* letters = "C D EF G A B";
    const char* letter = note.empty() || note[0] == ' ' ? nullptr : std::strchr(letters, note[0]);
    std::size_t at = 1;
    int step = letter ? static_cast<int>(letter - letters) : 0;
    if (at < note.size() && (note[at] == '#' || note[at] == 'b')) {
        step += note[at++] == '#' ? 1 : -1;
    }
    if (!letter || at + 1 != note.size() || note[at] < '0' || note[at] > '8') {
        throw Error(
            fmt::format("\"{}\" is not a note; a letter from A to G, # or b at will, and an "
                        "octave from 0 to 8 was expected, as in E2 or F#3.",
                        note));
    }
    const int fromA4 = step - 9 + 12 * (note[at] - '0' - 4);
    return 440 * std::exp2(fromA4 / 12.0);
}

std::vector<StringGauge> usualSet(int strings, double scale) {
    constexpr double basses = 740; // mm of scale
    // Each set grows from its middle: lower strings in front, higher ones behind.
    static const std::vector<std::string> guitar{"C#1", "F#1", "B1", "E2", "A2",
                                                 "D3",  "G3",  "B3", "E4"};
    static const std::vector<std::string> bass{"C#0", "F#0", "B0", "E1", "A1",
                                               "D2",  "G2",  "C3", "F3"};
    const bool isBass = scale >= basses;
    const std::vector<std::string>& notes = isBass ? bass : guitar;
    // A bass of four ends on G2, of six on C3, of seven on F3.
    const int last = !isBass || strings > 6 ? 9 : strings == 6 ? 8 : 7;
    std::vector<StringGauge> out = evenGauges(strings, scale);
    for (int i = 0; i < strings; ++i) {
        StringGauge& s = out[static_cast<std::size_t>(i)];
        s.note = notes.at(static_cast<std::size_t>(std::max(0, last - strings + i)));
        s.wound = isBass || i < strings - 3;
    }
    return out;
}

std::optional<double> unitWeight(const StringGauge& s) {
    if (s.weight || s.wound) {
        return s.weight;
    }
    return areaOf(s.thickness) * density;
}

double stringTension(double unitWeight, double length, double frequency) {
    const double metres = length / 1000;
    return unitWeight / 1000 * 4 * metres * metres * frequency * frequency;
}

std::optional<double> tensionOf(const StringGauge& s, double scale) {
    const std::optional<double> weight = unitWeight(s);
    if (!weight || s.note.empty()) {
        return std::nullopt;
    }
    return stringTension(*weight, scale, noteFrequency(s.note));
}

std::optional<double> stretchCompensation(const StringGauge& s, double scale, double action) {
    const std::optional<double> tension = tensionOf(s, scale);
    const std::optional<double> core = s.wound ? s.core : std::optional(s.thickness);
    if (!tension || !core) {
        return std::nullopt;
    }
    return stiffness * areaOf(*core) * action * action / (*tension * scale);
}

} // namespace wren
