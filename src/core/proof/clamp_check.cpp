#include "proof/clamp_check.h"

#include "cut/bit_chooser.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

/// What of the tool begins so far over its tip, and how wide that is.
struct Stretch {
    ToolPart part;
    double over;
    double radius;
};

std::vector<Stretch> stretchesOf(const Bit& bit, const SpindleEnd& end,
                                 ToolPart from = ToolPart::flutes) {
    const double nose = bit.reachOrUsual() + end.nutLength;
    std::vector<Stretch> out{
        {ToolPart::flutes, 0, bit.radius()},
        {ToolPart::shank, bit.fluteLength, std::max(bit.shank, bit.diameter) / 2},
        {ToolPart::nut, bit.reachOrUsual(), colletNut},
        {ToolPart::nose, nose, end.noseWidth / 2},
        {ToolPart::shoe, nose - end.shoeBelowNose, end.shoeWidth / 2}};
    std::erase_if(out, [&](const Stretch& s) { return s.radius <= 0 || s.part < from; });
    return out;
}

/// How far a tool's lowest part hangs below its tip: a shoe may.
double hangsBelow(const std::vector<Stretch>& tool) {
    double least = 0;
    for (const Stretch& s : tool) {
        least = std::min(least, s.over);
    }
    return -least;
}

double widestOf(const std::vector<Stretch>& tool) {
    double widest = 0;
    for (const Stretch& s : tool) {
        widest = std::max(widest, s.radius);
    }
    return widest;
}

/// Calls f(from, to) for the straight pieces of a move.
template <typename F>
void overPieces(const Move& m, F f) {
    const int n = chordsFor(m, 0.01);
    for (int i = 0; i < n; ++i) {
        f(m.at(double(i) / n), m.at(double(i + 1) / n));
    }
}

/// The part of a straight piece that lies below a height; none of it: false.
bool below(Vec3& a, Vec3& b, double z) {
    if (a.z >= z && b.z >= z) {
        return false;
    }
    if (a.z > z || b.z > z) {
        const double share = (z - a.z) / (b.z - a.z);
        const Vec3 at = a + (b - a) * share;
        (a.z > z ? a : b) = at;
    }
    return true;
}

/// From a straight piece to a rectangle about the origin; 0 where it enters.
double distanceToBox(Vec2 a, Vec2 b, Vec2 half) {
    // Clipped to it (Liang and Barsky, ACM Transactions on Graphics 3, 1984): something left?
    double from = 0, to = 1;
    const auto clip = [&](double at, double way, double most) {
        for (double side : {1.0, -1.0}) {
            const double room = most - side * at;
            const double rate = side * way;
            if (rate == 0) {
                from = room < 0 ? 2 : from;
            } else if (rate > 0) {
                to = std::min(to, room / rate);
            } else {
                from = std::max(from, room / rate);
            }
        }
    };
    clip(a.x, b.x - a.x, half.x);
    clip(a.y, b.y - a.y, half.y);
    if (from <= to) {
        return 0;
    }
    const auto outside = [&](Vec2 p) {
        return std::hypot(std::max(0.0, std::abs(p.x) - half.x),
                          std::max(0.0, std::abs(p.y) - half.y));
    };
    double least = std::min(outside(a), outside(b));
    for (double x : {-half.x, half.x}) {
        for (double y : {-half.y, half.y}) {
            least = std::min(least, distanceToSegment({x, y}, a, b));
        }
    }
    return least;
}

} // namespace

namespace {

/// What of a tool meets a clamp during one move, the deepest.
std::optional<ClampTouch> touchOf(const Move& m, const std::vector<Stretch>& tool,
                                  const ClampBox& clamp, double clear) {
    const double reach = length(clamp.half) + widestOf(tool) + clear;
    const double high = clamp.high + clear + hangsBelow(tool);
    if (std::min(m.from.z, m.to.z) >= high || tool.empty() ||
        (!m.isArc() && distanceToSegment(clamp.middle, m.from.xy(), m.to.xy()) > reach)) {
        return {};
    }
    std::optional<ClampTouch> touch;
    overPieces(m, [&](Vec3 from, Vec3 to) {
        for (const Stretch& s : tool) {
            Vec3 a = from, b = to;
            if (!below(a, b, clamp.high + clear - s.over)) {
                continue;
            }
            const double near = distanceToBox(clamp.own(a.xy()), clamp.own(b.xy()), clamp.half);
            const double by = s.radius + clear - near;
            if (by > 1e-9 && (!touch || by > touch->by)) {
                touch = ClampTouch{0, s.part, by};
            }
        }
    });
    return touch;
}

} // namespace

