#include "cut/neck_bits.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

bool wider(const Bit& a, const Bit& b) {
    return a.diameter > b.diameter;
}

/// What several slots ask of the bit that cuts them all.
struct SlotNeeds {
    double narrow = 1e9;
    double deep = 0;
    bool round = false;
};

SlotNeeds needsOf(const std::vector<NeckPocket>& slots, const Setup& face) {
    SlotNeeds needs;
    for (const NeckPocket& p : slots) {
        needs.narrow = std::min({needs.narrow, p.width(), p.runsAcross() ? p.length() : p.width()});
        const WoodSpan wood = face.woodAt(p.middle().x);
        needs.deep = std::max(needs.deep, p.fromBack ? p.floor - wood.under : wood.over - p.floor);
        needs.round = needs.round || p.round;
    }
    return needs;
}

} // namespace

BitWant flatBit(double deep, const std::string& words) {
    return {[deep](const Bit& b) { return cutsFlat(b.kind) ? reaches(b, deep, true) : Verdict{}; },
            words, wider};
}

BitWant slotBit(const std::vector<NeckPocket>& slots, const Setup& face) {
    const SlotNeeds n = needsOf(slots, face);
    const auto can = [n](const Bit& bit) -> Verdict {
        if (n.round ? bit.kind != BitKind::ball : !cutsFlat(bit.kind)) {
            return {};
        }
        if (bit.diameter > n.narrow + 1e-6 || (n.round && bit.diameter < n.narrow - 0.02)) {
            return {false,
                    fmt::format("its {:.2f} mm do not suit a slot of {:.2f} mm", bit.diameter,
                                n.narrow),
                    std::abs(bit.diameter - n.narrow)};
        }
        return reaches(bit, n.deep, true);
    };
    return {can,
            n.round ? fmt::format("a ball as wide as the slot, {:.2f} mm", n.narrow)
                    : fmt::format(
                          "the widest flat bit that fits a slot {:.2f} mm wide and {:.1f} mm deep",
                          n.narrow, n.deep),
            wider};
}

double headReach(const NeckPart& part, const Setup& setup) {
    double deep = 0;
    for (double x = part.outline().tip(); x < part.outline().headStart(); x += 2) {
        const double face = setup.fromInstrument.toSetup({0, 0, part.face(x)}).z;
        deep = std::max(deep, setup.woodTop(x, colletNut) - face);
    }
    return deep;
}

BitWant headBit(double deep) {
    return {[deep](const Bit& b) { return cutsFlat(b.kind) ? reaches(b, deep, false) : Verdict{}; },
            "a flat bit for a level face", wider};
}

BitWant hollowBit(const NeckPart& part, double deep) {
    const Headstock& h = part.design().head;
    const bool tilted = h.kind == HeadKind::tilted;
    const double start = part.outline().headStart();
    const double slope = (part.face(start - 1e-4) - part.face(start - 2e-4)) / 1e-4;
    const double room = part.carved() ? part.design().nutThickness : 1e9;
    const auto can = [=, curve = h.curve](const Bit& b) -> Verdict {
        if (b.kind != BitKind::ball) {
            return {};
        }
        if (!tilted && b.radius() > 0.9 * curve) {
            return {false,
                    fmt::format("its radius of {:.1f} mm does not fit the hollow's {:.1f} mm",
                                b.radius(), curve),
                    b.radius() - 0.9 * curve};
        }
        const double side = b.radius() * (1 - slope / std::sqrt(1 + slope * slope));
        if (side > room) {
            return {false,
                    fmt::format("it reaches {:.1f} mm past the head's edge, into the "
                                "carved face {:.1f} mm from it",
                                side, room),
                    side - room};
        }
        return reaches(b, deep, false);
    };
    return {
        can,
        tilted ? "the widest ball, for the fewest passes"
               : fmt::format("the widest ball that rolls in a hollow of {:.1f} mm radius", h.curve),
        wider};
}

BitWant neckHoleBit(const std::vector<Hole>& holes, const NeckCut& cut) {
    const double d = holes.front().diameter;
    double deep = 0;
    for (const Hole& h : holes) {
        deep = std::max(deep, std::abs(h.top() - h.end()));
    }
    const double drilled = deep + (holes.front().through ? cut.through + 2 : 0);
    const double bored = deep + cut.through;
    const auto can = [=](const Bit& b) -> Verdict {
        if (b.kind == BitKind::drill) {
            if (std::abs(b.diameter - d) > 0.06) {
                return {false, fmt::format("{:.2f} mm is not {:.2f} mm", b.diameter, d),
                        std::abs(b.diameter - d)};
            }
            return reaches(b, drilled, true);
        }
        if (!cutsFlat(b.kind) || b.diameter > 0.9 * d || b.diameter < d / 2) {
            return {};
        }
        return reaches(b, bored, true);
    };
    const auto better = [](const Bit& a, const Bit& b) {
        const bool da = a.kind == BitKind::drill;
        const bool db = b.kind == BitKind::drill;
        return da != db ? da : a.diameter > b.diameter;
    };
    return {can, holeWant(d, deep), better};
}

} // namespace wren
