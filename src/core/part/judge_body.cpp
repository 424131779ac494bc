#include "part/body_part.h"

#include "base/words.h"
#include "design/shape.h"
#include "geom/inset.h"
#include "part/judge_edges.h"
#include "part/judge_hardware.h"
#include "part/gluing_sticks.h"
#include "part/judge_overlaps.h"
#include "part/judge_plates.h"
#include "part/panel_field.h"

#include <algorithm>
#include <map>
#include <set>

#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace wren {
namespace {

constexpr double look = 0.8; ///< mm between the places looked at

class Judge {
public:
    explicit Judge(const BodyPart& part) : part_(part), fields_(part.panels().size()) {
        tbb::parallel_for(std::size_t(0), fields_.size(), [&](std::size_t i) {
            const Panel& p = part.panels()[i];
            if (!p.pockets.empty() || !p.holes.empty() || !p.frontFall.level() ||
                !p.backFall.level()) {
                fields_[i].emplace(PanelField::over(p, look));
            }
        });
    }

    Findings all() {
        for (const Panel& p : part_.panels()) {
            if (p.id.role == Role::wing) {
                turnsIn(p); // all else is told of the body it becomes
                continue;
            }
            if (p.id.role != Role::plate) { // whose own judge asks for more
                outside(p);
            }
            turnsIn(p);
            edgeLeft(p);
            thin(p);
            engraved(p);
        }
        chambersUnclosed();
        topOverHollows();
        neckReaches();
        for (const Findings& more :
             {judgeOverlaps(part_), judgeHardware(part_), judgeEdges(part_), judgePlates(part_)}) {
            out_.insert(out_.end(), more.begin(), more.end());
        }
        return std::move(out_);
    }

private:
    Finding& say(Weight w, const char* code, std::string text, double value, double limit,
                 const Panel* panel = nullptr) {
        return sayOf(panel ? panel->id : Role::body, out_, w, code, std::move(text), value, limit);
    }
    void at(Finding& f, Vec2 place) const {
        f.atX = part_.place().toInstrument({place.x, place.y, 0}).x;
    }
    void at(Finding& f, Vec2 place, FeatureId feature) const {
        at(f, place);
        f.feature = feature;
    }
    Vec2 told(Vec2 p) const { return part_.place().fromBridge(p); }
    std::string the(FeatureId feature) const { return theOne(part_.design(), feature); }
    /// The same, beginning a sentence.
    std::string The(FeatureId feature) const { return capital(the(feature)); }

    /// What carving leaves of the edge, for tabs to stand on and for hands not to break.
    void edgeLeft(const Panel& panel) {
        constexpr double wanted = 6; // mm; common practice, no source
        constexpr double least = 2;
        if (panel.frontFall.slopes().empty() && panel.backFall.slopes().empty()) {
            return;
        }
        double thinnest = 1e9;
        Vec2 where;
        for (Vec2 p : placesAlong(panel.outline, 2)) {
            const double drops = panel.frontFall.slopeDrop(p) + panel.backFall.slopeDrop(p);
            if (panel.thickness() - drops < thinnest) {
                thinnest = panel.thickness() - drops;
                where = p;
            }
        }
        if (thinnest < wanted) {
            const Vec2 q = told(where);
            at(say(thinnest < least ? Weight::stop : Weight::caution, "thin-edge",
                   fmt::format(
                       "The contours leave {:.1f} mm of the edge at {:.1f}, {:.1f} from the "
                       "bridge line; {:.0f} mm are wanted: a smaller angle, or a line "
                       "nearer to the edge.",
                       std::max(0.0, thinnest), q.x, q.y, wanted),
                   thinnest, wanted, &panel),
               where);
        }
    }

    /// Chambers of a body that has no top to close them.
    void chambersUnclosed() {
        const Body& body = part_.design();
        if (body.build == BodyBuild::onePiece && !body.chambers.empty()) {
            say(Weight::caution, "chambers-need-a-top",
                "The chambers are left out: a body in one piece has no top to close them. Build it "
                "with a top.",
                1, 0);
        }
    }

