#pragma once

// A reader and cutter that shares no code with the product: posted programs are cut into a field of
// heights by stamping the tool along its way, and the field is compared with the exported STL, read
// here too. Slow and plain on purpose.

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <fstream>
#include <limits>
#include <map>
#include <sstream>
#include <stdexcept>
#include <string>
#include <vector>

namespace judge {

struct Point {
    double x = 0, y = 0, z = 0;
};

/// A move as a machine would make it, mm and mm/min.
struct Step {
    Point from, to;
    bool rapid = false;
    bool spindle = false;
    double feed = 0;
    int line = 0;
    // Arcs in X-Y only, the only ones posted.
    bool arc = false, clockwise = false;
    double cx = 0, cy = 0;
};

/// Reads one posted program; throws std::runtime_error at what it does not know.
inline std::vector<Step> readProgram(const std::string& text, Point at) {
    std::vector<Step> steps;
    double unit = 1;
    double feed = 0;
    int motion = 0;
    bool spindle = false;
    std::istringstream in(text);
    int number = 0;
    for (std::string line; std::getline(in, line);) {
        ++number;
        std::map<char, double> words;
        bool comment = false;
        for (std::size_t i = 0; i < line.size(); ++i) {
            const char c = line[i];
            if (comment || c == '(') {
                comment = c != ')';
            } else if (c >= 'A' && c <= 'Z') {
                std::size_t used = 0;
                const double value = std::stod(line.substr(i + 1), &used);
                i += used;
                if (c == 'G') {
                    const int code = static_cast<int>(std::lround(value));
                    if (code <= 3) {
                        motion = code;
                    } else if (code == 20 || code == 21) {
                        unit = code == 20 ? 25.4 : 1;
                    } else if (code == 4) {
                        words['W'] = 1;
                    }
                } else if (c == 'M') {
                    const int code = static_cast<int>(std::lround(value));
                    spindle = code == 3 || (spindle && code != 5 && code != 2 && code != 30);
                } else {
                    words[c] = value;
                }
            } else if (c != ' ' && c != '\r') {
                throw std::runtime_error("line " + std::to_string(number) + ": " + line);
            }
        }
        if (words.count('F')) {
            feed = words['F'] * unit;
        }
        if (words.count('W') || !(words.count('X') || words.count('Y') || words.count('Z'))) {
            continue;
        }
        Step s;
        s.from = at;
        s.to = {words.count('X') ? words['X'] * unit : at.x,
                words.count('Y') ? words['Y'] * unit : at.y,
                words.count('Z') ? words['Z'] * unit : at.z};
        s.rapid = motion == 0;
        s.spindle = spindle;
        s.feed = feed;
        s.line = number;
        s.arc = motion >= 2;
        s.clockwise = motion == 2;
        s.cx = at.x + words['I'] * unit;
        s.cy = at.y + words['J'] * unit;
        at = s.to;
        steps.push_back(s);
    }
    return steps;
}

/// Height of a tool's end over its tip, so far from the axis; from a report's bit.
struct Tool {
    std::string kind;
    double diameter = 0, corner = 0, angle = 0;

    double over(double d) const {
        const double r = diameter / 2;
        if (kind == "ball") {
            return r - std::sqrt(std::max(0.0, r * r - d * d));
        }
        if (kind == "bull-nose") {
            const double out = std::max(0.0, d - (r - corner));
            return corner - std::sqrt(std::max(0.0, corner * corner - out * out));
        }
        if (kind == "v" || kind == "drill") {
            return d / std::tan(angle / 2 * 3.14159265358979 / 180);
        }
        return 0;
    }
};

class Field {
public:
    Field(double length, double width, double top, double cell)
        : cell_(cell), nx_(int(length / cell)), ny_(int(width / cell)),
          high_(std::size_t(nx_) * std::size_t(ny_), top) {}

    /// The cell over a place, or nothing beyond the blank.
    double* over(double x, double y) {
        const int i = int(std::floor(x / cell_));
        const int j = int(std::floor(y / cell_));
        return i < 0 || j < 0 || i >= nx_ || j >= ny_ ? nullptr : &at(i, j);
    }

