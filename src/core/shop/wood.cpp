#include "shop/wood.h"

#include "base/error.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

double Wood::bite() const {
    if (ownBite > 0) {
        return ownBite;
    }
    if (cast) {
        return 1.0; // what differs is in the feeds: more a tooth, fewer turns
    }
    if (specificGravity < 0.45) {
        return 1.15;
    }
    if (specificGravity < 0.62) {
        return 1.0;
    }
    return specificGravity < 0.8 ? 0.85 : 0.7;
}

Wood OwnWood::wood() const {
    Wood out = woodById(cutsLike);
    out.ownBite = out.bite();
    out.id = name;
    out.name = name;
    std::replace(out.name.begin(), out.name.end(), '-', ' ');
    if (!out.name.empty() && out.name[0] >= 'a' && out.name[0] <= 'z') {
        out.name[0] = static_cast<char>(out.name[0] - 'a' + 'A');
    }
    out.source = "the maker's own figure";
    out.specificGravity = out.cast || out.sheet ? density : density / 1.12;
    return out;
}

const std::vector<Wood>& woods() {
    static constexpr const char* handbook = "Wood Handbook FPL-GTR-282, tables of chapter 5";
    static constexpr const char* memory = "from memory, to be looked up";
    static const std::vector<Wood> all = {
        {"hard-maple", "Hard maple", 0.63, handbook},
        {"white-ash", "White ash", 0.60, handbook},
        {"walnut", "Black walnut", 0.55, handbook},
        {"cherry", "Black cherry", 0.50, handbook},
        {"poplar", "Yellow-poplar", 0.42, handbook},
        {"soft-maple", "Soft maple (red)", 0.54, handbook},
        {"alder", "Red alder", 0.41, handbook},
        {"basswood", "American basswood", 0.37, handbook},
        {"birch", "Yellow birch", 0.62, handbook},
        {"red-oak", "Northern red oak", 0.63, handbook},
        {"white-pine", "Eastern white pine", 0.35, handbook},
        {"spruce", "Sitka spruce", 0.40, handbook},
        {"mahogany", "Mahogany", 0.50, memory},
        {"sapele", "Sapele", 0.62, memory},
        {"limba", "Limba", 0.50, memory},
        {"padauk", "Padauk", 0.70, memory},
        {"purpleheart", "Purpleheart", 0.82, memory},
        {"pau-ferro", "Pau ferro", 0.80, memory},
        {"paulownia", "Paulownia", 0.28, memory},
        {"rosewood", "Rosewood", 0.80, memory},
        {"ebony", "Ebony", 0.95, memory},
        {"wenge", "Wenge", 0.78, memory},
        {"plywood", "Birch plywood", 0.68, memory, false, true},
        {"mdf", "MDF", 0.75, memory, false, true},
        {"acrylic", "Acrylic sheet", 1.18, memory, true},
        {"resin", "Resin-filled stock", 1.15, memory, true},
    };
    return all;
}

const Wood& woodById(const std::string& id) {
    std::string known;
    for (const Wood& wood : woods()) {
        if (wood.id == id) {
            return wood;
        }
        known += (known.empty() ? "" : ", ") + wood.id;
    }
    throw Error(fmt::format("\"{}\" is not a known wood; one of {} was expected.", id, known));
}

} // namespace wren
