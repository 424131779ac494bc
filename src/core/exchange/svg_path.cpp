#include "exchange/svg_path.h"

#include "base/error.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;
constexpr double pi = 3.14159265358979323846;
constexpr double near = 0.002; ///< drawing units between a curve and its chords, at most

/// Reads a path's letters and figures one after the other.
class Tokens {
public:
    Tokens(const std::string& text, const std::string& source)
        : text_(text), at_(text_.c_str()), source_(source) {}

    bool more() {
        while (*at_ != 0 && (std::isspace(static_cast<unsigned char>(*at_)) || *at_ == ',')) {
            ++at_;
        }
        return *at_ != 0;
    }
    bool letter() { return more() && std::isalpha(static_cast<unsigned char>(*at_)); }
    char take() { return *at_++; }
    double number() {
        more();
        char* end = nullptr;
        const double v = std::strtod(at_, &end);
        if (end == at_ || !std::isfinite(v)) {
            throw Error(fmt::format("{}: a path says \"{}\" where a number was expected.", source_,
                                    std::string(at_).substr(0, 20)));
        }
        at_ = end;
        return v;
    }
    bool flag() { // may stand without a blank before the next one
        more();
        if (*at_ != '0' && *at_ != '1') {
            throw Error(fmt::format("{}: a path's arc says \"{}\" where 0 or 1 was expected.",
                                    source_, std::string(at_).substr(0, 20)));
        }
        return *at_++ == '1';
    }
    Vec2 point(Vec2 from) {
        const double x = number();
        const double y = number();
        return from + Vec2{x, y};
    }

private:
    const std::string& text_;
    const char* at_;
    const std::string& source_;
};

} // namespace

Affine Affine::operator*(const Affine& o) const {
    return {a * o.a + c * o.b, b * o.a + d * o.b,     a * o.c + c * o.d,
            b * o.c + d * o.d, a * o.e + c * o.f + e, b * o.e + d * o.f + f};
}

bool Affine::similar() const {
    const double size = std::abs(a) + std::abs(b) + std::abs(c) + std::abs(d);
    return std::abs(a * c + b * d) < 1e-9 * size * size &&
           std::abs(a * a + b * b - c * c - d * d) < 1e-9 * size * size;
}

Affine transformOf(const std::string& text, const std::string& source) {
    Affine out;
    std::size_t at = 0;
    while (true) {
        at = text.find_first_not_of(" \t\n,", at);
        if (at == std::string::npos) {
            return out;
        }
        const std::size_t open = text.find('(', at);
        const std::size_t shut = text.find(')', at);
        if (open == std::string::npos || shut == std::string::npos || shut < open) {
            throw Error(fmt::format("{}: \"{}\" is not a transform.", source, text.substr(at, 40)));
        }
        std::string name = text.substr(at, open - at);
        name.erase(name.find_last_not_of(" \t\n") + 1);
        const std::string inner = text.substr(open + 1, shut - open - 1);
        Tokens tokens(inner, source);
        std::vector<double> v;
        while (tokens.more()) {
            v.push_back(tokens.number());
        }
        const auto n = [&](std::size_t i, double otherwise = 0) {
            return i < v.size() ? v[i] : otherwise;
        };
        const double angle = n(0) * pi / 180;
        Affine one;
        if (name == "matrix" && v.size() == 6) {
            one = {v[0], v[1], v[2], v[3], v[4], v[5]};
        } else if (name == "translate") {
            one = {1, 0, 0, 1, n(0), n(1)};
        } else if (name == "scale") {
            one = {n(0, 1), 0, 0, n(1, n(0, 1)), 0, 0};
        } else if (name == "rotate") {
            one =
                Affine{1, 0, 0, 1, n(1), n(2)} *
                Affine{std::cos(angle), std::sin(angle), -std::sin(angle), std::cos(angle), 0, 0} *
                Affine{1, 0, 0, 1, -n(1), -n(2)};
        } else if (name == "skewX") {
            one = {1, 0, std::tan(angle), 1, 0, 0};
        } else if (name == "skewY") {
            one = {1, std::tan(angle), 0, 1, 0, 0};
        } else {
            throw Error(fmt::format("{}: \"{}\" is not a transform.", source, name));
        }
        out = out * one;
        at = shut + 1;
    }
}

void SvgPath::endLine(bool closed) {
    if (!now_.empty()) {
        out_.push_back({{}, std::move(now_), closed});
        now_.clear();
    }
}

void SvgPath::moveTo(Vec2 p) {
    endLine(false);
    at_ = start_ = p;
}

void SvgPath::lineTo(Vec2 p) {
    if (!(p == at_)) {
        now_.push_back({Kind::line, affine_(at_), affine_(p), {}});
        at_ = p;
    }
}

void SvgPath::curveTo(Vec2 c1, Vec2 c2, Vec2 p) {
    const Vec2 a = at_;
    // A chord over a share s of the curve lies within s2 / 8 of the second derivative off it.
    const double bend = 6 * std::max(length(c2 - c1 * 2 + a), length(p - c2 * 2 + c1));
    const double scale = std::sqrt(std::abs(affine_.a * affine_.d - affine_.b * affine_.c));
    const int n =
        std::clamp(static_cast<int>(std::ceil(std::sqrt(bend * scale / (8 * near)))), 4, 2000);
    for (int i = 1; i <= n; ++i) {
        const double t = double(i) / n;
        const double u = 1 - t;
        lineTo(i == n ? p
                      : a * (u * u * u) + c1 * (3 * u * u * t) + c2 * (3 * u * t * t) +
                            p * (t * t * t));
    }
}

