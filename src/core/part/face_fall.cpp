#include "part/face_fall.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace wren {

using std::numbers::pi;

EdgeProfile EdgeProfile::round(double radius) {
    EdgeProfile p;
    p.rounded_ = true;
    p.size_ = radius;
    return p;
}

EdgeProfile EdgeProfile::chamfer(double size) {
    EdgeProfile p;
    p.size_ = size;
    return p;
}

EdgeProfile EdgeProfile::withArch(double height, double width) const {
    EdgeProfile p = *this;
    p.arch_ = height;
    p.width_ = width;
    return p;
}

double EdgeProfile::reach() const {
    return std::max(size_, arch_ > 0 ? width_ : 0);
}

double EdgeProfile::drop(double d) const {
    d = std::max(0.0, d);
    double z = 0;
    if (d < size_) {
        const double in = size_ - d;
        z += rounded_ ? size_ - std::sqrt(std::max(0.0, size_ * size_ - in * in)) : in;
    }
    if (arch_ > 0 && d < width_) {
        z += arch_ * (1 + std::cos(pi * d / width_)) / 2;
    }
    return z;
}

Vec2 EdgeProfile::normal(double d) const {
    d = std::max(0.0, d);
    const double arched =
        arch_ > 0 && d < width_ ? arch_ * pi / (2 * width_) * std::sin(pi * d / width_) : 0;
    double out = 0; // sine and cosine of the edge's own slope
    double up = 1;
    if (d < size_) {
        out = rounded_ ? (size_ - d) / size_ : std::sqrt(0.5);
        up = std::sqrt(std::max(0.0, 1 - out * out));
    }
    return unit(Vec2{out + up * arched, up});
}

double EdgeProfile::inTo(double wanted) const {
    if (drop(0) < wanted) {
        return -1;
    }
    double low = 0; // it only rises on the way inward
    double high = reach();
    for (int i = 0; i < 50; ++i) {
        const double d = (low + high) / 2;
        (drop(d) >= wanted ? low : high) = d;
    }
    return low;
}

std::vector<double> EdgeProfile::places(double wanted, double ballRadius) const {
    if (level()) {
        return {};
    }
    // Where an arch's lines from two sides meet along a crest, corner beside corner, they lie
    // further apart than across it.
    const double ridge = arch_ > 0 ? wanted / 2 : wanted;
    // s^2 = 8 h / (1 / r + 1 / R), see ballStepover(); a hollow only widens it.
    std::vector<double> out;
    double d = reach();
    while (d > 0) {
        out.push_back(d);
        if (d == size_ && !rounded_) {
            out.push_back(d - 1e-6); // the crease, with the chamfer's own normal
        }
        const bool onRound = rounded_ && d <= size_;
        double curved = onRound ? 1 / size_ : 0;
        if (arch_ > 0) {
            curved += arch_ * pi * pi / (2 * width_ * width_);
        }
        const double step = std::sqrt(8 * ridge / (1 / ballRadius + curved));
        if (onRound) { // by the angle, so that the steep end is reached in even steps
            const double turn = std::asin(std::clamp((size_ - d) / size_, 0.0, 1.0));
            const double next = turn + step / size_;
            d = next >= pi / 2 ? 0 : size_ * (1 - std::sin(next));
            continue;
        }
        double next = d - step * normal(d).y;
        for (int i = 0; i < 3; ++i) { // the slope in the middle of the step counts
            next = d - step * normal((d + std::max(next, 0.0)) / 2).y;
        }
        // A rounding or a chamfer begins with a line of its own.
        d = size_ > 0 && d > size_ && next < size_ ? size_ : next;
    }
    out.push_back(0);
    return out;
}

double EdgeProfile::tightestHollow() const {
    return arch_ > 0 ? 2 * width_ * width_ / (arch_ * pi * pi)
                     : std::numeric_limits<double>::infinity();
}

namespace {

/// From the line to where the rounding of a slope begins.
double tangentOf(const SlopeLine& s) {
    return s.blend * std::tan(std::atan(s.gradient) / 2);
}

} // namespace

double SlopeLine::begins() const {
    return -tangentOf(*this);
}

double SlopeLine::drop(double beyond) const {
    // The rounding touches level and slope at most this far before and beyond the line.
    const double furthest = blend * gradient / 2;
    if (beyond <= -furthest) {
        return 0;
    }
    if (beyond >= furthest) {
        return beyond * gradient;
    }
    const double in = beyond + tangentOf(*this);
    if (in <= 0) {
        return 0;
    }
    const double turn = std::atan(gradient);
    return in < blend * std::sin(turn) ? blend - std::sqrt(blend * blend - in * in)
                                       : beyond * gradient;
}

