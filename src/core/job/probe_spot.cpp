#include "job/probe_spot.h"

#include "base/error.h"
#include "job/clamps.h"
#include "proof/clamp_check.h"
#include "run/steps.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

ClampBox squareAt(Vec2 at, double half) {
    ClampBox box;
    box.middle = at;
    box.half = {half, half};
    return box;
}

/// Where the bits of a setup go below a height over its blank.
LowPlaces cutBelow(const PartJob& job, std::size_t side, double z) {
    const Blank& b = job.held.side(side).blank;
    return {job.read[side], {}, z, {0, 0}, {b.length, b.width}};
}

/// Whether nothing has been taken, or will be, off the face a plate lies on.
class WholeFace {
public:
    WholeFace(const PartJob& job, std::size_t side)
        : job_(job), side_(side), own_(cutBelow(job, side, job.held.side(side).topZ() - faceLies)) {
        if (side == 1) { // what went right through from the other side
            before_.emplace(cutBelow(job, 0, job.held.face.bottomZ() + faceLies));
        }
    }

    bool at(Vec2 setup) const {
        if (!own_.free(squareAt(setup, plateRests), 0)) {
            return false;
        }
        if (!before_) {
            return true;
        }
        const Vec3 wood = job_.held.side(side_).fromInstrument.toInstrument({setup.x, setup.y, 0});
        return before_->free(squareAt(job_.held.face.fromInstrument.toSetup(wood).xy(), plateRests),
                             0);
    }

private:
    static constexpr double faceLies = 0.05; ///< mm: less than that off a face is no cut
    const PartJob& job_;
    std::size_t side_;
    LowPlaces own_;
    std::optional<LowPlaces> before_;
};

/// Of a piece without waste: on its face, well inside its outline, the nearest to the zero first.
std::vector<Vec2> placesOn(const Panel& panel, const Setup& setup, const Machine& m) {
    constexpr double step = 15, inside = 12; // mm
    std::vector<Vec2> out;
    const std::vector<std::vector<Vec2>> outline{pointsOf(panel.outline, 0.1)};
    for (double x = step; x < setup.blank.length; x += step) {
        for (double y = step; y < setup.blank.width; y += step) {
            const Vec2 p = setup.fromInstrument.toInstrument({x, y, 0}).xy();
            const Vec2 on = setup.zeroOnMachine + Vec2{x, y} - m.lowCorner();
            if (insideOf(outline, p) && distanceTo(panel.outline, p) > inside && on.x >= 0 &&
                on.y >= 0 && on.x <= m.travel.x && on.y <= m.travel.y) {
                out.push_back(setup.zeroOnMachine + Vec2{x, y});
            }
        }
    }
    return out;
}

} // namespace

Vec2 probeSpot(const Derived& d, const PartJob& job, std::size_t side, std::size_t station) {
    const Setup& setup = job.held.side(side);
    const std::vector<Vec2> places =
        job.panel && job.panel->free
            ? placesOn(*job.panel, setup, d.project.machine)
            : probePlaces(setup, d.project.machine, station, job.held.under > 0);
    std::vector<ClampBox> clamps;
    for (std::size_t i : clampsOf(d.project, job.id, side, setup.numberOf(station))) {
        if (const auto box = boxOf(d.project.clamps[i], setup)) {
            clamps.push_back(*box);
        }
    }
    std::optional<WholeFace> face;
    if (setup.zZero == ZZero::top && !job.read[side].empty()) {
        face.emplace(job, side);
    }
    for (Vec2 p : places) {
        const Vec2 at = p - setup.zeroOn(station);
        const bool clear = std::none_of(clamps.begin(), clamps.end(), [&](const ClampBox& c) {
            return overlap(c, squareAt(at, plateHalf));
        });
        if (clear && (!face || face->at(at))) {
            return p;
        }
    }
    throw Error(fmt::format("On the {}, {}, there is no place for the probe plate that is clear of "
                            "clamps{}: a clamp elsewhere, a larger blank or Z on the {} was "
                            "expected.",
                            job.name(), setup.name, face ? " and of every cut" : "",
                            setup.zZero == ZZero::top ? "bed" : "blank's face"));
}

Findings judgeProbeSpots(const Derived& d) {
    Findings out;
    for (const PartJob& job : d.parts) {
        for (std::size_t side = 0; job.placed && side < job.held.sides(); ++side) {
            const std::size_t stations =
                std::max<std::size_t>(1, job.held.side(side).stations.size());
            for (std::size_t k = 0; k < stations; ++k) {
                try {
                    probeSpot(d, job, side, k);
                } catch (const Error& e) {
                    sayOf(job.id, out, Weight::caution, "no-probe-spot", e.what(), 0, 1);
                }
            }
        }
    }
    return out;
}

} // namespace wren
