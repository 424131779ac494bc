// The rows leaves are built of: groups, fields, values that follow, notes, deeds.

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "numbers/ledger.h"
#include "numbers/value_field.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

namespace wren::app {

void Ledger::group(const QString& title) {
    auto* box = new QWidget;
    grid_ = new QGridLayout(box);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(8);
    grid_->setVerticalSpacing(3);
    auto* head = new QLabel(title);
    head->setFont(words(13.5, true));
    grid_->addWidget(head, 0, 0, 1, 2);
    row_ = 1;
    grid_->setRowStretch(20, 1);
    if (columns_->count() > 0) {
        columns_->addStretch(1); // the groups share the whole width
    }
    columns_->addWidget(box);
}

void Ledger::groupBelow(const QString& title) {
    auto* head = new QLabel(title);
    head->setFont(words(13.5, true));
    head->setContentsMargins(0, 8, 0, 0);
    grid_->addWidget(head, row_++, 0, 1, 2);
}

ValueField* Ledger::field(const QString& label, const QString& path) {
    auto* name = new QLabel(label);
    name->setFont(words(12.5));
    name->setObjectName(QStringLiteral("label"));
    auto* f = new ValueField(sheet_.document(), path);
    f->setFixedWidth(fieldWidth_);
    name->setBuddy(f->editor());
    connect(f, &ValueField::refused, this, &Ledger::refused);
    connect(f, &ValueField::accepted, this, &Ledger::accepted);
    connect(f, &ValueField::entered, this, &Ledger::explain);
    grid_->addWidget(name, row_, 0);
    grid_->addWidget(f, row_++, 1);
    return f;
}

void Ledger::derived(const QString& label, Text text) {
    auto* name = new QLabel(label);
    name->setFont(words(12.5));
    name->setObjectName(QStringLiteral("label"));
    auto* value = new QLabel;
    value->setFont(figures(13));
    value->setObjectName(QStringLiteral("derived"));
    value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    value->setMinimumWidth(80);
    value->setContentsMargins(0, 0, 7, 0);
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    grid_->addWidget(name, row_, 0);
    grid_->addWidget(value, row_++, 1);
    derived_.push_back({value, std::move(text)});
}

void Ledger::derivedPlace(std::function<const ProofReport*(const Derived&)> proof,
                          Vec2 ProofReport::*what, std::function<Vec2(Vec2)> told) {
    auto* go = new QPushButton(tr("at (go there)"));
    go->setObjectName(QStringLiteral("word"));
    go->setFont(words(12.5));
    go->setToolTip(tr("puts the cursor at this place, in the plan and in the section"));
    connect(go, &QPushButton::clicked, this, [this, proof, what] {
        const Derived* d = sheet_.derived();
        if (const ProofReport* r = d ? proof(*d) : nullptr) {
            sheet_.setCursor((r->*what).x);
        }
    });
    auto* value = new QLabel;
    value->setFont(figures(12.5));
    value->setObjectName(QStringLiteral("derived"));
    value->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    value->setContentsMargins(0, 0, 7, 0);
    grid_->addWidget(go, row_, 0, Qt::AlignLeft);
    grid_->addWidget(value, row_++, 1);
    derived_.push_back({value, [proof, what, told](const Derived& d) {
                            const ProofReport* r = proof(d);
                            if (!r || r->*what == Vec2{}) {
                                return dash; // nothing was off
                            }
                            const Vec2 at = told(r->*what);
                            return qs(fmt::format("{:.1f}, {:.1f}", at.x, at.y));
                        }});
}

void Ledger::note(Text text, int width) {
    auto* value = new QLabel;
    value->setFont(words(12.5));
    value->setWordWrap(true);
    value->setFixedWidth(width);
    value->setAlignment(Qt::AlignTop);
    grid_->addWidget(value, row_++, 0, 1, 2);
    derived_.push_back({value, std::move(text)});
}

void Ledger::rows(Text text) {
    auto* value = new QLabel;
    value->setFont(figures(12.5));
    value->setObjectName(QStringLiteral("derived"));
    value->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    grid_->addWidget(value, row_++, 0, 1, 2);
    derived_.push_back({value, std::move(text)});
}

void Ledger::scrolledRows(Text text, const QString& name, const QString& meaning) {
    auto* area = new QScrollArea;
    area->setObjectName(name);
    area->setAccessibleName(meaning);
    area->setFrameShape(QFrame::NoFrame);
    area->setWidgetResizable(true);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setFocusPolicy(Qt::StrongFocus); // arrow keys scroll it
    auto* value = new QLabel;
    value->setFont(figures(12.5));
    value->setObjectName(QStringLiteral("derived"));
    value->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    value->setTextInteractionFlags(Qt::TextSelectableByMouse);
    area->setWidget(value);
    area->setMinimumHeight(158); // eight rows, what the other leaves take
    area->setMinimumWidth(QFontMetrics(value->font()).horizontalAdvance(QLatin1Char('0')) * 70);
    grid_->addWidget(area, row_, 0, 1, 2);
    grid_->setRowStretch(row_++, 1);
    derived_.push_back({value, std::move(text)});
}

QPushButton* Ledger::deed(const QString& text, const QString& tip) {
    auto* button = new QPushButton(text);
    button->setObjectName(QStringLiteral("smallDeed"));
    button->setFont(words(12.5, true));
    button->setToolTip(tip);
    grid_->addWidget(button, row_++, 0, 1, 2);
    return button;
}

QString Ledger::mm(double v) const {
    return qs(formatLength(v, sheet_.unit()));
}

} // namespace wren::app
