#pragma once

#include <string>
#include <vector>

namespace wren {

/// What a blank is made of and how it cuts: a species, or cast stock.
struct Wood {
    std::string id;         ///< as stored in projects, e.g. "hard-maple"
    std::string name;       ///< as shown
    double specificGravity; ///< of wood at 12 % moisture
    std::string source;     ///< where the specific gravity comes from
    bool cast = false;      ///< acrylic, cured resin: it melts before it chips
    bool sheet = false;     ///< made board: its figure is its density as it is sold
    double ownBite = 0; ///< of a maker's own wood: bite() of the one it cuts like; 0: by gravity

    /// g/cm3 at 12 % moisture. Specific gravity is oven-dry mass over the volume at 12 %, so the
    /// water comes on top: density = gravity (1 + 12/100). Source: Wood Handbook FPL-GTR-282,
    /// chapter 4.
    double density() const { return cast || sheet ? specificGravity : specificGravity * 1.12; }

    /// Bite relative to a medium hardwood: more in soft wood, less in hard. Common practice, no
    /// source.
    double bite() const;

    friend bool operator==(const Wood&, const Wood&) = default;
};

/// A wood the maker adds to those that are known.
struct OwnWood {
    std::string name = "own-wood";   ///< its id: small letters, digits and hyphens
    double density = 0.6;            ///< g/cm3 as it is worked, at about 12 % moisture
    std::string cutsLike = "cherry"; ///< id of a known one, for feeds and bites
    std::string unknown{};           ///< what a file held of it that this version does not know

    /// With its id as a name people read: "Black locust". Throws Error where cutsLike is not known.
    Wood wood() const;

    friend bool operator==(const OwnWood&, const OwnWood&) = default;
};

const std::vector<Wood>& woods();

/// Throws Error listing the known woods.
const Wood& woodById(const std::string& id);

} // namespace wren
