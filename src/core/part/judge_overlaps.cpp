#include "part/judge_overlaps.h"

#include "base/words.h"

#include <algorithm>
#include <array>
#include <set>

#include <fmt/format.h>

namespace wren {
namespace {

class Judge {
public:
    explicit Judge(const BodyPart& part) : part_(part) {}

    Findings all() {
        for (const Panel& p : part_.panels()) {
            overlaps(p);
            holesMeet(p);
        }
        return std::move(out_);
    }

private:
    Finding& say(Weight w, const char* code, std::string text, double value, double limit,
                 const Panel* panel) {
        return sayOf(panel->id, out_, w, code, std::move(text), value, limit);
    }
    void at(Finding& f, Vec2 place, FeatureId feature) const {
        f.atX = part_.place().toInstrument({place.x, place.y, 0}).x;
        f.feature = feature;
    }
    Vec2 told(Vec2 p) const { return part_.place().fromBridge(p); }
    std::string the(FeatureId feature) const { return theOne(part_.design(), feature); }

    /// Pockets that claim the same wood, or leave a thin web: from one face, or right through.
    void overlaps(const Panel& panel) {
        const auto& all = panel.pockets;
        std::vector<std::vector<std::vector<Vec2>>> polygons;
        polygons.reserve(all.size());
        for (const PanelPocket& p : all) {
            polygons.push_back(polygonsOf(p.borders));
        }
        for (std::size_t i = 0; i < all.size(); ++i) {
            for (std::size_t k = i + 1; k < all.size(); ++k) {
                const bool face = all[i].fromBack == all[k].fromBack;
                if ((face || all[i].through || all[k].through) &&
                    !kin(all[i].feature, all[k].feature) && !standsIn(all[i], all[k]) &&
                    !standsIn(all[k], all[i]) && boxesNear(polygons[i][0], polygons[k][0])) {
                    pair(panel, i, k, polygons);
                }
            }
        }
    }

    /// Holes that run into one another or through a pocket's wall, of one face or of a pocket right
    /// through; not those that begin on its floor.
    void holesMeet(const Panel& panel) {
        std::set<std::string> said;
        const auto meet = [&](const Hole& h, FeatureId other) {
            if (h.feature == other || !said.insert(the(h.feature) + the(other)).second) {
                return;
            }
            const Vec2 q = told(h.at);
            at(say(Weight::stop, "same-wood",
                   fmt::format("In {} {} and {} claim the same wood at {:.1f}, {:.1f} from the "
                               "bridge line.",
                               withArticle(panel.name()), the(other), the(h.feature), q.x, q.y),
                   0, pocketWebCaution, &panel),
               h.at, h.feature);
        };
        for (std::size_t i = 0; i < panel.holes.size(); ++i) {
            const Hole& h = panel.holes[i];
            for (std::size_t k = i + 1; k < panel.holes.size(); ++k) {
                const Hole& o = panel.holes[k];
                const bool touch = length(h.at - o.at) < (h.diameter + o.diameter) / 2;
                if (touch && h.fromBack == o.fromBack) {
                    meet(o, h.feature);
                }
            }
            for (const PanelPocket& p : panel.pockets) {
                const double d = distanceTo(p.borders[0], h.at);
                if ((p.fromBack == h.fromBack || p.through) &&
                    (d < h.diameter / 2 || endsInAir(h, p))) {
                    meet(h, p.feature);
                }
            }
        }
    }

    /// Whether a hole from a face is no deeper than the pocket it stands in.
    static bool endsInAir(const Hole& hole, const PanelPocket& pocket) {
        const double deeper = hole.fromBack ? hole.floor - pocket.floor : pocket.floor - hole.floor;
        return hole.mouth == pocket.mouth && deeper <= 0 && !hole.through && !pocket.through &&
               inside(pointsOf(pocket.borders[0], 0.05), hole.at);
    }

    /// Whether a post or a hole begins on the floor of a recess or of a pickup's pocket.
    static bool standsIn(const PanelPocket& hole, const PanelPocket& recess) {
        return recess.feature.kind == FeatureKind::recess && !recess.fromBack && !hole.fromBack &&
               hole.mouth < 0 && std::abs(hole.mouth - recess.floor) < 1e-6;
    }

    static bool kin(FeatureId a, FeatureId b) {
        const auto lidded = [](FeatureId f) {
            return f.kind == FeatureKind::ledge || f.kind == FeatureKind::cavity ||
                   f.kind == FeatureKind::magnet || f.kind == FeatureKind::seat;
        };
        return (a.kind == FeatureKind::pickup && a == b) ||
               (lidded(a) && lidded(b) && a.kind != b.kind) || a.kind == FeatureKind::channel ||
               b.kind == FeatureKind::channel;
    }

    static bool boxesNear(const std::vector<Vec2>& a, const std::vector<Vec2>& b) {
        const auto span = [](const std::vector<Vec2>& points, double Vec2::*axis) {
            const auto [low, high] = std::minmax_element(
                points.begin(), points.end(),
                [axis](const Vec2& p, const Vec2& q) { return p.*axis < q.*axis; });
            return std::array{(*low).*axis, (*high).*axis};
        };
        for (double Vec2::*axis : {&Vec2::x, &Vec2::y}) {
            const auto p = span(a, axis);
            const auto q = span(b, axis);
            if (p[0] > q[1] + pocketWebCaution || q[0] > p[1] + pocketWebCaution) {
                return false;
            }
        }
        return true;
    }

    void pair(const Panel& panel, std::size_t i, std::size_t k,
              const std::vector<std::vector<std::vector<Vec2>>>& polygons) {
        double web = 1e9;
        Vec2 where;
        const auto measure = [&](std::size_t one, std::size_t other) {
            for (Vec2 p : polygons[one][0]) {
                const double d = insideOf(polygons[other], p)
                                     ? 0
                                     : distanceTo(panel.pockets[other].borders[0], p);
                if (d < web) {
                    web = d;
                    where = p;
                }
            }
        };
        measure(i, k);
        measure(k, i);
        if (web >= pocketWebCaution) {
            return;
        }
        const Vec2 q = told(where);
        const std::string text =
            web <= 0 ? fmt::format("In {} {} and {} claim the same wood at {:.1f}, "
                                   "{:.1f} from the bridge line.",
                                   withArticle(panel.name()), the(panel.pockets[i].feature),
                                   the(panel.pockets[k].feature), q.x, q.y)
                     : fmt::format("In {} a web of only {:.1f} mm stands between {} and "
                                   "{} at {:.1f}, {:.1f} from the bridge line; {:.0f} mm are "
                                   "wanted.",
                                   withArticle(panel.name()), web, the(panel.pockets[i].feature),
                                   the(panel.pockets[k].feature), q.x, q.y, pocketWebCaution);
        at(say(web <= 0 ? Weight::stop : Weight::caution, web <= 0 ? "same-wood" : "thin-web", text,
               web, pocketWebCaution, &panel),
           where, panel.pockets[k].feature);
    }

    const BodyPart& part_;
    Findings out_;
};

} // namespace

Findings judgeOverlaps(const BodyPart& part) {
    return Judge(part).all();
}

} // namespace wren
