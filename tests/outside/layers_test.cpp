// A body cut in its layers, against a library that measures solids, and the trade.

#include "core/panel_support.h"

#include "exchange/solid_tools.h"
#include "part/body_layers.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopoDS_Solid.hxx>

using namespace wren;
using namespace wren::test;

namespace {

/// Of three layers, chambered; cavity, pickups and one pot's seat cut while they are apart.
Project layered(const char* hand = "right") {
    return bodyWith({{"board.hand", hand},
                     {"body.build", "topped"},
                     {"body.thickness", "46"},
                     {"body.top", "8"},
                     {"body.back", "6"},
                     {"body.chambers", "-40 -60 r12, 60 -60 r12, 60 -110 r12, -40 -110 r12"},
                     {"cavity.wood", "6"},
                     {"cavity.cut", "in-layers"},
                     {"body.controls.0.seat", "26"},
                     {"body.controls.0.cut", "in-layers"},
                     {"body.pickups.0.cut", "in-layers"},
                     {"body.pickups.1.cut", "in-layers"}});
}

double volumeOf(const TopoDS_Shape& shape) {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape, props, 1e-6);
    return props.Mass();
}

} // namespace

TEST_CASE("Layers as they are cut apart hold all the wood of the glued body, and no more of it",
          "[outside][body][layers]") {
    for (const char* hand : {"right", "left"}) {
        const Derived d = drawnBody(layered(hand));
        const BodyPart& part = d.body->part;
        const TopoDS_Solid glued = panelShape(*part.panel(Role::body), {});
        double sum = 0;
        for (Role role : {Role::core, Role::top, Role::back}) {
            const TopoDS_Solid layer = panelShape(*part.panel(role), {});
            BRepAlgoAPI_Common common(glued, layer);
            REQUIRE(common.IsDone());
            const double shared = volumeOf(common.Shape());
            CHECK(shared > 0);
            CHECK(shared <= volumeOf(layer) + 1);
            sum += shared;
        }
        CHECK(sum == Approx(volumeOf(glued)).epsilon(1e-5));
    }
}

TEST_CASE("A body glued up of layers that were cut apart weighs what its solid does",
          "[outside][body][layers]") {
    const Derived d = derive(layered());
    const PartJob& job = *d.job(Role::body);
    REQUIRE(job.proof);
    CHECK(job.proof->passed());
    double volume = woodInside(job);
    // The stock's columns count a chamber's air as wood: it is shut in between.
    for (const PanelPocket& hollow : job.panel->shutIn) {
        if (hollow.feature.kind == FeatureKind::chamber) {
            volume -= areaOf(hollow.borders.front()) * hollow.depth();
        }
    }
    CHECK(volume == Approx(volumeOf(panelShape(*job.panel, {}))).epsilon(1e-3));
}

TEST_CASE("What is left over a pot is the trade's eighth of an inch", "[outside][body][layers]") {
    CHECK(Control().seatWood == Approx(25.4 / 8).margin(0.05)); // common practice, no source
    // Its shaft's thread, of some 8 mm (common practice, no source), comes through that with room
    // for washer and nut.
    constexpr double thread = 8;
    constexpr double washerAndNut = 3.5; // from memory
    CHECK(thread - Control().seatWood > washerAndNut);
    // A bit that must reach 40 mm into the glued body needs no more than the core's 32 apart.
    const Derived d = drawnBody(layered());
    const BitReach reach = reachFor(d.body->part, {FeatureKind::cavity});
    CHECK(reach.glued == Approx(46 - 6));
    CHECK(reach.apart == Approx(46 - 8 - 6));
}
