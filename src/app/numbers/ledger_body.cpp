#include "numbers/ledger.h"
#include "numbers/ledger_texts.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/fit_pass.h"
#include "job/weights.h"
#include "numbers/value_field.h"
#include "part/judge_wings.h"
#include "ruler/body_strips.h"

#include <QMenu>
#include <QPushButton>

#include <fmt/format.h>

#include <algorithm>

namespace wren::app {
namespace {

QString kilograms(double grams) {
    return grams > 0 ? qs(fmt::format("{:.2f} kg", grams / 1000)) : dash;
}

} // namespace

void Ledger::leafBodyOutline() {
    fieldWidth_ = 104;
    group(tr("The body"));
    field(tr("construction"), QStringLiteral("body.build"));
    field(tr("thickness"), QStringLiteral("body.thickness"));
    field(tr("wood"), QStringLiteral("body.wood"));
    field(tr("action at fret 12"), QStringLiteral("body.action"));
    field(tr("glued-on back"), QStringLiteral("body.back"));
    field(tr("back's wood"), QStringLiteral("body.back_wood"));
    field(tr("over a through neck"), QStringLiteral("body.over_neck"));
    group(tr("A glued-on top"));
    field(tr("thickness"), QStringLiteral("body.top"));
    field(tr("faced after gluing"), QStringLiteral("body.top_spare"));
    field(tr("oversize outline"), QStringLiteral("body.oversize"));
    field(tr("wood"), QStringLiteral("body.top_wood"));
    field(tr("bookmatched"), QStringLiteral("body.bookmatch"));
    group(tr("Outline, from the bridge line"));
    field(tr("starting shape"), QStringLiteral("body.like"));
    field(tr("mirror one half"), QStringLiteral("body.mirror"));
    note(
        [](const Derived&) {
            return tr("Drag a node in the plan, double click to add one, Delete removes the one "
                      "in hand.");
        },
        190);
    group(tr("Or taken from"));
    connect(deed(tr("A drawing"), tr("an outline from an SVG, a DXF or a PDF")),
            &QPushButton::clicked, this, &Ledger::importWanted);
    connect(deed(tr("A picture"), tr("an outline laid over a photograph or a scan")),
            &QPushButton::clicked, this, &Ledger::outlineTraceWanted);
    group(tr("It comes to"));
    derived(tr("long"), withBody([this](const Derived&, const BodyDrawn& b) {
                const auto box = b.part.panel(Role::body)->box();
                return mm(box[1].x - box[0].x);
            }));
    derived(tr("wide"), withBody([this](const Derived&, const BodyDrawn& b) {
                const auto box = b.part.panel(Role::body)->box();
                return mm(box[1].y - box[0].y);
            }));
    derived(tr("wood"), [](const Derived& d) {
        const double volume = bodyVolume(massesOf(d));
        return volume > 0 ? qs(fmt::format("{:.0f} cm\u00B3", volume / 1000)) : dash;
    });
    derived(tr("weighs about"), [](const Derived& d) { return kilograms(bodyMass(massesOf(d))); });
    derived(tr("all wood of the instrument"), [](const Derived& d) {
        const std::vector<PieceMass> pieces = massesOf(d);
        return bodyMass(pieces) > 0 ? kilograms(massOf(pieces)) : dash;
    });
}

void Ledger::leafFaces() {
    fieldWidth_ = 104;
    group(tr("Edges"));
    field(tr("front edge"), QStringLiteral("body.front_edge"));
    field(tr("front size"), QStringLiteral("body.front_edge_size"));
    field(tr("back edge"), QStringLiteral("body.back_edge"));
    field(tr("back size"), QStringLiteral("body.back_edge_size"));
    group(tr("Arched front"));
    field(tr("arch height"), QStringLiteral("body.arch"));
    field(tr("arch runs in by"), QStringLiteral("body.arch_width"));
    group(tr("They come to"));
    const auto deepest = [this](bool back) {
        return withBody([this, back](const Derived&, const BodyDrawn& b) {
            return mm(b.part.panel(Role::body)->fall(back).deepest());
        });
    };
    derived(tr("front falls by, at most"), deepest(false));
    derived(tr("back falls by, at most"), deepest(true));
    derived(
        tr("wood over the cavity begins at"), withBody([this](const Derived&, const BodyDrawn& b) {
            return b.part.hollow().empty() ? dash
                                           : tr("%1 below the face").arg(mm(-b.part.cavityFloor()));
        }));
}

void Ledger::leafPocket() {
    fieldWidth_ = 88;
    if (sheet_.document().project().neck.joint == NeckJoint::through) {
        group(tr("Neck through the body"));
        field(tr("neck angle"), QStringLiteral("neck_pocket.angle"));
        field(tr("neck above face"), QStringLiteral("neck_pocket.proud"));
        derived(tr("planed off at the nut"), withBody([this](const Derived&, const BodyDrawn& b) {
                    return mm(planedOffAt(b.part, 0));
                }));
        field(tr("finish, each face"), QStringLiteral("finish.film"));
    } else {
        group(tr("Neck pocket"));
        field(tr("depth"), QStringLiteral("neck_pocket.depth"));
        field(tr("clearance per side"), QStringLiteral("neck_pocket.clearance"));
        field(tr("finish, each face"), QStringLiteral("finish.film"));
        field(tr("neck angle"), QStringLiteral("neck_pocket.angle"));
        field(tr("corner relief"), QStringLiteral("neck_pocket.relief"));
        field(tr("corner radius"), QStringLiteral("neck_pocket.corner"));
        field(tr("bolt holes"), QStringLiteral("neck_pocket.bolt_hole"));
        group(tr("The neck over the body"));
    }
    derived(tr("glue plane above"), withBody([this](const Derived& d, const BodyDrawn& b) {
                return mm(setupGeometry(b.part, d.neck->part).proud);
            }));
    derived(tr("strings at bridge"), withBody([this](const Derived&, const BodyDrawn& b) {
                return mm(b.part.saddleHeight());
            }));
    QPushButton* skim =
        deed(tr("Enlarge a pocket"), tr("a program for what will not go in, from the same zero"));
    connect(skim, &QPushButton::clicked, this, [this, skim] { offerSkims(skim); });
    group(tr("Bridge"));
    fieldWidth_ = 124;
    field(tr("kind"), QStringLiteral("bridge.kind"));
    fieldWidth_ = 88;
    field(tr("compensation"), QStringLiteral("bridge.compensation"));
    field(tr("lowest saddle"), QStringLiteral("bridge.saddle_low"));
    field(tr("highest saddle"), QStringLiteral("bridge.saddle_high"));
    group(tr("Strings through the body"));
    field(tr("behind saddles"), QStringLiteral("bridge.holes_behind"));
    field(tr("hole diameter"), QStringLiteral("bridge.hole_size"));
    field(tr("ferrule diameter"), QStringLiteral("bridge.ferrule_size"));
    field(tr("ferrule depth"), QStringLiteral("bridge.ferrule_depth"));
    group(tr("Its screws"));
    field(tr("row position"), QStringLiteral("bridge.screws_at"));
    field(tr("screws"), QStringLiteral("bridge.screws"));
    field(tr("outer spread"), QStringLiteral("bridge.screw_spread"));
    field(tr("pilot diameter"), QStringLiteral("bridge.screw_pilot"));
    field(tr("pilot depth"), QStringLiteral("bridge.screw_depth"));
    field(tr("single spacing"), QStringLiteral("bridge.single_pitch"));
    group(tr("Or two posts"));
    field(tr("posts apart"), QStringLiteral("bridge.post_spread"));
    field(tr("hole diameter"), QStringLiteral("bridge.post_size"));
    field(tr("hole depth"), QStringLiteral("bridge.post_depth"));
}

void Ledger::offerSkims(QWidget* below) {
    QMenu menu(this);
    menu.setFont(words(14));
    const Derived* d = sheet_.derived();
    for (const std::string& name : d ? fitNames(*d) : std::vector<std::string>{}) {
        QMenu* of = menu.addMenu(qs(name));
        of->setFont(words(14));
        for (double by : {0.03, 0.05, 0.1, 0.15, 0.2}) {
            of->addAction(tr("%1 off each wall").arg(mm(by)),
                          [this, name, by] { Q_EMIT fitWanted(qs(name), by); });
        }
    }
    if (menu.isEmpty()) {
        menu.addAction(tr("There is no body with a pocket yet."))->setEnabled(false);
    }
    menu.exec(below->mapToGlobal(QPoint(0, below->height())));
}

void Ledger::leafCavity() {
    fieldWidth_ = 96;
    group(tr("Cavity in the back"));
    field(tr("wood left above"), QStringLiteral("cavity.wood"));
    if (sheet_.project().body.build == BodyBuild::topped) {
        field(tr("hole is cut when"), QStringLiteral("cavity.cut"));
        bitReach({FeatureKind::cavity});
    }
    group(tr("Lid"));
    field(tr("thickness"), QStringLiteral("cavity.lid"));
    field(tr("ledge width"), QStringLiteral("cavity.ledge"));
    field(tr("clearance around"), QStringLiteral("cavity.clearance"));
    field(tr("relief inside"), QStringLiteral("cavity.relief"));
    field(tr("wood"), QStringLiteral("cavity.lid_wood"));
    group(tr("Lid's fixing"));
    field(tr("held by"), QStringLiteral("cavity.fixing"));
    field(tr("how many"), QStringLiteral("cavity.fixings"));
    field(tr("hole diameter"), QStringLiteral("cavity.fixing_size"));
    field(tr("hole depth"), QStringLiteral("cavity.fixing_depth"));
}

void Ledger::leafHollows() {
    fieldWidth_ = 104;
    group(tr("Chambers under a top"));
    field(tr("wood left under them"), QStringLiteral("body.chamber_floor"));
    group(tr("Inlays' plugs"));
    field(tr("clearance per side"), QStringLiteral("body.inlay_room"));
    field(tr("least corner radius"), QStringLiteral("body.inlay_corner"));
    field(tr("stand proud by"), QStringLiteral("body.inlay_proud"));
    fieldWidth_ = 124;
    field(tr("wood"), QStringLiteral("body.inlay_wood"));
}

void Ledger::leafBodyProof() {
    group(tr("Every piece, front and back"));
    rows([](const Derived& d) {
        std::size_t wide = 10;
        for (const PartJob* job : d.pieces()) {
            wide = std::max(wide, job->name().size());
        }
        std::string text = fmt::format("{:<{}} {:<14}{:>8}{:>10}{:>8}{:>8}\n", "piece", wide,
                                       "setup", "too deep", "left over", "rms", "walls");
        for (const PartJob* job : d.pieces()) {
            for (std::size_t side = 0; job->proof && side < job->held.sides(); ++side) {
                const ProofReport& r = job->proof->sides[side];
                text += fmt::format("{:<{}} {:<14}{:>8.4f}{:>10.4f}{:>8.4f}{:>8.4f} {}\n",
                                    r.part.name(), wide, r.setup, r.gougeMax, r.excessMax,
                                    r.excessRms, r.wallMax, r.passed ? "proved" : "stop");
            }
        }
        return qs(text);
    });
    const auto fine = [](double v) { return qs(fmt::format("{:.3f} mm", v)); };
    group(tr("The piece in hand"));
    for (std::size_t side : {0U, 1U}) {
        const auto own = [this, side](const Derived&) -> const ProofReport* {
            const PartJob* job = sheet_.pieceInHand();
            const bool cut = job && job->proof && (side == 0 || job->held.back);
            return cut ? &job->proof->sides[side] : nullptr;
        };
        const auto told = [this](Vec2 at) { return sheet_.pieceInHand()->panel->told(at); };
        derived(side == 0 ? tr("most left on its front") : tr("most left on its back"),
                [own, fine](const Derived& d) {
                    const ProofReport* r = own(d);
                    return r ? fine(r->excessMax) : dash;
                });
        derivedPlace(own, &ProofReport::excessAt, told);
        derived(tr("deepest below it"), [own, fine](const Derived& d) {
            const ProofReport* r = own(d);
            return r ? fine(r->gougeMax) : dash;
        });
        derivedPlace(own, &ProofReport::gougeAt, told);
    }
    group(tr("Allowed"));
    derived(tr("below a floor"), [fine](const Derived&) { return fine(gougeAllowed); });
    derived(tr("left on it"), [fine](const Derived&) { return fine(excessBeyondScallop); });
    derived(tr("on carved faces"), [fine](const Derived& d) {
        return fine(d.project.bodyCut.carveScallop + excessBeyondScallop);
    });
    derived(tr("walls"), [fine](const Derived&) { return fine(wallAllowed); });
    group(tr("Neck in its pocket, as cut"));
    derived(tr("least room"), withBody([fine](const Derived&, const BodyDrawn& b) {
                return b.neckFit ? fine(b.neckFit->least) : dash;
            }));
    derived(tr("most room"), withBody([fine](const Derived&, const BodyDrawn& b) {
                return b.neckFit ? fine(b.neckFit->most) : dash;
            }));
    derived(tr("it stands higher by"), withBody([fine](const Derived&, const BodyDrawn& b) {
                return b.neckSeat ? fine(b.neckSeat->rise()) : dash;
            }));
    groupBelow(tr("Lid in its ledge, as cut"));
    derived(tr("least room"), withBody([fine](const Derived&, const BodyDrawn& b) {
                return b.lidFit ? fine(b.lidFit->least) : dash;
            }));
    derived(tr("most room"), withBody([fine](const Derived&, const BodyDrawn& b) {
                return b.lidFit ? fine(b.lidFit->most) : dash;
            }));
}

} // namespace wren::app
