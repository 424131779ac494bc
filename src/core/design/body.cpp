#include "design/body.h"

#include "design/engraving.h"
#include "design/fan.h"
#include "design/lists.h"
#include "design/neck_outline.h"
#include "design/string_line.h"
#include "geom/inset.h"

#include <functional>
#include <numbers>

namespace wren {

namespace {

std::string drawnShape(const std::string& name) {
    if (name == "fell") { // no horns: shoulders that fall away, a leaning waist
        return "-258 -30 r4, -265 -62 s, -244 -106 s, -188 -125 s, -132 -118 s, -62 -124 s, 14 "
               "-157 s, 82 -138 s, 112 -66 s, 116 4 s, 108 82 s, 68 148 s, 0 162 s, -72 128 s, "
               "-136 105 s, -194 95 s, -242 74 s, -258 50 s, -254 30 r4";
    }
    if (name == "tarn") { // one broad shoulder forward, the other a long slope
        return "-258 -30 r4, -274 -62 s, -268 -106 s, -222 -136 s, -140 -136 s, -40 -138 s, 40 "
               "-158 s, 100 -120 s, 120 -40 s, 112 50 s, 70 130 s, 0 156 s, -70 138 s, -140 110 "
               "s, -206 84 s, -248 58 s, -254 30 r4";
    }
    if (name == "scree") { // both halves alike, a shallow hollow in the tail
        return "-256 -30 r4, -266 -62 s, -250 -104 s, -196 -127 s, -112 -122 s, -40 -128 s, 28 "
               "-148 s, 96 -118 s, 122 -52 s, 112 0 s, 122 52 s, 96 118 s, 28 148 s, -40 128 s, "
               "-112 122 s, -196 127 s, -250 104 s, -266 62 s, -256 30 r4";
    }
    return {};
}

constexpr double drawnMouth = 60; ///< of the shapes above, mm
constexpr double besideHeel = 2;  ///< wood of the mouth at each side of a heel
/// Nodes nearer to the centreline than this move outward with a wider mouth, those next to the
/// roots by less the further out they stand.
constexpr double mouthReach = 110;
/// A longer scale draws the upper bout out, from this X over so many mm.
constexpr double stretchFrom = -90;
constexpr double stretchOver = 110;
constexpr double aroundBolts = 16; ///< wood beyond a drawn-out bout's bolts
constexpr double drawnEnd = 185;   ///< from the bridge to a board's end that the shapes reach, mm

void checkChannel(const Channel& c) {
    if (length(c.to - c.from) < 1) {
        throw Error(fmt::format("it goes nowhere from {:g}, {:g}; ends at least 1 mm apart were "
                                "expected.",
                                c.from.x, c.from.y));
    }
}

void checkSlope(const FaceSlope& s) {
    const double chord = length(s.to - s.from);
    if (chord < 1) {
        throw Error(fmt::format("its line begins and ends at {:g}, {:g}; ends at least 1 mm apart "
                                "were expected.",
                                s.from.x, s.from.y));
    }
    if (2 * s.bow > chord) {
        throw Error(fmt::format("its line bows by {:g} mm, more than half its length of {:.1f} "
                                "mm; a flatter arc was expected.",
                                s.bow, chord));
    }
}

void checkWire(const WireHole& w) {
    if (w.length() < 1) {
        throw Error(fmt::format("it goes nowhere from {:g}, {:g}; ends at least 1 mm apart were "
                                "expected.",
                                w.from.x, w.from.y));
    }
}

} // namespace

std::vector<ShapeNode> Body::bodyShape(const std::string& name, double mouth, double longer) {
    const std::string drawn = drawnShape(name);
    if (drawn.empty()) {
        return {};
    }
    std::vector<ShapeNode> nodes = shapeNodes(drawn);
    if (mouth == drawnMouth && longer == 0) {
        return nodes;
    }
    for (ShapeNode& n : nodes) {
        const double out = std::abs(n.at.y);
        const bool atNeck = n.at.x < -200;
        if (atNeck && out < mouthReach) {
            const double share = (mouthReach - out) / (mouthReach - drawnMouth / 2);
            n.at.y += (n.at.y > 0 ? 1 : -1) * share * (mouth - drawnMouth) / 2;
        }
        n.at.x -= longer * std::clamp((stretchFrom - n.at.x) / stretchOver, 0.0, 1.0);
    }
    return roundedNodes(nodes);
}

double bodyMouth(const Fretboard& board) {
    const Fan fan(board);
    const double x = fan.endOnCentre();
    const double width = std::abs(fan.edgeAt(1, x) - fan.edgeAt(-1, x));
    return std::max(drawnMouth, std::ceil(width + 2 * besideHeel));
}

double bodyLonger(const Neck& neck, const Fretboard& board) {
    const Fan fan(board);
    const double end = fan.endOnCentre() + (neck.joint == NeckJoint::through ? 0 : neck.heelPast);
    const double bridge = (board.scaleLength + board.trebleScale.value_or(board.scaleLength)) / 2;
    const double beyond = bridge - end - drawnEnd;
    return beyond > 0 ? std::ceil(beyond + aroundBolts) : 0;
}

double usualCompensation(const Bridge& bridge, double across) {
    constexpr double spread = 1.5;
    const double middle = bridge.stands == BridgeStands::forward ? spread : bridge.compensation;
    return middle - across * spread;
}

double turningEdge(const Body& body, const Neck& neck, const Fretboard& board) {
    const double end = NeckOutline(neck, board).end();
    return neck.joint == NeckJoint::through ? end - neck.heelPast
                                            : body.pocket.heelEnd().value_or(end);
}

BodyPlace::BodyPlace(const Body& body, const Neck& neck, const Fretboard& board) {
    const Fan fan(board);
    side = fan.bassSide();
    neckEnd = turningEdge(body, neck, board);
    const BodyPocket& pocket = body.pocket;
    angle = pocket.angle * std::numbers::pi / 180;
    faceUnder = neck.joint == NeckJoint::through ? pocket.proud * std::cos(angle)
                                                 : pocket.measuredDepth.value_or(neck.heelDepth) -
                                                       pocket.realDepth() * std::cos(angle);
    const StringLine strings(neck, board, body.aims);
    bridge = toBody({strings.saddle(), 0, strings.over(strings.saddle())}).x;
}

Contour BodyPlace::laid(const Contour& fromBridge) const {
    const Contour c = side < 0 ? fromBridge : mirroredInY(fromBridge);
    return clockwise(movedBy(c, {bridge, 0}));
}

Vec3 BodyPlace::toBody(Vec3 p) const {
    const double dx = p.x - neckEnd;
    const double dz = p.z + faceUnder;
    return {neckEnd + dx * std::cos(angle) - dz * std::sin(angle), p.y,
            dx * std::sin(angle) + dz * std::cos(angle)};
}

Vec3 BodyPlace::toInstrument(Vec3 p) const {
    const double dx = p.x - neckEnd;
    return {neckEnd + dx * std::cos(angle) + p.z * std::sin(angle), p.y,
            -dx * std::sin(angle) + p.z * std::cos(angle) - faceUnder};
}

double bridgeFloor(const Body& body) {
    double floor = 0;
    for (const Recess& r : body.recesses) {
        if (!r.fromBack && !r.inlay && r.depth && -*r.depth < floor &&
            inside(pointsOf(shapeOutline(r.nodes), 0.05), {body.bridgeAt(), 0})) {
            floor = -*r.depth;
        }
    }
    return floor;
}

Findings judgeBodyNumbers(const Body& body) {
    Findings out;
    const auto reads = [&](const std::string& what, const std::function<void()>& read) {
        try {
            read();
        } catch (const Error& e) {
            sayOf(Role::body, out, Weight::stop, "body-cannot-be-drawn",
                  fmt::format("{}: {}", what, e.what()), 0, 0)
                .overridable = false;
        }
    };
    const auto outline = [](const std::vector<ShapeNode>& nodes) {
        checkNodes(nodes);
        shapeOutline(nodes);
    };
    const auto each = [&](const char* what, const auto& list, const auto& check) {
        for (std::size_t i = 0; i < list.size(); ++i) {
            reads(fmt::format("{} {}", what, i + 1), [&] { check(list[i]); });
        }
    };
    reads("Body's outline", [&] {
        checkNodes(body.nodes);
        shapeOutline(body.mirror ? mirroredShape(body.nodes) : body.nodes);
    });
    if (!body.cavity.nodes.empty()) {
        reads("Cavity's outline", [&] { outline(body.cavity.nodes); });
    }
    each("Chamber", body.chambers, [&](const Chamber& c) { outline(c.nodes); });
    each("Channel", body.channels, checkChannel);
    each("Contour", body.faces.contours, checkSlope);
    each("Recess", body.recesses, [&](const Recess& r) {
        outline(r.nodes);
        if (r.inlay && !r.depth) {
            throw Error("an inlay goes down by a depth, which was expected.");
        }
    });
    each("Plate", body.plates, [&](const Plate& p) {
        if (!p.nodes.empty()) {
            outline(p.nodes);
        } else if (p.kind != PlateKind::cavityCover || body.cavity.nodes.empty()) {
            throw Error("it has no outline, and no cavity to follow; three nodes or more were "
                        "expected.");
        }
        if (p.bevel >= p.thickness) {
            throw Error(fmt::format("a bevel of {:.2f} mm was found in a sheet of {:.2f} mm; less "
                                    "than the sheet was expected.",
                                    p.bevel, p.thickness));
        }
    });
    each("Engraving", body.engravings, checkEngraving);
    each("Wire's hole", body.wires, checkWire);
    if (body.build == BodyBuild::topped && body.top + body.back >= body.thickness - 3) {
        sayOf(Role::body, out, Weight::stop, "no-core",
              fmt::format("A top of {:.1f} mm{} leaves no core in a body of {:.1f} mm.", body.top,
                          body.back > 0 ? fmt::format(" and a back of {:.1f} mm", body.back) : "",
                          body.thickness),
              body.top + body.back, body.thickness - 3)
            .overridable = false;
    }
    return out;
}

} // namespace wren
