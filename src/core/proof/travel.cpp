#include "proof/travel.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

#include <fmt/format.h>

namespace wren {
namespace {

Vec3 lower(Vec3 a, Vec3 b) {
    return {std::min(a.x, b.x), std::min(a.y, b.y), std::min(a.z, b.z)};
}
Vec3 upper(Vec3 a, Vec3 b) {
    return {std::max(a.x, b.x), std::max(a.y, b.y), std::max(a.z, b.z)};
}

std::array<Vec3, 2> boxOf(const Move& move) {
    std::array<Vec3, 2> box{lower(move.from, move.to), upper(move.from, move.to)};
    const auto take = [&box](Vec3 p) { box = {lower(box[0], p), upper(box[1], p)}; };
    if (!move.isArc()) {
        return box;
    }
    if (move.plane != ArcPlane::xy) {
        const int n = chordsFor(move, 0.001);
        for (int i = 1; i < n; ++i) {
            take(move.at(static_cast<double>(i) / n));
        }
        return box;
    }
    // Where the arc turns back along X or Y.
    constexpr double quarter = 1.57079632679489662;
    const Vec2 out = move.from.xy() - move.centre.xy();
    const double start = std::atan2(out.y, out.x);
    const double way = move.motion == Motion::arcCounter ? 1 : -1;
    for (int k = -4; k <= 8; ++k) {
        const double gone = way * (k * quarter - start);
        if (gone > 0 && gone < move.sweep()) {
            take(move.at(gone / move.sweep()));
        }
    }
    return box;
}

/// Collects the first fault of each kind per program.
class Judge {
public:
    Judge(const Setup& setup, const Machine& machine) : setup_(setup), machine_(machine) {}

    Findings take() { return std::move(out_); }

    void program(const RunProgram& p) {
        bool outside = false;
        bool bed = false;
        bool still = false;
        double low = std::numeric_limits<double>::infinity();
        double high = -low;
        int lowest = 0;
        bool placed = false; // where the tool stands before the first move in X or Y is not ours
        for (const Move& m : p.path) {
            placed = placed || m.to.xy() != m.from.xy() || m.isArc();
            const auto box = m.cuts() ? boxOf(m) : std::array<Vec3, 2>{m.to, m.to};
            if (box[0].z < low) {
                low = box[0].z;
                lowest = m.line;
            }
            high = std::max(high, box[1].z);
            outside = outside || (placed && sideways(p, m, box));
            bed = bed || intoBed(p, m, box[0].z);
            if (m.cuts() && !m.spindleOn && !still) {
                still = true;
                add("spindle-off", p, m.line, 0, 0, true,
                    fmt::format("{}, line {}: a cut begins while the spindle stands still.", p.file,
                                m.line));
            }
        }
        if (high - low > machine_.travel.z && !outside) {
            add("outside-travel", p, lowest, high - low, machine_.travel.z, false,
                fmt::format("{}, line {}: from the highest point down to here are {:.1f} mm of Z "
                            "travel; {} has {:.1f} mm.",
                            p.file, lowest, high - low, machine_.name, machine_.travel.z));
        }
        if (!p.ends || !p.spindleOffAtEnd) {
            add("no-end", p, 0, 0, 0, true,
                fmt::format("{} does not {}.", p.file,
                            p.ends ? "stop the spindle at its end" : "end with M2 or M30"));
        }
    }

private:
    bool sideways(const RunProgram& p, const Move& m, const std::array<Vec3, 2>& box) {
        const auto axis = [&](char name, double zero, double lo, double hi, double from,
                              double to) {
            const double least = zero + lo;
            const double most = zero + hi;
            if (least >= from - 1e-6 && most <= to + 1e-6) {
                return false;
            }
            const bool low = least < from - 1e-6;
            const double past = low ? from - least : most - to;
            const int places = past < 0.1 ? 3 : 1; // else both would read the same
            add("outside-travel", p, m.line, low ? least : most, low ? from : to, false,
                fmt::format("{}, line {}: {} would stand at {:.{}f} mm on the machine; {} travels "
                            "from {:.0f} to {:.{}f} mm.",
                            p.file, m.line, name, low ? least : most, places, machine_.name, from,
                            to, places));
            return true;
        };
        const Vec2 zero = setup_.zeroOn(p.station);
        const Vec2 low = machine_.lowCorner();
        return axis('X', zero.x, box[0].x, box[1].x, low.x, low.x + machine_.travel.x) ||
               axis('Y', zero.y, box[0].y, box[1].y, low.y, low.y + machine_.travel.y);
    }

    bool intoBed(const RunProgram& p, const Move& m, double z) {
        const double below = setup_.bottomZ() - z;
        constexpr double posted = 1e-3; // mm: the last decimal of an inch program is no depth
        if (below <= machine_.spoilDepth + posted) {
            return false;
        }
        add("into-bed", p, m.line, below, machine_.spoilDepth, false,
            fmt::format(
                "{}, line {}: the bit goes {:.2f} mm below the blank; the spoil board takes "
                "{:.2f} mm.",
                p.file, m.line, below, machine_.spoilDepth));
        return true;
    }

    void add(const char* code, const RunProgram& p, int line, double value, double limit,
             bool overridable, std::string message) {
        Finding f;
        f.weight = Weight::stop;
        f.code = code;
        f.part = setup_.part;
        f.message = std::move(message);
        f.value = value;
        f.limit = limit;
        f.program = p.file;
        f.line = line;
        f.overridable = overridable;
        out_.push_back(std::move(f));
    }

    const Setup& setup_;
    const Machine& machine_;
    Findings out_;
};

} // namespace

std::array<Vec3, 2> extentsOf(const Path& path) {
    std::optional<std::array<Vec3, 2>> box;
    for (const Move& m : path) {
        if (!box && m.to.xy() == m.from.xy() && !m.isArc()) {
            continue;
        }
        const std::array<Vec3, 2> one = m.cuts() ? boxOf(m) : std::array<Vec3, 2>{m.to, m.to};
        box = box ? std::array<Vec3, 2>{lower((*box)[0], one[0]), upper((*box)[1], one[1])} : one;
    }
    return box.value_or(std::array<Vec3, 2>{});
}

Findings judgeTravel(const Setup& setup, const Machine& machine,
                     const std::vector<RunProgram>& programs) {
    Judge judge(setup, machine);
    for (const RunProgram& p : programs) {
        judge.program(p);
    }
    return judge.take();
}

} // namespace wren
