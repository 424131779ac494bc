#include "proof/resume.h"

#include "base/error.h"
#include "cut/settings.h"
#include "proof/rs274.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double lowered = 15; ///< mm of way it is lowered along, at most
constexpr double above = 2;    ///< mm over the way where that begins
constexpr double upToSpeed = 4; ///< seconds; common practice, no source

std::vector<std::string> linesOf(const std::string& text) {
    std::vector<std::string> out;
    std::size_t at = 0;
    while (at < text.size()) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        out.push_back(text.substr(at, end - at));
        at = end + 1;
    }
    return out;
}

/// What is set where a line begins.
struct Modes {
    LengthUnit unit = LengthUnit::mm;
    ArcPlane plane = ArcPlane::xy;
    Motion motion = Motion::rapid;
    double feed = 0, rpm = 0;
    bool spindle = false;
    Vec3 at;
};

/// Words of a line, comments left out: 'G' with its numbers.
std::vector<double> wordsOf(const std::string& line, char letter) {
    std::vector<double> out;
    bool comment = false;
    for (std::size_t i = 0; i < line.size(); ++i) {
        comment = line[i] == '(' ? true : line[i] == ')' ? false : comment;
        if (line[i] == ';') {
            break;
        }
        if (!comment && std::toupper(static_cast<unsigned char>(line[i])) == letter) {
            out.push_back(std::atof(line.c_str() + i + 1));
        }
    }
    return out;
}

Modes modesAt(const std::vector<std::string>& lines, const std::string& name, Vec3 start, int line) {
    Rs274Reader reader(name);
    reader.setPosition(start);
    Modes m;
    for (int i = 0; i + 1 < line; ++i) {
        const LineEffect effect = reader.read(lines[std::size_t(i)]);
        for (const Move& move : effect.moves) {
            m.motion = move.motion;
        }
        for (double g : wordsOf(lines[std::size_t(i)], 'G')) {
            m.plane = g == 17 ? ArcPlane::xy : g == 18 ? ArcPlane::zx : g == 19 ? ArcPlane::yz : m.plane;
            m.motion = g == 0   ? Motion::rapid
                       : g == 1 ? Motion::line
                       : g == 2 ? Motion::arcClockwise
                       : g == 3 ? Motion::arcCounter
                                : m.motion;
        }
        if (effect.programEnd) {
            throw Error(fmt::format("{} ends before line {}.", name, line));
        }
    }
    m.unit = reader.unit();
    m.feed = reader.feed();
    m.rpm = reader.speed();
    m.spindle = reader.spindleOn();
    m.at = reader.position();
    return m;
}

/// The last stretch of cut way before a line, from its far end on; empty where it begins with a
/// way through the air.
std::vector<Vec3> wayBefore(const Path& path, int line, Vec3 at) {
    std::vector<Vec3> back{at};
    double sum = 0;
    for (std::size_t i = path.size(); i-- > 0 && sum < lowered;) {
        const Move& m = path[i];
        if (m.line >= line) {
            continue;
        }
        if (!m.cuts()) {
            break;
        }
        const int n = chordsFor(m, 0.005);
        for (int k = n - 1; k >= 0 && sum < lowered; --k) {
            const Vec3 p = m.at(double(k) / n);
            sum += length(p - back.back());
            back.push_back(p);
        }
    }
    std::reverse(back.begin(), back.end());
    return back;
}

/// A feed it goes straight down with somewhere; half its own where it never does.
double plungeOf(const Path& path, double feed) {
    double least = feed > 0 ? feed : 300;
    for (const Move& m : path) {
        const bool down = m.cuts() && m.to.z < m.from.z && m.to.xy() == m.from.xy();
        least = down && m.feed > 0 ? std::min(least, m.feed) : least;
    }
    return least;
}

bool hasMotion(const std::string& line) {
    const std::vector<double> g = wordsOf(line, 'G');
    return std::any_of(g.begin(), g.end(), [](double v) { return v >= 0 && v <= 3; });
}

bool hasAxis(const std::string& line) {
    return !wordsOf(line, 'X').empty() || !wordsOf(line, 'Y').empty() ||
           !wordsOf(line, 'Z').empty();
}

/// "G2 " before a line that relies on what was set before it.
std::string withMotion(const std::string& line, Motion motion) {
    if (hasMotion(line) || !hasAxis(line)) {
        return line;
    }
    return fmt::format("G{} {}", static_cast<int>(motion), line);
}

Path readPath(const std::string& program, const std::string& name, const Setup& setup, Vec2 zero) {
    const Vec3 start{-zero.x, -zero.y, setup.topZ() + clearanceHeight};
    return readProgram(program, name, start).path;
}

} // namespace

