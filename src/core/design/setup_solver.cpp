#include "design/setup_solver.h"

#include "base/error.h"
#include "design/neck_outline.h"
#include "design/wood_left.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <utility>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double degree = std::numbers::pi / 180;

double roundedTo(double value, double step) {
    return std::round(value / step) * step;
}

} // namespace

SideTriangle::SideTriangle(const Body& body, const Neck& neck, const Fretboard& board)
    : through_(neck.joint == NeckJoint::through),
      heel_(body.pocket.measuredDepth.value_or(neck.heelDepth)), long_(neck.heelLength) {
    const StringLine line(neck, board, body.aims);
    reach_ = line.saddle() - turningEdge(body, neck, board);
    middle_ = line.over(line.saddle());
}

double SideTriangle::saddleHeight(double angle, double proud) const {
    const double s = std::sin(angle * degree);
    const double c = std::cos(angle * degree);
    return reach_ * s + middle_ * c + proud * c * c;
}

double SideTriangle::proudFor(double angle, double saddleHeight) const {
    const double c = std::cos(angle * degree);
    return (saddleHeight - reach_ * std::sin(angle * degree) - middle_ * c) / (c * c);
}

/// `height` rises with the angle.
template <typename Height>
double SideTriangle::angleWhere(Height height, double saddleHeight) const {
    double low = -30;
    double high = 30;
    if (!(height(low) <= saddleHeight && saddleHeight <= height(high))) {
        throw Error(fmt::format(
            "No neck angle brings the strings {:.1f} mm over the body's face at the bridge: {:.1f} "
            "mm is what {:g} degrees gives, {:.1f} mm what {:g} degrees gives.",
            saddleHeight, height(low), low, height(high), high));
    }
    while (high - low > 1e-9) {
        const double middle = (low + high) / 2;
        (height(middle) < saddleHeight ? low : high) = middle;
    }
    return (low + high) / 2;
}

double SideTriangle::angleFor(double proud, double saddleHeight) const {
    return angleWhere([&](double a) { return this->saddleHeight(a, proud); }, saddleHeight);
}

double SideTriangle::angleInPocket(double depth, double saddleHeight) const {
    return angleWhere([&](double a) { return this->saddleHeight(a, proudIn(a, depth)); },
                      saddleHeight);
}

SideTriangle::Wedge SideTriangle::wedgeFor(double depth, double cut, double saddleHeight) const {
    const double leans = long_ * std::tan(cut * degree);
    // Lifted at the inner end the heel stays on the floor at the mouth, and the other way round.
    const auto lifted = [&](double a) {
        return this->saddleHeight(a, proudIn(a, depth + leans - long_ * std::tan(a * degree)));
    };
    const bool inner = lifted(cut) < saddleHeight;
    const double angle =
        inner ? angleWhere(lifted, saddleHeight) : angleInPocket(depth, saddleHeight);
    return {angle, std::abs(long_ * std::tan(angle * degree) - leans), inner};
}

double SideTriangle::pocketFor(double angle, double proud) const {
    return heel_ / std::cos(angle * degree) - proud;
}

double SideTriangle::proudIn(double angle, double pocket) const {
    return heel_ / std::cos(angle * degree) - pocket;
}

double SideTriangle::proudNow(const BodyPocket& pocket, double angle) const {
    return through_ ? pocket.proud : proudIn(angle, pocket.realDepth());
}

double SideTriangle::angleNow(const BodyPocket& pocket, double saddleHeight) const {
    return through_ ? angleFor(pocket.proud, saddleHeight)
                    : angleInPocket(pocket.realDepth(), saddleHeight);
}

double saddleAim(const Body& body) {
    if (body.saddleAim) {
        return *body.saddleAim;
    }
    const Bridge& b = body.bridge;
    return bridgeFloor(body) + (body.aims.school == StringSchool::flat
                                    ? b.saddleLow
                                    : (b.saddleLow + b.saddleHigh) / 2);
}

double aimInReach(const Body& body) {
    const double floor = bridgeFloor(body);
    const auto [low, high] = std::minmax(body.bridge.saddleLow, body.bridge.saddleHigh);
    return std::clamp(saddleAim(body), floor + low, floor + high);
}

double deepestPocket(const Body& body, const Neck& neck, double angle) {
    const double deeper =
        body.pocket.angleIn == AngleIn::heel ? 0 : neck.heelLength * std::tan(angle * degree);
    return std::min(mostPocket, body.thickness - bodyWoodCaution - std::max(0.0, deeper));
}

std::vector<SetupCure> setupCures(const Body& body, const Neck& neck, const Fretboard& board,
                                  double aim) {
    const SideTriangle side(body, neck, board);
    const BodyPocket& now = body.pocket;
    const bool through = side.goesThrough();
    const double height = side.saddleHeight(now.angle, side.proudNow(now, now.angle));
    std::vector<SetupCure> out;
    const double proud = side.proudFor(now.angle, aim);
    if (through) {
        out.push_back({GivesWay::pocket, true, proud, proud - now.proud,
                       proud >= leastProud && proud <= mostProud});
    } else {
        const double pocket = side.pocketFor(now.angle, proud);
        out.push_back({GivesWay::pocket, false, pocket, pocket - now.depth,
                       pocket >= leastPocket &&
                           pocket <= std::min(mostPocket, body.thickness - bodyWoodCaution)});
    }
    try {
        const double angle = side.angleNow(now, aim);
        out.push_back({GivesWay::angle, through, angle, angle - now.angle,
                       angle >= leastNeckAngle && angle <= mostNeckAngle &&
                           (through || now.depth <= deepestPocket(body, neck, angle))});
    } catch (const Error&) {
        // no angle serves
    }
    out.push_back({GivesWay::saddles, through, height, height - aim,
                   height - bridgeFloor(body) >= leastSaddle});
    const auto wood = [&](const SetupCure& cure) {
        return cure.what == GivesWay::saddles ? std::numeric_limits<double>::infinity()
               : cure.what == GivesWay::pocket
                   ? std::abs(cure.change)
                   : neck.heelLength * std::abs(std::tan(cure.change * degree));
    };
    std::stable_sort(out.begin(), out.end(), [&](const SetupCure& a, const SetupCure& b) {
        return std::pair(!a.serves, wood(a)) < std::pair(!b.serves, wood(b));
    });
    return out;
}

Body settled(const Body& body, const Neck& neck, const Fretboard& board) {
    Body out = body;
    if (body.build == BodyBuild::none || body.givesWay == GivesWay::saddles) {
        return out;
    }
    for (const SetupCure& cure : setupCures(body, neck, board, saddleAim(body))) {
        if (cure.what == body.givesWay && cure.serves) {
            // As finely as it can be set at the machine, and no more.
            (cure.what == GivesWay::angle ? out.pocket.angle
             : cure.through               ? out.pocket.proud
                                          : out.pocket.depth) = roundedTo(cure.value, 0.001);
        }
    }
    return out;
}

} // namespace wren