double SlopeLine::gradientAt(double beyond) const {
    const double in = beyond + tangentOf(*this);
    if (in <= 0) {
        return 0;
    }
    const double turn = std::atan(gradient);
    return in < blend * std::sin(turn) ? in / std::sqrt(blend * blend - in * in) : gradient;
}

double SlopeLine::beyondFor(double wanted) const {
    const double turn = std::atan(gradient);
    const double rounded = blend * (1 - std::cos(turn));
    if (wanted >= rounded) {
        return wanted / gradient;
    }
    return std::sqrt(std::max(0.0, blend * blend - (blend - wanted) * (blend - wanted))) -
           tangentOf(*this);
}

struct FaceFall::Shape {
    Contour outline;
    EdgeProfile edge;
    std::vector<SlopeLine> slopes;
    EdgeDistance distance;
    double deepest = 0;
};

FaceFall::FaceFall(const Contour& outline, const EdgeProfile& edge, std::vector<SlopeLine> slopes) {
    if (edge.level() && slopes.empty()) {
        return;
    }
    const auto shape = std::make_shared<Shape>(Shape{
        outline, edge, std::move(slopes), EdgeDistance(outline, std::max(edge.reach(), 0.01)), 0});
    shape_ = shape;
    for (Vec2 p : pointsOf(outline, 0.05)) {
        shape->deepest = std::max(shape->deepest, edge.drop(0) + slopeDrop(p));
    }
    for (const SlopeLine& s : shape->slopes) { // a straight edge falls most between its ends
        const double beyond = s.bow > 0 ? s.bow - distanceTo(outline, s.centre) : s.begins();
        shape->deepest = std::max(shape->deepest, edge.drop(0) + s.drop(beyond));
    }
}

const EdgeProfile& FaceFall::edge() const {
    static const EdgeProfile none;
    return shape_ ? shape_->edge : none;
}

const std::vector<SlopeLine>& FaceFall::slopes() const {
    static const std::vector<SlopeLine> none;
    return shape_ ? shape_->slopes : none;
}

double FaceFall::drop(Vec2 p) const {
    if (!shape_) {
        return trough_ ? trough_->depth(p) : 0;
    }
    const double edge = shape_->edge.level() ? 0 : shape_->edge.drop(shape_->distance.at(p));
    return edge + slopeDrop(p);
}

double FaceFall::slopeDrop(Vec2 p) const {
    double z = 0;
    if (shape_) {
        for (const SlopeLine& s : shape_->slopes) {
            z = std::max(z, s.drop(s.beyond(p)));
        }
    }
    return z;
}

std::vector<double> FaceFall::numbers() const {
    if (!shape_) {
        return trough_ ? trough_->numbers() : std::vector<double>();
    }
    std::vector<double> out = shape_->edge.numbers();
    for (const ContourPiece& p : shape_->outline) {
        out.insert(out.end(), {double(p.kind), p.from.x, p.from.y, p.to.x, p.to.y});
        if (p.isArc()) {
            out.insert(out.end(), {p.centre.x, p.centre.y});
        }
    }
    for (const SlopeLine& s : shape_->slopes) {
        out.insert(out.end(), {s.at.x, s.at.y, s.out.x, s.out.y, s.gradient, s.blend, s.bow,
                               s.centre.x, s.centre.y});
    }
    return out;
}

Vec2 FaceFall::slopeGradient(Vec2 p) const {
    Vec2 g;
    double z = 0;
    if (shape_) {
        for (const SlopeLine& s : shape_->slopes) {
            const double drop = s.drop(s.beyond(p));
            if (drop > z) {
                z = drop;
                g = s.outAt(p) * s.gradientAt(s.beyond(p));
            }
        }
    }
    return g;
}

double FaceFall::upright(Vec2 p) const {
    if (!shape_) {
        return trough_ ? 1 / std::hypot(1.0, length(trough_->gradient(p))) : 1;
    }
    Vec2 g = slopeGradient(p);
    const double d = shape_->distance.at(p);
    if (d < shape_->edge.reach()) {
        const Vec2 n = shape_->edge.normal(d);
        if (n.y < 1e-6) {
            return 0;
        }
        g = g + unit(shape_->distance.foot(p) - p) * (n.x / n.y);
    }
    return 1 / std::sqrt(1 + dot(g, g));
}

double FaceFall::deepest() const {
    return shape_ ? shape_->deepest : trough_ ? trough_->deepest() : 0;
}

} // namespace wren