int lastSafeLine(const std::string& program, const std::string& name, const Setup& setup, Vec2 zero,
                 int line) {
    int safe = 1;
    for (const Move& m : readPath(program, name, setup, zero)) {
        if (m.line >= line) {
            break;
        }
        if (!m.cuts() && m.to.z >= setup.topZ()) {
            safe = m.line + 1;
        }
    }
    return safe;
}

Resumed resumedFrom(const std::string& program, const std::string& name, const Setup& setup,
                    Vec2 zero, int line) {
    const std::vector<std::string> lines = linesOf(program);
    if (line < 1 || line > static_cast<int>(lines.size())) {
        throw Error(fmt::format("{} has lines 1 to {}; there is no line {}.", name, lines.size(),
                                line));
    }
    const Vec3 start{-zero.x, -zero.y, setup.topZ() + clearanceHeight};
    const Path path = readProgram(program, name, start).path;
    if (path.empty() || path.back().line < line) {
        throw Error(fmt::format("Nothing of {} moves from line {} on.", name, line));
    }
    const Modes m = modesAt(lines, name, start, line);
    Resumed out;
    out.line = line;
    out.at = m.at;
    const double scale = m.unit == LengthUnit::inch ? 1 / mmPerInch : 1;
    const auto number = [&](double mm) {
        return fmt::format("{:.{}f}", mm * scale, m.unit == LengthUnit::inch ? 5 : 4);
    };
    const auto place = [&](Vec3 p) {
        return fmt::format("X{} Y{} Z{}", number(p.x), number(p.y), number(p.z));
    };
    const double clear = setup.topZ() + clearanceHeight;
    std::string text = fmt::format("(Taken up again: {} from line {})\n", name, line);
    text += fmt::format("{}\nG90 G17 G94 G54\n", m.unit == LengthUnit::inch ? "G20" : "G21");
    out.does.push_back(fmt::format("The spindle goes up to Z {:.1f}.", clear));
    text += fmt::format("G0 Z{}\n", number(std::max(clear, m.at.z)));
    if (m.spindle || m.rpm > 0) {
        text += fmt::format("S{:.0f} M3\nG4 P{:g}\n", m.rpm, upToSpeed);
        out.does.push_back(
            fmt::format("It turns at {:.0f} rpm and is given {:g} s to get there.", m.rpm, upToSpeed));
    }
    const std::vector<Vec3> way = wayBefore(path, line, m.at);
    const Vec3 first = way.front();
    text += fmt::format("G0 X{} Y{}\n", number(first.x), number(first.y));
    out.does.push_back(
        fmt::format("Over the work to X {:.2f} Y {:.2f}.", first.x, first.y));
    if (m.at.z < clear - 1e-6) {
        const double plunge = plungeOf(path, m.feed);
        text += fmt::format("G1 Z{} F{}\n", number(first.z + above), number(plunge));
        double whole = 0;
        for (std::size_t i = 1; i < way.size(); ++i) {
            whole += length(way[i] - way[i - 1]);
        }
        double gone = 0;
        for (std::size_t i = 1; i < way.size(); ++i) {
            gone += length(way[i] - way[i - 1]);
            const double over = whole > 0 ? above * (1 - gone / whole) : 0;
            text += place(way[i] + Vec3{0, 0, over}) + "\n";
        }
        if (way.size() == 1) {
            text += fmt::format("Z{}\n", number(m.at.z));
        }
        out.does.push_back(
            way.size() > 1
                ? fmt::format("Down to Z {:.2f} along the last {:.0f} mm that were cut already, "
                              "{:.0f} mm/min.",
                              m.at.z, whole, plunge)
                : fmt::format("Straight down to Z {:.2f}, where it stood, {:.0f} mm/min.", m.at.z,
                              plunge));
    }
    if (m.feed > 0) {
        text += fmt::format("G1 F{}\n", number(m.feed));
    }
    if (m.plane != ArcPlane::xy) {
        text += m.plane == ArcPlane::zx ? "G18\n" : "G19\n";
    }
    out.does.push_back(fmt::format("Then the program goes on from line {} of {}.", line,
                                   static_cast<int>(lines.size())));
    Motion motion = m.motion;
    bool own = false; // its own motion word stands behind this one
    for (int i = line - 1; i < static_cast<int>(lines.size()); ++i) {
        const std::string& one = lines[std::size_t(i)];
        text += (own ? one : withMotion(one, motion)) + "\n";
        own = own || hasMotion(one) || hasAxis(one);
    }
    out.text = std::move(text);
    return out;
}

} // namespace wren
