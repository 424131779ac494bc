// What holds the blank down: clamps of the part in hand, in either setup.
#include "numbers/ledger.h"

#include "frame/text.h"
#include "job/clamps.h"
#include "job/list_keys.h"
#include "numbers/value_field.h"
#include "state/background.h"

#include <QPushButton>

namespace wren::app {

void Ledger::leafClamps() {
    const PartJob* job = sheet_.jobInHand();
    fieldWidth_ = 122;
    group(tr("Holding it down"));
    if (!job) {
        note([](const Derived&) { return tr("There is no part to hold."); });
        return;
    }
    const PartId part = job->id;
    connect(deed(tr("Find places for straps"),
                 tr("on the blank's edges, clear of every move of the posted programs, of pins and "
                    "of one another, in place of this part's clamps")),
            &QPushButton::clicked, this, [this, part] { suggestClamps(part); });
    const int sides = static_cast<int>(job->held.sides());
    for (int side = 1; side <= sides; ++side) {
        connect(deed(side == 1 ? tr("Add one, face up") : tr("Add one, back up"),
                     tr("at the front edge of the blank, to be moved to its place")),
                &QPushButton::clicked, this, [this, part, side] {
                    changeProject(
                        [part, side](const Project& p) {
                            Project next = p;
                            Clamp c;
                            c.part = part.name();
                            c.side = side;
                            next.clamps.push_back(c);
                            return next;
                        },
                        tr("a clamp"));
                });
    }
    note(
        [part](const Derived& d) {
            std::size_t n = 0;
            for (std::size_t side = 0; side < 2; ++side) {
                n += clampsOf(d.project, part, side).size();
            }
            return n == 0
                       ? tr("No clamp is told: nothing is checked against them. Screws, tape and "
                            "vacuum can be told too.")
                       : tr("Every posted move is checked against them, with the bit's shank and "
                            "the collet nut.");
        },
        220);
    bool any = false;
    if (part == Role::neck || part.ofBody()) {
        any = true;
        group(tr("How the sides meet"));
        const QString hold =
            part == Role::neck ? QStringLiteral("neck_hold.") : QStringLiteral("body_hold.");
        field(tr("registered by"), hold + QStringLiteral("register"));
        field(tr("pins are"), hold + QStringLiteral("pin_kind"));
        field(tr("edges out of square"), hold + QStringLiteral("edge_square"));
    }
    for (std::size_t side = 0; side < 2; ++side) {
        for (std::size_t i : clampsOf(sheet_.document().project(), part, side)) {
            any = true;
            const QString path = QStringLiteral("clamps.%1").arg(qulonglong(i));
            group(side == 0 ? tr("Clamp %1, face up").arg(qulonglong(i + 1))
                            : tr("Clamp %1, back up").arg(qulonglong(i + 1)));
            field(tr("kind"), path + QStringLiteral(".kind"));
            field(tr("in station"), path + QStringLiteral(".station"));
            field(tr("from the left end"), path + QStringLiteral(".at.x"));
            field(tr("from the front edge"), path + QStringLiteral(".at.y"));
            field(tr("turned by"), path + QStringLiteral(".turn"));
            removal(tr("Take it away"), tr("from the drawing, the sheet and the check"), path,
                    tr("a clamp less"));
        }
    }
    if (!any) { // a single group must not take the whole width
        columns_->addStretch(1);
    }
}

/// Of the board under a part, for its pins: where its zero hole was found, and whether that holds.
void Ledger::fixtureFields(const QString& hold) {
    group(tr("Fixture board"));
    field(tr("thickness"), hold + QStringLiteral("fixture"));
    for (const auto& [label, key] : {std::pair{tr("zero hole at X"), QStringLiteral("zero_x")},
                                     std::pair{tr("zero hole at Y"), QStringLiteral("zero_y")}}) {
        recipes_.push_back(
            {field(label, hold + key), [](const Derived&) { return tr("by the lines"); }});
    }
    field(tr("moved since"), hold + QStringLiteral("fixture_moved"));
}

/// Looked for in the background: every move of the part's programs is looked at.
void Ledger::suggestClamps(PartId part) {
    const DerivedPtr d = sheet_.derivedPtr();
    inBackground(
        this,
        [d, part] {
            std::vector<Clamp> all;
            const PartJob* job = d ? d->job(part) : nullptr;
            for (std::size_t side = 0; job && side < job->held.sides(); ++side) {
                const std::vector<Clamp> some = suggestedClamps(*d, *job, side);
                all.insert(all.end(), some.begin(), some.end());
            }
            return all;
        },
        [this, part](const std::vector<Clamp>& all) {
            if (all.empty()) {
                Q_EMIT refused(
                    tr("No place for a strap was found on the %1's blank: a longer or "
                       "wider blank would leave one, or it is screwed down in its waste.")
                        .arg(qs(part.name())));
                return;
            }
            changeProject([part, &all](const Project& p) { return withClamps(p, part, all); },
                          tr("places for straps"));
        });
}

} // namespace wren::app