std::optional<ClampTouch> firstTouch(const RunProgram& program, const ClampBox& clamp,
                                     const SpindleEnd& end, double clear, ToolPart part) {
    const std::vector<Stretch> tool = stretchesOf(program.bit, end, part);
    bool placed = false; // where the tool stands before the first move in X or Y is not ours
    for (std::size_t i = 0; i < program.path.size(); ++i) {
        const Move& m = program.path[i];
        placed = placed || m.to.xy() != m.from.xy() || m.isArc();
        std::optional<ClampTouch> touch =
            placed ? touchOf(m, tool, clamp, clear) : std::nullopt;
        if (touch) {
            touch->move = i;
            return touch;
        }
    }
    return {};
}

bool touches(const Move& move, const Bit& bit, const ClampBox& clamp, const SpindleEnd& end,
             double clear) {
    return touchOf(move, stretchesOf(bit, end), clamp, clear).has_value();
}

double widestBelow(const Bit& bit, const SpindleEnd& end, double over) {
    double widest = 0;
    for (const Stretch& s : stretchesOf(bit, end)) {
        widest = s.over < over ? std::max(widest, s.radius) : widest;
    }
    return widest;
}

LowPlaces::LowPlaces(const std::vector<RunProgram>& programs, const SpindleEnd& end, double height,
                     Vec2 low, Vec2 high)
    : low_(low), nx_(std::max(1, int(std::ceil((high.x - low.x) / cell)))),
      ny_(std::max(1, int(std::ceil((high.y - low.y) / cell)))),
      met_(std::size_t(nx_) * std::size_t(ny_), 0) {
    for (const RunProgram& p : programs) {
        const std::vector<Stretch> tool = stretchesOf(p.bit, end);
        bool placed = false;
        for (const Move& m : p.path) {
            placed = placed || m.to.xy() != m.from.xy() || m.isArc();
            const double highest = height + hangsBelow(tool);
            if (!placed || std::min(m.from.z, m.to.z) >= highest) {
                continue;
            }
            overPieces(m, [&](Vec3 from, Vec3 to) {
                double widest = 0; // the lower it goes, the more of the tool comes down
                Vec3 a = from, b = to;
                for (const Stretch& s : tool) {
                    Vec3 c = from, d = to;
                    if (below(c, d, height - s.over)) {
                        widest = std::max(widest, s.radius);
                    }
                }
                if (below(a, b, highest)) {
                    mark(a.xy(), b.xy(), widest);
                }
            });
        }
    }
}

void LowPlaces::mark(Vec2 a, Vec2 b, double radius) {
    const double wide = radius + cell * 0.71; // a cell counts when any of it is met
    const auto column = [&](double x) {
        return std::clamp(int(std::floor((x - low_.x) / cell)), 0, nx_ - 1);
    };
    const auto row = [&](double y) {
        return std::clamp(int(std::floor((y - low_.y) / cell)), 0, ny_ - 1);
    };
    const int r1 = row(std::max(a.y, b.y) + wide);
    const int c1 = column(std::max(a.x, b.x) + wide);
    for (int r = row(std::min(a.y, b.y) - wide); r <= r1; ++r) {
        for (int c = column(std::min(a.x, b.x) - wide); c <= c1; ++c) {
            char& met = met_[std::size_t(r) * std::size_t(nx_) + std::size_t(c)];
            if (!met) {
                const Vec2 at{low_.x + (c + 0.5) * cell, low_.y + (r + 0.5) * cell};
                met = distanceToSegment(at, a, b) <= wide ? 1 : 0;
            }
        }
    }
}

bool LowPlaces::free(const ClampBox& box, double clear) const {
    const double wide = clear + cell * 0.71;
    const double reach = length(box.half) + wide;
    const auto index = [](double v, double low, int n) {
        return std::clamp(int(std::floor((v - low) / cell)), 0, n - 1);
    };
    for (int r = index(box.middle.y - reach, low_.y, ny_);
         r <= index(box.middle.y + reach, low_.y, ny_); ++r) {
        for (int c = index(box.middle.x - reach, low_.x, nx_);
             c <= index(box.middle.x + reach, low_.x, nx_); ++c) {
            if (!met_[std::size_t(r) * std::size_t(nx_) + std::size_t(c)]) {
                continue;
            }
            const Vec2 p = box.own({low_.x + (c + 0.5) * cell, low_.y + (r + 0.5) * cell});
            if (std::abs(p.x) <= box.half.x + wide && std::abs(p.y) <= box.half.y + wide) {
                return false;
            }
        }
    }
    return true;
}

} // namespace wren
