#include "part/judge_hardware.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

class Judge {
public:
    explicit Judge(const BodyPart& part) : part_(part) {}

    Findings all() {
        height();
        pickups();
        controls();
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

    void height() {
        const Bridge& b = part_.design().bridge;
        const double h = part_.saddleHeight();
        if (h >= b.saddleLow && h <= b.saddleHigh) {
            return;
        }
        const double wanted = (b.saddleLow + b.saddleHigh) / 2;
        const double reach = part_.place().bridge - part_.place().neckEnd;
        const double more = std::atan((wanted - h) / reach) * 180 / 3.14159265358979;
        Finding& f = say(
            Weight::caution, "bridge-height",
            fmt::format("The strings pass {:.1f} mm over the face at the bridge and its "
                        "saddles reach from {:.1f} to {:.1f} mm: a pocket {:.1f} mm deep, or a "
                        "neck angle of {:.1f} degrees, puts them in the middle.",
                        h, b.saddleLow, b.saddleHigh, part_.design().pocket.depth - (wanted - h),
                        part_.design().pocket.angle + more),
            h, h < b.saddleLow ? b.saddleLow : b.saddleHigh);
        at(f, {part_.place().bridge, 0}, {FeatureKind::bridge});
    }

    void pickups() {
        for (const PickupPlace& p : part_.pickups()) {
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
            const double body = id.kind == FeatureKind::lever ? 6
                                : id.kind == FeatureKind::pot ? 12.5
                                                              : 9;
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
            const double want = id.kind == FeatureKind::lever ? 35
                                : id.kind == FeatureKind::pot ? 20
                                                              : 28;
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

Findings judgeHardware(const BodyPart& part) {
    return Judge(part).all();
}

} // namespace wren
