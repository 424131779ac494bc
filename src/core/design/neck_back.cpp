#include "design/neck_back.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren {
namespace {

constexpr double step = 1e-3; ///< for derivatives along X, mm

double radians(double degrees) {
    return degrees * std::numbers::pi / 180;
}

SectionMix blend(const SectionMix& a, const SectionMix& b, double s) {
    return {a.v + (b.v - a.v) * s, a.c + (b.c - a.c) * s, a.u + (b.u - a.u) * s};
}

/// From -1 to 1 over [-1, 1] with two derivatives zero at both ends.
double acrossShare(double u) {
    return (15 * u - 10 * u * u * u + 3 * u * u * u * u * u) / 8;
}
double acrossSlope(double u) {
    const double q = 1 - u * u;
    return 15 * q * q / 8;
}

} // namespace

double headFaceZ(const Neck& neck, double headStart, double x) {
    const double behind = headStart - x;
    if (behind <= 0) {
        return 0;
    }
    const Headstock& h = neck.head;
    if (h.kind == HeadKind::tilted) {
        return -behind * std::tan(radians(h.angle));
    }
    // A hollow of radius `curve` that rises from the face to the glue plane.
    const double drop = std::min(h.drop, h.curve);
    const double reach = std::sqrt(2 * h.curve * drop - drop * drop);
    const double left = reach - behind;
    return left <= 0 ? -h.drop : -h.drop + h.curve - std::sqrt(h.curve * h.curve - left * left);
}

double shapeThrough(double u, double p, double crest) {
    const double c = std::sqrt(1 - u * u);
    const double full = std::sqrt(1 - u * u * u * u);
    const double v = 1 + crest - std::sqrt(crest * crest + (1 + 2 * crest) * u * u);
    const double shape = p >= c ? (p - c) / (full - c) : (p - c) / (c - v);
    return std::clamp(shape, -1.0, 1.0);
}

NeckBack::NeckBack(const Neck& neck, const Fretboard& board, const NeckOutline& outline)
    : neck_(neck), fan_(board), headStart_(outline.headStart()) {
    for (int i : {0, 1}) {
        const int side = i == 0 ? -1 : 1;
        edgeAt_[i] = outline.edge(side, 0);
        edgeSlope_[i] = (outline.edge(side, 100) - edgeAt_[i]) / 100;
    }
    const double above = neck.over == ThickOver::board ? board.thickness + neck.accent : 0;
    std::vector<double> depths;
    const bool bassLow = fan_.bassSide() < 0;
    const std::vector<NeckTrace>& traces = neck.traces;
    for (const NeckStation& s : neck.stations) {
        stationTrace_.emplace_back();
        for (const NeckTrace& t : traces) {
            if (t.name == s.trace) {
                stationTrace_.back() =
                    std::make_shared<const NaturalSpline>(traceProfile(t, !bassLow));
            }
        }
        stationX_.push_back(fan_.line(s.fret).middle());
        depths.push_back(s.thickness - above);
        if (stationTrace_.back()) {
            stationMix_.push_back({SectionMix{0, 0, 0}, SectionMix{0, 0, 0}});
            continue;
        }
        stationMix_.push_back(bassLow ? std::array{s.bass, s.treble}
                                      : std::array{s.treble, s.bass});
    }
    depthOnSpine_ = NaturalSpline(stationX_, depths);
    headTo_ = neck.head.transitionFrom;
    headFrom_ = headTo_ - neck.head.transition;
    heelTo_ = outline.heelStart();
    heelFrom_ = heelTo_ - neck.transition;
    widenForHead(outline);
}

double NeckBack::headSlope() const {
    return neck_.head.kind == HeadKind::tilted ? -std::tan(radians(neck_.head.angle)) : 0;
}

/// The section must stay at least as wide as the head while it still shows, else its upright edge
/// would stand in the middle of the head's back.
void NeckBack::widenForHead(const NeckOutline& outline) {
    constexpr double margin = 0.3;
    for (double x = headTo_ - 0.5; x > headFrom_ + 0.02 * (headTo_ - headFrom_); x -= 0.5) {
        const std::array<double, 2> wood = outline.across(x);
        const double low = edgeAt_[0] + edgeSlope_[0] * x;
        const double high = edgeAt_[1] + edgeSlope_[1] * x;
        const double over = std::max(low - wood[0], wood[1] - high);
        if (wood[0] > wood[1] || over < 1e-3) {
            continue;
        }
        const double share = smoothStep((headTo_ - x) / (headTo_ - headFrom_));
        const double wanted = (over + margin) / std::max(share, 1e-3);
        flare_ = std::max(flare_, wanted);
    }
    constexpr double mostFlare = 60;
    followsHead_ = flare_ <= mostFlare;
    flare_ = std::min(flare_, mostFlare);
}

