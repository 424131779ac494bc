#include "job/own_woods.h"
#include "numbers/ledger.h"

#include "base/length.h"
#include "frame/text.h"
#include "numbers/value_field.h"
#include "shop/wood.h"

#include <QPushButton>

#include <fmt/format.h>

#include <algorithm>

namespace wren::app {
namespace {

/// What needs a neck that could be drawn.
template <typename F>
auto withNeck(F f) {
    return [f](const Derived& d) { return d.neck ? f(d, *d.neck) : dash; };
}

/// What needs a neck that lies in its blank.
template <typename F>
auto withHeldNeck(F f) {
    return [f](const Derived& d) {
        const PartJob* job = d.job(Role::neck);
        return job ? f(*job) : dash;
    };
}

const Cut* neckCutOf(const Derived& d, CutKind kind) {
    if (!d.neck) {
        return nullptr;
    }
    for (const SidePlan& side : d.job(Role::neck)->neckPlan().sides) {
        if (const Cut* c = side.cutOf(kind)) {
            return c;
        }
    }
    return nullptr;
}

} // namespace

void Ledger::leafShaft() {
    fieldWidth_ = 104;
    group(tr("The neck"));
    field(tr("meets the body"), QStringLiteral("neck.joint"));
    field(tr("fretboard is"), QStringLiteral("neck.fret_face"));
    field(tr("thickness over"), QStringLiteral("neck.thickness_over"));
    field(tr("strip under board"), QStringLiteral("neck.accent"));
    field(tr("upright shoulder"), QStringLiteral("neck.shoulder"));
    field(tr("roundness of a V"), QStringLiteral("neck.crest"));
    group(tr("Back, station by station"));
    note(
        [](const Derived&) {
            return tr("Take a station in hand in the tray or in the side view: its fret, its "
                      "thickness and its shape stand here then. With the cursor on a station its "
                      "shape is dragged in the section.");
        },
        290);
    derived(tr("traced sections"), [](const Derived& d) {
        QStringList names;
        for (const NeckTrace& t : d.project.neck.traces) {
            names << qs(t.name);
        }
        return names.isEmpty() ? dash : names.join(QStringLiteral(", "));
    });
    connect(deed(tr("Trace a section"), tr("from a picture of a real neck, or from points")),
            &QPushButton::clicked, this, &Ledger::traceWanted);
    group(tr("Heel"));
    field(tr("length"), QStringLiteral("neck.heel_length"));
    field(tr("depth"), QStringLiteral("neck.heel_depth"));
    field(tr("end shape"), QStringLiteral("neck.heel_shape"));
    field(tr("corners"), QStringLiteral("neck.heel_corner"));
    field(tr("taper"), QStringLiteral("neck.heel_taper"));
    field(tr("past the board"), QStringLiteral("neck.heel_past"));
    group(tr("It comes to"));
    field(tr("shaft to heel over"), QStringLiteral("neck.heel_transition"));
    derived(tr("length"), withNeck([this](const Derived&, const NeckDrawn& n) {
                return mm(n.part.outline().end() - n.part.outline().tip());
            }));
    derived(tr("wood"), withNeck([](const Derived&, const NeckDrawn& n) {
                return qs(fmt::format("{:.0f} cm\u00B3", n.volume / 1000));
            }));
    derived(tr("weighs"), withNeck([](const Derived& d, const NeckDrawn& n) {
                const double density = woodOf(d.project, d.project.neckBlank.wood).density();
                return qs(fmt::format("{:.0f} g", n.volume / 1000 * density));
            }));
    derived(tr("deepest"),
            withNeck([this](const Derived&, const NeckDrawn& n) { return mm(n.part.deepest()); }));
}

void Ledger::leafHead() {
    fieldWidth_ = 104;
    group(tr("Headstock"));
    field(tr("kind"), QStringLiteral("head.kind"));
    field(tr("tilt"), QStringLiteral("head.angle"));
    field(tr("face drop"), QStringLiteral("head.drop"));
    field(tr("hollow's radius"), QStringLiteral("head.curve"));
    field(tr("thickness"), QStringLiteral("head.thickness"));
    field(tr("tilted head from"), QStringLiteral("head.stock"));
    group(tr("Behind the nut"));
    field(tr("head to shaft over"), QStringLiteral("head.transition"));
    field(tr("starts on shaft at"), QStringLiteral("head.transition_from"));
    field(tr("volute height"), QStringLiteral("head.volute"));
    field(tr("volute length"), QStringLiteral("head.volute_length"));
    field(tr("volute middle"), QStringLiteral("head.volute_at"));
    group(tr("Outline"));
    field(tr("starting shape"), QStringLiteral("head.like"));
    fieldWidth_ = 250;
    fieldWidth_ = 104;
    note(
        [](const Derived&) {
            return tr(
                "X, Y and s for smooth or c for a corner, round from the bass edge. Drag a node in "
                "the plan.");
        },
        300);
}

void Ledger::leafTuners() {
    fieldWidth_ = 104;
    group(tr("Rows"));
    field(tr("on the bass side"), QStringLiteral("tuners.bass_side"));
    field(tr("first post"), QStringLiteral("tuners.first"));
    field(tr("between them"), QStringLiteral("tuners.pitch"));
    fieldWidth_ = 210;
    connect(deed(tr("Back to rows"), tr("posts that were moved one by one stand in rows again")),
            &QPushButton::clicked, this, [this] {
                Project p = sheet_.project();
                p.neck.tuners.places.clear();
                sheet_.document().change(std::move(p), tr("tuners back to rows"));
            });
    fieldWidth_ = 104;
    group(tr("One tuner, front"));
    field(tr("hole"), QStringLiteral("tuners.bushing"));
    fieldWidth_ = 124;
    field(tr("bored by"), QStringLiteral("tuners.bored"));
    fieldWidth_ = 104;
    field(tr("post"), QStringLiteral("tuners.post"));
    field(tr("string over face"), QStringLiteral("tuners.post_height"));
    group(tr("Behind"));
    field(tr("body along"), QStringLiteral("tuners.body_length"));
    field(tr("body across"), QStringLiteral("tuners.body_width"));
    field(tr("screw pilot"), QStringLiteral("tuners.pilot"));
    field(tr("from the post"), QStringLiteral("tuners.pilot_off"));
    field(tr("pilot deep"), QStringLiteral("tuners.pilot_depth"));
    group(tr("String: to the side, down over the nut"));
    rows([](const Derived& d) {
        std::string text;
        if (d.neck) {
            for (const TunerPlace& t : d.neck->part.tuners()) {
                text += fmt::format("{:>2} {:>6.1f}\u00B0 {:>6.1f}\u00B0{}\n",
                                    d.project.board.strings - t.string, t.sideAngle, t.breakAngle,
                                    t.held ? " under a tree" : "");
            }
        }
        return qs(text);
    });
}

void Ledger::leafRod() {
    fieldWidth_ = 104;
    group(tr("Truss rod"));
    field(tr("goes in from"), QStringLiteral("rod.from"));
    field(tr("from the back, cover"), QStringLiteral("rod.cover"));
    field(tr("slot's floor runs"), QStringLiteral("rod.run"));
    field(tr("floor"), QStringLiteral("rod.floor"));
    field(tr("cap strip"), QStringLiteral("rod.cap"));
    group(tr("Its slot"));
    field(tr("width"), QStringLiteral("rod.width"));
    field(tr("depth"), QStringLiteral("rod.depth"));
    field(tr("from the nut"), QStringLiteral("rod.start"));
    field(tr("length"), QStringLiteral("rod.length"));
    group(tr("Its adjuster"));
    field(tr("adjuster at"), QStringLiteral("rod.adjuster"));
    field(tr("width"), QStringLiteral("rod.adjuster_width"));
    field(tr("length"), QStringLiteral("rod.adjuster_length"));
    field(tr("depth"), QStringLiteral("rod.adjuster_depth"));
    group(tr("Carbon rods beside it"));
    field(tr("width"), QStringLiteral("rod.carbon_width"));
    field(tr("depth"), QStringLiteral("rod.carbon_depth"));
    field(tr("off the middle"), QStringLiteral("rod.carbon_off"));
    field(tr("from the nut"), QStringLiteral("rod.carbon_start"));
    field(tr("length"), QStringLiteral("rod.carbon_length"));
    group(tr("Wood left under it"));
    derived(tr("least, by the design"), withNeck([this](const Derived&, const NeckDrawn& n) {
                double least = 1e9;
                for (const WoodUnder& w : n.woodUnder) {
                    least = std::min(least, w.wood);
                }
                return n.woodUnder.empty() ? dash : mm(least);
            }));
    const auto underRod = [this](const PartJob& n) {
        return n.proof && !n.proof->woodUnderRod.empty() ? mm(n.proof->rodWoodLeast) : dash;
    };
    derived(tr("straight down, as cut"), withHeldNeck(underRod));
    derived(tr("stop under"), [this](const Derived&) { return mm(rodWoodStop); });
    derived(tr("caution under"), [this](const Derived&) { return mm(rodWoodCaution); });
}

void Ledger::leafJoint() {
    fieldWidth_ = 104;
    group(tr("Bolts' pilots in the heel"));
    field(tr("how many"), QStringLiteral("neck.bolts"));
    field(tr("pattern along"), QStringLiteral("neck.bolt_long"));
    field(tr("pattern across"), QStringLiteral("neck.bolt_wide"));
    field(tr("pilot"), QStringLiteral("neck.bolt_pilot"));
    field(tr("depth"), QStringLiteral("neck.bolt_depth"));
    group(tr("Pins that hold the board at glue-up"));
    unset(field(tr("one through fret"), QStringLiteral("neck.pin_fret_1")), tr("none"));
    unset(field(tr("the other through"), QStringLiteral("neck.pin_fret_2")), tr("none"));
    field(tr("pin"), QStringLiteral("neck.pin_size"));
    field(tr("into the neck"), QStringLiteral("neck.pin_depth"));
    note([](const Derived&) {
        return tr(
            "Two brads through fret slots keep the board from slipping while the glue sets; a "
            "slip ruins intonation.");
    });
    group(tr("Nut"));
    field(tr("along the neck"), QStringLiteral("neck.nut_thickness"));
    field(tr("slot below"), QStringLiteral("neck.nut_slot"));
    group(tr("Face plate"));
    field(tr("thickness"), QStringLiteral("head.plate"));
    field(tr("free at the nut"), QStringLiteral("head.plate_gap"));
    field(tr("caul's screws"), QStringLiteral("head.plate_screws"));
    field(tr("their pilots"), QStringLiteral("head.plate_screw"));
    field(tr("pilot depth"), QStringLiteral("head.plate_screw_depth"));
    group(tr("Scarf joint"));
    const auto scarf = [this](double Scarf::*what) {
        return withHeldNeck([this, what](const PartJob& n) {
            return n.held.scarf ? mm((*n.held.scarf).*what) : dash;
        });
    };
    derived(tr("plank thick"), scarf(&Scarf::plank));
    derived(tr("plank long"), scarf(&Scarf::plankLength));
    derived(tr("mark on the face"), scarf(&Scarf::neckPiece));
    derived(tr("ramp long"), scarf(&Scarf::ramp));
    derived(tr("out under the board"), scarf(&Scarf::atFace));
    derived(tr("out on the underside"), scarf(&Scarf::atBack));
}

void Ledger::leafNeckBlank() {
    fieldWidth_ = 118;
    group(tr("Neck blank"));
    const auto size = [this](ValueField* f, double Blank::*what) {
        recipes_.push_back({f, [this, what](const Derived& d) {
                                return d.neck ? mm(d.job(Role::neck)->held.blank.*what) : QString();
                            }});
    };
    size(field(tr("length"), QStringLiteral("neck_blank.length")), &Blank::length);
    size(field(tr("width"), QStringLiteral("neck_blank.width")), &Blank::width);
    recipes_.push_back(
        {field(tr("thickness"), QStringLiteral("neck_blank.thickness")), [this](const Derived& d) {
             const Held* s = d.neck ? &d.job(Role::neck)->held : nullptr;
             return s ? mm(s->scarf ? s->scarf->plank : s->blank.thickness) : QString();
         }});
    field(tr("wood"), QStringLiteral("neck_blank.wood"));
    field(tr("strips"), QStringLiteral("neck_blank.strips"));
    field(tr("necks from it"), QStringLiteral("neck_blank.pieces"));
    field(tr("frame left round it"), QStringLiteral("neck_blank.frame"));
    note([this](const Derived& d) {
        return d.neck && d.job(Role::neck)->held.scarf
                   ? tr("The thickness is the plank's: its head is "
                        "glued on by a scarf, %1 over all.")
                         .arg(mm(d.job(Role::neck)->held.blank.thickness))
                   : QString();
    });
    group(tr("Turning over"));
    fieldWidth_ = 146;
    field(tr("turned over"), QStringLiteral("neck_hold.turn"));
    fieldWidth_ = 118;
    field(tr("registered by"), QStringLiteral("neck_hold.register"));
    derived(tr("sides meet within"),
            withHeldNeck([this](const PartJob& n) { return mm(n.held.expectedError); }));
    derived(tr("slides between stations"), withHeldNeck([this](const PartJob& n) {
                return n.held.pitch > 0 ? mm(n.held.pitch) : tr("not at all");
            }));
    recipes_.push_back(
        {field(tr("stations meet at"), QStringLiteral("neck_hold.seam")), [this](const Derived& d) {
             const PartJob* n = d.job(Role::neck);
             return n && n->held.pitch > 0
                        ? mm(n->held.face.fromInstrument.toInstrument({n->held.seam, 0, 0}).x)
                        : tr("one station");
         }});
    group(tr("Pins"));
    field(tr("diameter"), QStringLiteral("neck_hold.pin_size"));
    field(tr("from the end"), QStringLiteral("neck_hold.pin_inset"));
    field(tr("one-way offset"), QStringLiteral("neck_hold.pin_uneven"));
    fixtureFields(QStringLiteral("neck_hold."));
    connect(deed(tr("Write the fixture's pins"),
                 tr("a program that drills the pins' holes into the board under the blank")),
            &QPushButton::clicked, this, &Ledger::fixtureWanted);
    group(tr("Zero, cradle"));
    field(tr("make a cradle"), QStringLiteral("neck_hold.make_cradle"));
    field(tr("its line, behind"), QStringLiteral("neck_blank.line"));
    field(tr("Z, face up"), QStringLiteral("neck_hold.z_face"));
    field(tr("Z, back up"), QStringLiteral("neck_hold.z_back"));
    note(
        [](const Derived& d) {
            return d.project.neckHold.zBack == ZZero::bed
                       ? tr("The blank's face lies on the bed: a wrong thickness only changes what "
                            "is "
                            "roughed away.")
                       : tr("On the blank: a wrong thickness makes the neck too thick or too "
                            "thin.");
        },
        200);
    group(tr("Witness notches"));
    field(tr("cut them"), QStringLiteral("neck_hold.notches"));
    field(tr("offset along"), QStringLiteral("neck_hold.witness_x"));
    field(tr("offset across"), QStringLiteral("neck_hold.witness_y"));
    note([](const Derived&) {
        return tr(
            "What the caliper reads across the two notches, the back's against the face's; half of "
            "it corrects the second side.");
    });
}

void Ledger::neckCutGroup(const QString& title, const QString& key, CutKind cut) {
    const bool ball = cut == CutKind::finish || cut == CutKind::hollow;
    const bool slots = cut == CutKind::rod; // whose floor may be round
    cutFields(
        title, QStringLiteral("neck_cut.") + key,
        [=](const Bit& b) {
            return b.kind == BitKind::ball ? ball || slots : !ball && cutsFlat(b.kind);
        },
        [cut](const Derived& d) { return neckCutOf(d, cut); });
}

void Ledger::leafBackCuts() {
    neckCutGroup(tr("Roughing"), QStringLiteral("rough"), CutKind::rough);
    neckCutGroup(tr("Finish"), QStringLiteral("finish"), CutKind::finish);
    neckCutGroup(tr("Outline"), QStringLiteral("outline"), CutKind::outline);
    group(tr("How"));
    field(tr("scallop height"), QStringLiteral("neck_cut.scallop"));
    field(tr("passes run"), QStringLiteral("neck_cut.finish_way"));
    field(tr("left for finishing"), QStringLiteral("neck_cut.stock_to_leave"));
    field(tr("roughing stepover"), QStringLiteral("neck_cut.rough_step"));
    field(tr("climb cut"), QStringLiteral("neck_cut.climb"));
    field(tr("last pass takes"), QStringLiteral("neck_cut.wall_stock"));
    group(tr("Tabs"));
    field(tr("tabs per side"), QStringLiteral("neck_cut.tabs_per_side"));
    field(tr("length"), QStringLiteral("neck_cut.tab_length"));
    field(tr("height"), QStringLiteral("neck_cut.tab_height"));
}

void Ledger::leafFaceCuts() {
    neckCutGroup(tr("Rod's and other slots"), QStringLiteral("slots"), CutKind::rod);
    neckCutGroup(tr("Head's face"), QStringLiteral("head"), CutKind::head);
    neckCutGroup(tr("Hollow"), QStringLiteral("hollow"), CutKind::hollow);
    group(tr("Holes"));
    field(tr("past the underside"), QStringLiteral("neck_cut.through"));
    field(tr("peck depth"), QStringLiteral("neck_cut.peck"));
}

void Ledger::neckPlan(const QString& title, std::size_t side) {
    group(title);
    rows([side](const Derived& d) {
        std::string text;
        if (d.neck) {
            for (const Cut& c : d.job(Role::neck)->neckPlan().sides[side].cuts) {
                text += fmt::format("{:<11}{}\n", c.what, c.why);
            }
        }
        return qs(text);
    });
}

void Ledger::leafFacePlan() {
    neckPlan(tr("Every cut with the face up, and its bit"), 0);
}

void Ledger::leafBackPlan() {
    neckPlan(tr("Every cut with the back up, and its bit"), 1);
}

void Ledger::leafNeckProof() {
    const auto fine = [](double v) { return qs(fmt::format("{:.4f} mm", v)); };
    for (std::size_t side : {0U, 1U}) {
        group(side == 0 ? tr("Front") : tr("Back"));
        const auto of = [fine, side](double ProofReport::*what) {
            return [fine, side, what](const Derived& d) {
                return d.neck && d.job(Role::neck)->proof
                           ? fine(d.job(Role::neck)->proof->sides[side].*what)
                           : dash;
            };
        };
        const auto own = [side](const Derived& d) -> const ProofReport* {
            return d.neck && d.job(Role::neck)->proof ? &d.job(Role::neck)->proof->sides[side]
                                                      : nullptr;
        };
        derived(tr("deepest below it"), of(&ProofReport::gougeMax));
        derivedPlace(own, &ProofReport::gougeAt);
        derived(tr("most left above it"), of(&ProofReport::excessMax));
        derivedPlace(own, &ProofReport::excessAt);
        derived(tr("left over, rms"), of(&ProofReport::excessRms));
        derived(tr("walls out by"), of(&ProofReport::wallMax));
    }
    group(tr("Allowed"));
    derived(tr("below the design"), [fine](const Derived&) { return fine(gougeAllowed); });
    derived(tr("left above it"), [fine](const Derived& d) {
        return fine(d.project.neckCut.scallop + excessBeyondScallop);
    });
    derived(tr("walls"), [fine](const Derived&) { return fine(wallAllowed); });
    derived(tr("under the rod, as cut"), withHeldNeck([this](const PartJob& n) {
                return n.proof && !n.proof->woodUnderRod.empty() ? mm(n.proof->rodWoodLeast) : dash;
            }));
}

} // namespace wren::app
