// What is drilled in a neck: tuners and their screws, bolts, glue-up pins, the caul's screws.

#include "part/neck_part.h"

#include "design/fan.h"
#include "design/tuner_places.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren {

void NeckPart::makeHoles() {
    const Tuners& t = neck_.tuners;
    for (const TunerPlace& p : tuners_) {
        if (!inside(outline_.points(), p.post)) {
            continue; // a finding says so
        }
        holes_.push_back({"tuner", p.post, t.bushing, -back_.depth(p.post.x, p.post.y),
                          face(p.post.x), true, true});
        holes_.back().byHand = t.bore == TunerBore::byHand;
        holes_.back().feature = {FeatureKind::tuner};
        const Vec2 screw = tunerScrew(t, p);
        if (t.pilot > 0 && inside(outline_.points(), screw)) {
            const double mouth = -back_.depth(screw.x, screw.y);
            holes_.push_back({"screw", screw, t.pilot, mouth, mouth + t.pilotDepth, true, false});
            holes_.back().feature = {FeatureKind::tunerScrew};
        }
    }
    if (neck_.joint == NeckJoint::boltOn && neck_.bolts > 0) {
        const double middle = (outline_.heelStart() + outline_.end()) / 2;
        const int rows = neck_.bolts >= 4 ? 2 : 1;
        const int columns = neck_.bolts / rows;
        for (int i = 0; i < columns; ++i) {
            const double x =
                middle + (columns > 1 ? neck_.boltLong * (double(i) / (columns - 1) - 0.5) : 0);
            for (int k = 0; k < rows; ++k) {
                const double y = rows > 1 ? neck_.boltWide * (k - 0.5) : 0;
                const double centre = back_.slice(x).centre();
                holes_.push_back({"bolt",
                                  {x, centre + y},
                                  neck_.boltPilot,
                                  -neck_.heelDepth,
                                  -neck_.heelDepth + neck_.boltDepth,
                                  true,
                                  false});
                holes_.back().feature = {FeatureKind::bolt};
            }
        }
    }
    makeCaulHoles();
    const Fan fan(board_);
    for (std::size_t i = 0; i < neck_.pinFrets.size(); ++i) {
        if (!neck_.pinFrets[i]) {
            continue;
        }
        // On either side of the rod, in the fret's own slot.
        const FretLine line = fan.line(*neck_.pinFrets[i]);
        const double share = i == 0 ? 0.25 : 0.75;
        const Vec2 at = line.bass + (line.treble - line.bass) * share;
        holes_.push_back({"pin", at, neck_.pinSize, 0, -neck_.pinDepth, false, false});
        holes_.back().feature = {FeatureKind::gluePin};
    }
    reachOutOfTheWood();
}

/// Asks both faces over the whole of every hole.
void NeckPart::reachOutOfTheWood() {
    constexpr int round = 24;
    for (Hole& h : holes_) {
        for (int i = 0; i < round; ++i) {
            const double a = 2 * std::numbers::pi * i / round;
            const Vec2 p = h.at + Vec2{std::cos(a), std::sin(a)} * (h.diameter / 2);
            const double front = face(p.x);
            const double back = -back_.depth(p.x, p.y);
            if (h.fromBack) {
                h.mouthOut = std::max(h.mouthOut, h.mouth - back);
                h.endOut = h.through ? std::max(h.endOut, front - h.floor) : 0;
            } else {
                h.mouthOut = std::max(h.mouthOut, front - h.mouth);
                h.endOut = h.through ? std::max(h.endOut, h.floor - back) : 0;
            }
        }
    }
}

double NeckPart::plateEnd() const {
    return outline_.headStart() - hollowLength() - neck_.head.plateGap;
}

/// For screws through the caul that presses the face plate on: one near the nut and one near the
/// tip, each as far from the edges and the tuners as it gets.
void NeckPart::makeCaulHoles() {
    const Headstock& h = neck_.head;
    const double length = plateEnd() - outline_.tip();
    for (int i = 0; i < h.plateScrews && h.plate > 0 && length > 0; ++i) {
        Vec2 best;
        double most = -1e9;
        for (double share = i == 0 ? 0.1 : 0.75; share < (i == 0 ? 0.25 : 0.9); share += 0.02) {
            const double x = plateEnd() - share * length;
            const auto wood = outline_.across(x);
            for (double y = wood[0]; y < wood[1]; y += 0.5) {
                double room = std::min(y - wood[0], wood[1] - y);
                for (const TunerPlace& t : tuners_) {
                    const double apart = wren::length(Vec2{x, y} - t.post);
                    room = std::min(room, apart - neck_.tuners.bushing / 2);
                }
                if (room > most) {
                    most = room;
                    best = {x, y};
                }
            }
        }
        if (most > h.plateScrew) {
            const double mouth = face(best.x);
            holes_.push_back(
                {"caul", best, h.plateScrew, mouth, mouth - h.plateScrewDepth, false, false});
            holes_.back().feature = {FeatureKind::caul};
        }
    }
}

} // namespace wren
