#pragma once

#include <string>
#include <vector>

namespace wren {

/// What a blank is made of and how it cuts: a species, or cast stock.
struct Wood {
    std::string id;         ///< as stored in projects, e.g. "hard-maple"
    std::string name;       ///< as shown
    double specificGravity; ///< of wood at 12 % moisture
    const char* source;     ///< where the specific gravity comes from
    bool cast = false;      ///< acrylic, cured resin: it melts before it chips

    /// Bite relative to a medium hardwood: more in soft wood, less in hard. Common practice, no
    /// source.
    double bite() const;
};

const std::vector<Wood>& woods();

/// Throws Error listing the known woods.
const Wood& woodById(const std::string& id);

} // namespace wren
