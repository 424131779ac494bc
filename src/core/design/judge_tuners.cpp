#include "design/judge_tuners.h"

#include "design/tuner_places.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>

namespace wren {
namespace {

// Common practice, no source.
constexpr double leastBreak = 5;    ///< degrees over the nut
constexpr double mostSide = 8;      ///< degrees sideways
constexpr double aroundBushing = 3; ///< mm of wood between a tuner's hole and the edge
constexpr double besidePost = 0.5;  ///< mm a string passes another's post by

Finding& say(Findings& out, Weight weight, const char* code, std::string message, double value,
             double limit) {
    return sayOf(Role::neck, out, weight, code, std::move(message), value, limit);
}

bool overlap(const std::vector<Vec2>& a, const std::vector<Vec2>& b) {
    // Two convex shapes are apart when one of their sides has the other wholly outside.
    const auto apart = [](const std::vector<Vec2>& p, const std::vector<Vec2>& q) {
        for (std::size_t i = 0; i < p.size(); ++i) {
            const Vec2 side = p[(i + 1) % p.size()] - p[i];
            const double own = cross(side, p[(i + 2) % p.size()] - p[i]);
            if (std::all_of(q.begin(), q.end(),
                            [&](Vec2 c) { return cross(side, c - p[i]) * own <= 0; })) {
                return true;
            }
        }
        return false;
    };
    return !apart(a, b) && !apart(b, a);
}

/// A bore square to the bed is not square to a tilted head.
void judgeTunerBore(Findings& out, const Neck& neck) {
    const Tuners& t = neck.tuners;
    if (t.bore == TunerBore::byHand) {
        say(out, Weight::note, "tuners-by-hand",
            fmt::format(
                "The tuners' holes, {:g} mm, are bored at a drill press with the head lying "
                "flat on a board; the programs leave them out and the drawing has their "
                "places.",
                t.bushing),
            t.bushing, 0);
    } else if (neck.head.kind == HeadKind::tilted && neck.head.angle > 0) {
        const double tilt = neck.head.angle * std::numbers::pi / 180;
        say(out, Weight::caution, "tuner-bore-leans",
            fmt::format(
                "The tuners' holes are bored square to the bed and the head is tilted: "
                "posts will lean {:.0f} degrees toward the nut, and a hole of {:g} mm opens "
                "in the face as an oval {:.2f} mm long. Bored by hand with the head lying "
                "flat they stand square (tuners.bored).",
                neck.head.angle, t.bushing, t.bushing / std::cos(tilt)),
            neck.head.angle, 0);
    }
}

/// As makers count: 1 is the treble string.
int numberOf(const TunerPlace& p, int strings) {
    return strings - p.string;
}

void judgeHole(Findings& out, const Tuners& t, const TunerPlace& p, int strings,
               const NeckOutline& outline) {
    const double away = distanceTo(outline.contour(), p.post);
    const double wood = (inside(outline.points(), p.post) ? away : -away) - t.bushing / 2;
    if (wood < aroundBushing) {
        const std::string stands =
            wood < 0 ? fmt::format("reaches {:.1f} mm past the head's edge", -wood)
                     : fmt::format("stands {:.1f} mm from the head's edge", wood);
        say(out, wood < 0 ? Weight::stop : Weight::caution, "tuner-at-edge",
            fmt::format("The hole of string {}'s tuner {}; {:.0f} mm of wood is wanted.",
                        numberOf(p, strings), stands, aroundBushing),
            wood, aroundBushing)
            .atX = p.post.x;
    }
}

void judgeBodies(Findings& out, const Tuners& t, const TunerPlace& p, const TunerPlace& q,
                 int strings) {
    if (overlap(tunerBody(t, p), tunerBody(t, q))) {
        const double apart = length(p.post - q.post);
        say(out, Weight::stop, "tuners-collide",
            fmt::format("The tuners of strings {} and {} would collide: their posts are {:.1f} mm "
                        "apart and their bodies {:g} by {:g} mm.",
                        numberOf(q, strings), numberOf(p, strings), apart, t.bodyLength,
                        t.bodyWidth),
            apart, t.bodyLength)
            .atX = p.post.x;
    }
}

void judgeWay(Findings& out, const Tuners& t, const TunerPlace& p, const TunerPlace& past,
              int strings) {
    const double room = distanceToSegment(past.post, p.nut, p.winds) - t.post / 2;
    if (room < besidePost) {
        say(out, Weight::caution, "string-on-post",
            fmt::format("String {} passes {:.1f} mm from string {}'s post; {:.1f} mm is wanted.",
                        numberOf(p, strings), room, numberOf(past, strings), besidePost),
            room, besidePost)
            .atX = past.post.x;
    }
}

void judgeSide(Findings& out, const TunerPlace& p, int strings) {
    if (p.sideAngle > mostSide) {
        say(out, Weight::caution, "side-angle",
            fmt::format("String {} leaves the nut {:.1f} degrees to the side; up to {:.0f} keeps "
                        "it from catching in its slot.",
                        numberOf(p, strings), p.sideAngle, mostSide),
            p.sideAngle, mostSide)
            .atX = p.post.x;
    }
}

void judgeBreak(Findings& out, const std::vector<TunerPlace>& places, int strings) {
    std::string shallow;
    int count = 0;
    double flattest = 90;
    for (const TunerPlace& p : places) {
        if (p.breakAngle < leastBreak) {
            shallow += fmt::format("{}{}", shallow.empty() ? "" : ", ", numberOf(p, strings));
            ++count;
            flattest = std::min(flattest, p.breakAngle);
        }
    }
    if (!shallow.empty()) {
        say(out, Weight::note, "string-tree",
            fmt::format(
                "String{} {} over the nut by {:.1f} degrees at least; {:.0f} is wanted: a string "
                "tree, lower posts or a deeper drop.",
                count > 1 ? "s" : "", shallow + (count > 1 ? " break" : " breaks"), flattest,
                leastBreak),
            flattest, leastBreak);
    }
}

/// Trees that hold nothing down where they stand.
void judgeTrees(Findings& out, const Tuners& t, const std::vector<TunerPlace>& places,
                int strings) {
    for (std::size_t i = 0; i < t.trees.size(); ++i) {
        const StringTree& tree = t.trees[i];
        const bool holds = std::any_of(places.begin(), places.end(), [&](const TunerPlace& p) {
            return tree.holds(numberOf(p, strings)) && p.held &&
                   std::abs(p.held->x - tree.at.x) < 1e-6;
        });
        if (!holds) {
            Finding& f = say(
                out, Weight::caution, "tree-idle",
                fmt::format("String tree {} holds no string down: with {:.1f} mm over the face, "
                            "{:.1f} mm behind the nut, strings {} to {} pass under it or not at "
                            "all; lower, or between their nut and posts, was expected.",
                            i + 1, tree.height, -tree.at.x, tree.first, tree.last),
                tree.height, 0);
            f.atX = tree.at.x;
            f.feature = {FeatureKind::tree, i};
        }
    }
}

} // namespace

void judgeTuners(Findings& out, const Neck& neck, const Fretboard& board,
                 const NeckOutline& outline) {
    const std::vector<TunerPlace> places = tunerPlaces(neck, board, outline);
    const Tuners& t = neck.tuners;
    judgeTrees(out, t, places, board.strings);
    judgeTunerBore(out, neck);
    for (std::size_t i = 0; i < places.size(); ++i) {
        judgeHole(out, t, places[i], board.strings, outline);
        for (std::size_t k = 0; k < places.size(); ++k) {
            if (k > i) {
                judgeBodies(out, t, places[i], places[k], board.strings);
            }
            if (k != i) {
                judgeWay(out, t, places[i], places[k], board.strings);
            }
        }
        judgeSide(out, places[i], board.strings);
    }
    judgeBreak(out, places, board.strings);
}

} // namespace wren
