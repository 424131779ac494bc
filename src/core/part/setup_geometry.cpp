#include "part/setup_geometry.h"

#include "design/string_set.h"
#include "part/body_shapes.h"

#include <cmath>
#include <numbers>

namespace wren {
namespace {

constexpr double degree = std::numbers::pi / 180;

/// Behind the nut a string goes down to its post or to a string tree, instrument frame.
double breakAtNut(const StringSide& string, const NeckPart& neck, const TunerPlace& tuner) {
    const Neck& n = neck.design();
    const double post = neck.face(tuner.winds.x) + n.head.plate + tuner.postHeight;
    const Vec2 to = tuner.held ? tuner.held->xy() : tuner.winds; // down to a string tree first
    const double down =
        std::atan2(string.atNut() - (tuner.held ? tuner.held->z : post), length(to - tuner.nut));
    return (down - std::atan(string.rise())) / degree;
}

class Strings {
public:
    Strings(const BodyPart& body, const NeckPart& neck) : body_(body), neck_(neck) {}

    std::vector<StringSetup> all() const {
        const std::vector<StringSide> sides =
            stringSides(neck_.design(), body_.board(), body_.design().aims);
        std::vector<StringSetup> out;
        for (std::size_t i = 0; i < sides.size(); ++i) {
            out.push_back(one(sides[i], i));
            out.back().number = static_cast<int>(sides.size() - i);
        }
        return out;
    }

private:
    StringSetup one(const StringSide& side, std::size_t i) const {
        StringSetup s;
        overBoard(side, s);
        atBridge(side, i, s);
        if (i < neck_.tuners().size()) {
            s.breakAtNut = breakAtNut(side, neck_, neck_.tuners()[i]);
        }
        return s;
    }

    void overBoard(const StringSide& side, StringSetup& s) const {
        s.overNut = side.atNut() - side.boardAtNut();
        s.overFret1 = side.overFret(1);
        s.overFret12 = side.overFret(12);
        const int last = body_.board().frets;
        s.overLastFret = last > 0 ? side.overFret(last) : s.overFret12;
    }

    void atBridge(const StringSide& side, std::size_t i, StringSetup& s) const {
        const Bridge& b = body_.design().bridge;
        const StringAims& aims = body_.design().aims;
        const std::vector<StringGauge>& set = body_.board().gauges;
        const double scale = side.saddle().x - side.nut().x;
        s.compensation = usualCompensation(b, side.across());
        if (i < set.size() && set.size() == static_cast<std::size_t>(body_.board().strings)) {
            s.tension = tensionOf(set[i], scale);
            const double treble = aims.trebleAction.value_or(aims.action);
            const double action = aims.action + (treble - aims.action) * (side.across() + 1) / 2;
            if (const auto own = stretchCompensation(set[i], scale, action)) {
                s.compensation = *own;
                s.compensated = true;
            }
        }
        const double x = side.saddle().x + s.compensation;
        const BodyPlace& place = body_.place();
        const Vec3 nut = place.toBody({side.nut().x, 0, side.atNut()});
        const Vec3 saddle = place.toBody({x, 0, side.over(x)});
        s.saddle = saddle.z;
        s.saddleLow = b.saddleLow + body_.bridgeStandsOn();
        s.saddleHigh = b.saddleHigh + body_.bridgeStandsOn();
        s.ahead = s.compensation - (b.behindScale() - b.travel / 2);
        s.behind = b.behindScale() + b.travel / 2 - s.compensation;
        // Strings are held in one row behind the middle of the saddles' travel.
        const double back = b.holesBehind + b.behindScale() - s.compensation;
        const double rises = std::atan2(saddle.z - nut.z, saddle.x - nut.x);
        const double falls = std::atan2(saddle.z - body_.bridgeStandsOn() - b.anchorHeight, back);
        s.breakAtSaddle = (rises + falls) / degree;
        s.downforce = 2 * std::sin((rises + falls) / 2);
    }

    const BodyPart& body_;
    const NeckPart& neck_;
};

} // namespace

SetupGeometry setupGeometry(const BodyPart& body, const NeckPart& neck) {
    const BodyPlace& place = body.place();
    const StringLine line(neck.design(), body.board(), body.design().aims);
    SetupGeometry g;
    g.school = body.design().aims.school;
    g.angle = body.design().pocket.angle;
    g.heelEnd = place.neckEnd;
    g.mouth = mouthAt(body.outline(), place.neckEnd);
    // Square to the face, over an X of the body's frame.
    const auto proudAt = [&](double x) {
        return place.faceUnder / std::cos(place.angle) +
               (x - place.neckEnd) * std::tan(place.angle);
    };
    g.proud = proudAt(place.neckEnd);
    g.proudOuter = proudAt(g.mouth);
    g.through = neck.design().joint == NeckJoint::through;
    if (!g.through) {
        g.pocketInner = body.design().pocket.realDepth();
        const double along = place.neckEnd - g.mouth;
        const double floor = std::tan(body.design().pocket.floorAngle() * degree);
        g.pocketOuter = g.pocketInner + along * floor;
        g.heelWedge = along * (std::tan(place.angle) - floor);
    }
    g.bridgeFromHeel = place.bridge - place.neckEnd;
    g.bridgeFromNut = line.saddle();
    g.middleOverGlue = line.over(line.saddle());
    g.middleSaddle = place.toBody({line.saddle(), 0, g.middleOverGlue}).z;
    g.saddleLow = body.design().bridge.saddleLow + body.bridgeStandsOn();
    g.saddleHigh = body.design().bridge.saddleHigh + body.bridgeStandsOn();
    g.strings = Strings(body, neck).all();
    return g;
}

} // namespace wren
