#include "job/setup_report.h"

#include "base/error.h"
#include "job/tidy.h"
#include "part/judge_setup.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using json = nlohmann::ordered_json;

json stringJson(const StringSetup& s) {
    return {{"string", s.number},
            {"nut_height", tidy(s.overNut)},
            {"at_fret_1", tidy(s.overFret1)},
            {"at_fret_12", tidy(s.overFret12)},
            {"at_last_fret", tidy(s.overLastFret)},
            {"saddle_height", tidy(s.saddle)},
            {"saddle_low", tidy(s.saddleLow)},
            {"saddle_high", tidy(s.saddleHigh)},
            {"compensation", tidy(s.compensation)},
            {"travel_forward", tidy(s.ahead)},
            {"travel_back", tidy(s.behind)},
            {"break_nut_deg", tidy(s.breakAtNut)},
            {"break_saddle_deg", tidy(s.breakAtSaddle)},
            {"downforce_share", tidy(s.downforce)},
            {"tension_n", s.tension ? json(tidy(*s.tension)) : json()}};
}

/// The other ways out, for a sentence: ": a or b would do".
std::string otherWays(const Project& p, double aim, GivesWay without) {
    std::string out;
    for (const SetupCure& cure : setupCures(p.body, p.neck, p.board, aim)) {
        if (cure.serves && cure.what != without) {
            out += (out.empty() ? "" : ", or ") + inWords(cure, bridgeFloor(p.body));
        }
    }
    return out.empty() ? std::string(".") : ": " + out + " would do.";
}

/// What is to be done with a pocket that is deeper or shallower than it has to be.
std::string mending(double now, double wanted) {
    const double more = now - wanted; // it is too deep
    if (std::abs(more) < 0.005) {
        return "The pocket is so already.";
    }
    return more > 0 ? fmt::format("In the pocket of {:.2f} mm as it is that is a shim of {:.2f} mm "
                                  "under the whole heel.",
                                  now, more)
                    : fmt::format("The pocket of {:.2f} mm as it is has to go {:.2f} mm deeper.",
                                  now, -more);
}

/// "1.20 mm over", "0.40 mm under": of the glue plane and the body's face.
std::string over(double height) {
    return fmt::format("{:.2f} mm {}", std::abs(height), height < 0 ? "under" : "over");
}

class Solver {
public:
    Solver(const Project& project, const SetupQuestion& q)
        : p_(project), q_(q), side_(p_.body, p_.neck, p_.board),
          height_(q.saddle.value_or(saddleAim(p_.body))),
          angle_(q.angle.value_or(p_.body.pocket.angle)) {}

    SetupAnswer answer() {
        if (q_.of == "angle") {
            return angle();
        }
        if (q_.of == "pocket" && side_.goesThrough()) {
            throw Error("A neck that goes through lies in no pocket; angle, proud or saddle was "
                        "expected.");
        }
        if (q_.of == "pocket" || q_.of == "proud") {
            return pocket();
        }
        if (q_.of == "saddle") {
            return saddle();
        }
        throw Error(fmt::format("\"{}\" cannot be solved for; angle, pocket, saddle or proud was "
                                "expected.",
                                q_.of));
    }

private:
    SetupAnswer with(double angle, double proud, double value, std::string said) {
        if (!(angle >= leastNeckAngle && angle <= mostNeckAngle)) {
            throw Error(fmt::format("Strings {:.2f} mm over the body's face at the bridge want a "
                                    "neck angle of {:.3f} degrees; {:g} to {:g} can be made{}",
                                    height_, angle, leastNeckAngle, mostNeckAngle,
                                    otherWays(p_, height_, GivesWay::angle)));
        }
        if (side_.goesThrough()) {
            sitProud(angle, proud);
        } else {
            sinkTo(angle, side_.pocketFor(angle, proud));
        }
        p_.body.pocket.angle = angle;
        return {p_, value, std::move(said)};
    }

    void sitProud(double angle, double proud) {
        // A little more than rounding: the answer of one question is put into the next.
        if (!(proud >= leastProud - 1e-6 && proud <= mostProud)) {
            throw Error(fmt::format(
                "Strings {:.2f} mm over the body's face at the bridge want the glue plane {} the "
                "face at the board's end; a neck that goes through can stand {:g} to {:g} mm over "
                "it, at {:.2f} degrees{}",
                height_, over(proud), leastProud, mostProud, angle,
                otherWays(p_, height_, GivesWay::pocket)));
        }
        p_.body.pocket.proud = std::max(leastProud, proud);
    }

