#include "hold/pins_within.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

namespace wren {
namespace {

constexpr double margin = 5;      ///< mm of wood between a pin and any cut
constexpr double leastApart = 100; ///< mm: the nearer they are, the more their play turns the part

/// Where a pin finds whole wood at every stage.
class WholeWood {
public:
    WholeWood(const std::vector<const Panel*>& stages, double radius)
        : stages_(stages), clear_(radius + margin) {
        for (const Panel* panel : stages) {
            for (const PanelPocket& p : panel->pockets) {
                pockets_.push_back({polygonsOf(p.borders), &p});
            }
        }
    }

    bool whole(Vec2 p) const {
        return std::all_of(stages_.begin(), stages_.end(),
                           [&](const Panel* panel) { return wholeIn(*panel, p); }) &&
               std::all_of(pockets_.begin(), pockets_.end(), [&](const Pocket& pocket) {
                   return !insideOf(pocket.area, p) && farFrom(pocket.of->borders, p);
               });
    }

private:
    struct Pocket {
        std::vector<std::vector<Vec2>> area;
        const PanelPocket* of;
    };

    bool farFrom(const std::vector<Contour>& borders, Vec2 p) const {
        return std::all_of(borders.begin(), borders.end(),
                           [&](const Contour& c) { return distanceTo(c, p) >= clear_; });
    }

    bool wholeIn(const Panel& panel, Vec2 p) const {
        const bool inWood = inside(pointsOf(panel.outline, 0.1), p) && farFrom({panel.outline}, p);
        const bool holes = std::all_of(panel.holes.begin(), panel.holes.end(), [&](const Hole& h) {
            return length(h.at - p) >= clear_ + h.diameter / 2;
        });
        const bool lines =
            std::all_of(panel.engraved.begin(), panel.engraved.end(),
                        [&](const PanelLine& l) { return distanceTo(l.way, p) >= clear_; });
        return inWood && holes && lines && level(panel, p);
    }

    bool level(const Panel& panel, Vec2 p) const {
        constexpr int around = 8;
        for (int i = 0; i < around; ++i) {
            const double turn = 2 * std::numbers::pi * i / around;
            const Vec2 at = p + Vec2{std::cos(turn), std::sin(turn)} * clear_;
            if (panel.frontFall.drop(at) > 0.01 || panel.backFall.drop(at) > 0.01) {
                return false;
            }
        }
        return true;
    }

    const std::vector<const Panel*>& stages_;
    double clear_;
    std::vector<Pocket> pockets_;
};

std::vector<double> places(double from, double to, const std::function<bool(double)>& may) {
    std::vector<double> out;
    for (double at = std::ceil(from); at <= to; at += 1) {
        if (may(at)) {
            out.push_back(at);
        }
    }
    return out;
}

} // namespace

std::vector<RegisterPin> pinsWithin(const std::vector<const Panel*>& stages, const TurnHold& hold,
                                    const std::array<Vec2, 2>& around) {
    if (hold.by != Register::pins || stages.empty()) {
        return {};
    }
    const WholeWood wood(stages, hold.pinSize / 2);
    const Vec2 middle = (around[0] + around[1]) * 0.5;
    std::array<Vec2, 2> best;
    double most = leastApart;
    if (hold.turn == TurnOver::sideForSide) {
        const std::vector<double> xs = places(around[0].x, around[1].x, [&](double x) {
            return wood.whole({x, middle.y});
        });
        for (double a : xs) {
            for (double b : xs) {
                const bool uneven = std::abs(a + b - 2 * middle.x) >= hold.pinUneven;
                if (b - a > most && uneven) {
                    most = b - a;
                    best = {Vec2{a, middle.y}, Vec2{b, middle.y}};
                }
            }
        }
    } else {
        const std::vector<double> ys = places(around[0].y, around[1].y, [](double) { return true; });
        for (double y : ys) {
            for (double off = most / 2 + 0.5; std::abs(y - middle.y) >= hold.pinUneven &&
                                              middle.x + off < around[1].x;
                 off += 1) {
                const Vec2 low{middle.x - off, y}, high{middle.x + off, y};
                if (2 * off > most && wood.whole(low) && wood.whole(high)) {
                    most = 2 * off;
                    best = {low, high};
                }
            }
        }
    }
    if (most == leastApart) {
        return {};
    }
    return {{best[0]}, {best[1]}};
}

void addPinHoles(Panel& stage, const std::vector<RegisterPin>& pins, const TurnHold& hold) {
    for (const RegisterPin& pin : pins) {
        Hole h{"register", pin.at, hold.pinSize, stage.top, stage.bottom, false, true};
        h.before = !stage.layers.empty();
        h.feature = {FeatureKind::registerPin};
        stage.holes.push_back(h);
    }
}

} // namespace wren