std::size_t NeckBack::stationBefore(double x) const {
    // Outside the stations the nearest one's share is whole.
    const auto it = std::upper_bound(stationX_.begin() + 1, stationX_.end() - 1, x);
    return static_cast<std::size_t>(it - stationX_.begin()) - 1;
}

NeckBack::Slice::Parts NeckBack::partsAt(double x, std::size_t before) const {
    Slice::Parts p;
    const double low = edgeAt_[0] + edgeSlope_[0] * x;
    const double high = edgeAt_[1] + edgeSlope_[1] * x;
    p.c = (low + high) / 2;
    p.w = (high - low) / 2;
    p.head = smoothStep((headTo_ - x) / (headTo_ - headFrom_));
    p.w += flare_ * p.head;
    p.heel = smoothStep((x - heelFrom_) / (heelTo_ - heelFrom_));
    p.e = neck_.shoulder;
    p.t = depthOnSpine_.at(x);
    const std::size_t i = before;
    const double s = smoothStep((x - stationX_[i]) / (stationX_[i + 1] - stationX_[i]));
    for (std::size_t k : {0U, 1U}) {
        p.mix[k] = blend(stationMix_[i][k], stationMix_[i + 1][k], s);
    }
    p.traced = {stationTrace_[i] ? 1 - s : 0, stationTrace_[i + 1] ? s : 0};
    const Headstock& h = neck_.head;
    if (h.kind == HeadKind::tilted) {
        p.headDepth = h.thickness / std::cos(radians(h.angle)) +
                      (headStart_ - x) * std::tan(radians(h.angle));
    } else {
        p.headDepth = h.drop + h.thickness;
    }
    const double q = (x - h.voluteAt) / (h.voluteLength / 2);
    p.bump = std::abs(q) < 1 ? h.volute * std::pow(1 - q * q, 3) : 0;
    return p;
}

NeckBack::Slice NeckBack::slice(double x) const {
    Slice s;
    s.x_ = x;
    s.k_ = neck_.crest;
    s.heelDepth_ = neck_.heelDepth;
    const std::size_t station = stationBefore(x);
    s.at_ = partsAt(x, station);
    const Slice::Parts a = partsAt(x - step, station);
    const Slice::Parts b = partsAt(x + step, station);
    s.trace_ = {stationTrace_[station].get(), stationTrace_[station + 1].get()};
    const auto slope = [](double before, double after) { return (after - before) / (2 * step); };
    Slice::Parts& d = s.by_;
    d.c = slope(a.c, b.c);
    d.w = slope(a.w, b.w);
    d.e = slope(a.e, b.e);
    d.t = slope(a.t, b.t);
    d.head = slope(a.head, b.head);
    d.heel = slope(a.heel, b.heel);
    d.headDepth = slope(a.headDepth, b.headDepth);
    d.bump = slope(a.bump, b.bump);
    for (std::size_t k : {0U, 1U}) {
        d.mix[k] = {slope(a.mix[k].v, b.mix[k].v), slope(a.mix[k].c, b.mix[k].c),
                    slope(a.mix[k].u, b.mix[k].u)};
        d.traced[k] = slope(a.traced[k], b.traced[k]);
    }
    return s;
}

double NeckBack::Slice::share(double u, double cosA) const {
    const double full = cosA * std::sqrt(1 + u * u);
    const double v = 1 + k_ - std::sqrt(k_ * k_ + (1 + 2 * k_) * u * u);
    const double s = acrossShare(u);
    const auto between = [s](double low, double high) {
        return (low + high) / 2 + (high - low) / 2 * s;
    };
    double p = between(at_.mix[0].v, at_.mix[1].v) * v +
               between(at_.mix[0].c, at_.mix[1].c) * cosA +
               between(at_.mix[0].u, at_.mix[1].u) * full;
    for (std::size_t k : {0U, 1U}) {
        if (trace_[k]) {
            p += at_.traced[k] * trace_[k]->at(std::atan2(u, cosA));
        }
    }
    return p;
}

