#include "job/feature_edits.h"

#include "base/error.h"
#include "design/fan.h"
#include "job/list_keys.h"

#include <algorithm>
#include <cmath>
#include <iterator>

#include <fmt/format.h>

namespace wren {
namespace {

bool under(const std::string& key, const std::string& path) {
    return key.size() > path.size() + 1 && key.compare(0, path.size(), path) == 0 &&
           key[path.size()] == '.';
}

/// Calls f(key) for every stored key of one thing.
template <typename F>
void overKeys(const Project& p, const std::string& path, F f) {
    for (const Key& key : keysOf(p)) {
        if (!key.alias && under(key.path, path)) {
            f(key);
        }
    }
}

void put(Project& p, const Key& key, const KeyValue& value) {
    checkValue(key, value);
    key.set(p, value);
}

double numberOf(const Key& key, const Project& p) {
    const KeyValue v = key.get(p);
    const double* number = std::get_if<double>(&v);
    return number ? *number : 0;
}

bool isPickup(const std::string& path) {
    return path.rfind("body.pickups.", 0) == 0;
}

} // namespace

Project movedBy(const Project& project, const std::string& path, Vec2 by) {
    Project p = project;
    bool moved = false;
    const auto add = [&](const std::string& key, double d) {
        const Key k = keyAt(p, path + "." + key);
        put(p, k, numberOf(k, p) + d);
        moved = true;
    };
    if (isPickup(path)) {
        add("from_bridge", -by.x);
        return p;
    }
    if (path.rfind("cut.tabs.", 0) == 0) {
        add("at", by.x);
        return p;
    }
    if (path.rfind("markers.", 0) == 0) {
        add("fret", by.x > 0 ? 1 : by.x < 0 ? -1 : 0);
        return p;
    }
    if (path.rfind("neck.stations.", 0) == 0) {
        add("fret", by.x > 0 ? 0.5 : by.x < 0 ? -0.5 : 0);
        return p;
    }
    overKeys(project, path, [&](const Key& key) {
        if (key.kind == KeyKind::place) {
            put(p, key, std::get<Vec2>(key.get(p)) + by);
            moved = true;
        }
    });
    if (!moved) {
        throw Error("That stands where its numbers put it; it has no place of its own to move.");
    }
    return p;
}

Project mirroredOver(const Project& project, const std::string& path) {
    Project p = project;
    if (path.rfind("cut.tabs.", 0) == 0) {
        TabPlace& tab = p.cut.tabPlaces.at(itemPath(path)->number);
        tab.bass = !tab.bass;
        return p;
    }
    overKeys(project, path, [&](const Key& key) {
        const KeyValue value = key.get(p);
        const std::string name = lastOf(key.path);
        if (const Vec2* at = std::get_if<Vec2>(&value)) {
            put(p, key, Vec2{at->x, -at->y});
        } else if (name == "bulge" || name == "turn" || (name == "angle" && isPickup(path))) {
            if (const double* v = std::get_if<double>(&value)) {
                put(p, key, -*v);
            }
        }
    });
    return p;
}

Project doubledAside(const Project& project, const std::string& path, std::string& fresh) {
    constexpr double aside = 12; // mm
    const Project p = withDoubled(project, path);
    const std::optional<ItemPath> at = itemPath(path);
    fresh = fmt::format("{}.{}", at->list, at->number + 1);
    return movedBy(p, fresh, {aside, isPickup(path) ? 0 : aside});
}

std::vector<NewThing> newThings(Role part) {
    static const std::vector<NewThing> all{{"marker", "markers.face", Role::board},
                                           {"side dot", "markers.side", Role::board},
                                           {"tab", "cut.tabs", Role::board},
                                           {"station", "neck.stations", Role::neck},
                                           {"string tree", "tuners.trees", Role::neck},
                                           {"pickup", "body.pickups"},
                                           {"pot", "body.controls"},
                                           {"toggle", "body.controls"},
                                           {"lever", "body.controls"},
                                           {"jack", "body.jacks"},
                                           {"strap button", "body.straps"},
                                           {"chamber", "body.chambers"},
                                           {"channel", "body.channels"},
                                           {"recess", "body.recesses"},
                                           {"cut-out", "body.recesses"},
                                           {"inlay", "body.recesses"},
                                           {"hole", "body.holes"},
                                           {"wire's hole", "body.wires"},
                                           {"arm contour", "body.contours"},
                                           {"rib contour", "body.contours"},
                                           {"lettering", "body.engravings"},
                                           {"pickguard", "body.plates"},
                                           {"cover plate", "body.plates"}};
    std::vector<NewThing> out;
    std::copy_if(all.begin(), all.end(), std::back_inserter(out),
                 [part](const NewThing& t) { return t.part == part; });
    return out;
}

namespace {

std::vector<ShapeNode> roundBox(Vec2 at, double length, double width, double round) {
    return boxShape(at, length, width, round);
}

/// Fills the newest of the thing's list.
void fill(Body& b, const std::string& name, Vec2 at) {
    if (name == "pickup") {
        b.pickups.back().kind = PickupKind::single;
        b.pickups.back().fromBridge = std::clamp(-at.x, 5.0, 400.0);
    } else if (name == "pot" || name == "toggle" || name == "lever") {
        b.controls.back() = {name, at};
    } else if (name == "jack") {
        b.jacks.back().at = at;
    } else if (name == "strap button") {
        b.straps.back().at = at;
    } else if (name == "chamber") {
        b.chambers.back().nodes = roundBox(at, 60, 40, 12);
    } else if (name == "channel") {
        b.channels.back().from = at - Vec2{30, 0};
        b.channels.back().to = at + Vec2{30, 0};
    } else if (name == "recess" || name == "cut-out" || name == "inlay") {
        Recess& r = b.recesses.back();
        r.inlay = name == "inlay";
        if (name != "cut-out") {
            r.depth = name == "inlay" ? 2.5 : 3;
        }
        r.nodes = name == "inlay"    ? roundBox(at, 30, 14, 4)
                  : name == "recess" ? roundBox(at, 40, 30, 6)
                                     : roundBox(at, 80, 30, 14);
    } else if (name == "hole") {
        b.holes.back().at = at;
    } else if (name == "wire's hole") {
        b.wires.back().from = at - Vec2{30, 0};
        b.wires.back().to = at + Vec2{30, 0};
        b.wires.back().fromDepth = b.wires.back().toDepth = 15;
    } else if (name == "arm contour" || name == "rib contour") {
        FaceSlope& s = b.faces.contours.back();
        s.fromBack = name == "rib contour";
        s.from = at - Vec2{45, 0};
        s.to = at + Vec2{45, 0};
    } else if (name == "pickguard" || name == "cover plate") {
        Plate& p = b.plates.back();
        p.kind = name == "pickguard" ? PlateKind::pickguard : PlateKind::control;
        p.nodes = name == "pickguard" ? roundBox(at, 90, 50, 14) : roundBox(at, 70, 30, 10);
    } else {
        b.engravings.back().words = "No. 1";
        b.engravings.back().middle = at;
    }
}

/// The fret whose line lies nearest along the centreline.
int nearestFret(const Fretboard& board, double x) {
    constexpr int mostFrets = 36;
    const Fan fan(board);
    int nearest = 1;
    for (int n = 2; n <= (board.frets > 0 ? board.frets : mostFrets); ++n) {
        if (std::abs(fan.line(n).middle() - x) < std::abs(fan.line(nearest).middle() - x)) {
            nearest = n;
        }
    }
    return nearest;
}

/// Puts the newest station where it belongs: the back stays about as it is there. Returns its
/// place.
std::size_t settleStation(std::vector<NeckStation>& stations, double fret) {
    constexpr double last = 36;
    stations.back().thickness = 21; // of a neck that had none: its neighbours tell better
    if (stations.size() == 1) {
        stations.back().fret = fret;
        return 0;
    }
    stations.pop_back();
    const auto taken = [&](double f) {
        return std::any_of(stations.begin(), stations.end(),
                           [f](const NeckStation& s) { return s.fret == f; });
    };
    const double wanted = fret;
    for (double off = 0.5; taken(fret); off += 0.5) {
        const bool after = wanted + off <= last && !taken(wanted + off);
        fret = after ? wanted + off : std::max(0.0, wanted - off);
    }
    const auto after = std::find_if(stations.begin(), stations.end(),
                                    [fret](const NeckStation& s) { return s.fret > fret; });
    NeckStation fresh = after == stations.begin() ? *after : *(after - 1);
    if (after != stations.begin() && after != stations.end()) {
        const NeckStation& before = *(after - 1);
        const double share = (fret - before.fret) / (after->fret - before.fret);
        const double thick = before.thickness + share * (after->thickness - before.thickness);
        fresh.thickness = std::round(thick * 100) / 100;
    }
    fresh.fret = fret;
    return static_cast<std::size_t>(stations.insert(after, fresh) - stations.begin());
}

/// Fills the newest of a board's or a neck's list; returns its place in it.
std::size_t fillAt(Project& p, const std::string& list, Vec2 at) {
    if (list == "markers.face") {
        p.board.markers.face.back().fret = markerFretAt(p.board, at.x);
        return p.board.markers.face.size() - 1;
    }
    if (list == "markers.side") {
        p.board.markers.side.back().fret = markerFretAt(p.board, at.x);
        return p.board.markers.side.size() - 1;
    }
    if (list == "cut.tabs") {
        const bool bass = (at.y < 0) == (p.board.hand == Hand::right);
        p.cut.tabPlaces.back() = {bass, std::round(at.x * 10) / 10};
        return p.cut.tabPlaces.size() - 1;
    }
    if (list == "tuners.trees") {
        StringTree& tree = p.neck.tuners.trees.back();
        const double hand = p.board.hand == Hand::left ? -1 : 1;
        tree.at = {std::round(std::min(-5.0, at.x) * 10) / 10, std::round(at.y * hand * 10) / 10};
        tree.last = std::min(2, p.board.strings);
        return p.neck.tuners.trees.size() - 1;
    }
    return settleStation(p.neck.stations, nearestFret(p.board, at.x));
}

} // namespace

Project withTabsByHand(const Derived& d) {
    Project p = d.project;
    const BoardPlan* plan = d.boardPlan();
    if (p.cut.tabPlaces.empty() && plan) {
        const int bass = p.board.hand == Hand::left ? 1 : -1;
        for (const Tab& t : plan->tabs) {
            p.cut.tabPlaces.push_back({t.side == bass, std::round(t.x * 10) / 10});
        }
    }
    return p;
}

Project withNew(const Project& project, const NewThing& thing, Vec2 at, std::string& fresh) {
    Project p = withAdded(project, thing.list, {});
    if (thing.part != Role::body) {
        fresh = fmt::format("{}.{}", thing.list, fillAt(p, thing.list, at));
        return p;
    }
    fill(p.body, thing.name, at);
    fresh = fmt::format("{}.{}", thing.list, listAt(p, thing.list).items->size(p) - 1);
    const Project settled = settledOnEdge(p); // of it alone: the others stay where they were put
    if (thing.name == "jack") {
        p.body.jacks.back() = settled.body.jacks.back();
    } else if (thing.name == "strap button") {
        p.body.straps.back() = settled.body.straps.back();
    }
    return p;
}

namespace {

Key placeKey(const Project& p, const std::string& list, std::size_t i) {
    return keyAt(p, fmt::format("{}.{}.at", list, i));
}

} // namespace

Project withNode(const Project& project, const std::string& list, Vec2 at, std::size_t& number) {
    const ListKey key = listAt(project, list);
    const std::size_t n = key.items->size(project);
    if (n >= key.most) {
        throw Error(fmt::format("That outline has {} nodes already.", n));
    }
    const auto place = [&](std::size_t i) {
        return std::get<Vec2>(placeKey(project, list, i % n).get(project));
    };
    double nearest = 1e300;
    number = n;
    for (std::size_t i = 0; i < n; ++i) {
        const double d = distanceToSegment(at, place(i), place(i + 1));
        if (d < nearest) {
            nearest = d;
            number = i + 1;
        }
    }
    Project p = project;
    key.items->add(p, number);
    put(p, placeKey(p, list, number), at);
    const Key kind = keyAt(p, fmt::format("{}.{}.kind", list, number));
    put(p, kind, keyAt(p, fmt::format("{}.{}.kind", list, number - 1)).get(p));
    return p;
}

Project withoutNode(const Project& project, const std::string& list, std::size_t number) {
    constexpr std::size_t least = 3;
    if (listAt(project, list).items->size(project) <= least) {
        throw Error("An outline needs three nodes at least; remove the whole thing instead.");
    }
    return withRemoved(project, fmt::format("{}.{}", list, number));
}

Project settledOnEdge(const Project& project) {
    Project p = project;
    Contour outline;
    try {
        outline = shapeOutline(p.body.mirror ? mirroredShape(p.body.nodes) : p.body.nodes);
    } catch (const Error&) {
        return p; // there is no edge to stay on
    }
    const auto settle = [&](Vec2& at) {
        const Vec2 on = nearestOn(outline, at);
        if (length(on - at) > 0.05) {
            at = {std::round(on.x * 10) / 10, std::round(on.y * 10) / 10};
        }
    };
    for (Jack& j : p.body.jacks) {
        if (j.kind == JackKind::edge) {
            settle(j.at);
        }
    }
    for (StrapButton& s : p.body.straps) {
        settle(s.at);
    }
    return p;
}

} // namespace wren
