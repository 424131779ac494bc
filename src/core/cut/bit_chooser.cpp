#include "cut/bit_chooser.h"

#include <fmt/format.h>

namespace wren {

Verdict reaches(const Bit& bit, double depth, bool narrow) {
    if (narrow && bit.fluteLength < depth) {
        return {false,
                fmt::format("its flutes of {:.1f} mm are shorter than the cut's {:.1f} mm",
                            bit.fluteLength, depth),
                depth - bit.fluteLength};
    }
    if (bit.reachOrUsual() < depth + 1) {
        return {false,
                fmt::format("it stands only {:.1f} mm out of the collet and {:.1f} mm are "
                            "wanted",
                            bit.reachOrUsual(), depth + 1),
                depth + 1 - bit.reachOrUsual()};
    }
    return {true, {}};
}

std::string holeWant(double diameter, double deep) {
    return fmt::format("a {0:.2f} mm drill, or a flat bit of {1:.2f} to {2:.2f} mm that bores it, "
                       "{3:.1f} mm deep",
                       diameter, diameter / 2, 0.9 * diameter, deep);
}

const Bit* BitChooser::choose(const char* what, const CutOverrides& own, const BitJudge& serves,
                              const Better& better, const std::string& want, std::string& why) {
    const BitJudge judge = [&](const Bit& bit) -> Verdict {
        if (bit.kind == BitKind::taperedBall && !(bit.tip > 0)) { // no step would be short enough
            return {false, "its tip has no width; its ball's diameter was expected"};
        }
        return serves(bit);
    };
    if (!own.bit.empty()) {
        const Bit* bit = findBit(drawer_, own.bit);
        if (!bit) {
            none(what, fmt::format("there is no bit \"{}\" in the drawer", own.bit), want);
            return nullptr;
        }
        const Verdict v = judge(*bit);
        if (!v.can) {
            none(what, fmt::format("{} was set by hand, but {}", bit->name, v.why), want);
            return nullptr;
        }
        why = fmt::format("{}: set by hand.", bit->name);
        return bit;
    }
    const Bit* best = nullptr;
    std::string nearest;
    double least = std::numeric_limits<double>::infinity();
    for (const Bit& bit : drawer_) {
        const Verdict v = judge(bit);
        if (!v.can) {
            if (!v.why.empty() && (nearest.empty() || v.misses < least)) {
                nearest = fmt::format("{}: {}", bit.name, v.why);
                least = v.misses;
            }
            continue;
        }
        if (!best || better(bit, *best)) {
            best = &bit;
        }
    }
    if (!best) {
        none(what, nearest.empty() ? "the drawer holds no bit of the kind" : nearest, want);
        return nullptr;
    }
    if (current_ && !(*best == *current_) && judge(*current_).can) {
        why = fmt::format("{}: it is in the spindle and can do this.", current_->name);
        return current_;
    }
    why = fmt::format("{}: {}.", best->name, want);
    return best;
}

void BitChooser::none(const char* what, const std::string& why, const std::string& want) {
    sayOf(part_, findings_, Weight::stop, "no-bit",
          fmt::format("No bit can cut the {}: {}. Wanted: {}.", what, why, want), 0, 0);
}

} // namespace wren
