#include "design/engraving.h"
#include "job/key_table.h"
#include "job/notation.h"

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double reach = 1000; ///< of places from the bridge line, mm
constexpr std::size_t most = 100;

/// Where a member stands, of the thing that stands at `one`.
template <typename T, typename M>
At<M> of(const At<T>& one, M T::*member) {
    return [one, member](Project& p) -> M& { return one(p).*member; };
}

/// Whether a feature is cut from behind, as a word.
template <typename T>
void sideKey(KeyTable& t, const std::string& head, const std::function<T&(Project&)>& one) {
    t.words(
        head + "side", "the face it is cut from", {"front", "back"},
        [one](const Project& p) {
            return std::string(one(const_cast<Project&>(p)).fromBack ? "back" : "front");
        },
        [one](Project& p, const std::string& v) { one(p).fromBack = v == "back"; });
}

/// When its share of every layer is cut, if the body is glued up.
template <typename T>
void whenKey(KeyTable& t, const std::string& head, const std::function<T&(Project&)>& one,
             const char* meaning = "when it is cut in a glued-up body") {
    enumKey(t, head + "cut", meaning, Names<CutWhen, 2>{{"glued-up", "in-layers"}},
            of(one, &T::cut));
}

void chamberKeys(KeyTable& t, const std::string& head,
                 const std::function<Chamber&(Project&)>& one) {
    nodeList(t, head + "outline", of(one, &Chamber::nodes));
}

void channelKeys(KeyTable& t, const std::string& head,
                 const std::function<Channel&(Project&)>& one) {
    t.place(head + "from", "one end", reach, of(one, &Channel::from));
    t.place(head + "to", "the other end", reach, of(one, &Channel::to));
    t.length(head + "width", "width", 1, 60, of(one, &Channel::width));
    t.length(head + "depth", "depth", 0.5, 100, of(one, &Channel::depth));
}

void recessKeys(KeyTable& t, const std::string& head, const std::function<Recess&(Project&)>& one) {
    sideKey<Recess>(t, head, one);
    yesNo(t, head + "inlay", "a plug is cut to fill it", of(one, &Recess::inlay));
    t.maybe(KeyKind::length, head + "depth", "mm", "depth below the face; auto for right through",
            0.2, 100, of(one, &Recess::depth));
    whenKey<Recess>(t, head, one);
    nodeList(t, head + "outline", of(one, &Recess::nodes));
}

void contourKeys(KeyTable& t, const std::string& head,
                 const std::function<FaceSlope&(Project&)>& one) {
    sideKey<FaceSlope>(t, head, one);
    t.place(head + "from", "one end of the line it begins at", reach, of(one, &FaceSlope::from));
    t.place(head + "to", "the line's other end", reach, of(one, &FaceSlope::to));
    t.rate(head + "angle", "deg", "how steeply the face falls", 1, 40, of(one, &FaceSlope::angle));
    t.length(head + "radius", "of the rounding it begins with", 1, 400, of(one, &FaceSlope::blend));
    t.length(head + "bow", "how far the line bows into the body; 0 for straight", 0, 300,
             of(one, &FaceSlope::bow));
}

void wireKeys(KeyTable& t, const std::string& head, const std::function<WireHole&(Project&)>& one) {
    t.place(head + "from", "where the drill goes in", reach, of(one, &WireHole::from));
    t.length(head + "from_depth", "below the face there", 0, 100, of(one, &WireHole::fromDepth));
    t.place(head + "to", "where it comes out", reach, of(one, &WireHole::to));
    t.length(head + "to_depth", "below the face there", 0, 100, of(one, &WireHole::toDepth));
    t.length(head + "diameter", "diameter", 1, 20, of(one, &WireHole::diameter));
}

void holeKeys(KeyTable& t, const std::string& head, const std::function<FreeHole&(Project&)>& one) {
    sideKey<FreeHole>(t, head, one);
    t.place(head + "at", "middle", reach, of(one, &FreeHole::at));
    t.length(head + "diameter", "diameter", 1, 80, of(one, &FreeHole::diameter));
    t.maybe(KeyKind::length, head + "depth", "mm", "depth below the face; auto for right through",
            0.5, 100, of(one, &FreeHole::depth));
}

