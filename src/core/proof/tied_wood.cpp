#include "proof/tied_wood.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

TiedWood::TiedWood(const Stock& stock)
    : stock_(stock),
      seen_(static_cast<std::size_t>(stock.columns()) * static_cast<std::size_t>(stock.rows()), 0) {
}

bool TiedWood::at(int column, int row) const {
    return column >= 0 && row >= 0 && column < stock_.columns() && row < stock_.rows() &&
           seen_[static_cast<std::size_t>(row) * static_cast<std::size_t>(stock_.columns()) +
                 static_cast<std::size_t>(column)] != 0;
}

void TiedWood::visit(int column, int row) {
    if (column < 0 || row < 0 || column >= stock_.columns() || row >= stock_.rows()) {
        return;
    }
    char& seen = seen_[static_cast<std::size_t>(row) * static_cast<std::size_t>(stock_.columns()) +
                       static_cast<std::size_t>(column)];
    if (!seen && woodOver(stock_, column, row) > holdingWood) {
        seen = 1;
        front_.emplace_back(column, row);
    }
}

long TiedWood::spread() {
    long cells = 0;
    while (!front_.empty()) {
        const auto [c, r] = front_.back();
        front_.pop_back();
        ++cells;
        visit(c - 1, r);
        visit(c + 1, r);
        visit(c, r - 1);
        visit(c, r + 1);
    }
    return cells;
}

void TiedWood::fromRim(const std::function<bool(int, int)>& starts) {
    const auto rim = [&](int c, int r) {
        if (!starts || starts(c, r)) {
            visit(c, r);
        }
    };
    for (int c = 0; c < stock_.columns(); ++c) {
        rim(c, 0);
        rim(c, stock_.rows() - 1);
    }
    for (int r = 0; r < stock_.rows(); ++r) {
        rim(0, r);
        rim(stock_.columns() - 1, r);
    }
    spread();
}

long TiedWood::from(int column, int row) {
    visit(column, row);
    return spread();
}

Finding& saySkinLeft(PartId part, Findings& out, double thickest, const std::string& where) {
    const double left = std::max(0.0, thickest - throughBy);
    return sayOf(part, out, Weight::stop, "skin-left",
                 fmt::format("Beside the outline {:.2f} mm of wood are left {}; a through cut must "
                             "pass the underside by {:.2f} mm or more.",
                             left, where, throughBy),
                 left, 0);
}

Finding& sayPartFree(PartId part, Findings& out, const std::string& name) {
    return sayOf(part, out, Weight::stop, "part-free",
                 fmt::format("The {} comes free of its frame when its outline is through: nothing "
                             "ties it against the bit any more; tabs were expected.",
                             name),
                 0, 1);
}

} // namespace wren
