#include "proof/rs274.h"

#include "base/error.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <map>
#include <set>

#include <fmt/format.h>

namespace wren {

/// The words of one line, G and M codes times ten so that 38.2 is exact.
struct Rs274Reader::Words {
    std::map<char, double> value;
    std::set<int> g;
    std::set<int> m;

    bool has(char letter) const { return value.count(letter) != 0; }
    double get(char letter, double otherwise = 0) const {
        const auto it = value.find(letter);
        return it == value.end() ? otherwise : it->second;
    }
    bool hasAxis() const { return has('X') || has('Y') || has('Z'); }
};

namespace {

/// Modal groups of NIST IR 6556, table 4; group 0 is the non-modal one. Two codes of one group on a
/// line are an error.
int groupOfG(int code) {
    static const std::map<int, int> groups = {
        {40, 0},   {100, 0},  {530, 0},                                   // 0
        {0, 1},    {10, 1},   {20, 1},   {30, 1},   {382, 1},  {800, 1},  // motion
        {170, 2},  {180, 2},  {190, 2},                                   // plane
        {900, 3},  {910, 3},                                              // distance
        {940, 5},                                                         // feed mode
        {200, 6},  {210, 6},                                              // units
        {400, 7},                                                         // radius comp.
        {490, 8},                                                         // tool length
        {540, 12}, {550, 12}, {560, 12}, {570, 12}, {580, 12}, {590, 12}, // coordinates
        {610, 13}, {611, 13}, {640, 13},                                  // path control
    };
    const auto it = groups.find(code);
    return it == groups.end() ? -1 : it->second;
}

int groupOfM(int code) {
    switch (code) {
    case 0:
    case 10:
    case 20:
    case 300:
        return 4;
    case 60:
        return 6;
    case 30:
    case 40:
    case 50:
        return 7;
    case 70:
    case 80:
    case 90:
        return 8;
    default:
        return -1;
    }
}

std::string codeName(char letter, int timesTen) {
    return timesTen % 10 ? fmt::format("{}{}.{}", letter, timesTen / 10, timesTen % 10)
                         : fmt::format("{}{}", letter, timesTen / 10);
}

/// Without comments, spaces and case, as the standard reads it.
std::string stripped(std::string_view line, std::string& fault) {
    std::string out;
    bool inComment = false;
    for (char c : line) {
        if (inComment) {
            if (c == '(' && fault.empty()) {
                fault = "a comment inside a comment";
            }
            inComment = c != ')';
        } else if (c == '(') {
            inComment = true;
        } else if (c == ';') {
            break;
        } else if (c == ')' && fault.empty()) {
            fault = "a closing bracket without a comment";
        } else if (c != ' ' && c != '\t' && c != '\r') {
            out += static_cast<char>(c >= 'a' && c <= 'z' ? c - 32 : c);
        }
    }
    if (inComment && fault.empty()) {
        fault = "a comment that is not closed";
    }
    return out;
}

} // namespace

namespace {

constexpr double farthest = 1e5; ///< mm: no router reaches a hundred metres
constexpr double widest = 1e7;   ///< mm: an arc of that radius is straight over any router's bed

} // namespace

void Rs274Reader::fail(const std::string& what) const {
    throw Error(fmt::format("{}, line {}: {}.", source_, lineNumber_, what));
}

void Rs274Reader::setOffset(int system, Vec3 machine) {
    state_.offsets.at(static_cast<std::size_t>(system - 1)) = machine;
}

Rs274Reader::Words Rs274Reader::split(std::string_view line) const {
    if (line.size() > 256) {
        fail("longer than 256 characters");
    }
    std::string fault;
    const std::string text = stripped(line, fault);
    if (!fault.empty()) {
        fail(fault);
    }
    Words words;
    std::size_t i = 0;
    if (text == "%") {
        return words;
    }
    if (!text.empty() && text[0] == '/') {
        ++i; // block delete, with the switch off
    }
    while (i < text.size()) {
        const char letter = text[i++];
        static const std::string known = "FGIJKLMNPRSTXYZ";
        const char next = i < text.size() ? text[i] : ' ';
        if (letter == '#' || next == '#' || next == '[') {
            fail("parameters and expressions are not read here; plain numbers were expected");
        }
        if (known.find(letter) == std::string::npos) {
            fail(fmt::format("unknown word \"{}\"", text.substr(i - 1, 8)));
        }
        double number = 0;
        std::size_t start = i;
        if (start < text.size() && text[start] == '+') {
            ++start;
        }
        const char* last = text.data() + text.size();
        const auto [end, code] =
            std::from_chars(text.data() + start, last, number, std::chars_format::fixed);
        if (code != std::errc{} || !std::isfinite(number)) {
            fail(fmt::format("a number was expected after \"{}\"", letter));
        }
        i = static_cast<std::size_t>(end - text.data());
        if (letter == 'G' || letter == 'M') {
            const int timesTen = static_cast<int>(std::lround(number * 10));
            const int group = letter == 'G' ? groupOfG(timesTen) : groupOfM(timesTen);
            if (group < 0 || std::abs(number * 10 - timesTen) > 1e-6) {
                fail(fmt::format("{}{:g} is not known here", letter, number));
            }
            std::set<int>& codes = letter == 'G' ? words.g : words.m;
            for (int other : codes) {
                const int otherGroup = letter == 'G' ? groupOfG(other) : groupOfM(other);
                const bool bothCoolants =
                    letter == 'M' && timesTen != 90 && other != 90 && group == 8;
                if (otherGroup == group && !bothCoolants) {
                    fail(fmt::format("{} and {} belong to the same group and exclude each other",
                                     codeName(letter, other), codeName(letter, timesTen)));
                }
            }
            codes.insert(timesTen);
        } else if (!words.value.emplace(letter, number).second) {
            fail(fmt::format("the word {} stands twice", letter));
        }
    }
    return words;
}

LineEffect Rs274Reader::read(std::string_view line) {
    ++lineNumber_;
    const State before = state_;
    LineEffect effect;
    try {
        const Words words = split(line);
        applyModes(words);
        applyNonModal(words, effect);
        applyMotion(words, effect);
        if (words.m.count(0) || words.m.count(10)) {
            effect.pause = true;
        }
        if (words.m.count(20) || words.m.count(300)) {
            effect.programEnd = true;
            state_.spindleOn = false;
            state_.motion = 10;
            state_.incremental = false;
            state_.plane = ArcPlane::xy;
            state_.system = 0;
        }
    } catch (...) {
        state_ = before;
        throw;
    }
    for (Move& m : effect.moves) {
        m.line = lineNumber_;
        m.spindleOn = state_.spindleOn;
        m.rpm = state_.spindleOn ? state_.speed : 0;
    }
    return effect;
}

/// In the standard's order of execution: units before the words measured in them.
void Rs274Reader::applyModes(const Words& w) {
    if (w.g.count(200)) {
        state_.inch = true;
    } else if (w.g.count(210)) {
        state_.inch = false;
    }
    if (w.has('F')) {
        if (w.get('F') < 0) {
            fail("a feed below zero");
        }
        state_.feed = w.get('F') * scale();
    }
    if (w.has('S')) {
        if (w.get('S') < 0) {
            fail("a spindle speed below zero");
        }
        state_.speed = w.get('S');
    }
    if (w.m.count(30) || w.m.count(40)) {
        if (state_.speed <= 0) {
            fail("the spindle is started without a speed");
        }
        state_.spindleOn = true;
    } else if (w.m.count(50)) {
        state_.spindleOn = false;
    }
    for (const auto& [code, plane] :
         {std::pair{170, ArcPlane::xy}, {180, ArcPlane::zx}, {190, ArcPlane::yz}}) {
        if (w.g.count(code)) {
            state_.plane = plane;
        }
    }
    for (int i = 0; i < 6; ++i) {
        if (w.g.count(540 + 10 * i)) {
            state_.system = i;
        }
    }
    if (w.g.count(900)) {
        state_.incremental = false;
    } else if (w.g.count(910)) {
        state_.incremental = true;
    }
    for (int code : {0, 10, 20, 30, 382, 800}) {
        if (w.g.count(code)) {
            state_.motion = code;
        }
    }
}

void Rs274Reader::applyNonModal(const Words& w, LineEffect& effect) {
    if (w.g.count(40)) {
        if (!w.has('P') || w.get('P') < 0) {
            fail("G4 needs P, the seconds to wait");
        }
        effect.dwell = w.get('P');
    }
    if (w.g.count(100)) {
        const double p = w.get('P', -1);
        if (w.get('L') != 2 || p < 1 || p > 6 || p != std::floor(p)) {
            fail("G10 needs L2 and P1 to P6");
        }
        Vec3& o = state_.offsets[static_cast<std::size_t>(p) - 1];
        o = {w.has('X') ? w.get('X') * scale() : o.x, w.has('Y') ? w.get('Y') * scale() : o.y,
             w.has('Z') ? w.get('Z') * scale() : o.z};
    }
}

Vec3 Rs274Reader::target(const Words& w) const {
    const bool machine = w.g.count(530) != 0;
    const Vec3 zero = machine ? Vec3{} : offset();
    const auto axis = [&](char letter, double at, double origin) {
        if (!w.has(letter)) {
            return at;
        }
        const double value = w.get(letter) * scale();
        const double to = state_.incremental && !machine ? at + value : origin + value;
        if (!(std::abs(to) <= farthest)) {
            fail(fmt::format("{} stands at {:g} mm; up to {:g} mm was expected", letter, to,
                             farthest));
        }
        return to;
    };
    return {axis('X', state_.at.x, zero.x), axis('Y', state_.at.y, zero.y),
            axis('Z', state_.at.z, zero.z)};
}

void Rs274Reader::applyMotion(const Words& w, LineEffect& effect) {
    if (!w.hasAxis() || w.g.count(100)) {
        const bool asked = w.g.count(20) || w.g.count(30) || w.g.count(382);
        if (asked) {
            fail(w.g.count(382) ? "a probe needs an axis word"
                                : "an arc needs X or Y, or the axes "
                                  "of its own plane");
        }
        return;
    }
    if (state_.motion == 800) {
        fail("axis words without a motion (G0, G1, G2, G3)");
    }
    if (w.g.count(530) && state_.motion != 0 && state_.motion != 10) {
        fail("G53 needs G0 or G1");
    }
    if (state_.motion != 0 && state_.feed <= 0) {
        fail("a feed move before any F");
    }
    const Vec3 to = target(w);
    if (state_.motion == 382) {
        if (w.has('R')) {
            fail("R has no meaning in a probe");
        }
        effect.probeTo = to;
        effect.probeFeed = state_.feed;
        return; // where it ends is the machine's to say
    }
    Move m;
    if (state_.motion == 20 || state_.motion == 30) {
        m = arc(w, to);
    } else {
        m.motion = state_.motion == 0 ? Motion::rapid : Motion::line;
    }
    m.from = state_.at;
    m.to = to;
    m.plane = state_.plane;
    m.feed = state_.motion == 0 ? 0 : state_.feed;
    effect.moves.push_back(m);
    state_.at = to;
}

Move Rs274Reader::arc(const Words& w, Vec3 to) const {
    Move m;
    m.motion = state_.motion == 20 ? Motion::arcClockwise : Motion::arcCounter;
    const Vec3 at = state_.at;
    // The plane's own two axes and centre words, in the order that turns counter-clockwise.
    struct Axes {
        char first, second, firstCentre, secondCentre;
        double Vec3::*u;
        double Vec3::*v;
    };
    Axes a{'X', 'Y', 'I', 'J', &Vec3::x, &Vec3::y};
    if (state_.plane == ArcPlane::zx) {
        a = {'Z', 'X', 'K', 'I', &Vec3::z, &Vec3::x};
    } else if (state_.plane == ArcPlane::yz) {
        a = {'Y', 'Z', 'J', 'K', &Vec3::y, &Vec3::z};
    }
    if (!w.has(a.first) && !w.has(a.second)) {
        fail(fmt::format("an arc needs {} or {}", a.first, a.second));
    }
    const Vec2 from{at.*a.u, at.*a.v};
    const Vec2 end{to.*a.u, to.*a.v};
    Vec2 centre;
    if (w.has('R')) {
        if (w.has(a.firstCentre) || w.has(a.secondCentre)) {
            fail("an arc has either R or a centre, not both");
        }
        const double r = w.get('R') * scale();
        const Vec2 chord = end - from;
        const double d = length(chord);
        if (d == 0) {
            fail("an arc by radius must end elsewhere than it starts");
        }
        if (std::abs(r) < d / 2 - 0.002) {
            fail(fmt::format("the radius {:.4f} mm is too small for ends {:.4f} mm apart",
                             std::abs(r), d));
        }
        const double h = std::sqrt(std::max(0.0, r * r - d * d / 4));
        // Positive R is the arc under half a turn; clockwise has its centre on the right.
        const double side = (m.motion == Motion::arcClockwise) == (r > 0) ? -1 : 1;
        centre = (from + end) * 0.5 + Vec2{-chord.y, chord.x} * (side * h / d);
    } else {
        if (!w.has(a.firstCentre) && !w.has(a.secondCentre)) {
            fail(fmt::format("an arc needs R, or {} and {}", a.firstCentre, a.secondCentre));
        }
        centre = from + Vec2{w.get(a.firstCentre), w.get(a.secondCentre)} * scale();
        const double miss = std::abs(length(from - centre) - length(end - centre));
        const double allowed = state_.inch ? 0.0002 * mmPerInch : 0.002;
        if (miss > allowed) {
            fail(
                fmt::format("the arc's ends differ by {:.4f} mm in their distance from the centre; "
                            "at most {:.4f} mm is allowed",
                            miss, allowed));
        }
        if (length(from - centre) == 0) {
            fail("the arc's radius is zero");
        }
    }
    if (!(length(from - centre) <= widest)) {
        fail(fmt::format("the arc's radius is {:g} mm; up to {:g} mm was expected",
                         length(from - centre), widest));
    }
    m.centre = {};
    m.centre.*a.u = centre.x;
    m.centre.*a.v = centre.y;
    return m;
}

ProgramReading readProgram(std::string_view text, const std::string& source, Vec3 start) {
    ProgramReading out;
    Rs274Reader reader(source);
    reader.setPosition(start);
    while (!text.empty() && !out.ends) {
        const std::size_t end = text.find('\n');
        const LineEffect effect = reader.read(text.substr(0, end));
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
        out.spindleOffAtEnd = !reader.spindleOn();
        if (effect.probeTo) {
            throw Error(fmt::format("{}, line {}: a program for the shop does not probe.", source,
                                    reader.lineNumber()));
        }
        out.path.insert(out.path.end(), effect.moves.begin(), effect.moves.end());
        if (effect.dwell > 0) {
            if (out.path.empty()) {
                Move wait; // standing still, so that the time is not lost
                wait.from = wait.to = start;
                wait.line = reader.lineNumber();
                out.path.push_back(wait);
            }
            out.path.back().dwell += effect.dwell;
        }
        out.ends = effect.programEnd;
    }
    out.lines = reader.lineNumber();
    out.unit = reader.unit();
    return out;
}

} // namespace wren
