#include "part/judge_plates.h"

#include "part/body_shapes.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double rim = 1.5; ///< of a plate left beside an opening; common practice, no source

class Judge {
public:
    explicit Judge(const BodyPart& part) : part_(part) {}

    Findings all() {
        for (const Panel& p : part_.panels()) {
            if (p.id.role == Role::plate) {
                openings(p);
                screws(p);
                if (part_.design().plates[p.feature.index].kind == PlateKind::pickguard) {
                    clearOfNeck(p);
                }
            }
        }
        return std::move(out_);
    }

private:
    void say(Weight weight, const char* code, const Panel& p, Vec2 at, double value, double limit,
             const std::string& what) {
        const Vec2 q = p.told(at);
        const bool rod = part_.design().plates[p.feature.index].kind == PlateKind::rodCover;
        Finding& f = sayOf(p.id, out_, weight, code,
                           fmt::format("{}: {} at {:.1f}, {:.1f} from the {}.", capital(p.name()),
                                       what, q.x, q.y, rod ? "nut" : "bridge line"),
                           value, limit);
        f.feature = p.feature;
    }

    /// What stands in a plate stands wholly in it.
    void openings(const Panel& plate) {
        const std::vector<std::vector<Vec2>> within = polygonsOf({plate.outline});
        const auto check = [&](FeatureId id, const Contour& border) {
            double least = 1e9;
            Vec2 where;
            for (Vec2 p : pointsOf(border, 0.05)) {
                const double d = distanceTo(plate.outline, p) * (insideOf(within, p) ? 1.0 : -1.0);
                if (d < least) {
                    least = d;
                    where = p;
                }
            }
            if (least < rim) {
                say(Weight::stop, "plate-rim", plate, where, least, rim,
                    fmt::format("{:.1f} mm of sheet are left between its edge and the opening for "
                                "{}, {:.1f} mm are wanted; move one of them, or draw the plate "
                                "round it,",
                                std::max(0.0, least), theOne(part_.design(), id), rim));
            }
        };
        for (const PanelPocket& p : plate.pockets) {
            check(p.feature, p.borders.front());
        }
        for (const Hole& h : plate.holes) {
            check(h.feature, circleContour(h.at, h.diameter));
        }
    }

    /// Screws clear of what is open in the plate.
    void screws(const Panel& plate) {
        for (const Hole& h : plate.holes) {
            for (const PanelPocket& p : plate.pockets) {
                const bool in = insideOf(polygonsOf(p.borders), h.at);
                const double d = in ? 0 : distanceTo(p.borders.front(), h.at) - h.diameter / 2;
                if (h.feature.kind == FeatureKind::plateScrew && d < rim) {
                    say(Weight::stop, "plate-rim", plate, h.at, d, rim,
                        fmt::format("a screw stands {:.1f} mm from the opening for {}, {:.1f} mm "
                                    "are wanted; another number of screws moves them,",
                                    std::max(0.0, d), theOne(part_.design(), p.feature), rim));
                }
            }
        }
    }

    void clearOfNeck(const Panel& plate) {
        if (part_.heel().empty()) {
            return;
        }
        const auto meet = [&](const Contour& places, const Contour& area) {
            const std::vector<Vec2> polygon = pointsOf(area, 0.1);
            const std::vector<Vec2> all = placesAlong(places, 1);
            const auto in =
                std::find_if(all.begin(), all.end(), [&](Vec2 p) { return inside(polygon, p); });
            if (in != all.end()) {
                say(Weight::stop, "plate-under-neck", plate, *in, 0, 0,
                    "it lies under the neck, round whose heel its outline was expected,");
            }
            return in != all.end();
        };
        if (!meet(plate.outline, part_.heel())) {
            meet(part_.heel(), plate.outline);
        }
    }

    const BodyPart& part_;
    Findings out_;
};

} // namespace

Findings judgePlates(const BodyPart& part) {
    return Judge(part).all();
}

} // namespace wren
