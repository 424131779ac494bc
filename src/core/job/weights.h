#pragma once

#include "job/derive.h"

namespace wren {

/// What a piece of the finished instrument weighs by its own volume and wood, at 12 % moisture.
struct PieceMass {
    PartId part;
    std::string wood;  ///< its id
    double volume = 0; ///< mm3
    double mass = 0;   ///< g
    Vec3 centre{};     ///< instrument frame, mm
};

/// The body's wood and the centres of board and neck; takes some tenths of a second.
Weighed weigh(const Derived& derived);

/// Fretboard, neck, the body's layers, lid, plugs and plates, as far as they are drawn; those of
/// the body, and where all their centres lie, once it is weighed.
std::vector<PieceMass> massesOf(const Derived& derived);
/// Of all of them, g.
double massOf(const std::vector<PieceMass>& pieces);
/// Of the glued-up body without its lid, g; 0 until it is known.
double bodyMass(const std::vector<PieceMass>& pieces);
/// The same body, mm3.
double bodyVolume(const std::vector<PieceMass>& pieces);

} // namespace wren
