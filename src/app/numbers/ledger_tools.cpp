#include "numbers/ledger.h"

#include "base/error.h"
#include "job/drawer.h"
#include "numbers/value_field.h"

#include <QPushButton>

#include <fmt/format.h>

namespace wren::app {
namespace {

/// Where this bit is used in the plan.
QString usesOf(const Derived& d, int index) {
    const auto& bits = d.project.bits;
    if (!d.boardPlan() || index >= static_cast<int>(bits.size())) {
        return dash;
    }
    QStringList uses;
    for (const Cut& cut : d.boardPlan()->face().cuts) {
        if (cut.bit.name == bits[static_cast<std::size_t>(index)].name) {
            uses << QString::fromStdString(cut.what);
        }
    }
    return uses.isEmpty() ? QObject::tr("not in this job") : uses.join(QStringLiteral(", "));
}

} // namespace

void Ledger::leafBit() {
    const Project& project = sheet_.document().project();
    const int i = sheet_.bitInHand();
    group(tr("The bit in hand"));
    if (project.bits.empty()) {
        note([](const Derived&) {
            return tr("The drawer is empty. Undo, or open a project that has bits.");
        });
        return;
    }
    const QString head = QStringLiteral("bits.%1.").arg(i);
    fieldWidth_ = 150;
    field(tr("name"), head + QStringLiteral("name"));
    fieldWidth_ = 124;
    field(tr("kind"), head + QStringLiteral("kind"));
    field(tr("diameter"), head + QStringLiteral("diameter"));
    field(tr("flutes"), head + QStringLiteral("flutes"));
    field(tr("flute length"), head + QStringLiteral("flute_length"));
    group(tr("Shank and reach"));
    field(tr("shank"), head + QStringLiteral("shank"));
    field(tr("stick-out"), head + QStringLiteral("reach"));
    field(tr("collet"), head + QStringLiteral("collet"));
    group(tr("Its end"));
    field(tr("corner"), head + QStringLiteral("corner"));
    field(tr("tip"), head + QStringLiteral("tip"));
    field(tr("included angle"), head + QStringLiteral("angle"));
    group(tr("Its own limits"));
    field(tr("speed"), head + QStringLiteral("max_rpm"));
    field(tr("feed"), head + QStringLiteral("max_feed"));
    derived(tr("used for"), [i](const Derived& d) { return usesOf(d, i); });
    group(tr("The drawer"));
    connect(deed(tr("Another like this"), tr("a copy to change, beside it")), &QPushButton::clicked,
            this, [this, i] {
                Document& doc = sheet_.document();
                const std::string like = doc.project().bits.at(static_cast<std::size_t>(i)).name;
                doc.change(withBit(doc.project(), freeBitName(doc.project().bits, like), like),
                           tr("another bit"));
                sheet_.setBitInHand(static_cast<int>(doc.project().bits.size()) - 1);
            });
    connect(deed(tr("Take it out"), tr("out of this project's drawer; Undo puts it back")),
            &QPushButton::clicked, this, [this, i] {
                Document& doc = sheet_.document();
                doc.change(withoutBit(doc.project(),
                                      doc.project().bits.at(static_cast<std::size_t>(i)).name),
                           tr("taking out a bit"));
            });
    note(
        [](const Derived&) {
            return tr("Left and Right choose a bit. 0 stands for the usual: reach twice the "
                      "flutes, the shank's own collet, no limit.");
        },
        190);
}

void Ledger::leafRouter() {
    group(tr("The router"));
    fieldWidth_ = 150;
    field(tr("from the shelf"), QStringLiteral("machine.like"));
    field(tr("name"), QStringLiteral("machine.name"));
    fieldWidth_ = 112;
    field(tr("programs in"), QStringLiteral("machine.units"));
    field(tr("takes arcs"), QStringLiteral("machine.arcs"));
    field(tr("homes at"), QStringLiteral("machine.home"));
    group(tr("Travel"));
    field(tr("X"), QStringLiteral("machine.travel_x"));
    field(tr("Y"), QStringLiteral("machine.travel_y"));
    field(tr("Z"), QStringLiteral("machine.travel_z"));
    group(tr("Speed"));
    field(tr("rapid"), QStringLiteral("machine.rapid"));
    field(tr("feed, at most"), QStringLiteral("machine.max_feed"));
    field(tr("spindle from"), QStringLiteral("machine.spindle_min"));
    field(tr("to"), QStringLiteral("machine.spindle_max"));
    group(tr("How fast it gathers speed"));
    field(tr("X"), QStringLiteral("machine.acceleration_x"));
    field(tr("Y"), QStringLiteral("machine.acceleration_y"));
    field(tr("Z"), QStringLiteral("machine.acceleration_z"));
    field(tr("at corners"), QStringLiteral("machine.corner_speed"));
    group(tr("Bed"));
    field(tr("line crossing, X"), QStringLiteral("machine.crossing_x"));
    field(tr("line crossing, Y"), QStringLiteral("machine.crossing_y"));
    field(tr("may cut into bed"), QStringLiteral("machine.spoil_depth"));
    field(tr("probe plate"), QStringLiteral("machine.plate"));
    group(tr("Under the spindle"));
    field(tr("nose to bed, up"), QStringLiteral("machine.gap"));
    field(tr("collet nut, length"), QStringLiteral("machine.nut_length"));
    field(tr("spindle's width"), QStringLiteral("machine.nose_width"));
    field(tr("dust shoe, width"), QStringLiteral("machine.shoe_width"));
    field(tr("shoe below nose"), QStringLiteral("machine.shoe_below"));
    group(tr("Spoil board"));
    field(tr("thickness"), QStringLiteral("machine.spoil_thickness"));
    field(tr("replaced below"), QStringLiteral("machine.spoil_least"));
    field(tr("uneven by"), QStringLiteral("machine.spoil_uneven"));
    field(tr("clamps find"), QStringLiteral("machine.bed_hold"));
    field(tr("apart"), QStringLiteral("machine.bed_pitch"));
    field(tr("first from the corner"), QStringLiteral("machine.bed_first"));
    group(tr("Its own programs"));
    connect(deed(tr("Surface the spoil board…"),
                 tr("a program that takes half a millimetre off all of it, the widest flat bit; "
                    "first of the two")),
            &QPushButton::clicked, this, [this] { Q_EMIT bedProgramWanted(true); });
    connect(deed(tr("Engrave its lines…"),
                 tr("a program that engraves both lines through the crossing; run after surfacing "
                    "and without homing in between, the crossing is then where it says")),
            &QPushButton::clicked, this, [this] { Q_EMIT bedProgramWanted(false); });
}

} // namespace wren::app
