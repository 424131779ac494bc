#pragma once

#include "base/finding.h"
#include "hold/held.h"

#include <functional>

namespace wren {

/// How a part longer than the machine's travel lies in two stations: the blank is drilled in its
/// waste at two places along it, on both sides of its middle, and those holes stand on the same
/// pins of the bed board before and after it slides by the pitch. Lengths mm, X of the setup that
/// lies face up.
struct StationPlan {
    double pitch = 0;             ///< the blank slides so far toward its low end
    double seam = 0;              ///< where the stations' cuts meet
    std::array<double, 2> both{}; ///< what either station reaches
    std::array<double, 2> pins{}; ///< where the holes are
};

/// Cuts of the second station begin so far before the first one's end, so that one runs out in what
/// the other has cleared.
inline constexpr double stationOverlap = 20;

/// For tips that go from `span[0]` to `span[1]`, cuts that should meet at `seam` and holes for pins
/// where `clear` holds, given an X. Throws Error where two stations are not enough, or where the
/// holes find no waste.
StationPlan planStations(std::array<double, 2> span, double seam, const Machine& machine,
                         const std::function<bool(double)>& clear);

/// Lays the part so: its setups get their stations, the face's in order and the back's the other
/// way round, since it is turned over where it lies; its register pins are the stations'.
/// `inset` of the holes from the blank's edges.
void layInStations(Held& held, const StationPlan& plan, double inset, const Machine& machine);

/// Lays a board or a layer so whose blank the machine cannot cut as it lies: with pins in the waste
/// beside its outline, its seam in the middle. Changes nothing where it can, or where no stations
/// are found, which judgeFlatStations() says.
void layFlatInStations(Held& held, const Contour& outline, const TurnHold& hold,
                       const Machine& machine);
/// How it lies in stations, why it cannot, or what of a blank that lies still hangs over.
Findings judgeFlatStations(const Held& held, const Contour& outline, const TurnHold& hold,
                           const Machine& machine);

} // namespace wren
