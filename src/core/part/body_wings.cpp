// A body round a neck that goes through: wings glued to the neck's sides, each cut by itself.

#include "base/error.h"
#include "geom/split.h"
#include "part/body_part.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <map>

#include <fmt/format.h>

namespace wren {
namespace {

bool liesIn(const std::vector<Vec2>& wing, const std::vector<Vec2>& points) {
    return std::all_of(points.begin(), points.end(), [&](Vec2 p) { return inside(wing, p); });
}

/// Which of the body's things lie in a wing's wood with all of theirs (a pickup with its ears, all
/// screws of a bridge) and on nothing that waits for the glue.
class LiesInWing {
public:
    LiesInWing(const std::vector<Vec2>& wood, const Panel& whole) : whole_(whole) {
        for (const PanelPocket& p : whole.pockets) {
            const bool inlaid =
                p.feature.kind == FeatureKind::inlay; // levelled in the finished face
            look(p.feature, !inlaid && liesIn(wood, pointsOf(p.borders.front(), 0.05)));
        }
        for (const Hole& h : whole.holes) {
            look(h.feature, liesIn(wood, pointsOf(circleContour(h.at, h.diameter), 0.05)));
        }
        for (const PanelLine& line : whole.engraved) {
            const std::vector<Vec2> places = placesAlong(line.way, 1);
            const bool level = std::all_of(places.begin(), places.end(), [&](Vec2 p) {
                return whole.fall(line.fromBack).drop(p) < 0.01;
            });
            look(line.feature, level && liesIn(wood, places));
        }
        while (standOnOthers()) {
        }
    }

    bool operator()(FeatureId id) const {
        const auto it = within_.find({id.kind, id.index});
        return it != within_.end() && it->second;
    }

private:
    void look(FeatureId id, bool lies) {
        within_.emplace(std::pair(id.kind, id.index), true).first->second &= lies;
    }

    /// What begins on the floor of something that is not cut yet cannot be cut either.
    bool standOnOthers() {
        bool changed = false;
        const auto stand = [&](FeatureId id, Vec2 at, double mouth, bool fromBack) {
            for (const PanelPocket& p : whole_.pockets) {
                const bool under = p.fromBack == fromBack && p.feature != id &&
                                   std::abs(p.floorAt(at.x) - mouth) < 0.01 &&
                                   inside(pointsOf(p.borders.front(), 0.05), at);
                if (under && !(*this)(p.feature) && (*this)(id)) {
                    look(id, false);
                    changed = true;
                }
            }
        };
        for (const PanelPocket& p : whole_.pockets) {
            stand(p.feature, p.borders.front().front().from, p.mouth, p.fromBack);
        }
        for (const Hole& h : whole_.holes) {
            stand(h.feature, h.at, h.mouth, h.fromBack);
        }
        return changed;
    }

    const Panel& whole_;
    std::map<std::pair<FeatureKind, std::size_t>, bool> within_;
};

/// A thing that lies in the wing's wood with all of it is cut in the wing; the rest waits for the
/// glue, and with it edges and contours, which run on over the neck.
void giveTo(Panel& wing, Panel& whole) {
    const std::vector<Vec2> wood = pointsOf(wing.outline, 0.01);
    const LiesInWing within(wood, whole);
    for (PanelPocket& p : whole.pockets) {
        if (within(p.feature)) {
            p.stage = PocketStage::before;
            wing.pockets.push_back(p);
            wing.pockets.back().stage = PocketStage::share;
        }
    }
    std::copy_if(whole.holes.begin(), whole.holes.end(), std::back_inserter(wing.holes),
                 [&](const Hole& h) { return within(h.feature); });
    std::copy_if(whole.engraved.begin(), whole.engraved.end(), std::back_inserter(wing.engraved),
                 [&](const PanelLine& l) { return within(l.feature); });
}

} // namespace

std::array<Vec2, 2> BodyPart::glueLine(const NeckPart& neck, int side) const {
    const double middle = body_.thickness / 2; // a neck that leans: half way down its sides
    const auto at = [&](double x) {
        const Vec3 p = place_.toInstrument({x, 0, -middle});
        return Vec2{x, neck.outline().edge(side, p.x)};
    };
    return {at(place_.neckEnd), at(place_.bridge)};
}

void BodyPart::addWings(const NeckPart& neck) {
    Panel& whole = *std::find_if(panels_.begin(), panels_.end(),
                                 [](const Panel& p) { return p.id == Role::body; });
    std::vector<Panel> wings;
    for (int number : {1, 2}) { // the bass side's first
        const int side = (number == 1 ? 1 : -1) * (place_.side < 0 ? -1 : 1);
        const auto [a, b] = glueLine(neck, side);
        Panel wing;
        wing.id = {Role::wing, number};
        wing.wood = woods_.body;
        wing.bottom = whole.bottom;
        try {
            wing.outline = side > 0 ? partLeftOf(outline_, a, b) : partLeftOf(outline_, b, a);
        } catch (const Error& e) {
            throw Error(fmt::format("Wing {}, along the neck's side: {}.", number, e.what()));
        }
        wing.mating = 1; // the neck's side comes last
        giveTo(wing, whole);
        whole.layers.push_back(wing.id);
        wings.push_back(wing);
    }
    panels_.insert(panels_.begin(), wings.begin(), wings.end());
}

} // namespace wren
