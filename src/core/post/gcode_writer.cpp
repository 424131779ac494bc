#include "post/gcode_writer.h"

#include <cmath>
#include <string_view>

#include <fmt/format.h>

namespace wren {
namespace {

/// Signs that mean something to some controller, in a comment or not, are left out.
bool harmless(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') ||
           std::string_view(" .,:+-/='").find(c) != std::string_view::npos;
}

constexpr double shortArc = 0.01; ///< mm; none that was meant as a whole turn is so short

} // namespace

GcodeWriter::GcodeWriter(LengthUnit unit, bool arcs)
    : scale_(unit == LengthUnit::inch ? 1 / mmPerInch : 1), arcs_(arcs),
      decimals_(unit == LengthUnit::inch ? 5 : 4) {}

void GcodeWriter::comment(const std::string& text) {
    std::string plain;
    for (char c : text) {
        plain += harmless(c) ? c : ' ';
    }
    // Some controllers take short lines only: what is longer goes on in the next, broken at a
    // space.
    while (plain.size() > longestComment) {
        const std::size_t space = plain.rfind(' ', longestComment);
        const bool whole = space != std::string::npos && space > 0;
        const std::size_t end = whole ? space : longestComment;
        text_ += fmt::format("({})\n", plain.substr(0, end));
        plain.erase(0, whole ? end + 1 : end);
    }
    text_ += fmt::format("({})\n", plain);
}

void GcodeWriter::begin() {
    text_ += scale_ == 1 ? "G21\n" : "G20\n";
    text_ += "G90 G17 G94 G54\n";
}

void GcodeWriter::spindle(double rpm) {
    if (rpm != rpm_) {
        text_ += fmt::format("S{:.0f} M3\nG4 P4\n", rpm); // four seconds to come up to speed
        rpm_ = rpm;
    }
}

void GcodeWriter::path(const Path& path) {
    for (const Move& m : path) {
        if (m.isArc() && !arcs_) {
            asLines(m);
        } else {
            move(m);
        }
        if (m.dwell > 0) {
            text_ += fmt::format("G4 P{}\n", number(m.dwell, 1));
        }
    }
}

void GcodeWriter::asLines(const Move& arc) {
    constexpr double tolerance = 0.002; // mm
    const int n = chordsFor(arc, tolerance);
    Move chord = arc;
    chord.motion = Motion::line;
    for (int i = 1; i <= n; ++i) {
        chord.to = arc.at(static_cast<double>(i) / n);
        move(chord);
        chord.from = chord.to;
    }
}

void GcodeWriter::end() {
    text_ += "M5\nM2\n";
}

std::string GcodeWriter::number(double mm, double scale) const {
    std::string s = fmt::format("{:.{}f}", mm * scale, decimals_);
    s.erase(s.find_last_not_of('0') + 1);
    if (s.back() == '.') {
        s.pop_back();
    }
    return s == "-0" ? "0" : s;
}

void GcodeWriter::axis(std::string& line, char letter, double mm, double& last) {
    const std::string now = number(mm, scale_);
    if (last > 1e98 || now != number(last, scale_)) {
        line += fmt::format("{}{}{}", line.empty() ? "" : " ", letter, now);
        last = mm;
    }
}

void GcodeWriter::feedWord(std::string& line, double feed) {
    if (feed != feed_) {
        line += fmt::format(" F{}", number(std::round(feed * scale_ * 100) / 100, 1));
        feed_ = feed;
    }
}

void GcodeWriter::move(const Move& given) {
    Move m = given;
    // A program may be started wherever the last one ended, so its first move only lifts.
    if (last_.z > 1e98) {
        text_ += fmt::format("G0 Z{}\n", number(m.from.z, scale_));
        last_.z = m.from.z;
        motion_ = 0;
    }
    std::string words;
    axis(words, 'X', m.to.x, last_.x);
    axis(words, 'Y', m.to.y, last_.y);
    // An arc that ends, as written, where it began would be read as a whole turn.
    const double fall = m.to.z - m.from.z;
    const double inPlan = std::sqrt(std::max(0.0, m.length() * m.length() - fall * fall));
    const bool vanished = words.empty() && m.isArc() && inPlan < shortArc;
    m.motion = vanished ? Motion::line : m.motion;
    axis(words, 'Z', m.to.z, last_.z);
    if (words.empty() && !m.isArc()) {
        return; // shorter than the last decimal
    }
    const int code = static_cast<int>(m.motion); // the enum follows G0 to G3
    std::string line = code == motion_ && !m.isArc() ? words : fmt::format("G{} {}", code, words);
    motion_ = code;
    if (m.isArc()) {
        line += fmt::format(" I{} J{}", number(m.centre.x - m.from.x, scale_),
                            number(m.centre.y - m.from.y, scale_));
    }
    if (m.cuts()) {
        feedWord(line, m.feed);
    }
    text_ += line + "\n";
}

} // namespace wren
