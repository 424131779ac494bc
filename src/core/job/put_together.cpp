#include "job/put_together.h"

#include "job/as_measured.h"
#include "part/body_shapes.h"

#include <algorithm>

namespace wren {
namespace {

/// A small part in its pocket of the body, off its tabs; nothing when one of them is not cut.
std::optional<Fit> fittedIn(const Derived& d, PartId id, const PanelPocket& pocket) {
    const PartJob* part = d.job(id);
    const PartJob* body = d.job(Role::body);
    const std::size_t side = pocket.fromBack ? 1 : 0;
    if (!part || part->read[0].empty() || body->read[side].empty()) {
        return {};
    }
    const Panel& panel = *part->panel;
    const double floor = pocket.floor + (pocket.fromBack ? -0.05 : 0.05);
    const Cut* outline = part->plan().sides[0].cutOf(CutKind::outline);
    const double bit = outline ? outline->bit.diameter : 0;
    const CutWall own{part->plan().sides[0].setup, part->read[0], panel.top - 0.6, false};
    const CutWall hole{body->plan().sides[side].setup, body->read[side], floor, pocket.fromBack};
    const std::optional<double>& real = d.project.body.cavity.measuredWidth;
    const bool came = id == PartId(Role::lid) && real;
    const double more = came ? (*real - widthOf(pocket.borders.front())) / 2 : 0;
    const Contour& drawn = pocket.borders.front();
    const Contour border = more < 0 ? shrunk(drawn, -more) : more > 0 ? grown(drawn, more) : drawn;
    return fitOf(panel.outline, &own, border, came ? nullptr : &hole, [&](Vec2 at) {
        return std::none_of(
            part->panelPlan().tabs.begin(), part->panelPlan().tabs.end(),
            [&](const PanelTab& t) { return length(t.at - at) < t.half + bit + t.height + 2; });
    });
}

/// The plugs of a layer's cut-outs sawn out with their tabs, and the walls cleaned.
Stock withoutPlugs(Stock wood, const PartJob& layer) {
    const SetupFromInstrument& to = layer.held.face.fromInstrument;
    const CellGrid grid{{wood.x(0), wood.y(0)}, wood.cell(), wood.columns(), wood.rows()};
    for (const PanelPlug& plug : layer.panelPlan().plugs) {
        std::vector<std::vector<Vec2>> hole = polygonsOf(layer.panel->pockets[plug.pocket].borders);
        for (std::vector<Vec2>& polygon : hole) {
            for (Vec2& p : polygon) {
                p = to.toSetup({p.x, p.y, 0}).xy();
            }
        }
        fillCells(grid, hole, [&](std::size_t i) {
            const auto wide = static_cast<std::size_t>(grid.nx);
            wood.keepCell(static_cast<int>(i % wide), static_cast<int>(i / wide), wood.bottomZ(),
                          wood.bottomZ());
        });
    }
    return wood;
}

/// The wood of a piece that lies without waste: its outline, as tall as it is.
Stock withoutWaste(const Panel& panel, const Setup& setup) {
    Stock stock(setup.blank, setup.bottomZ(), panelCell);
    std::vector<std::vector<Vec2>> outline{pointsOf(panel.outline, 0.01)};
    for (Vec2& p : outline.front()) {
        p = setup.fromInstrument.toSetup({p.x, p.y, 0}).xy();
    }
    const auto wide = static_cast<std::size_t>(stock.columns());
    std::vector<char> wood(wide * static_cast<std::size_t>(stock.rows()), 0);
    const CellGrid grid{
        {stock.x(0), stock.y(0)}, stock.cell(), stock.columns(), stock.rows()};
    fillCells(grid, outline, [&](std::size_t i) { wood[i] = 1; });
    for (std::size_t i = 0; i < wood.size(); ++i) {
        if (!wood[i]) {
            stock.keepCell(static_cast<int>(i % wide), static_cast<int>(i / wide),
                           stock.bottomZ(), stock.bottomZ());
        }
    }
    return stock;
}

} // namespace

std::shared_ptr<const Stock> gluedUp(const Derived& d, const PartJob& whole, const WoodOf& woodOf) {
    if (whole.panel && whole.panel->free) {
        return std::make_shared<const Stock>(withoutWaste(*whole.panel, whole.held.face));
    }
    if (!whole.panel || whole.panel->layers.empty()) {
        return nullptr;
    }
    std::optional<Stock> stock;
    double seam = whole.held.face.bottomZ();
    for (Role role : {Role::back, Role::core, Role::top}) {
        const PartJob* layer = d.job(role);
        if (!layer) {
            continue;
        }
        const std::shared_ptr<const Stock> cut = woodOf(*layer);
        if (!cut) {
            return nullptr;
        }
        const Setup& lay = layer->held.face;
        const bool plugged = !layer->panelPlan().plugs.empty();
        const std::optional<Stock> sawn =
            plugged ? std::optional(withoutPlugs(*cut, *layer)) : std::nullopt;
        const Stock& wood = sawn ? *sawn : *cut;
        const double top = seam + lay.blank.thickness - lay.faced;
        if (stock) {
            stock->glueOn(wood, seam, role == Role::top ? whole.held.face.topZ() : top);
        } else {
            stock = wood.lifted(seam - lay.bottomZ());
        }
        seam = top;
    }
    return stock ? std::make_shared<const Stock>(std::move(*stock)) : nullptr;
}

std::shared_ptr<const Stock> gluedBefore(const Derived& d, const PartJob& whole,
                                         const Derived* before, const WoodOf& woodOf,
                                         std::shared_ptr<const Stock> PartJob::*glued) {
    const PartJob* old = before ? before->job(whole.id) : nullptr;
    if (!old || !old->panel || !whole.panel || old->panel->layers != whole.panel->layers ||
        old->held.face.bottomZ() != whole.held.face.bottomZ() ||
        old->held.face.topZ() != whole.held.face.topZ()) {
        return nullptr;
    }
    const bool same =
        std::all_of(whole.panel->layers.begin(), whole.panel->layers.end(), [&](PartId layer) {
            const PartJob* now = d.job(layer);
            const PartJob* then = before->job(layer);
            return now && then && now->inputs == then->inputs && woodOf(*now) == woodOf(*then);
        });
    return same ? old->*glued : nullptr;
}

namespace {

/// The heel as it is today, where it was measured, in the pocket that was cut or will be for it.
Contour realHeel(const Derived& d) {
    Contour out = d.body->part.heel();
    const std::optional<double> taken = bodyToCut(d.project).pocket.measuredWidth;
    const std::optional<double> today = heelToday(d.project);
    const double more = taken && today ? (*today - *taken) / 2 : 0;
    for (ContourPiece& c : out) {
        for (Vec2* q : {&c.from, &c.to, &c.centre}) {
            q->y += q->y > 0 ? more : -more;
        }
    }
    return out;
}

/// The heel's wall against the pocket's, in the neck's own frame, where more is deeper from behind.
std::optional<Fit> heelFit(const Derived& d, const PanelPocket& p) {
    const PartJob& body = *d.job(Role::body);
    const PartJob& neck = *d.job(Role::neck);
    if (neck.read[1].empty() || body.read[0].empty()) {
        return {};
    }
    constexpr double inset = 0.5; // of the wall's height
    const double heel = -d.project.neck.heelDepth * inset;
    const double from = std::max(d.neck->part.back().heelTo() + 1, body.panel->box()[0].x + 1);
    const std::vector<Vec2> edge = pointsOf(body.panel->outline, 0.05); // open beyond it
    const auto tabbed = [&](Vec2 at) {
        return std::any_of(neck.neckPlan().tabs.begin(), neck.neckPlan().tabs.end(),
                           [&](const NeckTab& t) { return t.under(at, 14); });
    };
    const CutWall own{neck.plan().sides[1].setup, neck.read[1], heel, true};
    const CutWall hole{body.plan().sides[0].setup, body.read[0],
                       p.floorAt(p.levelAt) + 0.3 + std::abs(p.slope) * 100, false};
    const BodyPocket& known = d.project.body.pocket;
    const bool measured = known.measuredWidth || known.measuredLength;
    return fitOf(realHeel(d), measured ? nullptr : &own, p.borders.front(), &hole,
                 [&](Vec2 at) { return at.x > from && !tabbed(at) && inside(edge, at); });
}

} // namespace

void fitTogether(Derived& d) {
    BodyDrawn& b = *d.body;
    for (const PanelPocket& p : d.job(Role::body)->panel->pockets) {
        if (p.feature.kind == FeatureKind::neckPocket) {
            b.neckFit = heelFit(d, p);
        } else if (p.feature.kind == FeatureKind::ledge) {
            b.lidFit = fittedIn(d, Role::lid, p);
        } else if (p.feature.kind == FeatureKind::inlay) {
            const PartId plug(Role::inlay, static_cast<int>(b.inlayFits.size()) + 1);
            b.inlayFits.push_back(fittedIn(d, plug, p).value_or(Fit{}));
        }
    }
}

void seatNeck(Derived& d) {
    const PartJob& body = *d.job(Role::body);
    const PartJob& neck = *d.job(Role::neck);
    const BodyPocket& known = d.project.body.pocket;
    const bool planed = known.angleIn == AngleIn::heel; // by hand, after its proof
    const bool measured = known.measuredDepth || known.measuredFloor; // not what programs left
    if (planed || measured || !d.body->neckFit || !neck.proof || !body.proof || !body.held.back) {
        return;
    }
    for (const PanelPocket& p : body.panel->pockets) {
        if (p.feature.kind == FeatureKind::neckPocket) {
            d.body->neckSeat =
                seatOf(d.body->part, p, d.neck->part.back().heelTo() + 1,
                       {*neck.proof->stock, neck.plan().sides[1].setup.fromInstrument},
                       {*body.proof->stock, body.held.back->fromInstrument});
        }
    }
}

} // namespace wren
