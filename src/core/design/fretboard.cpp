#include "design/fretboard.h"

#include "base/error.h"
#include "base/length.h"
#include "design/fan.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>
#include <set>
#include <sstream>

#include <fmt/format.h>

namespace wren {
namespace {

/// Length of the fret's own arc: the straight line in plan, lifted onto the face.
double lengthOverArc(const ArchedFace& face, const FretLine& line) {
    constexpr int n = 64;
    const auto at = [&](int i) {
        const Vec2 p = line.bass + (line.treble - line.bass) * (static_cast<double>(i) / n);
        return Vec3{p.x, p.y, face.heightAt(p.x, p.y)};
    };
    double sum = 0;
    for (int i = 0; i < n; ++i) {
        sum += length(at(i + 1) - at(i));
    }
    return sum;
}

FretPlace placeOf(int fret, const Fan& fan, const ArchedFace& face, const ArchedFace& floor) {
    const FretLine nut = fan.line(0);
    const FretLine line = fan.line(fret);
    FretPlace p;
    p.fret = fret;
    p.onBassEdge = line.bass.x - nut.bass.x;
    p.fromNut = line.middle();
    p.onTrebleEdge = line.treble.x - nut.treble.x;
    p.boardWidth = std::abs(line.treble.y - line.bass.y);
    p.angle = std::atan2(line.treble.x - line.bass.x, p.boardWidth) * 180 / std::numbers::pi;
    p.slotLength = length(line.treble - line.bass);
    p.wireLength = lengthOverArc(face, line);
    p.edgeThickness = std::min(face.heightAt(line.bass.x, line.bass.y),
                               face.heightAt(line.treble.x, line.treble.y));
    p.woodUnderSlot = std::min(floor.heightAt(line.bass.x, line.bass.y),
                               floor.heightAt(line.treble.x, line.treble.y));
    return p;
}

double numberIn(const std::string& word, const char* what) {
    double value = 0;
    try {
        value = parseNumber(word);
    } catch (const Error&) {
        throw Error(fmt::format("\"{}\" is not {}.", word, what));
    }
    return value;
}

std::vector<std::string> wordsOf(std::string text) {
    std::replace_if(
        text.begin(), text.end(), [](char c) { return c == ',' || c == ';'; }, ' ');
    std::istringstream in(text);
    std::vector<std::string> words;
    for (std::string w; in >> w;) {
        words.push_back(w);
    }
    return words;
}

int fretIn(const std::string& word) {
    const double n = numberIn(word, "a fret; numbers from 1 to 36 were expected");
    if (n < 1 || n > 36 || n != std::floor(n)) {
        throw Error(
            fmt::format("\"{}\" is not a fret; whole numbers from 1 to 36 were expected.", word));
    }
    return static_cast<int>(n);
}

} // namespace

std::vector<FretPlace> fretTable(const Fretboard& b) {
    const Fan fan(b);
    const ArchedFace face = faceOf(b);
    const ArchedFace floor = face.raised(-b.slotDepth);
    std::vector<FretPlace> table;
    for (int n = b.zeroFret ? 0 : 1; n <= b.frets; ++n) {
        table.push_back(placeOf(n, fan, face, floor));
    }
    return table;
}

std::vector<int> fretList(const std::string& text) {
    std::set<int> frets;
    for (const std::string& word : wordsOf(text)) {
        const std::size_t dash = word.find('-', 1);
        const int from = fretIn(word.substr(0, dash));
        const int to = dash == std::string::npos ? from : fretIn(word.substr(dash + 1));
        for (int n = from; n <= to; ++n) {
            frets.insert(n);
        }
    }
    return {frets.begin(), frets.end()};
}

std::vector<FretMark> fretMarks(const std::string& text) {
    std::vector<FretMark> marks;
    for (int fret : fretList(text)) {
        marks.push_back({fret});
    }
    return marks;
}

std::vector<StringGauge> gaugeList(const std::string& text) {
    std::vector<StringGauge> gauges;
    for (const std::string& word : wordsOf(text)) {
        const double g = numberIn(word, "a string gauge in mm");
        if (!(g >= 0.1 && g <= 6)) {
            throw Error(
                fmt::format("\"{}\" is not a string gauge; 0.1 to 6 mm were expected.", word));
        }
        gauges.push_back({g});
    }
    return gauges;
}

std::vector<StringGauge> evenGauges(int strings, double scaleLength) {
    // mm; common practice, no source.
    constexpr double bassScale = 750;
    const double thick = scaleLength > bassScale ? 2.67 : 1.17;
    const double thin = scaleLength > bassScale ? 1.14 : 0.25;
    std::vector<StringGauge> out;
    for (int i = 0; i < strings; ++i) {
        const double share = strings > 1 ? double(i) / (strings - 1) : 0;
        out.push_back({std::round(thick * std::pow(thin / thick, share) * 100) / 100});
    }
    return out;
}

std::vector<double> stringCentres(const Fretboard& b, double spread) {
    const auto n = static_cast<std::size_t>(b.strings);
    std::vector<double> gauges(n, 0);
    for (std::size_t i = 0; b.spacing == StringSpacing::gaps && b.gauges.size() == n && i < n;
         ++i) {
        gauges[i] = b.gauges[i].thickness;
    }
    const double wood = std::accumulate(gauges.begin() + 1, gauges.end() - 1, 0.0) +
                        (gauges.front() + gauges.back()) / 2;
    const double gap = (spread - wood) / static_cast<double>(n - 1);
    std::vector<double> centres{-spread / 2};
    for (std::size_t i = 1; i < n; ++i) {
        centres.push_back(centres.back() + gauges[i - 1] / 2 + gap + gauges[i] / 2);
    }
    return centres;
}

} // namespace wren
