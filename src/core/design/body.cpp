#include "design/body.h"

#include "design/engraving.h"
#include "design/fan.h"
#include "design/lists.h"
#include "design/neck_outline.h"
#include "geom/inset.h"

#include <functional>
#include <numbers>

namespace wren {

namespace {

std::string drawnShape(const std::string& name) {
    if (name == "fell") { // two unequal horns over a leaning waist
        return "-262 -30 r4, -270 -58 s, -306 -96 s, -300 -130 s, -222 -142 s, -132 -114 s, -62 "
               "-124 s, 14 -157 s, 82 -138 s, 112 -66 s, 116 4 s, 108 82 s, 68 148 s, 0 162 s, -72 "
               "128 s, -136 107 s, -204 122 s, -262 124 s, -276 98 s, -246 66 s, -238 30 r4";
    }
    if (name == "tarn") { // one horn; round where the other would be
        return "-256 -30 r4, -252 -70 s, -222 -118 s, -168 -136 s, -104 -118 s, -40 -126 s, 22 "
               "-160 s, 92 -132 s, 116 -56 s, 118 4 s, 112 70 s, 78 136 s, 12 160 s, -54 128 s, "
               "-112 102 s, -182 112 s, -252 116 s, -268 92 s, -240 62 s, -236 30 r4";
    }
    if (name == "scree") { // both halves alike
        return "-248 -30 r4, -254 -58 s, -288 -90 s, -280 -124 s, -200 -132 s, -112 -104 s, -44 "
               "-112 s, 28 -148 s, 96 -118 s, 118 -44 s, 118 44 s, 96 118 s, 28 148 s, -44 112 s, "
               "-112 104 s, -200 132 s, -280 124 s, -288 90 s, -254 58 s, -248 30 r4";
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

} // namespace

std::string Body::bodyShape(const std::string& name, double mouth, double longer) {
    const std::string drawn = drawnShape(name);
    if (drawn.empty() || (mouth == drawnMouth && longer == 0)) {
        return drawn;
    }
    std::vector<ShapeNode> nodes = shapeNodes(drawn);
    for (ShapeNode& n : nodes) {
        const double out = std::abs(n.at.y);
        const bool atNeck = n.at.x < -200;
        if (atNeck && out < mouthReach) {
            const double share = (mouthReach - out) / (mouthReach - drawnMouth / 2);
            n.at.y += (n.at.y > 0 ? 1 : -1) * share * (mouth - drawnMouth) / 2;
        }
        n.at.x -= longer * std::clamp((stretchFrom - n.at.x) / stretchOver, 0.0, 1.0);
    }
    return shapeText(nodes);
}

double bodyMouth(const Fretboard& board) {
    const Fan fan(board);
    const double x = fan.endOnCentre();
    const double width = std::abs(fan.edgeAt(1, x) - fan.edgeAt(-1, x));
    return std::max(drawnMouth, std::ceil(width + 2 * besideHeel));
}

double bodyLonger(const Fretboard& board) {
    const Fan fan(board);
    const double bridge = (board.scaleLength + board.trebleScale.value_or(board.scaleLength)) / 2;
    const double beyond = bridge - fan.endOnCentre() - drawnEnd;
    return beyond > 0 ? std::ceil(beyond + aroundBolts) : 0;
}

std::vector<Control> controlList(const std::string& text) {
    std::vector<Control> out;
    eachOf(text, ',', [&](const std::string& one) {
        std::istringstream words(one);
        std::string what, x, y, more;
        words >> what >> x >> y;
        if ((what != "pot" && what != "toggle" && what != "lever") || y.empty() ||
            (words >> more)) {
            throw Error(fmt::format("\"{}\" is not a control; pot, toggle or lever, X and Y were "
                                    "expected, as in pot 60 95.",
                                    one));
        }
        out.push_back({what,
                       {bounded(parseNumber(x), -1000, 1000, one),
                        bounded(parseNumber(y), -1000, 1000, one)}});
    });
    return out;
}

std::vector<Vec2> placeList(const std::string& text) {
    std::vector<Vec2> out;
    eachOf(text, ',', [&](const std::string& one) {
        std::istringstream words(one);
        std::string x, y, more;
        words >> x >> y;
        if (y.empty() || (words >> more)) {
            throw Error(fmt::format("\"{}\" is not a place; X and Y were expected.", one));
        }
        out.push_back(
            {bounded(parseNumber(x), -1000, 1000, one), bounded(parseNumber(y), -1000, 1000, one)});
    });
    return out;
}

std::vector<Channel> channelList(const std::string& text) {
    std::vector<Channel> out;
    eachOf(text, ';', [&](const std::string& one) {
        const std::vector<double> v = numbersOf(one);
        if (v.size() != 6) {
            throw Error(fmt::format("\"{}\" is not a channel; X Y, X Y, width and depth were "
                                    "expected, as in -60 20 40 80 8 10.",
                                    one));
        }
        out.push_back(
            {{v[0], v[1]}, {v[2], v[3]}, bounded(v[4], 1, 60, one), bounded(v[5], 0.5, 100, one)});
        if (length(out.back().to - out.back().from) < 1) {
            throw Error(fmt::format("The channel \"{}\" goes nowhere.", one));
        }
    });
    return out;
}

std::vector<FaceSlope> slopeList(const std::string& text) {
    std::vector<FaceSlope> out;
    eachOf(text, ';', [&](const std::string& one) {
        const std::vector<double> v = numbersOf(one);
        if (v.size() != 6 && v.size() != 7) {
            throw Error(
                fmt::format("\"{}\" is not a contour; X Y, X Y, angle, radius and at will a "
                            "bow were expected, as in 30 -60 110 0 12 40.",
                            one));
        }
        out.push_back({{v[0], v[1]},
                       {v[2], v[3]},
                       bounded(v[4], 1, 40, one),
                       bounded(v[5], 1, 400, one),
                       v.size() > 6 ? bounded(v[6], 0, 300, one) : 0});
        if (length(out.back().to - out.back().from) < 1) {
            throw Error(fmt::format("The contour \"{}\" begins and ends in one place.", one));
        }
        if (2 * out.back().bow > length(out.back().to - out.back().from)) {
            throw Error(fmt::format("The contour \"{}\" bows by more than half its length; a "
                                    "flatter arc was expected.",
                                    one));
        }
    });
    return out;
}

std::string slopeText(const std::vector<FaceSlope>& slopes) {
    std::string text;
    for (const FaceSlope& s : slopes) {
        text += fmt::format("{}{:g} {:g} {:g} {:g} {:g} {:g}", text.empty() ? "" : "; ", s.from.x,
                            s.from.y, s.to.x, s.to.y, s.angle, s.blend);
        text += s.bow > 0 ? fmt::format(" {:g}", s.bow) : "";
    }
    return text;
}

std::vector<Recess> recessList(const std::string& text) {
    std::vector<Recess> out;
    eachOf(text, ';', [&](const std::string& one) {
        const std::size_t colon = one.find(':');
        std::istringstream words(one.substr(0, colon));
        std::string face, depth, more;
        words >> face >> depth;
        Recess r;
        r.fromBack = face == "back";
        r.inlay = face == "inlay";
        if (colon == std::string::npos || (face != "front" && !r.fromBack && !r.inlay) ||
            depth.empty() || (r.inlay && depth == "through") || (words >> more)) {
            throw Error(fmt::format("\"{}\" is not a recess; front, back or inlay, a depth or "
                                    "through, a colon and nodes were expected, as in front 3: 0 0 "
                                    "r4, 30 0 r4, 30 20 r4, 0 20 r4.",
                                    one.substr(0, 60)));
        }
        if (depth != "through") {
            r.depth = bounded(parseNumber(depth), 0.2, 100, one.substr(0, colon));
        }
        r.nodes = shapeNodes(one.substr(colon + 1));
        out.push_back(std::move(r));
    });
    return out;
}

std::string recessText(const std::vector<Recess>& recesses) {
    std::string text;
    for (const Recess& r : recesses) {
        text +=
            fmt::format("{}{} {}: {}", text.empty() ? "" : "; ",
                        r.inlay      ? "inlay"
                        : r.fromBack ? "back"
                                     : "front",
                        r.depth ? fmt::format("{:g}", *r.depth) : "through", shapeText(r.nodes));
    }
    return text;
}

std::string channelText(const std::vector<Channel>& channels) {
    std::string text;
    for (const Channel& c : channels) {
        text += fmt::format("{}{:g} {:g} {:g} {:g} {:g} {:g}", text.empty() ? "" : "; ", c.from.x,
                            c.from.y, c.to.x, c.to.y, c.width, c.depth);
    }
    return text;
}

std::vector<WireHole> wireList(const std::string& text) {
    std::vector<WireHole> out;
    eachOf(text, ';', [&](const std::string& one) {
        const std::vector<double> v = numbersOf(one);
        if (v.size() != 7) {
            throw Error(fmt::format("\"{}\" is not a wire's hole; X Y depth, X Y depth and a "
                                    "diameter were expected, as in -130 0 15 -40 0 15 6.",
                                    one));
        }
        WireHole w;
        w.from = {v[0], v[1]};
        w.to = {v[3], v[4]};
        w.fromDepth = bounded(v[2], 0, 100, one);
        w.toDepth = bounded(v[5], 0, 100, one);
        w.diameter = bounded(v[6], 1, 20, one);
        if (w.length() < 1) {
            throw Error(fmt::format("The wire's hole \"{}\" goes nowhere.", one));
        }
        out.push_back(w);
    });
    return out;
}

std::vector<std::vector<ShapeNode>> shapeList(const std::string& text) {
    std::vector<std::vector<ShapeNode>> out;
    eachOf(text, ';', [&](const std::string& one) { out.push_back(shapeNodes(one)); });
    return out;
}

BodyPlace::BodyPlace(const Body& body, const Neck& neck, const Fretboard& board) {
    const Fan fan(board);
    side = fan.bassSide();
    neckEnd = NeckOutline(neck, board).end();
    angle = body.pocket.angle * std::numbers::pi / 180;
    const double nominal = (fan.bassString(1).x + fan.trebleString(1).x) / 2;
    bridge = neckEnd + (nominal - neckEnd) * std::cos(angle);
    faceUnder = body.pocket.measuredDepth.value_or(neck.heelDepth) - body.pocket.depth;
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

Findings judgeBodyNumbers(const Body& body) {
    Findings out;
    const auto reads = [&](const char* what, const std::function<void()>& read) {
        try {
            read();
        } catch (const Error& e) {
            sayOf(Role::body, out, Weight::stop, "body-cannot-be-drawn",
                  fmt::format("{}: {}", what, e.what()), 0, 0)
                .overridable = false;
        }
    };
    reads("Body's outline", [&] {
        const auto nodes = shapeNodes(body.nodes);
        shapeOutline(body.mirror ? mirroredShape(nodes) : nodes);
    });
    if (!body.cavity.nodes.empty()) {
        reads("Cavity's outline", [&] { shapeOutline(shapeNodes(body.cavity.nodes)); });
    }
    reads("Strap buttons", [&] { placeList(body.straps); });
    reads("Controls", [&] { controlList(body.controls); });
    reads("Chambers", [&] {
        for (const auto& c : shapeList(body.chambers)) {
            shapeOutline(c);
        }
    });
    reads("Channels", [&] { channelList(body.channels); });
    reads("Front's contours", [&] { slopeList(body.faces.frontSlopes); });
    reads("Back's contours", [&] { slopeList(body.faces.backSlopes); });
    reads("Recesses", [&] {
        for (const Recess& r : recessList(body.recesses)) {
            shapeOutline(r.nodes);
        }
    });
    reads("Engraving", [&] { checkEngravings(body.engravings); });
    reads("Wires' holes", [&] { wireList(body.wires); });
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
