#include "part/judge_hardware.h"

#include "design/fan.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

class Judge {
public:
    explicit Judge(const BodyPart& part) : part_(part) {}

    Findings all() {
        boardInTheBody();
        pickups();
        controls();
        lidRoom();
        lidFixings();
        return std::move(out_);
    }

private:
    Finding& say(Weight w, const char* code, std::string text, double value, double limit) {
        return sayOf(Role::body, out_, w, code, std::move(text), value, limit);
    }
    void at(Finding& f, Vec2 place, FeatureId feature) const {
        f.atX = part_.place().toInstrument({place.x, place.y, 0}).x;
        f.feature = feature;
    }

    /// Where the glue plane comes to lie below the body's face: under an angle it falls toward the
    /// nut, or toward the board's end when that is less than nothing.
    void boardInTheBody() {
        constexpr double seen = 0.1; // mm
        const BodyPlace& place = part_.place();
        const Fan fan(part_.board());
        const std::vector<Vec2> outline = pointsOf(part_.outline(), 0.05);
        const std::vector<Vec2> heel = pointsOf(part_.heel(), 0.05);
        double worst = 0;
        double worstX = 0;
        bool onWood = false;
        for (double x = fan.endOnCentre(); x > place.neckEnd - 150; x -= 1) {
            const Vec3 p = place.toBody({x, 0, 0});
            if (!inside(outline, p.xy()) || -p.z <= seen) {
                continue;
            }
            if (-p.z > worst) {
                worst = -p.z;
                worstX = p.x;
            }
            for (int side : {-1, 1}) {
                const Vec2 edge{p.x, fan.edgeAt(side, x)};
                onWood = onWood || (!inside(heel, edge) && distanceTo(part_.heel(), edge) > seen);
            }
        }
        if (worst <= 0 || heel.empty()) {
            return;
        }
        const BodyPocket& pocket = part_.design().pocket;
        at(say(onWood ? Weight::stop : Weight::caution, "board-in-the-body",
               fmt::format(
                   "{:.1f} mm before the bridge line the fretboard lies {:.1f} mm below the "
                   "body's face{}: a neck pocket of {:.1f} mm at most lifts it out.",
                   place.bridge - worstX, worst, onWood ? ", wider than the neck's pocket" : "",
                   pocket.realDepth() - worst),
               worst, 0),
           {worstX, 0}, {FeatureKind::neckPocket});
    }

    /// A pickup's top under strings that are pressed down at the last fret.
    void reach(const PickupPlace& p, const Pickup& unit) {
        constexpr double least = 1.5; // mm of air; both common practice, no source
        constexpr double most = 4;
        const double strings = part_.pressedHeight(p.middle.x);
        const double lying = p.height - unit.depth;
        if (lying > strings - least) {
            const double deep = p.height - strings + least;
            const bool fits = deep <= part_.thickness() - bodyWoodCaution;
            at(say(lying >= strings ? Weight::stop : Weight::caution, "pickup-too-high",
                   fmt::format("{} is {:.1f} mm high and stands {:.1f} mm over the face when it "
                               "lies on its pocket's floor; strings pressed at the last fret pass "
                               "{:.1f} mm over the face there and want {:.1f} mm of air: {}.",
                               capital(p.what), p.height, lying, strings, least,
                               fits ? fmt::format("a pocket {:.1f} mm deep gives that", deep)
                                    : "the body is too thin for it"),
                   lying, strings - least),
               p.middle, p.feature);
        } else if (unit.mount == PickupMount::front && p.height < strings - most) {
            at(say(Weight::caution, "pickup-too-low",
                   fmt::format("{} is {:.1f} mm high; {:.1f} mm under strings that pass {:.1f} mm "
                               "over the face it shows its bottom: {:.1f} mm are wanted, or a ring "
                               "under it.",
                               capital(p.what), p.height, most, strings, strings - most),
                   p.height, strings - most),
               p.middle, p.feature);
        }
    }

    void pickups() {
        for (const PickupPlace& p : part_.pickups()) {
            const Pickup& unit = part_.design().pickups.at(p.feature.index);
            if (unit.mount != PickupMount::back) { // that is held from behind, at any height
                reach(p, unit);
            }
            const double over = part_.stringHeight(p.middle.x);
            if (over < 5) {
                at(say(Weight::caution, "low-strings",
                       fmt::format("Over {} the strings pass only {:.1f} mm above the face; a "
                                   "pickup wants 5 mm or more.",
                                   p.what, over),
                       over, 5),
                   p.middle, p.feature);
            }
        }
    }

