#include "numbers/ledger.h"

#include "base/length.h"
#include "cut/marker_cut.h"
#include "cut/radius_cut.h"
#include "frame/text.h"
#include "numbers/value_field.h"

#include <QPushButton>

#include <fmt/format.h>

#include <algorithm>

namespace wren::app {
namespace {

/// Whether a bit could do such a cut at all; whether it reaches is the recipe's to say.
bool serves(const Bit& bit, CutKind cut, const Markers& markers) {
    if (cut == CutKind::slots) {
        return bit.kind == BitKind::fretSlot;
    }
    if (cut == CutKind::outline || cut == CutKind::shelf) {
        return cutsFlat(bit.kind);
    }
    if (cut == CutKind::facing) {
        return cutsFlat(bit.kind) || bit.kind == BitKind::surfacing;
    }
    if (cut == CutKind::markers) {
        return markerWay(markers, bit).has_value();
    }
    return canDoRadius(bit);
}

} // namespace

const Cut* cutOf(const Derived& d, CutKind kind) {
    if (d.project.carved()) {
        return d.neck ? d.job(Role::neck)->neckPlan().sides[0].cutOf(kind) : nullptr;
    }
    return d.boardPlan() ? d.boardPlan()->face().cutOf(kind) : nullptr;
}

void Ledger::leafBlank() {
    fieldWidth_ = 124;
    group(tr("Blank, as measured"));
    field(tr("length"), QStringLiteral("blank.length"));
    field(tr("width"), QStringLiteral("blank.width"));
    field(tr("thickness"), QStringLiteral("blank.thickness"));
    field(tr("wood"), QStringLiteral("blank.wood"));
    field(tr("face it first"), QStringLiteral("cut.face_blank"));
    group(tr("Boards in it"));
    field(tr("how many"), QStringLiteral("blank.boards"));
    field(tr("between them"), QStringLiteral("blank.gap"));
    field(tr("its line, behind"), QStringLiteral("blank.line"));
    derived(tr("beyond each end"), [this](const Derived& d) {
        return mm((d.project.blank.length - d.board->length()) / 2);
    });
    derived(tr("beside, at the widest"), [this](const Derived& d) {
        return mm((d.project.blank.width - d.board->widest()) / 2);
    });
    group(tr("What is taken off"));
    derived(tr("faced first"), [this](const Derived& d) {
        return d.boardPlan() ? mm(d.boardPlan()->face().setup.faced) : dash;
    });
    derived(tr("taken off the crown"), [this](const Derived& d) {
        return mm(d.project.blank.thickness - d.project.board.thickness);
    });
    derived(tr("wood used"), [](const Derived& d) {
        const Blank& b = d.project.blank;
        return qs(fmt::format("{:.0f} %", 100 * b.boards * d.board->volume() /
                                              (b.length * b.width * b.thickness)));
    });
    group(tr("Zero"));
    field(tr("Z is taken on"), QStringLiteral("hold.z_zero"));
    derived(tr("X of the corner"), [this](const Derived& d) {
        return d.lies(Role::board) ? mm(d.lies(Role::board)->zeroOnMachine.x) : dash;
    });
    derived(tr("Y of the corner"), [this](const Derived& d) {
        return d.lies(Role::board) ? mm(d.lies(Role::board)->zeroOnMachine.y) : dash;
    });
    note([](const Derived& d) {
        return d.project.zZero == ZZero::bed
                   ? tr("On the bed: a wrong thickness shows on top, the underside and the through "
                        "cut stay true.")
                   : tr("On the blank: a wrong thickness shows underneath. Probe in the waste; the "
                        "face itself will be cut away.");
    });
}

namespace {

/// What the program with that cut asks of its bit at its hardest place, of what is allowed.
QString hardest(const Derived& d, const Cut* cut, PartId part) {
    for (const PostedProgram& p : cut ? d.programs : std::vector<PostedProgram>{}) {
        const std::vector<CutKind>& kinds = p.program.kinds;
        const bool has = p.program.part == part &&
                         std::find(kinds.begin(), kinds.end(), cut->kind) != kinds.end();
        const ProgramLoad* load =
            has && p.program.bit == cut->bit ? d.loadOf(p.program.file) : nullptr;
        if (load) {
            return qs(fmt::format("{:.0f} %", 100 * load->most()));
        }
    }
    return dash;
}

} // namespace

void Ledger::cutGroup(const QString& title, CutKind cut) {
    const Markers markers = sheet_.document().project().board.markers;
    cutFields(
        title, QStringLiteral("cut.") + QLatin1String(wordOf(cut)),
        [&](const Bit& b) { return serves(b, cut, markers); },
        [cut](const Derived& d) { return cutOf(d, cut); });
}

void Ledger::cutFields(const QString& title, const QString& group_,
                       const std::function<bool(const Bit&)>& can,
                       const std::function<const Cut*(const Derived&)>& find) {
    group(title);
    const QString head = group_ + QLatin1Char('.');
    QStringList bits{QStringLiteral("auto")};
    for (const Bit& b : sheet_.document().project().bits) {
        if (can(b)) {
            bits << qs(b.name);
        }
    }
    ValueField* bit = field(tr("bit"), head + QStringLiteral("bit"));
    bit->setWords(bits);
    const auto recipe = [&](ValueField* f, auto text) {
        recipes_.push_back({f, [find, text](const Derived& d) {
                                const Cut* c = find(d);
                                return c ? qs(text(*c)) : tr("not cut");
                            }});
    };
    recipe(bit, [](const Cut& c) { return c.bit.name; });
    recipe(field(tr("spindle"), head + QStringLiteral("rpm")),
           [](const Cut& c) { return fmt::format("{:.0f} rpm", c.feeds.rpm); });
    recipe(field(tr("feed"), head + QStringLiteral("feed")),
           [](const Cut& c) { return fmt::format("{:.0f} mm/min", c.feeds.feed); });
    recipe(field(tr("plunge"), head + QStringLiteral("plunge")),
           [](const Cut& c) { return fmt::format("{:.0f} mm/min", c.feeds.plunge); });
    const LengthUnit unit = sheet_.unit();
    recipe(field(tr("depth per pass"), head + QStringLiteral("depth_per_pass")),
           [unit](const Cut& c) { return formatLength(c.feeds.depthPerPass, unit); });
    derived(tr("bite used"), [this, find](const Derived& d) {
        const PartJob* piece = sheet_.part() == Part::body ? sheet_.pieceInHand() : nullptr;
        const bool neck = sheet_.part() == Part::neck || d.project.carved();
        return hardest(d, find(d),
                       piece  ? piece->id
                       : neck ? PartId(Role::neck)
                              : PartId(Role::board));
    });
}

void Ledger::radiusFinish() {
    field(tr("scallop height"), QStringLiteral("cut.scallop"));
    unset(field(tr("or stepover"), QStringLiteral("cut.stepover")), tr("by scallop"));
    field(tr("left for finishing"), QStringLiteral("cut.stock_to_leave"));
}

void Ledger::radiusStep() {
    derived(tr("radius step"), [this](const Derived& d) {
        const Cut* c = cutOf(d, CutKind::radius);
        return c ? mm(c->stepover) : dash;
    });
}

void Ledger::dayFigures() {
    derived(tr("minutes"),
            [](const Derived& d) { return qs(fmt::format("{:.1f}", d.seconds() / 60)); });
    derived(tr("at full feed"),
            [](const Derived& d) { return qs(fmt::format("{:.1f}", d.secondsPlain() / 60)); });
    derived(tr("of it in air"),
            [](const Derived& d) { return qs(fmt::format("{:.1f}", d.secondsInAir() / 60)); });
}

void Ledger::leafMainCuts() {
    cutGroup(tr("Radius"), CutKind::radius);
    cutGroup(tr("Slots"), CutKind::slots);
    cutGroup(tr("Outline"), CutKind::outline);
    group(tr("Order and finish"));
    school_ = field(tr("cut first"), QStringLiteral("cut.school"));
    school_->setFixedWidth(136);
    radiusFinish();
    radiusStep();
    group(tr("At the machine"));
    derived(tr("programs"), [](const Derived& d) { return QString::number(d.programs.size()); });
    derived(tr("bit changes"), [](const Derived& d) {
        return d.boardPlan() ? QString::number(d.boardPlan()->bitChanges) : dash;
    });
    dayFigures();
}

void Ledger::leafCarvedCuts() {
    cutGroup(tr("Radius"), CutKind::radius);
    cutGroup(tr("Slots"), CutKind::slots);
    cutGroup(tr("Markers"), CutKind::markers);
    group(tr("Order and finish"));
    field(tr("cut first"), QStringLiteral("cut.school"))->setFixedWidth(136);
    radiusFinish();
    radiusStep();
}

void Ledger::leafOtherCuts() {
    cutGroup(tr("Facing"), CutKind::facing);
    cutGroup(tr("Nut's ledge"), CutKind::shelf);
    cutGroup(tr("Markers"), CutKind::markers);
    group(tr("Going through"));
    field(tr("past underside"), QStringLiteral("cut.through"));
    field(tr("last pass takes"), QStringLiteral("cut.wall_stock"));
    group(tr("Tabs"));
    field(tr("tabs per side"), QStringLiteral("cut.tabs_per_side"));
    field(tr("length"), QStringLiteral("cut.tab_length"));
    field(tr("height"), QStringLiteral("cut.tab_height"));
    fieldWidth_ = 176;
    note(
        [](const Derived& d) {
            return d.project.cut.tabPlaces.empty()
                       ? tr("They stand between the frets. Drag one in the plan to place them by "
                            "hand.")
                       : tr("Placed by hand: take one in the tray or in the plan for its numbers; "
                            "Delete removes it.");
        },
        230);
    if (!sheet_.document().project().cut.tabPlaces.empty()) {
        connect(deed(tr("Back to the recipe's"), tr("the tabs stand between the frets again")),
                &QPushButton::clicked, this, [this] {
                    Project p = sheet_.document().project();
                    p.cut.tabPlaces.clear();
                    sheet_.document().change(std::move(p), tr("tabs back to the recipe's"));
                });
    }
}

/// What every bit that can do the radius would leave and cost, eight to a column.
void Ledger::leafChoices() {
    constexpr std::size_t deep = 8;
    const auto column = [this](std::size_t from) {
        rows([this, from](const Derived& d) {
            if (!d.boardPlan() || d.boardPlan()->surfacing.size() <= from) {
                return QString();
            }
            std::string text = fmt::format("  {:<15}{:>8}{:>8}{:>8}{:>9}", "bit", "minutes",
                                           "scallop", "step", "to sand");
            const std::size_t to = std::min(d.boardPlan()->surfacing.size(), from + deep);
            for (std::size_t i = from; i < to; ++i) {
                const SurfacingChoice& s = d.boardPlan()->surfacing[i];
                text += fmt::format("\n{} {:<15}{:>8.1f}{:>8}{:>8}{:>5.2f} cm\u00B3",
                                    s.chosen ? "\u25B8" : " ", s.bit, s.minutes,
                                    formatLengthValue(s.ridge, sheet_.unit(), 3),
                                    formatLengthValue(s.stepover, sheet_.unit()), s.sanding);
            }
            return qs(text);
        });
    };
    group(tr("Every bit that can do the radius"));
    column(0);
    group(QString());
    column(deep);
    group(tr("Why this one"));
    note(
        [](const Derived& d) {
            const Cut* c = cutOf(d, CutKind::radius);
            return c ? qs(c->why) : QString();
        },
        180);
    note(
        [](const Derived&) {
            return tr("Minutes are distance over feed with roughing included, for all boards; the "
                      "scallop is the highest left between passes. A bit may lose to a slower one "
                      "that saves a change.");
        },
        180);
    group(tr("Finish"));
    radiusFinish();
}

void Ledger::leafProof() {
    const auto fine = [](double v) { return qs(fmt::format("{:.4f} mm", v)); };
    const auto of = [fine](double ProofReport::*what) {
        return [fine, what](const Derived& d) {
            return d.proofOf(Role::board) ? fine((*d.proofOf(Role::board)).*what) : dash;
        };
    };
    group(tr("Against the design"));
    const auto own = [](const Derived& d) {
        return d.proofOf(Role::board) ? &*d.proofOf(Role::board) : nullptr;
    };
    derived(tr("deepest below it"), of(&ProofReport::gougeMax));
    derivedPlace(own, &ProofReport::gougeAt);
    derived(tr("most left above it"), of(&ProofReport::excessMax));
    derivedPlace(own, &ProofReport::excessAt);
    derived(tr("left over, rms"), of(&ProofReport::excessRms));
    derived(tr("walls out by"), of(&ProofReport::wallMax));
    derived(tr("cell size"), [](const Derived& d) {
        return d.proofOf(Role::board) ? qs(fmt::format("{:.2f} mm", d.proofOf(Role::board)->cell))
                                      : dash;
    });
    group(tr("Allowed"));
    derived(tr("below the design"), [fine](const Derived&) { return fine(gougeAllowed); });
    derived(tr("left above it"),
            [fine](const Derived& d) { return fine(d.project.cut.scallop + excessBeyondScallop); });
    derived(tr("walls"), [fine](const Derived&) { return fine(wallAllowed); });
}

/// The programs of board and neck, or of the body, in a list that scrolls.
void Ledger::leafPrograms() {
    const bool body = sheet_.part() == Part::body;
    group(tr("Programs, as read back: minutes, and minutes at full feed"));
    scrolledRows(
        [body](const Derived& d) {
            std::string text;
            for (const PostedProgram& p : d.programs) {
                if (p.program.part.ofBody() == body) {
                    text += fmt::format("{:<52} {:>6.1f} {:>6.1f}\n", p.program.file,
                                        p.time.seconds / 60, p.time.secondsPlain / 60);
                }
            }
            return qs(text);
        },
        QStringLiteral("programs"), tr("programs of this part, in their order"));
    group(tr("The whole instrument"));
    derived(tr("programs"), [](const Derived& d) { return QString::number(d.programs.size()); });
    dayFigures();
    group(tr("Before it is cut"));
    connect(deed(tr("Hold any program against a part…"),
                 tr("a program from anywhere, drawn, timed and judged on the blank it would be run "
                    "on: bed, travel, clamps, wood, and the part itself")),
            &QPushButton::clicked, this, &Ledger::programWanted);
    connect(deed(tr("Try it in another sheet…"),
                 tr("this part's programs for another wood and thickness, proved and posted as a "
                    "trial; nothing of the project changes")),
            &QPushButton::clicked, this, &Ledger::trialWanted);
}

} // namespace wren::app
