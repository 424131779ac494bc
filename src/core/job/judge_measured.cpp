#include "job/judge_measured.h"

#include "job/as_measured.h"
#include "part/body_shapes.h"
#include "part/setup_geometry.h"
#include "shop/shrinkage.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

class Judge {
public:
    explicit Judge(const Derived& d) : d_(d), p_(d.project), pocket_(p_.body.pocket) {}

    Findings all() {
        if (pocket_.cutWidth && pocket_.measuredWidth) {
            heelInCutPocket();
        }
        settledFit();
        if (p_.body.bridge.cutLength && pocket_.cutLength && pocket_.measuredLength) {
            bridgeOff(*p_.body.bridge.cutLength, *pocket_.measuredLength);
        }
        cutLid();
        return out_;
    }

private:
    Finding& say(PartId part, Weight weight, const char* code, const std::string& text,
                 double value, double limit) {
        return sayOf(part, out_, weight, code, text, value, limit);
    }

    double pocketRoom() const { return pocket_.clearance + 2 * p_.body.film; }

    void heelInCutPocket() {
        const double heel = *heelToday(p_);
        const double room = pocketRoom() + (*pocket_.cutWidth - heel) / 2 + pocket_.enlarged;
        const std::string facts =
            fmt::format("The neck pocket was cut for a heel of {:.2f} mm and the heel is {:.2f} mm: ",
                        *pocket_.cutWidth, heel);
        if (room < tightestHeel) {
            say(Role::body, Weight::caution, "heel-too-wide",
                facts + fmt::format("{:.2f} mm of room a side, {:.2f} mm was expected. A fit pass of "
                                    "{:.2f} mm takes it off the pocket's walls.",
                                    room, pocketRoom(), pocketRoom() - room),
                room, tightestHeel)
                .feature = {FeatureKind::neckPocket};
        } else if (room > std::max(loosestHeel, pocketRoom() + 0.1)) {
            say(Role::body, Weight::caution, "heel-too-narrow",
                facts + fmt::format("{:.2f} mm of room a side, {:.2f} mm was expected. A strip of "
                                    "veneer on the heel's side takes up {:.2f} mm.",
                                    room, pocketRoom(), 2 * (room - pocketRoom())),
                room, loosestHeel)
                .feature = {FeatureKind::neckPocket};
        }
    }

    /// What is left of the room once both woods have settled to one moisture.
    void settledFit() {
        const auto& [neck, body] = std::pair(p_.neckWood, p_.bodyWood);
        if (!pocket_.measuredWidth || !neck.moisture || !body.moisture || !d_.body ||
            !shrinkageOf(p_.neckBlank.wood) || !shrinkageOf(p_.bodyWoods.body)) {
            return;
        }
        const double heel = *heelToday(p_);
        const double hole =
            pocket_.cutWidth.value_or(heel) + 2 * (pocketRoom() + pocket_.enlarged);
        const double before = (hole - heel) / 2;
        const double heelThen =
            movedTo(heel, p_.neckBlank.wood, neck.sawn, neck.moisture, p_.settlesAt);
        const double holeThen =
            movedTo(hole, p_.bodyWoods.body, body.sawn, body.moisture, p_.settlesAt);
        const double after = (holeThen - heelThen) / 2;
        if (std::abs(after - before) < heelMoves) {
            return;
        }
        const bool bad = after < 0 || after > loosestHeel;
        say(Role::body, bad ? Weight::caution : Weight::note, "heel-settles",
            fmt::format("The neck stands at {:g} % of moisture and the body at {:g} %: at {:g} % the "
                        "heel is {:.2f} mm and its pocket {:.2f} mm wide, {:.2f} mm of room a side "
                        "instead of {:.2f}.{}",
                        *neck.moisture, *body.moisture, p_.settlesAt, heelThen, holeThen, after,
                        before, bad ? " Let both rest in one room before the pocket is cut." : ""),
            after, after < 0 ? 0 : loosestHeel)
            .feature = {FeatureKind::neckPocket};
    }

    /// A bridge that stays where it was drilled while the neck came out otherwise.
    void bridgeOff(double drilledFor, double neck) {
        const double off = drilledFor - neck; // the nut stands so much nearer the bridge
        if (std::abs(off) < 0.05 || !d_.body || !d_.neck) {
            return;
        }
        double left = 1e9;
        for (const StringSetup& s : setupGeometry(d_.body->part, d_.neck->part).strings) {
            left = std::min(left, off > 0 ? s.behind : s.ahead);
        }
        const bool reach = left > std::abs(off);
        say(Role::body, reach ? Weight::note : Weight::caution, "bridge-drilled",
            fmt::format("The bridge was drilled for a neck of {:.2f} mm from nut to heel's end and it "
                        "measures {:.2f} mm: every saddle goes {:.2f} mm {} the nut; {:.1f} mm of way "
                        "are left to it.",
                        drilledFor, neck, std::abs(off), off > 0 ? "away from" : "toward",
                        std::max(0.0, left)),
            std::abs(off), left)
            .feature = {FeatureKind::bridge};
    }

    void cutLid() {
        const Cavity& c = p_.body.cavity;
        if (c.cutWidth && c.measuredWidth) {
            const double room = c.clearance + (*c.measuredWidth - *c.cutWidth) / 2;
            if (room < 0.05) {
                say(Role::lid, Weight::caution, "lid-too-wide",
                    fmt::format("The lid was cut for a recess {:.2f} mm wide and that measures {:.2f} "
                                "mm: {:.2f} mm of room a side, {:.2f} mm was expected. A fit pass of "
                                "the ledge, or the lid's edge by hand.",
                                *c.cutWidth, *c.measuredWidth, room, c.clearance),
                    room, 0.05)
                    .feature = {FeatureKind::ledge};
            }
        }
        if (c.cutDepth && c.measuredDepth && *c.cutDepth - *c.measuredDepth > 0.1) {
            say(Role::lid, Weight::note, "lid-proud",
                fmt::format("The lid was cut for a recess {:.2f} mm deep and that measures {:.2f} mm: "
                            "it stands {:.2f} mm over the back.",
                            *c.cutDepth, *c.measuredDepth, *c.cutDepth - *c.measuredDepth),
                *c.cutDepth - *c.measuredDepth, 0.1)
                .feature = {FeatureKind::ledge};
        }
    }

    const Derived& d_;
    const Project& p_;
    const BodyPocket& pocket_;
    Findings out_;
};

} // namespace

Findings judgeMeasured(const Derived& d) {
    return d.project.wantsBody() ? Judge(d).all() : Findings{};
}

} // namespace wren
