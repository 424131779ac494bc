#include "design/fan.h"

#include "design/scale.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren {

double FretLine::middle() const {
    return bass.x + (treble.x - bass.x) * (0 - bass.y) / (treble.y - bass.y);
}

double Fan::share(double fret) {
    return fretFromNut(1, fret);
}

Fan::Fan(const Fretboard& b)
    : side_(b.hand == Hand::right ? -1 : 1), bassScale_(b.scaleLength),
      trebleScale_(b.trebleScale.value_or(b.scaleLength)), nutSpread_(b.nutSpread),
      bridgeSpread_(b.bridgeSpread), overhang_{b.overhangBass, b.overhangTreble},
      behind_((b.zeroFret ? b.behindZero : 0) + b.nutShelf), endKind_(b.end),
      endRadius_(b.endRadius) {
    // At the square fret both strings stand at the same X; the nut's line crosses the centreline
    // at 0, halfway between its two string points.
    const double square = b.squareAtBridge() ? 1 : share(b.squareFret);
    bassNut_ = (trebleScale_ - bassScale_) * square / 2;
    trebleNut_ = -bassNut_;
    const double middle = (bassScale_ + trebleScale_) / 2;
    const double last = share(b.frets);
    end_ = middle * last + b.pastLastFret;
    lastShare_ = b.frets > 0 ? last : std::min(1.0, end_ / middle);
    endAlongFret_ = b.end == BoardEnd::slanted && !b.endSlant;
    endSlope_ = b.end == BoardEnd::slanted && b.endSlant
                    ? std::tan(*b.endSlant * std::numbers::pi / 180)
                    : 0;
    if (endAlongFret_) {
        const FretLine l = lineAt(last);
        endSlope_ = (l.treble.x - l.bass.x) / std::abs(l.treble.y - l.bass.y);
    }
}

Vec2 Fan::string(double across, double share) const {
    const double scale = (bassScale_ * (1 - across) + trebleScale_ * (1 + across)) / 2;
    const double nut = (bassNut_ * (1 - across) + trebleNut_ * (1 + across)) / 2;
    const double half = (nutSpread_ + (bridgeSpread_ - nutSpread_) * share) / 2;
    return {nut + scale * share, -across * side_ * half};
}

double Fan::edgeAt(int across, double x) const {
    const Vec2 a = string(across, 0);
    const Vec2 b = string(across, 1);
    const double y = a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x);
    return y - across * side_ * overhang_[across < 0 ? 0 : 1];
}

/// Where the line through p and q meets the edge. Both are straight, so one linear equation.
Vec2 Fan::crossing(Vec2 p, Vec2 q, int across) const {
    const double atP = p.y - edgeAt(across, p.x);
    const double atQ = q.y - edgeAt(across, q.x);
    return p + (q - p) * (atP / (atP - atQ));
}

FretLine Fan::lineAt(double share) const {
    const Vec2 b = bassString(share);
    const Vec2 t = trebleString(share);
    return {crossing(b, t, -1), crossing(b, t, 1)};
}

FretLine Fan::parallelTo(double share, double dx) const {
    const Vec2 by{dx, 0};
    const Vec2 b = bassString(share) + by;
    const Vec2 t = trebleString(share) + by;
    return {crossing(b, t, -1), crossing(b, t, 1)};
}

FretLine Fan::endLine() const {
    if (endKind_ != BoardEnd::radiused) {
        const Vec2 p{end_, 0};
        const Vec2 q{end_ + endSlope_, -side_};
        return {crossing(p, q, -1), crossing(p, q, 1)};
    }
    // Where the arc about (end - radius, 0) meets each edge: the edges are nearly along X, so a few
    // rounds of "take the Y of the edge at the last X" settle to rounding.
    const auto corner = [&](int across) {
        double x = end_;
        double y = 0;
        for (int i = 0; i < 60; ++i) {
            y = edgeAt(across, x);
            x = end_ - endRadius_ + std::sqrt(std::max(0.0, endRadius_ * endRadius_ - y * y));
        }
        return Vec2{x, y};
    };
    return {corner(-1), corner(1)};
}

ArchedFace faceOf(const Fretboard& b) {
    ArchedFace face{b.thickness, b.radius, 0};
    if (b.farRadius) {
        const Fan fan(b);
        const double bridge = (b.scaleLength + b.trebleScale.value_or(b.scaleLength)) / 2;
        const double far = b.farAt == FarRadius::bridge ? bridge : bridge * fan.lastShare();
        face.growth = (*b.farRadius - b.radius) / far;
    }
    return face;
}

} // namespace wren
