#pragma once

#include "geom/spline.h"
#include "geom/vec.h"

#include <string>
#include <vector>

namespace wren {

struct TracePoint {
    Vec2 at;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const TracePoint&, const TracePoint&) = default;
};

/// A section taken from a real neck: points from its bass edge to its treble edge, x across and y
/// deep below the line through both edges, mm. Stations use its shape; width and thickness are
/// their own.
struct NeckTrace {
    std::string name;
    std::vector<TracePoint> points;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const NeckTrace&, const NeckTrace&) = default;
};

/// Throws Error with the section's name and the point: a name of other than letters, digits and
/// dashes or one that is there twice, fewer than five points, not going on from edge to edge (so
/// that it would cross itself), edges at different heights, no wood between.
void checkTraces(const std::vector<NeckTrace>& traces);
/// Reads "mine: -21 0, -18 6.2, 0 13.5, 18 6.4, 21 0; other: ...". Throws Error.
std::vector<NeckTrace> neckTraces(const std::string& text);

/// How a section lies on a picture (pixels, y down), levelled by its two outermost points.
class TracePlace {
public:
    /// At least two points in any order; `bassOnRight` for a picture that shows the bass edge
    /// there.
    TracePlace(const std::vector<Vec2>& laid, double mmPerPixel, bool bassOnRight);

    Vec2 toSection(Vec2 pixels) const; ///< across from the middle and deep, mm
    Vec2 toPicture(Vec2 section) const;
    /// The points laid, from the bass edge to the treble edge, to 0.01 mm.
    std::vector<TracePoint> points() const;

private:
    std::vector<Vec2> laid_; ///< from left to right
    double mmPerPixel_;
    Vec2 middle_, way_,
        down_; ///< on the picture: unit vectors to the treble edge and into the wood
};

/// The curve through a trace's points, (across, deep), n + 1 places from edge to edge.
std::vector<Vec2> traceCurve(const NeckTrace& trace, int n);

/// The traced section as share P of the depth on the spine over the section angle a (-pi/2 at the
/// bass edge to pi/2 at the treble edge): 0 at the edges, 1 at 0. `mirrored` when the bass edge
/// lies at +Y. The natural spline through the points, in a, where steep flanks are smooth.
NaturalSpline traceProfile(const NeckTrace& trace, bool mirrored);

} // namespace wren
