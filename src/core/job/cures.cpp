#include "job/cures.h"

#include "design/setup_solver.h"
#include "job/features.h"
#include "part/body_layers.h"
#include "part/judge_edges.h"

#include <cmath>
#include <map>
#include <numbers>

#include <fmt/format.h>

namespace wren {
namespace {

std::string mm(double v) {
    return fmt::format("{:.4f}mm", v);
}

using Cures = std::vector<Cure>;

Cures bridgeHeight(const Derived& d, const Finding&) {
    const Project& p = d.project;
    const double aim = aimInReach(p.body);
    Cures out;
    for (const SetupCure& cure : setupCures(p.body, p.neck, p.board, aim)) {
        if (!cure.serves || cure.what == GivesWay::saddles) {
            continue;
        }
        const double value = std::round(cure.value * 100) / 100;
        const bool pocket = cure.what == GivesWay::pocket;
        if (pocket && cure.through) {
            out.push_back({fmt::format("Let the neck stand {:.2f} mm over the body's face", value),
                           {{"neck_pocket.proud", mm(value)}},
                           {}});
        } else {
            out.push_back({pocket ? fmt::format("Make the neck pocket {:.2f} mm deep", value)
                                  : fmt::format("Give the neck an angle of {:.2f} degrees", value),
                           {pocket ? Setting{"neck_pocket.depth", mm(value)}
                                   : Setting{"neck_pocket.angle", fmt::format("{:.2f}", value)}},
                           {}});
        }
        if (aim != saddleAim(p.body)) { // what was wanted is out of the bridge's reach
            out.back().changes.push_back({"setup.saddle_height", mm(aim)});
        }
    }
    return out;
}

Cures shallowerPocket(const Derived& d, const Finding& f) {
    const double deep = std::floor((d.project.body.pocket.depth - f.value) * 10) / 10;
    if (deep < leastPocket) {
        return {};
    }
    return {{fmt::format("Make the neck pocket {:.1f} mm deep", deep),
             {{"neck_pocket.depth", mm(deep)}},
             {}}};
}

Cures deeperPickup(const Derived& d, const Finding& f) {
    const double depth = d.project.body.pickups.at(f.feature.index).depth;
    const double deep = std::ceil((depth + f.value - f.limit) * 10) / 10;
    if (deep > d.project.body.thickness - bodyWoodCaution) {
        return {};
    }
    return {{fmt::format("Make its pocket {:.1f} mm deep", deep),
             {{pathOf(f.feature) + ".depth", mm(deep)}},
             {}}};
}

Cures controlOutside(const Derived& d, const Finding& f) {
    const BodyPart& part = d.body->part;
    const Contour hollow = part.hollow();
    const std::vector<Vec2> points = pointsOf(hollow, 0.05);
    const Vec2 from = part.place().at(d.project.body.controls.at(f.feature.index).at);
    // The nearest place whose distance to the wall is what its body wants.
    std::optional<Vec2> best;
    for (double x = -150; x <= 150; x += 1) {
        for (double y = -150; y <= 150; y += 1) {
            const Vec2 p = from + Vec2{x, y};
            const bool nearer = !best || length(p - from) < length(*best - from);
            if (nearer && inside(points, p) && distanceTo(hollow, p) >= f.limit + 0.05) {
                best = p;
            }
        }
    }
    const std::string path = pathOf(f.feature);
    Cures out;
    if (best) {
        const Vec2 to = part.place().fromBridge(*best);
        out.push_back({fmt::format("Move {} to {:.1f}, {:.1f}", nameOf(d.project.body, f.feature),
                                   to.x, to.y),
                       {{path + ".at", fmt::format("{:.1f}mm, {:.1f}mm", to.x, to.y)}},
                       {}});
    }
    out.push_back({fmt::format("Remove {}", nameOf(d.project.body, f.feature)), {}, path});
    return out;
}

Cures smallerSeat(const Derived&, const Finding& f) {
    const std::string key = pathOf(f.feature) + ".seat";
    const double wide = std::floor(f.limit);
    if (wide <= 0) {
        return {{"Leave its seat out", {{key, "0mm"}}, {}}};
    }
    return {{fmt::format("Make its seat {:.0f} mm across", wide), {{key, mm(wide)}}, {}}};
}

Cures needTop(const Derived&, const Finding&) {
    return {{"Build the body with a top", {{"body.build", "topped"}}, {}}};
}

Cures thickRoof(const Derived&, const Finding&) {
    return {{"Leave 6 mm of wood over the cavity", {{"cavity.wood", "6mm"}}, {}}};
}

Cures widerLedge(const Derived&, const Finding& f) {
    const double wide = std::ceil(f.limit * 10) / 10;
    return {{fmt::format("Make the ledge {:.1f} mm wide", wide), {{"cavity.ledge", mm(wide)}}, {}}};
}

/// In the layers a bit need not reach as far as in the glued body.
Cures whileApart(const Derived& d, const Finding& f) {
    const Body& body = d.project.body;
    if (f.part != Role::body || body.build != BodyBuild::topped) {
        return {};
    }
    const std::optional<CutWhen> when = cutWhen(body, f.feature);
    if (when != CutWhen::glued) {
        return {};
    }
    return {{fmt::format("Cut {} in the layers, before gluing", theOne(body, f.feature)),
             {{pathOf(f.feature) + ".cut", "in-layers"}},
             {}}};
}

/// After the fit pass its finding asks for has been run.
Cures enlargedPocket(const Derived& d, const Finding& f) {
    const BodyPocket& pocket = d.project.body.pocket;
    const double by = pocket.clearance + 2 * d.project.body.film - f.value;
    return {{fmt::format("The fit pass is run: {:.2f} mm are off its walls", by),
             {{"neck_pocket.enlarged", mm(pocket.enlarged + by)}},
             {}}};
}

Cures roomierLid(const Derived&, const Finding& f) {
    const double room = std::ceil(f.limit * 20 - 1e-6) / 20;
    return {{fmt::format("Give the lid {:.2f} mm of room", room),
             {{"cavity.clearance", mm(room)}},
             {}}};
}

/// Posts as tall as the bend over the nut allows; nothing where one would be too low to wind on.
Cures staggeredPosts(const Derived& d, const Finding& f) {
    constexpr double least = 2; // mm of a coil over the face; common practice, no source
    const double side = -Fan(d.project.board).bassSide(); // lists are those of a right-handed neck
    const double wanted = std::tan(f.limit * std::numbers::pi / 180);
    std::string posts;
    std::vector<Setting> heights;
    double low = 1e9;
    for (const TunerPlace& t : d.neck->part.tuners()) {
        posts +=
            fmt::format("{}{:.4f} {:.4f}", posts.empty() ? "" : ", ", t.post.x, side * t.post.y);
        const double most =
            t.postHeight +
            length(t.winds - t.nut) * (std::tan(t.breakAngle * std::numbers::pi / 180) - wanted);
        const double height = std::floor(most * 10 + 1e-6) / 10;
        if (height < least) {
            return {};
        }
        if (height < t.postHeight) {
            heights.push_back({fmt::format("tuners.posts.{}.height", t.string), mm(height)});
            low = std::min(low, height);
        }
    }
    if (d.project.neck.tuners.places.empty()) {
        heights.insert(heights.begin(), {"tuners.places", posts});
    }
    return {{fmt::format("Stagger the posts, down to {:.1f} mm over the face", low), heights, {}}};
}

Cures ontoEdge(const Derived& d, const Finding& f) {
    const BodyPart& part = d.body->part;
    const Body& body = part.design();
    const Vec2 from = f.feature.kind == FeatureKind::jack ? body.jacks.at(f.feature.index).at
                                                          : body.straps.at(f.feature.index).at;
    const Vec2 to = part.place().fromBridge(nearestOn(part.outline(), part.place().at(from)));
    return {{fmt::format("Put it on the edge, at {:.1f}, {:.1f}", to.x, to.y),
             {{pathOf(f.feature) + ".at", fmt::format("{:.4f}mm, {:.4f}mm", to.x, to.y)}},
             {}}};
}

/// The nearest place of the edge from which its drill comes into the cavity.
Cures intoCavity(const Derived& d, const Finding& f) {
    constexpr double step = 4; // mm along the edge
    const BodyPart& part = d.body->part;
    const Jack& jack = part.design().jacks.at(f.feature.index);
    const Vec2 from = part.place().at(jack.at);
    std::optional<Vec2> best;
    for (Vec2 p : placesAlong(part.outline(), step)) {
        Jack there = jack;
        there.at = part.place().fromBridge(p);
        if ((!best || length(p - from) < length(*best - from)) && woodToCavity(part, there)) {
            best = p;
        }
    }
    if (!best) {
        return {};
    }
    const Vec2 to = part.place().fromBridge(*best);
    return {{fmt::format("Move it along the edge to {:.1f}, {:.1f}", to.x, to.y),
             {{pathOf(f.feature) + ".at", fmt::format("{:.4f}mm, {:.4f}mm", to.x, to.y)}},
             {}}};
}

/// Its strap button to the nearest place of the same edge from which the head stays up.
Cures buttonForward(const Derived& d, const Finding& f) {
    constexpr double step = 2; // mm along the edge
    const BodyPart& part = d.body->part;
    const Vec2 from = part.place().at(d.project.body.straps.at(f.feature.index).at);
    std::optional<Vec2> best;
    for (Vec2 p : placesAlong(part.outline(), step)) {
        const bool sameSide = p.y * from.y >= 0 && p.x < from.x;
        if (sameSide && p.x <= from.x + f.value &&
            (!best || length(p - from) < length(*best - from))) {
            best = p;
        }
    }
    if (!best) {
        return {};
    }
    const Vec2 to = part.place().fromBridge(*best);
    return {{fmt::format("Move the strap button to {:.1f}, {:.1f}", to.x, to.y),
             {{pathOf(f.feature) + ".at", fmt::format("{:.4f}mm, {:.4f}mm", to.x, to.y)}},
             {}}};
}

/// The thing itself is taken out: the least that is sure to help.
Cures without(const Derived& d, const Finding& f) {
    const std::string path = pathOf(f.feature);
    for (const Feature& thing : featuresOf(d.project)) {
        if (thing.path == path && itemPath(path)) {
            return {{fmt::format("Remove {}", thing.name), {}, path}};
        }
    }
    return {};
}

/// To the board's last fret, unless another stands there.
Cures backOnBoard(const Derived& d, const Finding& f) {
    const int last = d.project.board.frets;
    const std::vector<NeckStation>& all = d.project.neck.stations;
    // A neck keeps two of them.
    Cures out = all.size() > 2 ? without(d, f) : Cures();
    if (std::none_of(all.begin(), all.end(),
                     [&](const NeckStation& s) { return s.fret == last; })) {
        out.insert(out.begin(), {fmt::format("Move the station to fret {}", last),
                                 {{pathOf(f.feature) + ".fret", std::to_string(last)}},
                                 {}});
    }
    return out;
}

Cures clampAway(const Derived&, const Finding& f) {
    return {{fmt::format("Take clamp {} away", f.feature.index + 1), {}, pathOf(f.feature)}};
}

} // namespace

std::vector<Cure> curesFor(const Derived& d, const Finding& f) {
    using Make = Cures (*)(const Derived&, const Finding&);
    static const std::map<std::string, Make> cures{{"bridge-height", bridgeHeight},
                                                   {"control-outside", controlOutside},
                                                   {"chambers-need-a-top", needTop},
                                                   {"thick-roof", thickRoof},
                                                   {"outside-body", without},
                                                   {"same-wood", without},
                                                   {"engraved-off-face", without},
                                                   {"into-chamber", without},
                                                   {"no-bit", whileApart},
                                                   {"seat-outside", smallerSeat},
                                                   {"narrow-ledge", widerLedge},
                                                   {"board-in-the-body", shallowerPocket},
                                                   {"pickup-too-high", deeperPickup},
                                                   {"off-edge", ontoEdge},
                                                   {"jack-unreached", intoCavity},
                                                   {"head-dives", buttonForward},
                                                   {"tight-lid", roomierLid},
                                                   {"heel-too-wide", enlargedPocket},
                                                   {"string-tree", staggeredPosts},
                                                   {"station-past-frets", backOnBoard},
                                                   {"meets-clamp", clampAway},
                                                   {"clamps-overlap", clampAway},
                                                   {"clamp-on-pin", clampAway},
                                                   {"clamp-off-bed", clampAway},
                                                   {"clamp-for-nothing", clampAway},
                                                   {"marker-without-fret", without},
                                                   {"marker-off-board", without},
                                                   {"marker-over-slot", without}};
    const auto it = cures.find(f.code);
    const bool drawn = d.body || !f.part.ofBody();
    return it == cures.end() || !drawn ? std::vector<Cure>{} : it->second(d, f);
}

Project cured(const Project& project, const Cure& cure) {
    Project p = project;
    for (const Setting& s : cure.changes) {
        p = withKey(p, s.key, s.text);
    }
    return cure.remove.empty() ? p : withRemoved(p, cure.remove);
}

} // namespace wren
