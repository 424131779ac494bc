#pragma once

#include "geom/frames.h"
#include "part/body_part.h"
#include "proof/stock.h"

#include <optional>

namespace wren {

/// How a neck sits on its pocket's floor, both as their programs really left them: the gap between
/// heel and floor with the neck where it was designed to lie, mm. Negative where wood stands in its
/// way.
struct Seat {
    int places = 0;
    double least = 0; ///< the neck stands so much higher than designed, with its sign turned
    double most = 0;
    double rise() const { return -least; }
};

/// Wood in the setup it was last cut in, and how that setup sees its part.
struct SimulatedWood {
    const Stock& stock;
    const SetupFromInstrument& to;
};

/// Both lie back up, as they came off the machine. Only places beyond the X where the heel is flat
/// are looked at, and none over holes; nothing when the heel and the pocket do not meet.
std::optional<Seat> seatOf(const BodyPart& part, const PanelPocket& pocket, double flatFrom,
                           const SimulatedWood& neck, const SimulatedWood& body);

} // namespace wren
