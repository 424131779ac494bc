#include "part/judge_wings.h"

#include "part/glued_body.h"

#include <algorithm>
#include <cmath>
#include <set>

#include <fmt/format.h>

namespace wren {
namespace {

class Judge {
public:
    Judge(const BodyPart& body, const NeckPart& neck)
        : body_(body), neck_(neck), place_(body.place()) {
        for (int number : {1, 2}) {
            const ContourPiece& side = body.panel({Role::wing, number})->outline.back();
            for (Vec2 p : {side.from, side.to}) {
                const double x = place_.toInstrument({p.x, p.y, 0}).x;
                from_ = std::min(from_, x);
                to_ = std::max(to_, x);
            }
        }
        const std::array<Vec2, 2> box = body.panel(Role::body)->box();
        to_ = std::max(to_, place_.toInstrument({box[1].x, 0, 0}).x);
    }

    Findings all() {
        longEnough();
        deepEnough();
        onTheHeel();
        leans();
        afterGluing();
        return std::move(out_);
    }

private:
    Finding& say(Weight w, const char* code, std::string text, double value, double limit,
                 double x) {
        Finding& f = sayOf(Role::body, out_, w, code, std::move(text), value, limit);
        f.atX = x;
        return f;
    }

    void longEnough() {
        const double end = neck_.outline().end();
        if (end < to_ - 1e-6) {
            say(Weight::stop, "neck-ends-in-body",
                fmt::format("The neck ends {:.1f} mm from the nut and the body {:.1f} mm: wood "
                            "beyond the board's end {:.1f} mm longer was expected.",
                            end, to_, to_ - end),
                end, to_, end);
        }
    }

    /// Its wood must reach from the body's face to the body's back, wherever wings are glued on.
    void deepEnough() {
        double most = 0;
        for (double x : {std::max(from_, place_.neckEnd), to_}) {
            const double plan = place_.toBody({x, 0, 0}).x;
            most = std::max(most, -place_.toInstrument({plan, 0, -body_.thickness()}).z);
        }
        const double has = neck_.design().heelDepth;
        if (has < most - 0.01) {
            say(Weight::stop, "neck-too-shallow",
                fmt::format("Where it goes through the body the neck is {:.1f} mm deep, and the "
                            "body's back lies {:.1f} mm under its glue plane: {:.1f} mm more heel "
                            "depth was expected.",
                            has, most, most - has),
                has, most, to_);
        } else if (has > most + 0.5) {
            say(Weight::note, "neck-deeper-than-body",
                fmt::format("The neck is {:.1f} mm deeper than the body is thick: it is planed "
                            "level with the wings' backs after gluing.",
                            has - most),
                has, most, to_);
        }
    }

    /// The wings' sides meet wood over their whole height.
    void onTheHeel() {
        const double full = neck_.back().heelTo();
        if (full > from_ + 0.1) {
            say(Weight::caution, "wing-on-shaft",
                fmt::format("The wings begin {:.1f} mm from the nut and the neck has its whole "
                            "depth from {:.1f} mm on: {:.1f} mm of their glue line hang free; a "
                            "heel {:.1f} mm longer, or a shorter transition, was expected.",
                            from_, full, full - from_, full - from_),
                full, from_, from_);
        }
    }

    void leans() {
        const double angle = body_.design().pocket.angle;
        const double proud = body_.design().pocket.proud;
        if (angle == 0 && proud == 0) {
            return;
        }
        const double nut = planedOffAt(body_, 0);
        const double tail = planedOffAt(body_, place_.neckEnd);
        say(Weight::caution, "back-set",
            fmt::format("The neck is cut with its wood in the body level with its glue plane. It "
                        "gets its angle by hand: a straight plank planed by {:.2f} mm at the nut "
                        "and {:.2f} mm over the body, as the page for the back-set tells.",
                        nut, tail),
            nut, 0, place_.neckEnd);
    }

    void afterGluing() {
        std::set<std::string> names;
        FeatureId first;
        const auto add = [&](FeatureId id) {
            const std::string name = nameOf(body_.design(), id);
            if (!name.empty() && names.insert(name).second && names.size() == 1) {
                first = id;
            }
        };
        for (const PanelPocket& p : body_.panel(Role::body)->pockets) {
            if (p.stage == PocketStage::own && !body_.design().routedGlued) {
                add(p.feature);
            }
        }
        const Panel& body = *body_.panel(Role::body);
        const bool routed = body_.design().routedGlued;
        for (const Hole& h : body.holes) {
            if (!routed && !wingHas(body_, h)) {
                add(h.feature);
            }
        }
        for (const FaceFall* fall : {&body.frontFall, &body.backFall}) {
            if (!fall->edge().level()) {
                names.insert("rounded edges");
            }
            if (!routed && !fall->slopes().empty()) {
                names.insert("contours");
            }
        }
        if (names.empty()) {
            return;
        }
        std::string list;
        for (const std::string& name : names) {
            list += (list.empty() ? "" : ", ") + name;
        }
        say(Weight::note, "cut-after-gluing",
            fmt::format("Over the neck as well as the wings, and so cut by hand after they "
                        "are glued on: {}. Templates for a hand router can be made.",
                        list),
            static_cast<double>(names.size()), 0, place_.neckEnd)
            .feature = first;
    }

    const BodyPart& body_;
    const NeckPart& neck_;
    const BodyPlace& place_;
    double from_ = 1e9, to_ = -1e9; ///< X of the wings' glue lines and the tail, instrument frame
    Findings out_;
};

} // namespace

double planedOffAt(const BodyPart& body, double x) {
    const BodyPlace& place = body.place();
    const auto height = [&](double at) { return place.toBody({at, 0, 0}).z; };
    const double plank = std::max({0.0, height(0), height(place.neckEnd)});
    return plank - (x < place.neckEnd ? height(x) : 0);
}

Findings judgeWings(const BodyPart& body, const NeckPart& neck) {
    return Judge(body, neck).all();
}

} // namespace wren