    int nx() const { return nx_; }
    int ny() const { return ny_; }
    double x(int i) const { return (i + 0.5) * cell_; }
    double y(int j) const { return (j + 0.5) * cell_; }
    double& at(int i, int j) { return high_[std::size_t(j) * std::size_t(nx_) + std::size_t(i)]; }

    void cut(const Step& s, const Tool& tool) {
        constexpr double pitch = 0.2;
        const double r = std::hypot(s.from.x - s.cx, s.from.y - s.cy);
        double start = 0;
        double turn = 0;
        double way = std::hypot(s.to.x - s.from.x, s.to.y - s.from.y);
        if (s.arc) {
            start = std::atan2(s.from.y - s.cy, s.from.x - s.cx);
            turn = std::atan2(s.to.y - s.cy, s.to.x - s.cx) - start;
            constexpr double whole = 2 * 3.14159265358979;
            if (s.clockwise) {
                turn = turn >= -1e-9 ? turn - whole : turn;
            } else {
                turn = turn <= 1e-9 ? turn + whole : turn;
            }
            way = std::abs(turn) * r;
        }
        const int n = std::max(1, int(std::hypot(way, s.to.z - s.from.z) / pitch) + 1);
        for (int k = 1; k <= n; ++k) { // where it begins the move before it ended
            const double t = double(k) / n;
            Point p{s.from.x + (s.to.x - s.from.x) * t, s.from.y + (s.to.y - s.from.y) * t,
                    s.from.z + (s.to.z - s.from.z) * t};
            if (s.arc) {
                p.x = s.cx + r * std::cos(start + turn * t);
                p.y = s.cy + r * std::sin(start + turn * t);
            }
            stamp(p, tool);
        }
    }

    /// The highest cell under the tool, over its tip.
    double woodOver(const Point& p, const Tool& tool) {
        double most = -1e9;
        around(p, tool, [&](double& h, double squared) {
            most = h - p.z > most ? std::max(most, h - p.z - tool.over(std::sqrt(squared))) : most;
        });
        return most;
    }

private:
    template <typename F>
    void around(const Point& p, const Tool& tool, F f) {
        const double r = tool.diameter / 2;
        for (int j = std::max(0, int((p.y - r) / cell_));
             j < std::min(ny_, int((p.y + r) / cell_) + 1); ++j) {
            for (int i = std::max(0, int((p.x - r) / cell_));
                 i < std::min(nx_, int((p.x + r) / cell_) + 1); ++i) {
                const double a = x(i) - p.x;
                const double b = y(j) - p.y;
                if (a * a + b * b <= r * r) {
                    f(at(i, j), a * a + b * b);
                }
            }
        }
    }
    void stamp(const Point& p, const Tool& tool) {
        around(p, tool, [&](double& h, double squared) {
            h = h > p.z ? std::min(h, p.z + tool.over(std::sqrt(squared))) : h;
        });
    }