    /// Corners of the outline no round bit reaches into.
    void turnsIn(const Panel& panel) {
        constexpr double finest = 0.5; // mm, of any bit that cuts a body's wall
        if (panel.outline.empty() || !panel.outlined) {
            return;
        }
        const Hollow hollow = hollowOf(clockwise(panel.outline));
        if (hollow.radius < finest) {
            const Vec2 q = told(hollow.at);
            at(say(Weight::caution, "outline-turns-in",
                   fmt::format("The outline of the {} turns in sharply at {:.1f}, {:.1f} from the "
                               "bridge line, where no round bit reaches: round that corner, by 3 "
                               "mm or more for an ordinary bit.",
                               panel.name(), q.x, q.y),
                   hollow.radius, finest, &panel),
               hollow.at);
        }
    }

    /// Pockets and holes that leave the outline, the neck's apart.
    void outside(const Panel& panel) {
        const std::vector<Vec2> outline = pointsOf(panel.outline, 0.01);
        std::set<std::string> said;
        const auto check = [&](FeatureId id, const std::vector<Vec2>& points) {
            for (Vec2 p : points) {
                if (!inside(outline, p) && said.insert(the(id)).second) {
                    const Vec2 q = told(p);
                    at(say(Weight::stop, "outside-body",
                           fmt::format("{} of the {} runs out of its outline at {:.1f}, {:.1f} "
                                       "from the bridge line.",
                                       The(id), panel.name(), q.x, q.y),
                           distanceTo(panel.outline, p), 0, &panel),
                       p, id);
                    return;
                }
            }
            double least = 1e9;
            Vec2 where;
            for (Vec2 p : points) {
                const double d = distanceTo(panel.outline, p);
                if (d < least) {
                    least = d;
                    where = p;
                }
            }
            if (least < bodyEdgeCaution && said.insert(the(id)).second) {
                const Vec2 q = told(where);
                at(say(Weight::caution, "thin-edge",
                       fmt::format("Between {} and the edge of the {} stand {:.1f} mm of wood "
                                   "at {:.1f}, {:.1f} from the bridge line; {:.0f} mm are wanted.",
                                   the(id), panel.name(), least, q.x, q.y, bodyEdgeCaution),
                       least, bodyEdgeCaution, &panel),
                   where, id);
            }
        };
        for (const PanelPocket& p : panel.pockets) {
            const bool open = p.feature.kind == FeatureKind::neckPocket;
            const bool told = p.stage == PocketStage::share; // with the glued body's
            if (!open && !told && !panel.id.byItself()) {
                check(p.feature, pointsOf(p.borders[0], 0.1));
            }
        }
        for (const Hole& h : panel.holes) {
            if (!panel.id.byItself()) {
                check(h.feature, pointsOf(circleContour(h.at, h.diameter), 0.1));
            }
        }
    }

    bool through(const Panel& panel, int index) const {
        const auto i = static_cast<std::size_t>(index);
        if (index < 0) {
            return false;
        }
        return i < panel.pockets.size() ? panel.pockets[i].through
                                        : panel.holes[i - panel.pockets.size()].through;
    }

