#pragma once

#include "design/neck_outline.h"
#include "geom/spline.h"

#include <array>
#include <memory>
#include <vector>

namespace wren {

/// The back of a neck as depth below the glue plane, D(x, y) >= 0, instrument frame, mm: one
/// surface with two continuous derivatives from the head to the heel. Wood stands from Z = -D up to
/// the face.
///
/// A section of the shaft is D = e + (t - e) P(u), u = (y - c) / w in [-1, 1] across it: e the
/// upright shoulder, t the depth on the spine, P from 1 on the spine to 0 at the edge. P is mixed
/// of three closed forms, with u = sin a:
///   C   cos a, half an ellipse
///   U   sqrt(1 - u^4)
///   V   (1 + k) - sqrt(k^2 + (1 + 2 k) u^2), a hyperbola's branch with a crest of roundness k
/// or it is that of a traced section, as a spline over a (neck_trace.h).
/// The mix runs smoothly from the bass side to the treble side and from station to station. t is
/// the natural spline through the stations. w widens the section only sideways. Head and heel are
/// level (or tilted) backs blended in by a quintic over their transitions, the volute is added.
class NeckBack {
public:
    NeckBack(const Neck& neck, const Fretboard& board, const NeckOutline& outline);

    /// Everything about one X; made once for many y.
    class Slice {
    public:
        double x() const { return x_; }
        double centre() const { return at_.c; }
        double halfWidth() const { return at_.w; }
        double spine() const { return depth(at_.c); } ///< depth on the spine

        double depth(double y) const;
        /// dD/dx and dD/dy. Near the edges of the section dD/dy grows without bound.
        Vec2 gradient(double y) const;
        double y(double angle) const { return at_.c + at_.w * std::sin(angle); }
        /// The surface point at section angle a (-pi/2 .. pi/2) and its outward unit normal, which
        /// points down and sideways out of the wood.
        struct Touch {
            Vec3 point;
            Vec3 normal;
        };
        Touch touch(double angle) const;

    private:
        friend class NeckBack;
        /// What a section is made of, or how that changes with X.
        struct Parts {
            double c = 0, w = 1, e = 0, t = 0;
            std::array<SectionMix, 2> mix;      ///< at the -Y and +Y side
            std::array<double, 2> traced{0, 0}; ///< shares of the two stations' traced sections
            double head = 0, heel = 0;          ///< shares of the blends
            double headDepth = 0;
            double bump = 0;
        };
        struct Profile {
            double p, byAngle; ///< P and dP/da
            double rise;       ///< of P as the mixes change with X, u held
        };
        Profile profile(double u, double cosA) const;
        double share(double u, double cosA) const; ///< P alone

        double x_ = 0;
        double k_ = 0;
        double heelDepth_ = 0;
        Parts at_;
        Parts by_; ///< derivatives by X
        /// Of the station before and the one after; not owned. None where a shape is not traced.
        std::array<const NaturalSpline*, 2> trace_{nullptr, nullptr};
    };

    Slice slice(double x) const;
    double depth(double x, double y) const { return slice(x).depth(y); }

    /// Depth of the shaft's own spine at x, head, heel and volute not blended in.
    double shaftDepth(double x) const { return depthOnSpine_.at(x); }
    double headSlope() const; ///< dD/dx of the head's own back: 0, or that of its tilt
    double headFrom() const { return headFrom_; } ///< the back is the head's own up to here
    double headTo() const { return headTo_; }     ///< and the shaft's from here
    double heelFrom() const { return heelFrom_; } ///< the shaft's up to here
    double heelTo() const { return heelTo_; }     ///< the heel's own from here
    /// False when the head widens faster than its transition lets the section follow.
    bool followsHead() const { return followsHead_; }
    double stationX(std::size_t i) const { return stationX_[i]; }
    std::size_t stations() const { return stationX_.size(); }

    /// Curvature of the line of share u along the neck, 1/mm: of the depth over the line's own
    /// length, positive where the back is hollow seen from behind.
    double curvatureAlong(double u, double x) const;

private:
    /// Blended from the stations `before` and the next one, whichever of them x lies between.
    Slice::Parts partsAt(double x, std::size_t before) const;
    std::size_t stationBefore(double x) const;
    void widenForHead(const NeckOutline& outline);

    Neck neck_;
    Fan fan_;
    double edgeAt_[2] = {0, 0}; ///< of the edges at -Y and +Y: y = at + slope x
    double edgeSlope_[2] = {0, 0};
    std::vector<double> stationX_;
    std::vector<std::array<SectionMix, 2>> stationMix_;
    std::vector<std::shared_ptr<const NaturalSpline>> stationTrace_; ///< shared with all copies
    NaturalSpline depthOnSpine_;
    double headStart_ = 0;
    double headFrom_ = 0, headTo_ = 0, heelFrom_ = 0, heelTo_ = 0;
    double flare_ = 0; ///< what the half width gains over the head's transition
    bool followsHead_ = true;
};

/// The shape, from -1 (V) through 0 (C) to 1 (U), whose section has the share `p` of its depth at
/// the share `u` of its half width; the nearest of them when none has.
double shapeThrough(double u, double p, double crest);

/// How far below the glue plane the head's face lies at x (0 on the shaft), and its slope dz/dx is
/// the face's own. Negative heights.
double headFaceZ(const Neck& neck, double headStart, double x);

} // namespace wren
