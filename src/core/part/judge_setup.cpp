#include "part/judge_setup.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double leastBreak = 5; ///< degrees over a saddle; common practice, no source

class Judge {
public:
    Judge(const SetupGeometry& setup, const BodyPart& body, const Neck& neck)
        : s_(setup), body_(body), neck_(neck) {}

    Findings all() {
        if (s_.saddleLow > s_.saddleHigh) {
            saddlesUpsideDown();
        } else if (s_.middleSaddle < s_.saddleLow - rounding ||
                   s_.middleSaddle > s_.saddleHigh + rounding) {
            bridgeHeight();
        } else {
            saddleHeights();
        }
        saddleWays();
        breaks();
        heelWedge();
        return std::move(out_);
    }

private:
    static constexpr double rounding = 0.005; ///< mm

    void say(const char* code, std::string text, double value, double limit) {
        Finding& f = sayOf(Role::body, out_, Weight::caution, code, std::move(text), value, limit);
        f.atX = body_.place().toInstrument({body_.place().bridge, 0, 0}).x;
        f.feature = {FeatureKind::bridge};
    }

    void saddlesUpsideDown() {
        const Bridge& b = body_.design().bridge;
        say("saddle-range",
            fmt::format(
                "The bridge's lowest saddle, {:.1f} mm, stands higher than its highest, {:.1f} "
                "mm: the other way round was expected.",
                b.saddleLow, b.saddleHigh),
            b.saddleLow, b.saddleHigh);
    }

    void bridgeHeight() {
        std::string ways;
        for (const SetupCure& cure :
             setupCures(body_.design(), neck_, body_.board(), aimInReach(body_.design()))) {
            if (cure.serves) {
                ways += (ways.empty() ? "" : ", or ") + inWords(cure, body_.bridgeStandsOn());
            }
        }
        const Bridge& b = body_.design().bridge;
        const double stands = body_.bridgeStandsOn();
        say("bridge-height",
            fmt::format("The strings pass {:.1f} mm over {} at the bridge and its saddles reach "
                        "from {:.1f} to {:.1f} mm: {}.",
                        s_.middleSaddle - stands, stands < 0 ? "the recess's floor" : "the face",
                        b.saddleLow, b.saddleHigh,
                        ways.empty() ? "no pocket or neck angle that can be made brings them "
                                       "together, a deeper heel or another bridge is needed"
                                     : ways + " would bring them together"),
            s_.middleSaddle - stands, s_.middleSaddle < s_.saddleLow ? b.saddleLow : b.saddleHigh);
    }

    /// The string that misses most, of those that miss.
    template <typename Misses>
    const StringSetup* worst(Misses misses) const {
        const auto it = std::max_element(
            s_.strings.begin(), s_.strings.end(),
            [&](const StringSetup& a, const StringSetup& b) { return misses(a) < misses(b); });
        return it != s_.strings.end() && misses(*it) > rounding ? &*it : nullptr;
    }

    void saddleHeights() {
        const StringSetup* s = worst([](const StringSetup& one) {
            return std::max(one.saddleLow - one.saddle, one.saddle - one.saddleHigh);
        });
        if (s) {
            const bool low = s->saddle < s->saddleLow;
            say("saddle-height",
                fmt::format("String {} passes {:.1f} mm over the face at its saddle, which reaches "
                            "from {:.1f} to {:.1f} mm: the strings in all {:.1f} mm {}, or a "
                            "saddle that goes {}, would do.",
                            s->number, s->saddle, s->saddleLow, s->saddleHigh,
                            low ? s->saddleLow - s->saddle : s->saddle - s->saddleHigh,
                            low ? "higher" : "lower", low ? "lower" : "higher"),
                s->saddle, low ? s->saddleLow : s->saddleHigh);
        }
    }

    void saddleWays() {
        const StringSetup* s =
            worst([](const StringSetup& one) { return -std::min(one.ahead, one.behind); });
        if (s) {
            const double off = std::min(s->ahead, s->behind);
            say("saddle-way",
                fmt::format("String {}'s saddle wants to stand {:.1f} mm behind its scale, {:.1f} "
                            "mm {} than its travel of {:.1f} mm reaches: the bridge {:.1f} mm "
                            "further {} would do.",
                            s->number, s->compensation, -off,
                            s->ahead < s->behind ? "further forward" : "further back",
                            body_.design().bridge.travel, -off,
                            s->ahead < s->behind ? "forward" : "back"),
                off, 0);
        }
    }

    /// What the neck angle asks of the hands when the pocket's floor is level.
    void heelWedge() {
        if (s_.heelWedge != 0) {
            Finding& f = sayOf(
                Role::neck, out_, Weight::note, "heel-wedge",
                fmt::format("The pocket's floor is level: the angle of {:.2f} degrees is planed "
                            "into the heel's underside by hand, {:.2f} mm {} at the pocket's "
                            "mouth than at the heel's end (see the page for the back-set).",
                            s_.angle, std::abs(s_.heelWedge),
                            s_.heelWedge > 0 ? "shallower" : "deeper"),
                s_.heelWedge, 0);
            f.atX = s_.heelEnd;
        }
    }

    void breaks() {
        const StringSetup* s =
            worst([](const StringSetup& one) { return leastBreak - one.breakAtSaddle; });
        if (s) {
            const std::string bends =
                s->breakAtSaddle <= 0
                    ? fmt::format("String {} is held as high as its saddle or higher and would "
                                  "lift out of it",
                                  s->number)
                    : fmt::format("String {} bends only {:.1f} degrees over its saddle and may "
                                  "jump out of it or buzz",
                                  s->number, s->breakAtSaddle);
            say("saddle-break",
                fmt::format("{}: a bend of {:g} degrees is wanted; held lower, or nearer behind "
                            "the saddles, it bends more.",
                            bends, leastBreak),
                s->breakAtSaddle, leastBreak);
        }
    }

    const SetupGeometry& s_;
    const BodyPart& body_;
    const Neck& neck_;
    Findings out_;
};

} // namespace

std::string inWords(const SetupCure& cure, double standsOn) {
    switch (cure.what) {
    case GivesWay::pocket:
        return cure.through ? fmt::format("a neck {:.1f} mm proud of the body's face", cure.value)
                            : fmt::format("a neck pocket {:.1f} mm deep", cure.value);
    case GivesWay::angle:
        return fmt::format("a neck angle of {:.1f} degrees", cure.value);
    case GivesWay::saddles:
        break;
    }
    return fmt::format("a bridge whose saddles reach {:.1f} mm", cure.value - standsOn);
}

Findings judgeSetup(const SetupGeometry& setup, const BodyPart& body, const Neck& neck) {
    return Judge(setup, body, neck).all();
}

} // namespace wren