    /// Wood between what comes from the front and what comes from behind.
    void thin(const Panel& panel) {
        const PanelField* field = fieldOf(panel);
        if (!field || panel.id.role == Role::plate) {
            return; // a plain plank, or a sheet as thin as it is meant to be
        }
        const PanelField& f = *field;
        const bool level = panel.frontFall.level() && panel.backFall.level();
        struct Worst {
            double wood = 1e9;
            Vec2 where;
        };
        std::map<std::pair<int, int>, Worst> pairs;
        for (std::size_t i = 0; i < f.front.size(); ++i) {
            const bool faces = f.frontBy[i] < 0 && f.backBy[i] < 0;
            if (!f.in(i) || (faces && (level || f.front[i] - f.back[i] >= bodyWoodCaution)) ||
                through(panel, f.frontBy[i]) || through(panel, f.backBy[i])) {
                continue;
            }
            Worst& w = pairs[{f.frontBy[i], f.backBy[i]}];
            if (f.front[i] - f.back[i] < w.wood) {
                w = {f.front[i] - f.back[i], f.at(i)};
            }
        }
        for (const auto& [pair, worst] : pairs) {
            if (worst.wood >= bodyWoodCaution || meant(panel, pair.first, pair.second)) {
                continue;
            }
            const FeatureId above = featureOf(panel, pair.first);
            const FeatureId below = featureOf(panel, pair.second);
            const std::string front = above ? the(above) : "the front face";
            const std::string back = below ? the(below) : "the back";
            const Vec2 q = told(worst.where);
            if (worst.wood <= 0.01) {
                at(say(Weight::stop, "cuts-through",
                       fmt::format("In {} {} and {} meet, {:.1f} mm into one another, "
                                   "at {:.1f}, {:.1f} from the bridge line.",
                                   withArticle(panel.name()), front, back, -worst.wood, q.x, q.y),
                       worst.wood, bodyWoodCaution, &panel),
                   worst.where, above ? above : below);
            } else {
                at(say(Weight::caution, "thin-floor",
                       fmt::format("In {} only {:.1f} mm of wood are left between {} and "
                                   "{} at {:.1f}, {:.1f} from the bridge line; {:.1f} mm are "
                                   "wanted.",
                                   withArticle(panel.name()), worst.wood, front, back, q.x, q.y,
                                   bodyWoodCaution),
                       worst.wood, bodyWoodCaution, &panel),
                   worst.where, above ? above : below);
            }
        }
    }

    /// Pairs that are to meet: holes into the cavity, a string's hole and its ferrule, magnets over
    /// one another's wood in a thin lid.
    static bool meant(const Panel& panel, int front, int back) {
        using Kind = FeatureKind;
        static const std::set<std::pair<Kind, Kind>> pairs{
            {Kind::pot, Kind::cavity},        {Kind::toggle, Kind::cavity},
            {Kind::lever, Kind::cavity},      {Kind::string, Kind::ferrule},
            {Kind::leverScrew, Kind::cavity}, {Kind::channel, Kind::cavity},
            {Kind::pot, Kind::seat},          {Kind::toggle, Kind::seat},
            {Kind::channel, Kind::seat},      {Kind::seat, Kind::cavity}};
        return pairs.count({featureOf(panel, front).kind, featureOf(panel, back).kind}) > 0 ||
               panel.id == Role::lid;
    }

    /// Lines that leave the face they are drawn into, or thin the wood under it.
    void engraved(const Panel& panel) {
        if (panel.engraved.empty()) {
            return;
        }
        const std::vector<Vec2> outline = pointsOf(panel.outline, 0.01);
        const PanelField* field = fieldOf(panel);
        std::optional<PanelField> own;
        const PanelField& f = field ? *field : own.emplace(PanelField::over(panel, look));
        std::set<std::string> said;
        for (const PanelLine& line : panel.engraved) {
            for (Vec2 p : placesAlong(line.way, look)) {
                const std::optional<std::size_t> cell = f.cellAt(p);
                const int by = !cell ? -1 : line.fromBack ? f.backBy[*cell] : f.frontBy[*cell];
                const bool off = !inside(outline, p) || !cell || !f.in(*cell);
                const double wood = off ? 0 : f.front[*cell] - f.back[*cell] - line.depth;
                if ((!off && by < 0 && wood >= bodyWoodCaution) || !said.insert(line.what).second) {
                    continue;
                }
                const Vec2 q = told(p);
                const std::string where =
                    fmt::format("at {:.1f}, {:.1f} from the bridge line", q.x, q.y);
                if (off || by >= 0) {
                    at(say(Weight::stop, "engraved-off-face",
                           fmt::format("The engraving {} runs {} {}.", line.what,
                                       off ? std::string("off the body")
                                           : "over " + the(featureOf(panel, by)),
                                       where),
                           0, 0, &panel),
                       p, line.feature);
                } else {
                    at(say(Weight::caution, "engraved-thin",
                           fmt::format("Under the engraving {} only {:.1f} mm of wood are left {}; "
                                       "{:.1f} mm are wanted.",
                                       line.what, wood, where, bodyWoodCaution),
                           wood, bodyWoodCaution, &panel),
                       p, line.feature);
                }
            }
        }
    }

