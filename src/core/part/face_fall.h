#pragma once

#include "geom/edge_distance.h"
#include "part/trough.h"

#include <memory>
#include <vector>

namespace wren {

/// How an edge falls, by the distance from it inward; mm. Level from `reach()` on.
class EdgeProfile {
public:
    EdgeProfile() = default;
    static EdgeProfile round(double radius);
    static EdgeProfile chamfer(double size);
    /// The same over an arch: its height falls to nothing over `width`, level at both ends.
    EdgeProfile withArch(double height, double width) const;

    EdgeProfile edgeAlone() const { return rounded_ ? round(size_) : chamfer(size_); }
    EdgeProfile archAlone() const { return EdgeProfile().withArch(arch_, width_); }

    bool level() const { return size_ <= 0 && arch_ <= 0; }
    bool hasEdge() const { return size_ > 0; } ///< a rounding or a chamfer
    bool rounded() const { return rounded_; }
    double size() const { return size_; } ///< of the rounding or chamfer
    bool hasArch() const { return arch_ > 0; }
    double reach() const;
    double drop(double d) const;
    /// Unit, out of the wood: along the edge's outward way, and up.
    Vec2 normal(double d) const;
    /// The distance at which it has fallen that far: 0 <= d <= reach(); negative when it never
    /// does.
    double inTo(double drop) const;
    /// Places between which a ball leaves no ridge higher than asked, from the level inward end to
    /// the edge; empty when level.
    std::vector<double> places(double ridge, double ballRadius) const;
    /// The tightest hollow across it, as a radius; infinite when it has none.
    double tightestHollow() const;
    std::vector<double> numbers() const { return {double(rounded_), size_, arch_, width_}; }

private:
    bool rounded_ = false;
    double size_ = 0;
    double arch_ = 0;
    double width_ = 1;
};

/// A face that falls beyond a straight line, or within a circle about a place outside the body,
/// rounded over; plan in the panel's frame.
struct SlopeLine {
    Vec2 at;             ///< where the level face and the slope would meet
    Vec2 out;            ///< unit, the way it falls; of a circle, at its middle
    double gradient = 0; ///< fall per mm
    double blend = 1;    ///< radius, mm, > 0
    double bow = 0;      ///< radius of the circle; 0: straight
    Vec2 centre{};       ///< of the circle

    double beyond(Vec2 p) const { return bow > 0 ? bow - length(p - centre) : dot(p - at, out); }
    Vec2 outAt(Vec2 p) const { return bow > 0 ? unit(centre - p) : out; }
    double begins() const; ///< distance beyond the line where the rounding begins, <= 0
    double drop(double beyond) const;
    double gradientAt(double beyond) const;
    double beyondFor(double drop) const; ///< where it has fallen that far, drop >= 0
};

/// How far a face of a panel stands below its level, from the definition: edge and arch, added to
/// the deepest of the slopes. Plan places in the panel's frame, inside its outline. Values, cheap
/// to copy.
class FaceFall {
public:
    FaceFall() = default; ///< a level face
    FaceFall(const Contour& outline, const EdgeProfile& edge, std::vector<SlopeLine> slopes);
    /// Level but for a trough.
    explicit FaceFall(std::shared_ptr<const Trough> trough) : trough_(std::move(trough)) {}

    bool level() const { return !shape_ && !trough_; }
    const Trough* trough() const { return trough_.get(); } ///< null without one
    const EdgeProfile& edge() const;
    const std::vector<SlopeLine>& slopes() const;

    double drop(Vec2 p) const;
    double slopeDrop(Vec2 p) const;   ///< of the slopes alone, the deepest
    Vec2 slopeGradient(Vec2 p) const; ///< fall per mm, toward where it falls
    /// The upward share of the unit normal.
    double upright(Vec2 p) const;
    /// The deepest it falls anywhere.
    double deepest() const;
    /// All it follows from.
    std::vector<double> numbers() const;

private:
    struct Shape;
    std::shared_ptr<const Shape> shape_;
    std::shared_ptr<const Trough> trough_;
};

} // namespace wren
