#include "job/put_together.h"

#include <algorithm>

namespace wren {
namespace {

/// A small part in its pocket of the body, off its tabs; nothing when one of them is not cut.
std::optional<Fit> fittedIn(const BodyJob& b, PartId id, const PanelPocket& pocket) {
    const PanelJob* part = b.of(id);
    const PanelJob* body = b.of(Role::body);
    const std::size_t side = pocket.fromBack ? 1 : 0;
    if (!part || part->readBack[0].empty() || body->readBack[side].empty()) {
        return {};
    }
    const Panel& panel = b.panelOf(*part);
    const double floor = pocket.floor + (pocket.fromBack ? -0.05 : 0.05);
    const Cut* outline = part->plan.sides[0].cutNamed("outline");
    const double bit = outline ? outline->bit.diameter : 0;
    return fitOf(
        panel.outline, {part->plan.sides[0].setup, part->readBack[0], panel.top - 0.6, false},
        pocket.borders.front(),
        {body->plan.sides[side].setup, body->readBack[side], floor, pocket.fromBack}, [&](Vec2 at) {
            return std::none_of(
                part->plan.tabs.begin(), part->plan.tabs.end(),
                [&](const PanelTab& t) { return length(t.at - at) < t.half + bit + t.height + 2; });
        });
}

} // namespace

std::shared_ptr<const Stock> gluedUp(const BodyJob& body, const PanelJob& whole,
                                     const std::function<const Stock*(const PanelJob&)>& faceOf) {
    std::optional<Stock> stock;
    double seam = whole.setups.face.bottomZ();
    for (Role role : {Role::back, Role::core, Role::top}) {
        const PanelJob* layer = body.of(role);
        if (!layer) {
            continue;
        }
        const Stock* face = faceOf(*layer);
        if (!face) {
            return nullptr;
        }
        const Setup& lay = layer->setups.face;
        const Stock& wood = *face;
        const double top = seam + lay.blank.thickness - lay.faced;
        if (stock) {
            stock->glueOn(wood, seam, role == Role::top ? whole.setups.face.topZ() : top);
        } else {
            stock = wood.lifted(seam - lay.bottomZ());
        }
        seam = top;
    }
    return stock ? std::make_shared<const Stock>(std::move(*stock)) : nullptr;
}

void layTogether(Derived& d) {
    BodyJob& b = *d.body;
    const PanelJob* body = b.of(Role::body);
    const Panel& panel = b.panelOf(*body);
    constexpr double inset = 0.5; // of the wall's height
    for (const PanelPocket& p : panel.pockets) {
        if (p.what == "neck pocket" && !d.neck->readBack[1].empty() && !body->readBack[0].empty()) {
            // The heel's wall in the neck's own frame, where more is deeper from behind.
            const double heel = -d.project.neck.heelDepth * inset;
            const double from = std::max(d.neck->part.back().heelTo() + 1, panel.box()[0].x + 1);
            const std::vector<Vec2> edge = pointsOf(panel.outline, 0.05); // open beyond it
            const auto tabbed = [&](Vec2 at) {
                return std::any_of(d.neck->plan.tabs.begin(), d.neck->plan.tabs.end(),
                                   [&](const NeckTab& t) { return t.under(at, 14); });
            };
            b.neckFit =
                fitOf(b.part.heel(), {d.neck->plan.sides[1].setup, d.neck->readBack[1], heel, true},
                      p.borders.front(),
                      {body->plan.sides[0].setup, body->readBack[0],
                       p.floorAt(p.levelAt) + 0.3 + std::abs(p.slope) * 100, false},
                      [&](Vec2 at) { return at.x > from && !tabbed(at) && inside(edge, at); });
            if (d.neck->proof && body->proof && body->setups.back) {
                b.neckSeat =
                    seatOf(b.part, p, d.neck->part.back().heelTo() + 1,
                           {*d.neck->proof->stock, d.neck->plan.sides[1].setup.fromInstrument},
                           {*body->proof->stock, body->setups.back->fromInstrument});
            }
        }
        if (p.what == "ledge") {
            b.lidFit = fittedIn(b, Role::lid, p);
        } else if (p.what == "inlay") {
            const PartId plug(Role::inlay, static_cast<int>(b.inlayFits.size()) + 1);
            b.inlayFits.push_back(fittedIn(b, plug, p).value_or(Fit{}));
        }
    }
}

} // namespace wren
