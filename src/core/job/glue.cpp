#include "job/glue.h"

#include "design/markers.h"
#include "geom/region.h"
#include "base/csv.h"
#include "part/setup_geometry.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include <fmt/format.h>

namespace wren {
namespace {

/// Cured epoxy, g/cm3; usual for clear casting resin, from memory.
constexpr double epoxyDensity = 1.15;

double openIn(const Panel& panel, double below) {
    return std::accumulate(panel.pockets.begin(), panel.pockets.end(), 0.0,
                           [&](double sum, const PanelPocket& p) {
                               const bool opens = !p.fromBack && p.mouth >= below - 1e-6;
                               return opens ? sum + areaOf(p.borders.front()) : sum;
                           });
}

class Joints {
public:
    explicit Joints(const Derived& d) : d_(d), p_(d.project) {}

    std::vector<GlueJoint> all() {
        if (d_.neck) {
            neck();
        }
        if (d_.body) {
            layers();
            wings();
            inlays();
            if (p_.neck.joint == NeckJoint::set) {
                setNeck();
            }
        }
        if (d_.board) {
            fillings();
        }
        return std::move(out_);
    }

private:
    void joint(const std::string& what, double area, std::string mind = {}) {
        if (area > 0) {
            // g/m2, one side coated; both where the wood drinks.
            out_.push_back({what, area, 0, area * 1e-6 * p_.glue.rate, std::move(mind)});
        }
    }

    void neck() {
        const PartJob* job = d_.job(Role::neck);
        if (job && job->held.scarf) {
            joint("scarf of the headstock", job->held.scarf->ramp * job->held.blank.width,
                  "end grain drinks: coat it twice");
        }
        if (p_.carved() || !d_.board) {
            return;
        }
        Region coated(pointsOf(d_.board->outline(), 0.01));
        for (const NeckPocket& k : d_.neck->part.pockets()) {
            if (!k.fromBack) { // of the rod and its adjuster, one within the other
                const std::array<Vec2, 4> corners = k.corners();
                coated = coated - Region(Ring(corners.begin(), corners.end()));
            }
        }
        const double area = coated.area();
        if (p_.neck.accent > 0) {
            joint("accent strip on the neck", area);
            joint("fretboard on the accent strip", d_.board->areaOfFace());
        } else {
            joint("fretboard on the neck", area, "keep it out of the rod's slot");
        }
    }

    void layers() {
        const BodyPart& part = d_.body->part;
        const Panel* core = part.panel(Role::core);
        const Panel* top = part.panel(Role::top);
        if (!core || !top) {
            return;
        }
        const double whole = areaOf(part.outline());
        if (p_.body.bookmatch) {
            const auto box = top->box();
            joint("halves of the top", (box[1].x - box[0].x) * p_.bodyBlank.topThickness.value_or(
                                                                   p_.body.top + p_.body.topSpare));
        }
        joint("top on the core", whole - openIn(*core, core->top));
        if (part.panel(Role::back)) {
            joint("back on the core", whole);
        }
    }

    void wings() {
        for (const Panel& panel : d_.body->part.panels()) {
            if (panel.id.role == Role::wing) {
                joint(fmt::format("{} on the neck", panel.name()),
                      panel.outline.back().length() * panel.thickness());
            }
        }
    }

    void inlays() {
        for (const PanelPocket& k : d_.body->part.pockets()) {
            if (k.feature.kind == FeatureKind::inlay) {
                const Contour& border = k.borders.front();
                joint(k.what, areaOf(border) + lengthOf(border) * k.depth());
            }
        }
    }

    void setNeck() {
        for (const PanelPocket& k : d_.body->part.pockets()) {
            if (k.feature.kind != FeatureKind::neckPocket) {
                continue;
            }
            // Its heel touches the floor and the walls; beyond the mouth there is air.
            const auto box = boxOf(d_.body->part.heel());
            const double mouth = setupGeometry(d_.body->part, d_.neck->part).mouth;
            const double along = box[1].x - std::max(mouth, box[0].x);
            const double across = box[1].y - box[0].y;
            joint("neck in the body", along * across + (2 * along + across) * k.depth());
        }
    }

    void fillings() {
        if (p_.board.markers.inlay != Inlay::filled) {
            return;
        }
        double volume = 0;
        double deepest = 0;
        for (const MarkerPocket& k : d_.board->pockets()) {
            const Contour outline = markerOutline(p_.board.markers, k.place);
            volume += areaOf(outline) * p_.board.markers.depth;
            deepest = std::max(deepest, p_.board.markers.depth);
        }
        if (volume > 0) {
            const double layers = std::ceil(deepest / p_.glue.epoxyLayer);
            const double grams = volume / 1000 * epoxyDensity;
            const double hardener = grams / (1 + p_.glue.epoxyRatio);
            out_.push_back(
                {"filled markers", 0, volume, grams,
                 fmt::format("{:.1f} g of resin, {:.1f} g of hardener, in {:.0f} {} of {:g} mm at "
                             "most: a thicker pour heats and warps; follow its maker's sheet, "
                             "gloves and air",
                             grams - hardener, hardener, layers, layers > 1 ? "pours" : "pour",
                             p_.glue.epoxyLayer)});
        }
    }

    const Derived& d_;
    const Project& p_;
    std::vector<GlueJoint> out_;
};

} // namespace

std::vector<GlueJoint> glueList(const Derived& derived) {
    return Joints(derived).all();
}

std::string glueCsv(const Derived& derived) {
    std::string out = "joint,area_cm2,volume_cm3,adhesive_g,mind\n";
    for (const GlueJoint& j : glueList(derived)) {
        out += fmt::format("{},{:.1f},{:.2f},{:.1f},{}\n", quoted(j.what), j.area / 100,
                           j.volume / 1000, j.adhesive, quoted(j.caution));
    }
    return out;
}

} // namespace wren
