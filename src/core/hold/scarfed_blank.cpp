#include "hold/scarfed_blank.h"

#include "part/neck_part.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {

WoodSpan ScarfedBlank::at(double x) const {
    WoodSpan wood{-plank, std::min(0.0, -(headStart - x) * fall)};
    if (x < atBack) {
        wood.under = -(atFace - x) * fall;
        if (x > blockFrom) {
            wood.under = std::min(wood.under, -block);
        }
    }
    return wood;
}

std::vector<Vec2> ScarfedBlank::side(double from, double to) const {
    std::vector<Vec2> out{{from, at(from).over}, {headStart, 0}, {to, 0}};
    // The underside from the heel on, with what lies on either side of each of its corners.
    constexpr double beside = 1e-9;
    std::vector<double> corners{to, atBack, from};
    if (block > 0) {
        corners.push_back(blockFrom);
        corners.push_back(std::clamp(atFace - block / fall, blockFrom, atBack));
    }
    std::sort(corners.rbegin(), corners.rend());
    for (double x : corners) {
        out.push_back({x, at(x + beside).under});
        out.push_back({x, at(x - beside).under});
    }
    return out;
}

ScarfedBlank scarfedBlank(const NeckPart& part, const Scarf& scarf) {
    constexpr double spare = 1; // of the block, which is planed by eye
    ScarfedBlank b;
    b.headStart = part.outline().headStart();
    b.fall = std::tan(scarf.angle);
    b.plank = scarf.plank;
    b.atFace = scarf.atFace;
    b.atBack = scarf.atBack;
    if (scarf.shortBy > 0) {
        b.blockFrom = part.back().headFrom();
        for (double x = b.blockFrom; x < b.atBack; x += 1) {
            b.block = std::max(b.block, part.back().slice(x).spine() + spare);
        }
    }
    return b;
}

void judgeScarf(Findings& out, const NeckPart& part, const Scarf& s) {
    if (s.plank < s.least - 1e-6) {
        sayOf(
            Role::neck, out, Weight::stop, "blank-too-small",
            fmt::format("The scarf's plank is {:.2f} mm thick and the neck wants {:.2f} mm of it; "
                        "it cannot be cut from that.",
                        s.plank, s.least),
            s.plank, s.least)
            .overridable = false;
        return;
    }
    const Headstock& head = part.design().head;
    sayOf(Role::neck, out, Weight::note, "scarf-cuts",
          fmt::format(
              "Scarf joint from a plank {:.1f} mm thick and {:.0f} mm long. Cut one: saw it "
              "through at {:g} degrees, the mark {:.1f} mm from the heel's end on its face and "
              "{:.1f} mm on its underside, a ramp {:.1f} mm long. Cut two: turn the short piece "
              "over, plane it to {:.1f} mm and glue it on the ramp, its sawn end flush with the "
              "face. The joint comes out {:.1f} mm from the nut under the board.",
              s.plank, s.plankLength, head.angle, s.neckPiece, s.neckPiece + s.run, s.ramp,
              head.thickness, s.atFace),
          s.ramp, 0)
        .atX = s.atFace;
    if (s.shortBy > 0.1) {
        sayOf(Role::neck, out, Weight::caution, "scarf-short",
              fmt::format(
                  "Behind the joint the back asks for {:.1f} mm more wood than the head's piece "
                  "has, {:.0f} mm from the nut: glue a block under it there, or let the head's "
                  "transition begin nearer the heel.",
                  s.shortBy, -s.shortAt),
              s.shortBy, 0.1)
            .atX = s.shortAt;
    }
}

} // namespace wren
