// The ledger's leaves for work by hand and for designs kept under names.

#include "base/error.h"
#include "frame/text.h"
#include "job/cut_list.h"
#include "job/hand_sheet.h"
#include "job/list_keys.h"
#include "job/variant.h"
#include "numbers/ledger.h"
#include "numbers/value_field.h"

#include <QLineEdit>
#include <QPushButton>

namespace wren::app {

void Ledger::leafByHand() {
    constexpr int inColumn = 5;
    int n = 0;
    for (const HandSheetKind& kind : handSheetKinds()) {
        if (n++ % inColumn == 0) {
            group(n == 1 ? tr("A page for the bench") : QString(QChar(0xA0)));
        }
        const QString name = qs(kind.name);
        QPushButton* button = deed(qs(kind.label), qs(kind.words));
        button->setCheckable(true);
        button->setChecked(name == handSheet_);
        connect(button, &QPushButton::clicked, this, [this, name] {
            handSheet_ = name;
            rebuilding_.start(0);
        });
    }
    groupBelow(tr("On paper"));
    connect(deed(tr("Write it as PDF"), tr("the page; what is laid on the wood at full size too")),
            &QPushButton::clicked, this, [this] { Q_EMIT handSheetWanted(handSheet_); });
    group(tr("Its numbers"));
    scrolledRows(
        [this](const Derived& d) {
            try {
                return qs(handSheetText(handSheet(d, handSheet_.toStdString(), sheet_.unit())));
            } catch (const Error& e) {
                return qs(e.what());
            }
        },
        QStringLiteral("handNumbers"), tr("Numbers of the page for the bench"));
}

void Ledger::leafSawing() {
    fieldWidth_ = 88;
    group(tr("Sawing and planing take"));
    field(tr("saw's kerf"), QStringLiteral("sawing.kerf"));
    field(tr("longer than blank"), QStringLiteral("sawing.longer"));
    field(tr("wider than blank"), QStringLiteral("sawing.wider"));
    field(tr("planed off"), QStringLiteral("sawing.planing"));
    group(tr("Router sled"));
    field(tr("bit's edge to its end"), QStringLiteral("sled.bit_to_end"));
    field(tr("width it lies on"), QStringLiteral("sled.bearing"));
    connect(deed(tr("Add a board"), tr("one more that stands in the shop")), &QPushButton::clicked,
            this, [this] {
                changeProject([](const Project& p) { return withAdded(p, "sawing.boards", {}); },
                              tr("a board in the shop"));
            });
    connect(
        deed(tr("Add a wood of your own"), tr("one that is not in the lists, by what it weighs")),
        &QPushButton::clicked, this, [this] {
            changeProject([](const Project& p) { return withAdded(p, "woods", {}); },
                          tr("a wood of one's own"));
        });
    boardFields();
    for (std::size_t i = 0; i < sheet_.document().project().woods.size(); ++i) {
        const QString path = QStringLiteral("woods.%1").arg(qulonglong(i));
        fieldWidth_ = 138;
        group(tr("Wood of your own %1").arg(qulonglong(i + 1)));
        field(tr("name"), path + QStringLiteral(".name"));
        field(tr("weighs"), path + QStringLiteral(".density"));
        field(tr("is cut like"), path + QStringLiteral(".cuts_like"));
        removal(tr("Take it out"), tr("as long as nothing is made of it"), path, tr("a wood less"));
    }
}

void Ledger::removal(const QString& words, const QString& tip, const QString& path,
                     const QString& what) {
    connect(deed(words, tip), &QPushButton::clicked, this, [this, path, what] {
        changeProject([path](const Project& p) { return withRemoved(p, path.toStdString()); },
                      what);
    });
}

void Ledger::boardFields() {
    const std::vector<RoughBoard>& boards = sheet_.document().project().sawing.boards;
    for (std::size_t i = 0; i < boards.size(); ++i) {
        const QString path = QStringLiteral("sawing.boards.%1").arg(qulonglong(i));
        fieldWidth_ = 138; // "black-locust" and longer
        group(tr("Board %1").arg(qulonglong(i + 1)));
        field(tr("wood"), path + QStringLiteral(".wood"));
        field(tr("length"), path + QStringLiteral(".length"));
        field(tr("width"), path + QStringLiteral(".width"));
        field(tr("thickness"), path + QStringLiteral(".thickness"));
        derived(tr("in use"), [i](const Derived& d) {
            const std::vector<double> yields = cutList(d).yields;
            return i < yields.size() ? tr("%1 %").arg(100 * yields[i], 0, 'f', 0) : dash;
        });
        removal(tr("Take it away"), tr("it is used up, or kept for something else"), path,
                tr("a board less"));
    }
}

void Ledger::showComparison(const QString& text) {
    comparison_ = text;
    rebuilding_.start(0);
}

void Ledger::changeProject(const std::function<Project(const Project&)>& how,
                           const QString& words) {
    try {
        sheet_.document().change(how(sheet_.document().project()), words);
        Q_EMIT accepted();
    } catch (const Error& e) {
        Q_EMIT refused(qs(e.what()));
    }
}

void Ledger::variantDeeds(const Variant& v) {
    group(v.frozen ? tr("%1, frozen").arg(qs(v.name)) : qs(v.name));
    const std::string name = v.name;
    connect(deed(tr("Take it"), tr("make it the present design; Undo takes that back")),
            &QPushButton::clicked, this, [this, name] {
                changeProject([name](const Project& p) { return takenVariant(p, name); },
                              tr("another variant"));
            });
    connect(deed(tr("Compare with it"), tr("what differs, what that moves, which programs go "
                                           "stale")),
            &QPushButton::clicked, this, [this, name] { Q_EMIT comparisonWanted(qs(name)); });
    connect(deed(v.frozen ? tr("Thaw it") : tr("Freeze it"),
                 tr("a frozen one is neither replaced nor dropped")),
            &QPushButton::clicked, this, [this, name, frozen = v.frozen] {
                changeProject(
                    [name, frozen](const Project& p) { return withFrozen(p, name, !frozen); },
                    frozen ? tr("a thawed variant") : tr("a frozen variant"));
            });
    QPushButton* drop = deed(tr("Drop it"), v.frozen ? tr("it is frozen: thaw it first")
                                                     : tr("out of the project; Undo brings it "
                                                          "back"));
    drop->setEnabled(!v.frozen);
    connect(drop, &QPushButton::clicked, this, [this, name] {
        changeProject([name](const Project& p) { return withoutVariant(p, name); },
                      tr("a dropped variant"));
    });
}

void Ledger::leafVariants() {
    group(tr("Keep this design"));
    auto* name = new QLineEdit;
    name->setObjectName(QStringLiteral("variantName"));
    name->setAccessibleName(tr("Name to keep the present design under"));
    name->setPlaceholderText(tr("its name"));
    name->setFixedWidth(170);
    grid_->addWidget(name, row_++, 0, 1, 2);
    const auto keep = [this, name] {
        const std::string typed = name->text().trimmed().toStdString();
        changeProject([typed](const Project& p) { return withVariant(p, typed); }, tr("a variant"));
    };
    connect(name, &QLineEdit::returnPressed, this, keep);
    connect(deed(tr("Keep it under this name"), tr("beside the present design, in the same file")),
            &QPushButton::clicked, this, keep);
    note(
        [](const Derived&) {
            return tr("Several designs can be tried and laid beside one another; the one that is "
                      "to be built is frozen.");
        },
        190);
    const std::vector<Variant>& variants = sheet_.document().project().variants;
    if (variants.empty()) {
        group(QString(QChar(0xA0))); // so that the first does not spread over the whole leaf
    }
    for (const Variant& v : variants) {
        variantDeeds(v);
    }
    if (!comparison_.isEmpty()) {
        group(tr("Compared"));
        scrolledRows([this](const Derived&) { return comparison_; }, QStringLiteral("comparison"),
                     tr("What the two designs differ in"));
    }
}

} // namespace wren::app
