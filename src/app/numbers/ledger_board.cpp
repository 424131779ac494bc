#include "job/own_woods.h"
#include "numbers/ledger.h"

#include "base/length.h"
#include "design/markers.h"
#include "frame/text.h"
#include "numbers/value_field.h"
#include "shop/wood.h"

#include <QPushButton>

#include <fmt/format.h>

#include <algorithm>

namespace wren::app {
namespace {

double leastWoodUnder(const Derived& d) {
    double least = 1e9;
    for (const FretPlace& f : d.frets) {
        least = std::min(least, f.woodUnderSlot);
    }
    return least;
}

/// Entries in columns of six, as the ledger has six rows.
QString inColumns(const std::vector<std::string>& entries) {
    constexpr std::size_t deep = 6;
    std::string text;
    for (std::size_t r = 0; r < std::min(deep, entries.size()); ++r) {
        text += r == 0 ? "" : "\n";
        for (std::size_t i = r; i < entries.size(); i += deep) {
            text += entries[i] + "  ";
        }
    }
    return qs(text);
}

} // namespace

void Ledger::leafShape() {
    fieldWidth_ = 104;
    group(tr("Scale and frets"));
    field(tr("scale, bass"), QStringLiteral("board.scale"));
    unset(field(tr("scale, treble"), QStringLiteral("board.treble_scale")), tr("the same"));
    field(tr("square fret"), QStringLiteral("board.square_fret"));
    field(tr("frets"), QStringLiteral("board.frets"));
    field(tr("zero fret"), QStringLiteral("board.zero_fret"));
    field(tr("zero fret to nut"), QStringLiteral("board.behind_zero"));
    group(tr("Strings"));
    field(tr("strings"), QStringLiteral("board.strings"));
    field(tr("handed"), QStringLiteral("board.hand"));
    field(tr("spread at nut"), QStringLiteral("board.nut_spread"));
    field(tr("spread at bridge"), QStringLiteral("board.bridge_spread"));
    field(tr("equal spacing of"), QStringLiteral("board.spacing"));
    group(tr("Width and length"));
    field(tr("at the nut"), QStringLiteral("board.nut_width"));
    field(tr("at last fret"), QStringLiteral("board.last_fret_width"));
    field(tr("past bass string"), QStringLiteral("board.overhang_bass"));
    field(tr("past treble"), QStringLiteral("board.overhang_treble"));
    field(tr("past last fret"), QStringLiteral("board.past_last_fret"));
    derived(tr("length"), [this](const Derived& d) { return mm(d.board->length()); });
    group(tr("Ends"));
    field(tr("end shape"), QStringLiteral("board.end"));
    unset(field(tr("slant angle"), QStringLiteral("board.end_slant")), tr("last fret"));
    field(tr("end radius"), QStringLiteral("board.end_radius"));
    field(tr("nut's ledge"), QStringLiteral("board.nut_shelf"));
    field(tr("ledge height"), QStringLiteral("board.shelf_floor"));
    derived(tr("fret 12 at"), [this](const Derived& d) {
        const auto f = std::find_if(d.frets.begin(), d.frets.end(),
                                    [](const FretPlace& p) { return p.fret == 12; });
        return f == d.frets.end() ? dash : mm(f->fromNut);
    });
    group(tr("Face"));
    field(tr("nut radius"), QStringLiteral("board.radius"));
    unset(field(tr("far radius"), QStringLiteral("board.far_radius")), tr("the same"));
    field(tr("far radius at"), QStringLiteral("board.far_at"));
    field(tr("thickness"), QStringLiteral("board.thickness"));
    derived(tr("edge at head"),
            [this](const Derived& d) { return mm(d.board->edgeThickness(d.board->xLow())); });
    derived(tr("edge at end"),
            [this](const Derived& d) { return mm(d.board->edgeThickness(d.board->xHigh())); });
    group(tr("It comes to"));
    fieldWidth_ = 122;
    field(tr("name"), QStringLiteral("name"));
    derived(tr("widest"), [this](const Derived& d) { return mm(d.board->widest()); });
    derived(tr("face"), [](const Derived& d) {
        return qs(fmt::format("{:.1f} cm\u00B2", d.board->areaOfFace() / 100));
    });
    derived(tr("wood"), [](const Derived& d) {
        return qs(fmt::format("{:.1f} cm\u00B3", d.board->volume() / 1000));
    });
    derived(tr("weighs"), [](const Derived& d) {
        const double density = woodOf(d.project, d.project.blank.wood).density();
        return qs(fmt::format("{:.0f} g", d.board->volume() / 1000 * density));
    });
    derived(tr("under slots"),
            [this](const Derived& d) { return d.frets.empty() ? dash : mm(leastWoodUnder(d)); });
}

/// One a string; equal gaps between strings need them.
void Ledger::leafGauges() {
    const Project& p = sheet_.project();
    const std::size_t n = p.board.gauges.size();
    constexpr std::size_t inColumn = 5;
    for (std::size_t i = 0; i < n; ++i) {
        if (i % inColumn == 0) {
            group(i == 0 ? tr("String gauges, bass to treble") : QString(QChar(0xA0)));
        }
        field(tr("string %1").arg(n - i),
              QStringLiteral("board.gauges.%1.thickness").arg(qulonglong(i)));
    }
    group(n == 0 ? tr("String gauges") : tr("Do with them"));
    note(
        [](const Derived&) {
            return tr("Only equal gaps between strings need them; equal centres do not.");
        },
        190);
    connect(deed(tr("One for every string"), tr("even steps between thick and thin, to be set")),
            &QPushButton::clicked, this, [this] {
                Project q = sheet_.project();
                q.board.gauges = evenGauges(q.board.strings, q.board.scaleLength);
                sheet_.document().change(q, tr("one gauge for every string"));
            });
    if (n > 0) {
        connect(deed(tr("Forget them"), tr("undo brings them back")), &QPushButton::clicked, this,
                [this] {
                    Project q = sheet_.project();
                    q.board.gauges.clear();
                    sheet_.document().change(q, tr("no gauges"));
                });
    }
}

void Ledger::leafSlots() {
    fieldWidth_ = 94;
    group(tr("Fret slots"));
    field(tr("width"), QStringLiteral("board.slot_width"));
    field(tr("depth below face"), QStringLiteral("board.slot_depth"));
    field(tr("stops before edge"), QStringLiteral("board.blind_margin"));
    derived(tr("least wood under"),
            [this](const Derived& d) { return d.frets.empty() ? dash : mm(leastWoodUnder(d)); });
    group(tr("Fret wire"));
    field(tr("tang width"), QStringLiteral("wire.tang_width"));
    field(tr("tang depth"), QStringLiteral("wire.tang_depth"));
    field(tr("over barbs"), QStringLiteral("wire.barb_width"));
    field(tr("crown width"), QStringLiteral("wire.crown_width"));
    field(tr("crown height"), QStringLiteral("wire.crown_height"));
    group(tr("Slot wider than tang"));
    field(tr("at least"), QStringLiteral("wire.fit_least"));
    field(tr("at most"), QStringLiteral("wire.fit_most"));
    unset(field(tr("test slot"), QStringLiteral("wire.measured_slot")), tr("not cut"));
    derived(tr("it is now"), [this](const Derived& d) {
        const FretWire& w = d.project.board.wire;
        return mm(w.measuredSlot.value_or(d.project.board.slotWidth) - w.tangWidth);
    });
    note(
        [](const Derived& d) {
            return d.project.board.wire.measuredSlot
                       ? tr("Judged by what the test cut measured.")
                       : tr("Three slots measured? Type (0.59+0.60+0.60)/3 as the test slot.");
        },
        168);
    group(tr("Test cut"));
    field(tr("offcut long"), QStringLiteral("test.length"));
    field(tr("width"), QStringLiteral("test.width"));
    field(tr("thickness"), QStringLiteral("test.thickness"));
    connect(deed(tr("Write the test cut"),
                 tr("three slots in an offcut, and the form to write on, into a folder")),
            &QPushButton::clicked, this, &Ledger::testSlotsWanted);
    group(tr("Wire for each fret, edge to edge"));
    rows([this](const Derived& d) {
        if (d.frets.empty()) {
            return tr("no frets");
        }
        std::vector<std::string> entries;
        for (const FretPlace& f : d.frets) {
            entries.push_back(
                fmt::format("{:>2} {:>6}", f.fret, formatLengthValue(f.wireLength, sheet_.unit())));
        }
        return inColumns(entries);
    });
}

void Ledger::leafMarkers() {
    group(tr("Face markers"));
    fieldWidth_ = 104;
    field(tr("shape"), QStringLiteral("markers.shape"));
    field(tr("inlay"), QStringLiteral("markers.inlay"));
    field(tr("depth"), QStringLiteral("markers.depth"));
    group(tr("Their size"));
    field(tr("width across"), QStringLiteral("markers.size"));
    field(tr("length inward"), QStringLiteral("markers.reach"));
    field(tr("tip radius"), QStringLiteral("markers.tip"));
    field(tr("tilt"), QStringLiteral("markers.tilt"));
    field(tr("dots at octave"), QStringLiteral("markers.at_octave"));
    field(tr("octave spread"), QStringLiteral("markers.spread"));
    group(tr("Dots in the bass edge"));
    field(tr("across"), QStringLiteral("markers.side_size"));
    field(tr("depth"), QStringLiteral("markers.side_depth"));
    field(tr("below the face"), QStringLiteral("markers.side_below"));
    group(tr("Which frets"));
    const auto places = [this](const QString& text, const QString& tip, const char* frets,
                               std::vector<FretMark> Markers::*list) {
        connect(deed(text, tip), &QPushButton::clicked, this, [this, text, frets, list] {
            Project p = sheet_.project();
            std::vector<FretMark> marks = fretMarks(frets);
            std::erase_if(marks, [&](const FretMark& m) {
                return p.board.frets > 0 && m.fret > p.board.frets;
            });
            p.board.markers.*list = marks;
            sheet_.document().change(p, text);
        });
    };
    constexpr const char* usual = "3 5 7 9 12 15 17 19 21 24"; // common practice, no source
    places(tr("Usual face markers"), tr("at frets %1").arg(QLatin1String(usual)), usual,
           &Markers::face);
    places(tr("Usual side dots"), tr("at frets %1").arg(QLatin1String(usual)), usual,
           &Markers::side);
    places(tr("No face markers"), tr("undo brings them back"), "", &Markers::face);
    places(tr("No side dots"), tr("undo brings them back"), "", &Markers::side);
    note(
        [](const Derived&) {
            return tr("Add one with A; drag it in the plan, or take it in hand in the tray.");
        },
        170);
    group(tr("Side dots: fret, from the nut, above the underside"));
    rows([this](const Derived& d) {
        std::vector<std::string> entries;
        for (const SideDot& dot : sideDots(d.project.board)) {
            entries.push_back(fmt::format("{:>2} {:>6} {:>5}", dot.fret,
                                          formatLengthValue(dot.fromNut, sheet_.unit()),
                                          formatLengthValue(dot.fromUnderside, sheet_.unit())));
        }
        return entries.empty() ? tr("none") : inColumns(entries);
    });
}

} // namespace wren::app
