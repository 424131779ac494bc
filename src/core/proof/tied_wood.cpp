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
    if (column >= 0 && row >= 0 && column < stock_.columns() && row < stock_.rows() &&
        fresh(column, row)) {
        front_.emplace_back(column, row);
    }
}

bool TiedWood::fresh(int column, int row) const {
    return !seen_[static_cast<std::size_t>(row) * static_cast<std::size_t>(stock_.columns()) +
                  static_cast<std::size_t>(column)] &&
           woodOver(stock_, column, row) > holdingWood;
}

/// Run by run along the rows: of a run beside one only the first cell is taken up.
long TiedWood::spread() {
    long cells = 0;
    while (!front_.empty()) {
        const auto [column, row] = front_.back();
        front_.pop_back();
        if (!fresh(column, row)) {
            continue;
        }
        int from = column;
        int to = column + 1;
        while (from > 0 && fresh(from - 1, row)) {
            --from;
        }
        while (to < stock_.columns() && fresh(to, row)) {
            ++to;
        }
        const auto at = seen_.begin() + std::ptrdiff_t(row) * stock_.columns();
        std::fill(at + from, at + to, char{1});
        cells += to - from;
        for (int beside : {row - 1, row + 1}) {
            bool inRun = false;
            for (int c = from; c < to && beside >= 0 && beside < stock_.rows(); ++c) {
                const bool now = fresh(c, beside);
                if (now && !inRun) {
                    front_.emplace_back(c, beside);
                }
                inRun = now;
            }
        }
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

std::optional<TiedWood::Loose> TiedWood::loose(double least) {
    for (int r = 0; r < stock_.rows(); ++r) {
        for (int c = 0; c < stock_.columns(); ++c) {
            if (fresh(c, r)) {
                front_.emplace_back(c, r);
                const long cells = spread();
                if (static_cast<double>(cells) > least) {
                    return Loose{c, r, cells};
                }
            }
        }
    }
    return std::nullopt;
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