    /// What the glued body's cuts from the front meet below the top: a chamber's roof.
    void topOverHollows() {
        const Panel* core = part_.panel(Role::core);
        if (!core) {
            return;
        }
        const Panel& body = *part_.panel(Role::body);
        const PanelField* field = fieldOf(body);
        if (!field) {
            return;
        }
        const PanelField& f = *field;
        const PanelField hollow = PanelField::like(f, *core);
        std::set<std::string> said;
        for (std::size_t i = 0; i < f.front.size(); ++i) {
            const bool hollowed = f.in(i) && hollow.frontBy[i] >= 0 &&
                                  featureOf(*core, hollow.frontBy[i]).kind == FeatureKind::chamber;
            if (!hollowed) {
                continue;
            }
            // A face left flat is as far off as it was meant to be.
            const bool frontCut = f.frontBy[i] >= 0 || part_.fallAt(f.at(i)) > 0.01;
            const bool backCut = f.backBy[i] >= 0 || part_.fallAt(f.at(i), true) > 0.01;
            const double over = frontCut ? f.front[i] - core->top : 1e9;
            const double under = backCut ? hollow.front[i] - f.back[i] : 1e9;
            const double least = std::min(over, under);
            if (least >= bodyWoodCaution) {
                continue;
            }
            const bool front = over <= under;
            const FeatureId id = featureOf(body, front ? f.frontBy[i] : f.backBy[i]);
            const std::string what = id      ? The(id)
                                     : front ? "The front's contour"
                                             : "The back's contour";
            const std::string chamber = the(featureOf(*core, hollow.frontBy[i]));
            if (said.insert(what).second) {
                const Vec2 q = told(f.at(i));
                const std::string text =
                    least <= 0.01
                        ? fmt::format("{} opens into {} at {:.1f}, {:.1f} from the bridge line.",
                                      what, chamber, q.x, q.y)
                        : fmt::format("{} leaves only {:.1f} mm of wood over {} at {:.1f}, "
                                      "{:.1f} from the bridge line; {:.1f} mm are wanted.",
                                      what, least, chamber, q.x, q.y, bodyWoodCaution);
                at(say(least <= 0.01 ? Weight::stop : Weight::caution, "into-chamber", text, least,
                       bodyWoodCaution),
                   f.at(i), id ? id : featureOf(*core, hollow.frontBy[i]));
            }
        }
    }

    void neckReaches() {
        const BodyPlace& place = part_.place();
        const Vec2 end{place.neckEnd - 1, 0};
        if (!part_.heel().empty() && !inside(pointsOf(part_.outline(), 0.1), end)) {
            at(say(Weight::stop, "neck-misses-body",
                   fmt::format("The neck ends {:.1f} mm before the bridge line, where the body is "
                               "not; a heel that lies in the body was expected.",
                               place.bridge - place.neckEnd),
                   place.bridge - place.neckEnd, 0),
               end);
        }
    }

    /// The panel's cells; null for one with nothing cut into it.
    const PanelField* fieldOf(const Panel& panel) const {
        const auto i = static_cast<std::size_t>(&panel - part_.panels().data());
        return fields_[i] ? &*fields_[i] : nullptr;
    }

    const BodyPart& part_;
    std::vector<std::optional<PanelField>> fields_; ///< of part_'s panels
    Findings out_;
};

} // namespace

Findings judgeBody(const BodyPart& part) {
    Findings out = Judge(part).all();
    for (PartId layer : part.withoutSticks()) {
        sayOf(layer, out, Weight::caution, "no-place-for-sticks",
              fmt::format("For the gluing of the {} no two places {:.0f} mm apart are cut away by "
                          "pockets afterwards and deeper than the sticks: it is located by its "
                          "pins alone.",
                          layer.shortName(), sticksApart),
              0, 2);
    }
    return out;
}

} // namespace wren
