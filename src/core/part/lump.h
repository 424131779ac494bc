#pragma once

#include "geom/vec.h"

#include <algorithm>

namespace wren {

/// Wood added up piece by piece: how much, and where its middle is. mm, mm3.
struct Lump {
    double volume = 0;
    Vec3 moment; ///< volume times place

    void add(double much, Vec3 at) {
        volume += much;
        moment = moment + at * much;
    }
    /// A column between two heights over so many mm2 of the plan; nothing where it is upside down.
    void column(Vec2 at, double low, double high, double area) {
        add(std::max(0.0, high - low) * area, {at.x, at.y, (low + high) / 2});
    }
    void takeColumn(Vec2 at, double low, double high, double area) { column(at, low, high, -area); }
    Vec3 centre() const { return volume != 0 ? moment * (1 / volume) : Vec3{}; }
};

} // namespace wren