NeckBack::Slice::Profile NeckBack::Slice::profile(double u, double cosA) const {
    const double q = std::sqrt(1 + u * u);
    const double root = std::sqrt(k_ * k_ + (1 + 2 * k_) * u * u);
    const double c = cosA;
    const double full = cosA * q;
    const double v = 1 + k_ - root;
    const double cBy = -u;
    const double fullBy = -u * q + cosA * u * cosA / q;
    const double vBy = -(1 + 2 * k_) * u * cosA / root;
    const double s = acrossShare(u);
    const auto between = [&](double low, double high) {
        return (low + high) / 2 + (high - low) / 2 * s;
    };
    const SectionMix mix{between(at_.mix[0].v, at_.mix[1].v), between(at_.mix[0].c, at_.mix[1].c),
                         between(at_.mix[0].u, at_.mix[1].u)};
    Profile out;
    out.p = share(u, cosA);
    const double turn = acrossSlope(u) * cosA / 2;
    out.byAngle = mix.v * vBy + mix.c * cBy + mix.u * fullBy +
                  turn * ((at_.mix[1].v - at_.mix[0].v) * v + (at_.mix[1].c - at_.mix[0].c) * c +
                          (at_.mix[1].u - at_.mix[0].u) * full);
    out.rise = between(by_.mix[0].v, by_.mix[1].v) * v + between(by_.mix[0].c, by_.mix[1].c) * c +
               between(by_.mix[0].u, by_.mix[1].u) * full;
    for (std::size_t k : {0U, 1U}) {
        if (trace_[k]) {
            const double angle = std::atan2(u, cosA);
            const double p = trace_[k]->at(angle);
            out.byAngle += at_.traced[k] * trace_[k]->slopeAt(angle);
            out.rise += by_.traced[k] * p;
        }
    }
    return out;
}

double NeckBack::Slice::depth(double y) const {
    const double u = std::clamp((y - at_.c) / at_.w, -1.0, 1.0);
    const double cosA = std::sqrt(1 - u * u);
    const double shaft = at_.e + (at_.t - at_.e) * share(u, cosA);
    const double q = cosA * cosA;
    return (1 - at_.head - at_.heel) * shaft + at_.head * at_.headDepth + at_.heel * heelDepth_ +
           at_.bump * q * q * q;
}

Vec2 NeckBack::Slice::gradient(double y) const {
    // Level across beyond the section, and as good as that where only the last of it still shows.
    const double rest = std::max(0.0, 1 - at_.head - at_.heel);
    const bool level = std::abs(y - at_.c) >= at_.w || rest * (at_.t - at_.e) < 1e-3;
    const double u = std::clamp((y - at_.c) / at_.w, -1.0, 1.0);
    if (level) {
        return {rest * by_.e - (by_.head + by_.heel) * at_.e + by_.head * at_.headDepth +
                    at_.head * by_.headDepth + by_.heel * heelDepth_,
                0};
    }
    const Touch t = touch(std::asin(u));
    // The normal of z = -D is (-dD/dx, -dD/dy, -1) scaled.
    const double nz = std::min(t.normal.z, -1e-12);
    return {t.normal.x / nz, t.normal.y / nz};
}

NeckBack::Slice::Touch NeckBack::Slice::touch(double angle) const {
    const double u = std::sin(angle);
    const double cosA = std::cos(angle);
    const Profile f = profile(u, cosA);
    const double rest = std::max(0.0, 1 - at_.head - at_.heel);
    const double q = cosA * cosA;
    const double shaft = at_.e + (at_.t - at_.e) * f.p;
    const double d =
        rest * shaft + at_.head * at_.headDepth + at_.heel * heelDepth_ + at_.bump * q * q * q;
    // Along the section, and along the neck with the angle held.
    const double dByA = rest * (at_.t - at_.e) * f.byAngle - at_.bump * 6 * q * q * cosA * u;
    const double dByX = rest * (by_.e + (by_.t - by_.e) * f.p + (at_.t - at_.e) * f.rise) -
                        (by_.head + by_.heel) * shaft + by_.head * at_.headDepth +
                        at_.head * by_.headDepth + by_.heel * heelDepth_ + by_.bump * q * q * q;
    const Vec3 alongX{1, by_.c + by_.w * u, -dByX};
    const Vec3 alongA{0, at_.w * cosA, -dByA};
    Vec3 n = cross(alongA, alongX); // down for a level surface: (0, w, 0) x (1, 0, 0) = (0, 0, -w)
    const double l = length(n);
    n = l > 0 ? n * (1 / l) : Vec3{0, u > 0 ? 1.0 : -1.0, 0};
    return {{x_, at_.c + at_.w * u, -d}, n};
}

double NeckBack::curvatureAlong(double u, double x) const {
    constexpr double h = 0.5;
    const double angle = std::asin(u);
    const auto at = [&](double s) { return slice(x + s).touch(angle).point.z; };
    const double rise = (at(h) - at(-h)) / (2 * h);
    return -(at(h) - 2 * at(0) + at(-h)) / (h * h) / std::pow(1 + rise * rise, 1.5);
}

} // namespace wren