    void sinkTo(double angle, double depth) {
        const double most = deepestPocket(p_.body, p_.neck, angle);
        if (!(depth >= leastPocket && depth <= most)) {
            throw Error(fmt::format(
                "Strings {:.2f} mm over the body's face at the bridge want {} at the heel's end; a "
                "pocket {:g} to {:.1f} mm deep can be made in a body of {:g} mm at {:.2f} "
                "degrees{}",
                height_,
                depth > 0 ? fmt::format("a pocket {:.2f} mm deep", depth)
                          : fmt::format("the heel {:.2f} mm over the face", -depth),
                leastPocket, most, p_.body.thickness, angle,
                otherWays(p_, height_, GivesWay::pocket)));
        }
        p_.body.pocket.depth = depth;
        p_.body.pocket.measuredFloor.reset();
    }

    SetupAnswer angle() {
        if (q_.angle) {
            throw Error("The angle is asked for and given at once; one of them was expected.");
        }
        const double a =
            q_.proud ? side_.angleFor(*q_.proud, height_) : side_.angleNow(p_.body.pocket, height_);
        return with(a, q_.proud.value_or(side_.proudNow(p_.body.pocket, a)), a,
                    fmt::format("A neck angle of {:.3f} degrees brings the strings {:.2f} mm over "
                                "the body's face at the bridge. {}",
                                a, height_, side_.goesThrough() ? backSet(a) : wedged()));
    }

    /// How a straight plank gets that angle.
    std::string backSet(double angle) const {
        const double edge = turningEdge(p_.body, p_.neck, p_.board);
        return fmt::format("Planed to a back-set that is {:.2f} mm {} the face's level at the nut "
                           "and nothing {:.1f} mm from it, at the board's end.",
                           edge * std::abs(std::sin(angle * std::numbers::pi / 180)),
                           angle < 0 ? "over" : "under", edge);
    }

    /// What mends a pocket that is cut already.
    std::string wedged() const {
        if (p_.body.pocket.angleIn == AngleIn::heel) {
            return "It is planed into the heel's underside, as the page for the back-set tells.";
        }
        const SideTriangle::Wedge w =
            side_.wedgeFor(p_.body.pocket.realDepth(), p_.body.pocket.angle, height_);
        if (w.height < 0.005) {
            return "The pocket as it is does so already.";
        }
        return fmt::format("In the pocket as it is a wedge under the heel, {:.2f} mm at its {} end "
                           "and nothing at the other, does the same at {:.2f} degrees.",
                           w.height, w.atInner ? "inner" : "outer", w.angle);
    }

    SetupAnswer pocket() {
        if (q_.proud && (q_.saddle || q_.of == "proud")) {
            throw Error("How proud the neck sits follows from the strings' height over the bridge: "
                        "one of the two was expected, not both.");
        }
        const double proud = q_.proud.value_or(side_.proudFor(angle_, height_));
        height_ = side_.saddleHeight(angle_, proud);
        if (side_.goesThrough()) {
            return with(angle_, proud, proud,
                        fmt::format("With the glue plane {} the body's face at the board's end the "
                                    "strings pass {:.2f} mm over the face at the bridge.",
                                    over(proud), height_));
        }
        const double depth = side_.pocketFor(angle_, proud);
        const std::string mend = mending(p_.body.pocket.realDepth(), depth);
        return with(angle_, proud, q_.of == "proud" ? proud : depth,
                    fmt::format("With the glue plane {} the body's face at the heel's "
                                "end, in a pocket {:.3f} mm deep there, the strings pass {:.2f} mm "
                                "over the face at the bridge. {}",
                                over(proud), depth, height_, mend));
    }

    SetupAnswer saddle() {
        if (q_.saddle) {
            throw Error("The saddles' height is asked for and given at once; one of them was "
                        "expected.");
        }
        const double proud = q_.proud.value_or(side_.proudNow(p_.body.pocket, angle_));
        height_ = side_.saddleHeight(angle_, proud);
        const Bridge& b = p_.body.bridge;
        const double low = b.saddleLow + bridgeFloor(p_.body);
        const double high = b.saddleHigh + bridgeFloor(p_.body);
        SetupAnswer out =
            with(angle_, proud, height_,
                 fmt::format("The strings pass {:.3f} mm over the body's face at the bridge; its "
                             "saddles reach from {:.1f} to {:.1f} mm there.",
                             height_, low, high));
        out.project.body.saddleAim = height_;
        return out;
    }

    Project p_;
    SetupQuestion q_;
    SideTriangle side_;
    double height_, angle_;
};

/// The strings can be followed from the nut to a bridge in a body.
void checkInstrument(const Project& p) {
    if (!p.wantsBody()) {
        throw Error("The project has no body that a neck could be fitted to: set body.build to "
                    "one-piece or topped.");
    }
    if (p.neck.joint == NeckJoint::none) {
        throw Error("The project has no neck whose angle could be set: neck.joint bolt-on, set or "
                    "through was expected.");
    }
}

} // namespace

