#include "book/measure_form.h"

#include "base/error.h"
#include "base/length.h"
#include "book/write_down.h"
#include "frame/text.h"
#include "frame/theme.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace wren::app {
namespace {

QLabel* cell(const QString& text, const QFont& font, const char* name = "label") {
    auto* label = new QLabel(text);
    label->setFont(font);
    label->setObjectName(QLatin1String(name));
    return label;
}

} // namespace

MeasureForm::MeasureForm(Sheet& sheet, std::filesystem::path book, PartId part,
                         const BookReadingPtr& reading, QWidget* parent)
    : QDialog(parent), sheet_(sheet), book_(std::move(book)), drawn_(sheet.derivedPtr()),
      cut_(reading ? CutAlready(reading->memory.runs, sheet.project().name) : CutAlready()) {
    setObjectName(QStringLiteral("measure"));
    setWindowTitle(tr("The %1 as it came out").arg(qs(part.name())));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    column->addWidget(cell(tr("As read off the caliper, each with its unit: 55.93 mm or 2.202 in. "
                              "What is left empty stays as it is."),
                           words(14)));
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(22);
    grid->setVerticalSpacing(8);
    int column0 = 0;
    for (const QString& head : {QString(), tr("drawn"), tr("measured last"), tr("cuts follow"),
                                tr("read now")}) {
        grid->addWidget(cell(head, words(13)), 0, column0++);
    }
    int at = 1;
    const std::vector<Record> readings =
        reading ? reading->memory.of("measurement") : std::vector<Record>();
    for (const KnownSize& size : knownSizes(*drawn_, part, readings)) {
        addRow(grid, size, at++);
    }
    column->addLayout(grid);
    auto* last = new QHBoxLayout;
    last->addWidget(cell(tr("wood's moisture, per cent"), words(14)));
    moisture_ = new QLineEdit;
    moisture_->setFont(figures(14));
    moisture_->setFixedWidth(70);
    moisture_->setObjectName(QStringLiteral("moisture"));
    moisture_->setAccessibleName(tr("wood's moisture, per cent"));
    last->addWidget(moisture_);
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
    connect(write, &QPushButton::clicked, this, &MeasureForm::take);
    trouble_ = cell(QString(), words(14), "trouble");
    trouble_->setStyleSheet(QStringLiteral("color: #9A3A1E;"));
    trouble_->setWordWrap(true);
    column->addWidget(trouble_);
    column->addLayout(last);
}

void MeasureForm::addRow(QGridLayout* grid, const KnownSize& size, int at) {
    const LengthUnit unit = sheet_.unit();
    const auto shown = [&](const std::optional<double>& mm) {
        return mm ? qs(formatLength(*mm, unit, unit == LengthUnit::mm ? 2 : 3))
                  : QStringLiteral("–");
    };
    QLabel* name = cell(qs(size.size->label), words(15));
    name->setToolTip(size.size->key ? tr("%1 follows it").arg(QLatin1String(size.size->follows))
                                    : tr("it tells %1").arg(QLatin1String(size.size->follows)));
    grid->addWidget(name, at, 0);
    grid->addWidget(cell(shown(size.drawn), figures(14)), at, 1);
    const QString when = size.when.empty() ? QString()
                                           : QStringLiteral(", ") + qs(size.when.substr(0, 10));
    grid->addWidget(cell(shown(size.read) + when, figures(14)), at, 2);
    grid->addWidget(cell(size.size->key ? shown(size.used) : tr("nothing"), figures(14), "derived"),
                    at, 3);
    auto* entry = new QLineEdit;
    entry->setFont(figures(15));
    entry->setFixedWidth(130);
    entry->setObjectName(QLatin1String(size.size->name));
    entry->setAccessibleName(qs(size.size->label));
    grid->addWidget(entry, at, 4);
    rows_.push_back({size, entry});
}

void MeasureForm::take() {
    Project next = sheet_.document().project();
    std::vector<Record> records;
    QStringList names;
    kept_.clear();
    try {
        for (const Row& row : rows_) {
            const std::string text = row.entry->text().trimmed().toStdString();
            if (text.empty()) {
                continue;
            }
            const Reading reading{row.size.size->name, text,
                                  moisture_->text().trimmed().toStdString()};
            const Measured m = measured(*drawn_, next, reading, cut_);
            records.push_back(measurementRecord(*drawn_, reading, m));
            next = m.project;
            for (const std::string& kept : m.kept) {
                kept_ << qs(kept);
            }
            names << qs(row.size.size->label);
        }
        if (records.empty()) {
            trouble_->setText(tr("Nothing is read yet: give at least one size, with its unit."));
            return;
        }
    } catch (const Error& e) {
        trouble_->setText(QString::fromUtf8(e.what()));
        return;
    }
    setEnabled(false);
    writeDown(this, book_, std::move(records), [this, next, names](const QString& trouble) {
        setEnabled(true);
        if (!trouble.isEmpty()) {
            trouble_->setText(trouble);
            return;
        }
        if (!(next == sheet_.document().project())) {
            sheet_.document().change(next, tr("measured: %1").arg(names.join(", ")));
        }
        accept();
    });
}

} // namespace wren::app