/// End points to centre, as SVG 1.1 appendix F.6.5 has it.
void SvgPath::arcTo(double rx, double ry, double turn, bool large, bool sweep, Vec2 p) {
    rx = std::abs(rx);
    ry = std::abs(ry);
    if (rx == 0 || ry == 0 || p == at_) {
        lineTo(p);
        return;
    }
    const double phi = turn * pi / 180;
    const Vec2 u{std::cos(phi), std::sin(phi)};
    const Vec2 half = (at_ - p) * 0.5;
    const Vec2 q{dot(half, u), cross(u, half)};
    const double wide = q.x * q.x / (rx * rx) + q.y * q.y / (ry * ry);
    if (wide > 1) {
        rx *= std::sqrt(wide);
        ry *= std::sqrt(wide);
    }
    const double below = rx * rx * q.y * q.y + ry * ry * q.x * q.x;
    const double over = std::max(0.0, rx * rx * ry * ry - below);
    const double k = (large == sweep ? -1 : 1) * std::sqrt(over / below);
    const Vec2 c{k * rx * q.y / ry, -k * ry * q.x / rx};
    const Vec2 centre = u * c.x + leftOf(u) * c.y + (at_ + p) * 0.5;
    const auto angleOf = [&](Vec2 at) {
        const Vec2 v = at - centre;
        return std::atan2(cross(u, v) / ry, dot(v, u) / rx);
    };
    const double from = angleOf(at_);
    double by = angleOf(p) - from;
    if (sweep && by < 0) {
        by += 2 * pi;
    } else if (!sweep && by > 0) {
        by -= 2 * pi;
    }
    if (std::abs(rx - ry) < 1e-9 * rx && affine_.similar()) {
        const bool counter = (by > 0) != affine_.mirrors();
        now_.push_back({counter ? Kind::arcCounter : Kind::arcClockwise, affine_(at_), affine_(p),
                        affine_(centre)});
        at_ = p;
        return;
    }
    const double scale = std::sqrt(std::abs(affine_.a * affine_.d - affine_.b * affine_.c));
    const double step = 2 * std::acos(std::max(0.0, 1 - near / (std::max(rx, ry) * scale)));
    const int n =
        std::clamp(static_cast<int>(std::ceil(std::abs(by) / std::max(step, 1e-3))), 4, 2000);
    for (int i = 1; i <= n; ++i) {
        const double a = from + by * i / n;
        lineTo(i == n ? p : centre + u * (rx * std::cos(a)) + leftOf(u) * (ry * std::sin(a)));
    }
}

void SvgPath::close() {
    lineTo(start_);
    endLine(true);
}

void SvgPath::data(const std::string& d, const std::string& source) {
    Tokens tokens(d, source);
    char command = 0;
    Vec2 control; // of the last curve, for the smooth ones
    char before = 0;
    while (tokens.more()) {
        if (tokens.letter()) {
            command = tokens.take();
        } else if (command == 0 || command == 'Z' || command == 'z') {
            throw Error(fmt::format("{}: a path goes on with figures where a letter was expected.",
                                    source));
        }
        const bool relative = std::islower(static_cast<unsigned char>(command)) != 0;
        const Vec2 o = relative ? at_ : Vec2{0, 0};
        const char which = static_cast<char>(std::toupper(static_cast<unsigned char>(command)));
        const auto mirrored = [&](const char* after) {
            return std::string(after).find(before) != std::string::npos ? at_ * 2 - control : at_;
        };
        switch (which) {
        case 'M':
            moveTo(tokens.point(o));
            command = relative ? 'l' : 'L';
            break;
        case 'L':
            lineTo(tokens.point(o));
            break;
        case 'H':
            lineTo({o.x + tokens.number(), at_.y});
            break;
        case 'V':
            lineTo({at_.x, o.y + tokens.number()});
            break;
        case 'C': {
            const Vec2 c1 = tokens.point(o);
            control = tokens.point(o);
            curveTo(c1, control, tokens.point(o));
            break;
        }
        case 'S': {
            const Vec2 c1 = mirrored("CS");
            control = tokens.point(o);
            curveTo(c1, control, tokens.point(o));
            break;
        }
        case 'Q':
        case 'T': {
            control = which == 'Q' ? tokens.point(o) : mirrored("QT");
            const Vec2 a = at_;
            const Vec2 p = tokens.point(o);
            curveTo(a + (control - a) * (2.0 / 3), p + (control - p) * (2.0 / 3), p);
            break;
        }
        case 'A': {
            const double rx = tokens.number();
            const double ry = tokens.number();
            const double turn = tokens.number();
            const bool large = tokens.flag();
            const bool sweep = tokens.flag();
            arcTo(rx, ry, turn, large, sweep, tokens.point(o));
            break;
        }
        case 'Z': {
            const Vec2 s = start_;
            close();
            at_ = start_ = s;
            break;
        }
        default:
            throw Error(fmt::format("{}: a path says \"{}\", which is none of its letters.", source,
                                    command));
        }
        before = which;
    }
}

std::vector<DrawnLine> SvgPath::take() {
    endLine(false);
    return std::move(out_);
}

} // namespace wren