SetupGeometry setupOf(const Derived& d) {
    if (!d.body || !d.neck) {
        checkInstrument(d.project);
        const auto stop = std::find_if(d.findings.begin(), d.findings.end(),
                                       [](const Finding& f) { return f.weight == Weight::stop; });
        throw Error(stop == d.findings.end() ? "There is no body to measure." : stop->message);
    }
    return setupGeometry(d.body->part, d.neck->part);
}

std::string setupJson(const SetupGeometry& g) {
    json out = {
        {"school", g.school == StringSchool::flat ? "flat-on-frets" : "wanted-action"},
        {"neck_angle_deg", tidy(g.angle)},
        {"heel_end_mm", tidy(g.heelEnd)},
        {"proud_mm", tidy(g.proud)},
        {"pocket_depth_mm", {{"inner", tidy(g.pocketInner)}, {"outer", tidy(g.pocketOuter)}}},
        {"glue_plane_over_face_mm", {{"inner", tidy(g.proud)}, {"outer", tidy(g.proudOuter)}}},
        {"bridge_line_mm",
         {{"from_heel_end", tidy(g.bridgeFromHeel)}, {"from_nut", tidy(g.bridgeFromNut)}}},
        {"middle",
         {{"over_glue_plane", tidy(g.middleOverGlue)}, {"saddle_height", tidy(g.middleSaddle)}}},
        {"strings", json::array()}};
    for (const StringSetup& s : g.strings) {
        out["strings"].push_back(stringJson(s));
    }
    return out.dump(2) + "\n";
}

std::string setupText(const SetupGeometry& g, LengthUnit unit) {
    const auto length = [&](double v) { return formatLength(v, unit, 2); };
    std::string out = fmt::format(
        "Strings drawn {}\n"
        "neck angle                   {:.2f} degrees\n"
        "glue plane over the face     {} at the {}'s end, {} where the body begins\n",
        g.school == StringSchool::flat ? "flat on the frets, saddles at their lowest"
                                       : "with the wanted action, saddles in mid-travel",
        g.angle, length(g.proud), g.through ? "board" : "heel", length(g.proudOuter));
    out += g.through
               ? std::string("neck                         goes through, wings at its sides\n")
               : fmt::format("pocket                       {} deep at the heel's end, {} at its "
                             "mouth\n",
                             length(g.pocketInner), length(g.pocketOuter));
    out += fmt::format(
        "bridge line                  {} from the {}'s end along the face, {} from the nut\n"
        "strings' middle there        {} over the face; saddles reach {} to {}\n\n",
        length(g.bridgeFromHeel), g.through ? "board" : "heel", length(g.bridgeFromNut),
        length(g.middleSaddle), length(g.saddleLow), length(g.saddleHigh));
    out += fmt::format("{:<7}{:>10}{:>10}{:>10}{:>10}{:>10}{:>10}{:>10}{:>10}{:>10}\n", "string",
                       "nut", "fret 1", "fret 12", "last", "saddle", "behind", "bend nut", "bend",
                       "pull");
    for (const StringSetup& s : g.strings) {
        out += fmt::format("{:<7}{:>10}{:>10}{:>10}{:>10}{:>10}{:>10}{:>9.1f}°{:>9.1f}°{:>10}\n",
                           s.number, length(s.overNut), length(s.overFret1), length(s.overFret12),
                           length(s.overLastFret), length(s.saddle), length(s.compensation),
                           s.breakAtNut, s.breakAtSaddle,
                           s.tension ? fmt::format("{:.0f} N", *s.tension) : std::string("-"));
    }
    return out;
}

SetupAnswer solveSetup(const Project& project, const SetupQuestion& question) {
    checkInstrument(project);
    return Solver(project, question).answer();
}

Project settledAfter(const Project& before, Project after) {
    Body& body = after.body;
    const bool byHand =
        (body.givesWay == GivesWay::angle && body.pocket.angle != before.body.pocket.angle) ||
        (body.givesWay == GivesWay::pocket && (body.pocket.depth != before.body.pocket.depth ||
                                               body.pocket.proud != before.body.pocket.proud));
    if (byHand && before.body.givesWay == body.givesWay) {
        body.givesWay = GivesWay::saddles;
    } else if (body.givesWay != GivesWay::saddles && after.neck.joint != NeckJoint::none) {
        try {
            body = settled(body, after.neck, after.board);
        } catch (const Error&) {
            // what cannot be drawn yet is told by its findings; the edit stands
        }
    }
    // A pocket drawn anew is to be cut again: what the last one came out with counts no more.
    if (body.pocket.depth != before.body.pocket.depth &&
        body.pocket.measuredFloor == before.body.pocket.measuredFloor) {
        body.pocket.measuredFloor.reset();
    }
    return after;
}

} // namespace wren