void engravingKeys(KeyTable& t, const std::string& head,
                   const std::function<Engraving&(Project&)>& one) {
    sideKey<Engraving>(t, head, one);
    t.text(
        head + "words", "the words; none for a shape",
        [one](Project& p) -> std::string& { return one(p).words; }, true);
    t.place(head + "at", "middle of the words", reach, of(one, &Engraving::middle));
    t.length(head + "height", "height of a capital letter", 1.5, 120, of(one, &Engraving::height));
    t.rate(head + "turn", "deg", "turned counter-clockwise as one reads it", -360, 360,
           of(one, &Engraving::turn));
    t.length(head + "depth", "depth below the face", 0.05, 4, of(one, &Engraving::depth));
    nodeList(t, head + "outline", of(one, &Engraving::nodes));
}

void plateKeys(KeyTable& t, const std::string& head, const std::function<Plate&(Project&)>& one) {
    enumKey(t, head + "kind", "what it covers",
            Names<PlateKind, 4>{{"pickguard", "control", "cavity-cover", "rod-cover"}},
            of(one, &Plate::kind));
    woodKey(t, head + "material", "sheet it is cut from", of(one, &Plate::material));
    t.length(head + "thickness", "thickness of the sheet", 0.8, 15, of(one, &Plate::thickness));
    t.count(head + "pieces", "pieces cut from one sheet", 1, 12, of(one, &Plate::pieces));
    t.length(head + "bevel", "chamfer of its upper edge; 0 for none", 0, 6, of(one, &Plate::bevel));
    t.length(head + "room", "round what stands in it", 0, 3, of(one, &Plate::room));
    t.count(head + "screws", "screws along its edge", 0, 30, of(one, &Plate::screws));
    t.length(head + "screw_hole", "diameter of a screw's hole in it", 1, 10,
             of(one, &Plate::screwHole));
    t.length(head + "screw_inset", "middle of a screw from the edge", 1.5, 40,
             of(one, &Plate::screwInset));
    t.length(head + "pilot", "diameter of a screw's pilot in the body; 0 for none", 0, 8,
             of(one, &Plate::pilot));
    t.length(head + "pilot_depth", "depth of a pilot", 2, 40, of(one, &Plate::pilotDepth));
    nodeList(t, head + "outline", of(one, &Plate::nodes));
}

void controlKeys(KeyTable& t, const std::string& head,
                 const std::function<Control&(Project&)>& one) {
    t.words(
        head + "kind", "what stands in the cavity", {"pot", "toggle", "lever"},
        [one](const Project& p) { return one(const_cast<Project&>(p)).what; },
        [one](Project& p, const std::string& v) { one(p).what = v; });
    t.place(head + "at", "middle of its shaft", reach, of(one, &Control::at));
    t.length(head + "seat", "seat thinned from inside, across; 0 for none", 0, 80,
             of(one, &Control::seat));
    t.length(head + "seat_wood", "wood left over its seat", 1, 20, of(one, &Control::seatWood));
    whenKey<Control>(t, head, one, "when its seat is cut in a glued-up body");
}

void jackKeys(KeyTable& t, const std::string& head, const std::function<Jack&(Project&)>& one) {
    enumKey(t, head + "kind", "how the jack sits", Names<JackKind, 3>{{"none", "edge", "cup"}},
            of(one, &Jack::kind));
    t.place(head + "at", "where it meets the edge, or a cup's middle", reach, of(one, &Jack::at));
    t.length(head + "size", "diameter of a barrel's hole", 4, 40, of(one, &Jack::size));
    t.length(head + "cup_size", "diameter of a cup", 8, 60, of(one, &Jack::cupSize));
    t.length(head + "cup_depth", "depth of a cup", 2, 40, of(one, &Jack::cupDepth));
}

void strapKeys(KeyTable& t, const std::string& head,
               const std::function<StrapButton&(Project&)>& one) {
    t.place(head + "at", "where it meets the edge", reach, of(one, &StrapButton::at));
}