    double cell_;
    int nx_, ny_;
    std::vector<double> high_;
};

using Triangle = std::array<Point, 3>;

inline std::vector<Triangle> readStl(const std::string& file) {
    std::ifstream in(file, std::ios::binary);
    std::string bytes((std::istreambuf_iterator<char>(in)), {});
    std::uint32_t count = 0;
    std::memcpy(&count, bytes.data() + 80, 4);
    std::vector<Triangle> out(count);
    for (std::size_t i = 0; i < count; ++i) {
        float v[12];
        std::memcpy(v, bytes.data() + 84 + 50 * i, 48);
        for (std::size_t k = 0; k < 3; ++k) {
            out[i][k] = {v[3 + 3 * k], v[4 + 3 * k], v[5 + 3 * k]};
        }
    }
    return out;
}

/// Lowest and highest Z of a solid over the cells of a field, after a rigid motion of rows x, y, z.
struct Heights {
    std::vector<double> low, high;
};
inline Heights heightsOf(const std::vector<Triangle>& solid,
                         const std::array<std::array<double, 4>, 3>& place, Field& field) {
    const std::size_t n = std::size_t(field.nx()) * std::size_t(field.ny());
    Heights h{std::vector<double>(n, 1e9), std::vector<double>(n, -1e9)};
    const double cell = field.x(1) - field.x(0);
    for (const Triangle& t : solid) {
        std::array<Point, 3> p;
        for (std::size_t k = 0; k < 3; ++k) {
            const auto row = [&](std::size_t r) {
                return place[r][0] * t[k].x + place[r][1] * t[k].y + place[r][2] * t[k].z +
                       place[r][3];
            };
            p[k] = {row(0), row(1), row(2)};
        }
        const double area =
            (p[1].x - p[0].x) * (p[2].y - p[0].y) - (p[2].x - p[0].x) * (p[1].y - p[0].y);
        if (std::abs(area) < 1e-12) {
            continue;
        }
        const auto [x0, x1] = std::minmax({p[0].x, p[1].x, p[2].x});
        const auto [y0, y1] = std::minmax({p[0].y, p[1].y, p[2].y});
        for (int j = std::max(0, int(y0 / cell - 0.5));
             j < std::min(field.ny(), int(y1 / cell) + 1); ++j) {
            for (int i = std::max(0, int(x0 / cell - 0.5));
                 i < std::min(field.nx(), int(x1 / cell) + 1); ++i) {
                const double x = field.x(i);
                const double y = field.y(j);
                const double a = ((p[1].x - x) * (p[2].y - y) - (p[2].x - x) * (p[1].y - y)) / area;
                const double b = ((p[2].x - x) * (p[0].y - y) - (p[0].x - x) * (p[2].y - y)) / area;
                if (a < 0 || b < 0 || a + b > 1) {
                    continue;
                }
                const double z = a * p[0].z + b * p[1].z + (1 - a - b) * p[2].z;
                const std::size_t at = std::size_t(j) * std::size_t(field.nx()) + std::size_t(i);
                h.low[at] = std::min(h.low[at], z);
                h.high[at] = std::max(h.high[at], z);
            }
        }
    }
    return h;
}

/// A closed outline of points, asked along an upright line: the lowest and highest place it meets.
inline std::array<double, 2> spanAt(const std::vector<std::array<double, 2>>& outline, double x) {
    std::array<double, 2> span{1e9, -1e9};
    for (std::size_t k = 0; k < outline.size(); ++k) {
        const auto& a = outline[k];
        const auto& b = outline[(k + 1) % outline.size()];
        if ((a[0] <= x) == (b[0] <= x)) {
            continue;
        }
        const double z = a[1] + (b[1] - a[1]) * (x - a[0]) / (b[0] - a[0]);
        span = {std::min(span[0], z), std::max(span[1], z)};
    }
    return span;
}

/// Cells of wood a walk from the blank's rim comes to, over neighbours that are wood too.
inline std::vector<char> heldByRim(const std::vector<char>& wood, int nx, int ny) {
    std::vector<char> seen(wood.size(), 0);
    std::vector<std::size_t> next;
    const auto visit = [&](int i, int j) {
        const std::size_t at = std::size_t(j) * std::size_t(nx) + std::size_t(i);
        if (i >= 0 && j >= 0 && i < nx && j < ny && wood[at] && !seen[at]) {
            seen[at] = 1;
            next.push_back(at);
        }
    };
    for (int i = 0; i < nx; ++i) {
        visit(i, 0);
        visit(i, ny - 1);
    }
    for (int j = 0; j < ny; ++j) {
        visit(0, j);
        visit(nx - 1, j);
    }
    while (!next.empty()) {
        const int i = int(next.back() % std::size_t(nx));
        const int j = int(next.back() / std::size_t(nx));
        next.pop_back();
        visit(i - 1, j);
        visit(i + 1, j);
        visit(i, j - 1);
        visit(i, j + 1);
    }
    return seen;
}

} // namespace judge
