#include "book/record_form.h"

#include "base/error.h"
#include "book/write_down.h"
#include "frame/choice.h"
#include "frame/text.h"
#include "frame/theme.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace wren::app {

RecordForm::RecordForm(std::filesystem::path book, const RecordKind& kind,
                       const std::map<std::string, std::string>& begun, QWidget* parent)
    : QDialog(parent), book_(std::move(book)), kind_(kind) {
    setObjectName(QStringLiteral("record"));
    setWindowTitle(tr("Write down: %1").arg(QLatin1String(kind.meaning)));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    auto* form = new QFormLayout;
    form->setLabelAlignment(Qt::AlignLeft);
    form->setHorizontalSpacing(18);
    for (const FieldOf& f : kind.fields) {
        auto* name = new QLabel(QLatin1String(f.name) + (f.needed ? tr(" (needed)") : QString()));
        name->setFont(words(14));
        name->setToolTip(QLatin1String(f.meaning));
        const auto it = begun.find(f.name);
        if (f.kind == FieldKind::choice) {
            QStringList all;
            for (const std::string& c : f.choices) {
                all << qs(c);
            }
            QPushButton* button = choiceButton(QLatin1String(f.name), QLatin1String(f.meaning), 170);
            putOn(button, it == begun.end() ? all.first() : qs(it->second));
            connect(button, &QPushButton::clicked, this,
                    [button, all] { offer(button, all, [] {}); });
            form->addRow(name, button);
            choices_.emplace_back(&f, button);
            continue;
        }
        auto* line = new QLineEdit(it == begun.end() ? QString() : qs(it->second));
        line->setFont(f.kind == FieldKind::words ? words(14) : figures(14));
        line->setMinimumWidth(320);
        line->setObjectName(QLatin1String(f.name));
        line->setAccessibleName(QLatin1String(f.name));
        line->setToolTip(QLatin1String(f.meaning));
        line->setPlaceholderText(f.kind == FieldKind::length
                                     ? tr("with its unit, as 12.5 mm")
                                     : QString::fromLatin1(f.meaning));
        form->addRow(name, line);
        lines_.emplace_back(&f, line);
    }
    column->addLayout(form);
    trouble_ = new QLabel;
    trouble_->setFont(words(14));
    trouble_->setWordWrap(true);
    trouble_->setStyleSheet(QStringLiteral("color: #9A3A1E;"));
    column->addWidget(trouble_);
    auto* last = new QHBoxLayout;
    last->addStretch(1);
    auto* leave = new QPushButton(tr("Leave it"));
    auto* write = new QPushButton(tr("Write it down"));
    for (QPushButton* b : {leave, write}) {
        b->setObjectName(QStringLiteral("smallDeed"));
        b->setFont(words(15));
        last->addWidget(b);
    }
    write->setDefault(true);
    connect(leave, &QPushButton::clicked, this, &QDialog::reject);
    connect(write, &QPushButton::clicked, this, &RecordForm::take);
    column->addLayout(last);
}

void RecordForm::take() {
    std::vector<std::string> typed;
    for (const auto& [field, line] : lines_) {
        const std::string text = line->text().trimmed().toStdString();
        if (!text.empty()) {
            typed.push_back(field->name + ("=" + text));
        }
    }
    for (const auto& [field, button] : choices_) {
        typed.push_back(field->name + ("=" + wordOn(button).toStdString()));
    }
    try {
        const Record record = recordFrom(kind_.name, typed);
        setEnabled(false);
        writeDown(this, book_, {record}, [this](const QString& trouble) {
            setEnabled(true);
            trouble_->setText(trouble);
            if (trouble.isEmpty()) {
                accept();
            }
        });
    } catch (const Error& e) {
        trouble_->setText(QString::fromUtf8(e.what()));
    }
}

} // namespace wren::app
