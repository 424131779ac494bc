// Several instruments of one design: what each one's own blanks measure.
#include "numbers/ledger.h"

#include "frame/text.h"
#include "job/batch.h"
#include "numbers/value_field.h"

#include <QPushButton>

#include <array>

namespace wren::app {
namespace {

struct SizeShown {
    const char* key;
    const char* label;
};

/// One more of this design, called by the first number that is free.
Project withOneMore(const Project& project) {
    Project next = project;
    BatchPiece piece;
    for (std::size_t i = 1;
         i == 1 || std::any_of(next.batch.begin(), next.batch.end(),
                               [&](const BatchPiece& other) { return other.name == piece.name; });
         ++i) {
        piece.name = project.name + " " + std::to_string(i);
    }
    next.batch.push_back(piece);
    return next;
}

std::vector<SizeShown> shownFor(Part part) {
    switch (part) {
    case Part::neck:
        return {{"neck_thickness", QT_TRANSLATE_NOOP("Ledger", "neck blank, thick")},
                {"neck_width", QT_TRANSLATE_NOOP("Ledger", "wide")},
                {"neck_length", QT_TRANSLATE_NOOP("Ledger", "long")}};
    case Part::body:
        return {{"body_length", QT_TRANSLATE_NOOP("Ledger", "body's pieces, long")},
                {"body_width", QT_TRANSLATE_NOOP("Ledger", "wide")},
                {"body_thickness", QT_TRANSLATE_NOOP("Ledger", "body or core, thick")},
                {"top_thickness", QT_TRANSLATE_NOOP("Ledger", "top, thick")},
                {"back_thickness", QT_TRANSLATE_NOOP("Ledger", "back, thick")}};
    case Part::board:
        break;
    }
    return {{"board_thickness", QT_TRANSLATE_NOOP("Ledger", "board blank, thick")},
            {"board_width", QT_TRANSLATE_NOOP("Ledger", "wide")},
            {"board_length", QT_TRANSLATE_NOOP("Ledger", "long")}};
}

} // namespace

void Ledger::leafBatch() {
    fieldWidth_ = 122;
    const std::size_t n = sheet_.document().project().batch.size();
    group(tr("Several of this design"));
    connect(deed(tr("One more instrument"), tr("made of the same design from blanks of its own")),
            &QPushButton::clicked, this,
            [this] { changeProject(withOneMore, tr("one more instrument")); });
    if (n > 0) {
        field(tr("side by side, apart"), QStringLiteral("batch_layout.lines"));
        connect(deed(tr("Prove and post the batch…"),
                     tr("every instrument to a folder of its own, with one order of all their "
                        "programs")),
                &QPushButton::clicked, this, &Ledger::batchWanted);
    }
    note(
        [n](const Derived&) {
            return n == 0 ? tr("Each instrument keeps its own measured blanks. All are proved, and "
                               "their programs put in one order with the fewest changes of bit.")
                          : tr("Where no size is typed, the design's counts. Boards and necks may "
                               "lie side by side on lines of their own; engrave those at Tools, "
                               "The router.");
        },
        230);
    for (std::size_t i = 0; i < n; ++i) {
        const QString path = QStringLiteral("batch.%1").arg(qulonglong(i));
        group(tr("Instrument %1").arg(qulonglong(i + 1)));
        field(tr("name"), path + QStringLiteral(".name"));
        for (const SizeShown& size : shownFor(sheet_.part())) {
            field(tr(size.label), path + QLatin1Char('.') + QLatin1String(size.key));
        }
        removal(tr("Take it out"), tr("of the batch; Undo puts it back"), path,
                tr("one instrument less"));
    }
}

} // namespace wren::app