void pickupKeys(KeyTable& t, const std::string& head, const std::function<Pickup&(Project&)>& one) {
    enumKey(t, head + "kind", "kind of pickup",
            Names<PickupKind, 4>{{"none", "single", "two-coil", "bar"}}, of(one, &Pickup::kind));
    enumKey(t, head + "mount", "what it is mounted on",
            Names<PickupMount, 3>{{"front", "ring", "back"}}, of(one, &Pickup::mount));
    t.length(head + "from_bridge", "bridge line to its middle", 5, 400,
             of(one, &Pickup::fromBridge));
    t.rate(head + "angle", "deg", "treble end nearer the bridge, beside a fan's own", -45, 45,
           of(one, &Pickup::angle));
    t.maybe(KeyKind::length, head + "across", "mm", "its size over the strings", 20, 250,
            of(one, &Pickup::across));
    t.maybe(KeyKind::length, head + "along", "mm", "its size along the strings", 8, 120,
            of(one, &Pickup::along));
    t.maybe(KeyKind::length, head + "height", "mm", "the unit's height from its bottom to its top",
            4, 60, of(one, &Pickup::height));
    t.length(head + "depth", "depth of its pocket", 2, 60, of(one, &Pickup::depth));
    t.length(head + "ear_depth", "depth of the ears for its screws", 2, 60,
             of(one, &Pickup::earDepth));
    t.length(head + "ear_length", "how far the ears reach out", 0, 40, of(one, &Pickup::earLength));
    t.length(head + "ear_width", "width of the ears; 0 for none", 0, 60,
             of(one, &Pickup::earWidth));
    t.length(head + "corner", "radius of its pocket's corners", 0.5, 20, of(one, &Pickup::corner));
    whenKey<Pickup>(t, head, one);
}

/// Keys of one thing under the name they had before there were lists. `there` says whether it is:
/// to ask makes none, to set does.
template <typename T, typename Members>
void oldNames(KeyTable& t, const std::string& head, const std::function<T&(Project&)>& one,
              const std::function<bool(const Project&)>& there, Members members) {
    KeyTable own;
    members(own, head, one);
    for (Key key : own.keys()) {
        key.alias = true;
        key.beforeLists = true;
        key.get = [get = key.get, there](const Project& p) {
            return there(p) ? get(p) : KeyValue();
        };
        t.take(std::move(key));
    }
}

void oldPickups(KeyTable& t) {
    for (std::size_t i = 0; i < 3; ++i) {
        oldNames<Pickup>(
            t, fmt::format("pickup{}.", i + 1),
            [i](Project& p) -> Pickup& {
                if (p.body.pickups.size() <= i) {
                    p.body.pickups.resize(i + 1);
                }
                return p.body.pickups[i];
            },
            [i](const Project& p) { return p.body.pickups.size() > i; }, pickupKeys);
    }
}

void oldJack(KeyTable& t) {
    const std::function<Jack&(Project&)> first = [](Project& p) -> Jack& {
        if (p.body.jacks.empty()) {
            p.body.jacks.push_back({JackKind::none, {40, 150}});
        }
        return p.body.jacks.front();
    };
    const auto there = [](const Project& p) { return !p.body.jacks.empty(); };
    oldNames<Jack>(t, "jack.", first, there, jackKeys);
    for (const auto& [name, which] : {std::pair{"x", &Vec2::x}, {"y", &Vec2::y}}) {
        t.derived(
            std::string("jack.") + name, "where the jack sits", -reach, reach,
            [which = which](const Project& p) {
                return (p.body.jacks.empty() ? Jack() : p.body.jacks.front()).at.*which;
            },
            [first, which = which](Project& p, double v) { first(p).at.*which = v; });
        t.last().beforeLists = true;
    }
}

void notations(KeyTable& t) {
    t.notation("body.chambers", "chambers' outlines, each a list of nodes, parted by ;",
               [](Project& p, const std::string& v) { p.body.chambers = chamberList(v); });
    t.notation("body.channels", "wire channels, X Y X Y width depth, parted by ;",
               [](Project& p, const std::string& v) { p.body.channels = channelList(v); });
    t.notation("body.recesses", "front, back or inlay, depth or through, colon, nodes; parted by ;",
               [](Project& p, const std::string& v) { p.body.recesses = recessList(v); });
    for (const bool back : {false, true}) {
        t.notation(back ? "body.back_slopes" : "body.front_slopes",
                   "contours, X Y X Y angle radius bow, parted by ;",
                   [back](Project& p, const std::string& v) {
                       std::vector<FaceSlope>& all = p.body.faces.contours;
                       std::erase_if(all, [&](const FaceSlope& s) { return s.fromBack == back; });
                       for (FaceSlope& s : slopeList(v, back)) {
                           all.push_back(std::move(s));
                       }
                   });
    }
    t.notation("body.engravings",
               "front or back, words X Y height turn depth or shape depth, colon, words or nodes; "
               "by ;",
               [](Project& p, const std::string& v) { p.body.engravings = engravingList(v); });
    t.notation("body.wires", "wires' holes, X Y depth X Y depth diameter, parted by ;",
               [](Project& p, const std::string& v) { p.body.wires = wireList(v); });
    t.notation("body.straps", "strap buttons, X Y",
               [](Project& p, const std::string& v) { p.body.straps = strapList(v); });
    t.notation("cavity.controls", "pot, toggle or lever, X Y, parted by commas",
               [](Project& p, const std::string& v) { p.body.controls = controlList(v); });
}

} // namespace