    void controls() {
        const Body& b = part_.design();
        const std::vector<Control>& list = b.controls;
        if (list.empty() || b.cavity.nodes.empty()) {
            return;
        }
        const Contour hollow = part_.hollow();
        const std::vector<Vec2> points = pointsOf(hollow, 0.01);
        const double deep = b.thickness - b.cavity.wood - (b.cavity.ledge > 0 ? b.cavity.lid : 0);
        for (std::size_t i = 0; i < list.size(); ++i) {
            const Control& c = list[i];
            const FeatureId id = controlId(b, i);
            const std::string name = nameOf(b, id);
            const Vec2 p = part_.place().at(c.at);
            const double body = roomOf(id.kind).around;
            const double room = inside(points, p) ? distanceTo(hollow, p) : -1;
            if (room < body) {
                at(say(room < 0 ? Weight::stop : Weight::caution, "control-outside",
                       fmt::format("{} at {:g}, {:g} {}; its body wants {:.1f} mm to the "
                                   "cavity's wall all round.",
                                   capital(name), c.at.x, c.at.y,
                                   room < 0 ? std::string("stands outside the cavity")
                                            : fmt::format("has only {:.1f} mm", room),
                                   body),
                       room, body),
                   p, id);
            }
            const double seat = c.seat / 2;
            if (seat > 0 && room < seat) {
                at(say(Weight::stop, "seat-outside",
                       fmt::format("{}'s seat is {:.1f} mm across and reaches past the cavity's "
                                   "wall: {:.1f} mm at most where it stands.",
                                   capital(name), c.seat, std::max(0.0, 2 * room)),
                       c.seat, 2 * room),
                   p, id);
            }
            const double want = roomOf(id.kind).deep;
            if (deep < want) {
                at(say(Weight::caution, "shallow-cavity",
                       fmt::format("The cavity is {:.1f} mm deep under its lid and {} wants "
                                   "about {:.0f} mm.",
                                   deep, name, want),
                       deep, want),
                   p, id);
            }
        }
        const bool seated =
            std::all_of(list.begin(), list.end(), [](const Control& c) { return c.seat > 0; });
        if (b.cavity.wood > 8 && !seated) {
            say(Weight::caution, "thick-roof",
                fmt::format("{:.1f} mm of wood are left over the cavity; the threads of pots and "
                            "switches seldom reach through more than 8 mm.",
                            b.cavity.wood),
                b.cavity.wood, 8)
                .feature = {FeatureKind::cavity};
        }
    }

    /// Finish lies on the lid's edge and on the wall round it.
    void lidRoom() {
        constexpr double slip = 0.1; // mm a side it still falls in by; common practice, no source
        const Body& b = part_.design();
        const Cavity& c = b.cavity;
        const double wanted = 2 * b.film + slip;
        if (c.nodes.empty() || c.ledge <= 0 || c.clearance >= wanted - 1e-9) {
            return;
        }
        say(Weight::caution, "tight-lid",
            fmt::format("The lid has {:.2f} mm of room all round and the finish takes {:.2f} mm of "
                        "it: {:.2f} mm is wanted, or it sticks.",
                        c.clearance, 2 * b.film, wanted),
            c.clearance, wanted)
            .feature = {FeatureKind::ledge};
    }

    /// What holds the lid stands wholly in the ledge, which is where its bit comes down.
    void lidFixings() {
        constexpr double rim = 0.5; // mm of wood on either side; common practice, no source
        const Cavity& c = part_.design().cavity;
        const double wanted = c.fixingSize + 2 * rim;
        if (c.nodes.empty() || c.ledge <= 0 || c.fixings == 0 || c.ledge >= wanted) {
            return;
        }
        say(c.ledge < c.fixingSize ? Weight::stop : Weight::caution, "narrow-ledge",
            fmt::format("The cavity's ledge is {:.1f} mm wide; {} of {:g} mm want one of {:g} "
                        "mm.",
                        c.ledge, c.fixing == LidFixing::magnets ? "magnets" : "screw holes",
                        c.fixingSize, wanted),
            c.ledge, wanted)
            .feature = {FeatureKind::ledge};
    }

    const BodyPart& part_;
    Findings out_;
};

} // namespace

ControlRoom roomOf(FeatureKind control) {
    switch (control) {
    case FeatureKind::lever:
        return {6, 35};
    case FeatureKind::pot:
        return {12.5, 20};
    default:
        return {};
    }
}

Findings judgeHardware(const BodyPart& part) {
    return Judge(part).all();
}

} // namespace wren