void nodeList(KeyTable& t, const std::string& path,
              std::function<std::vector<ShapeNode>&(Project&)> at) {
    const auto read = [](const std::string& v) {
        std::vector<ShapeNode> nodes = v.empty() ? std::vector<ShapeNode>{} : shapeNodes(v);
        if (!v.empty()) {
            shapeOutline(nodes); // it can be drawn
        }
        return nodes;
    };
    t.notation(path, "an outline's nodes: X Y s, c or r and a radius, parted by commas",
               [at, read](Project& p, const std::string& v) { at(p) = read(v); });
    t.last().checkText = [read](const std::string& v) { read(v); }; // it may stand in an item
    t.list<ShapeNode>(
        path, "node", 2000, std::move(at),
        [](KeyTable& own, const std::string& head, const std::function<ShapeNode&(Project&)>& one) {
            own.place(head + "at", "where it is", 2000, of(one, &ShapeNode::at));
            own.words(
                head + "kind", "whether the outline turns there", {"corner", "smooth"},
                [one](const Project& p) {
                    return std::string(one(const_cast<Project&>(p)).smooth ? "smooth" : "corner");
                },
                [one](Project& p, const std::string& v) { one(p).smooth = v == "smooth"; });
            own.length(head + "round", "radius a corner is rounded with", 0, 1000,
                       of(one, &ShapeNode::round));
            own.maybe(KeyKind::number, head + "bulge", "", "bulge of the arc to the next node",
                      -1000, 1000, of(one, &ShapeNode::bulge));
        });
}

void addFeatureKeys(KeyTable& t) {
    t.list<Pickup>(
        "body.pickups", "pickup", 12,
        [](Project& p) -> std::vector<Pickup>& { return p.body.pickups; }, pickupKeys);
    t.list<Control>(
        "body.controls", "control", most,
        [](Project& p) -> std::vector<Control>& { return p.body.controls; }, controlKeys);
    t.list<Jack>(
        "body.jacks", "jack", 12, [](Project& p) -> std::vector<Jack>& { return p.body.jacks; },
        jackKeys);
    t.list<StrapButton>(
        "body.straps", "strap button", most,
        [](Project& p) -> std::vector<StrapButton>& { return p.body.straps; }, strapKeys);
    t.list<Chamber>(
        "body.chambers", "chamber", most,
        [](Project& p) -> std::vector<Chamber>& { return p.body.chambers; }, chamberKeys);
    t.list<Channel>(
        "body.channels", "channel", most,
        [](Project& p) -> std::vector<Channel>& { return p.body.channels; }, channelKeys);
    t.list<Recess>(
        "body.recesses", "recess", most,
        [](Project& p) -> std::vector<Recess>& { return p.body.recesses; }, recessKeys);
    t.list<FreeHole>(
        "body.holes", "hole", most,
        [](Project& p) -> std::vector<FreeHole>& { return p.body.holes; }, holeKeys);
    t.list<WireHole>(
        "body.wires", "wire's hole", most,
        [](Project& p) -> std::vector<WireHole>& { return p.body.wires; }, wireKeys);
    t.list<FaceSlope>(
        "body.contours", "contour", most,
        [](Project& p) -> std::vector<FaceSlope>& { return p.body.faces.contours; }, contourKeys);
    t.list<Engraving>(
        "body.engravings", "engraving", most,
        [](Project& p) -> std::vector<Engraving>& { return p.body.engravings; }, engravingKeys);
    t.list<Plate>(
        "body.plates", "plate", 12, [](Project& p) -> std::vector<Plate>& { return p.body.plates; },
        plateKeys);
    oldPickups(t);
    oldJack(t);
    notations(t);
}

} // namespace wren
