#include "pages/book_panel.h"

#include "frame/theme.h"

#include <QDateTime>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>

#include <fmt/format.h>

namespace wren::app {
namespace {

/// The clock on the wall, out of UTC in ISO 8601.
QString onTheWall(const std::string& time) {
    const QDateTime when = QDateTime::fromString(QString::fromStdString(time), Qt::ISODate);
    return when.isValid() ? when.toLocalTime().toString(QStringLiteral("yyyy-MM-dd HH:mm"))
                          : QString::fromStdString(time);
}

} // namespace

BookPanel::BookPanel(QWidget* parent) : QWidget(parent) {
    setAutoFillBackground(true);
    QPalette sheet = palette();
    sheet.setColor(QPalette::Window, colour::sheet);
    setPalette(sheet);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(26, 18, 26, 10);
    auto* title = new QLabel(tr("Programs sent, newest first"));
    title->setFont(words(15, true));
    column->addWidget(title);
    empty_ =
        new QLabel(tr("Nothing has been sent yet. At the stop Machine, start a stand-in or give "
                      "a machine's address, then send program 1; the run is entered here."));
    empty_->setFont(words(17));
    empty_->setWordWrap(true);
    empty_->setStyleSheet(QStringLiteral("color: #5B6058;"));
    column->addWidget(empty_);
    table_ = new QTableWidget(0, 7);
    table_->setAccessibleName(tr("Shop book"));
    table_->setHorizontalHeaderLabels({tr("begun"), tr("project"), tr("program"), tr("planned"),
                                       tr("taken"), tr("came out"), tr("remark")});
    table_->verticalHeader()->hide();
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setShowGrid(false);
    table_->setAlternatingRowColors(false);
    table_->horizontalHeader()->setStretchLastSection(true);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    column->addWidget(table_, 1);
    overrides_ = new QLabel;
    overrides_->setFont(words(13));
    overrides_->setWordWrap(true);
    overrides_->setAccessibleName(tr("Stops gone on with"));
    column->addWidget(overrides_);
}

void BookPanel::show(const std::vector<RunRecord>& runs,
                     const std::vector<OverrideRecord>& overrides) {
    constexpr std::size_t most = 8; // the newest
    QStringList lines;
    for (std::size_t i = 0; i < std::min(most, overrides.size()); ++i) {
        const OverrideRecord& o = overrides[i];
        lines << tr("%1  %2, %3: %4, because \u201C%5\u201D")
                     .arg(onTheWall(o.when), QString::fromStdString(o.project),
                          QString::fromStdString(o.part), QString::fromStdString(o.codes),
                          QString::fromStdString(o.reason));
    }
    overrides_->setVisible(!lines.isEmpty());
    overrides_->setText(tr("Stops gone on with, newest first") + QLatin1Char('\n') +
                        lines.join(QLatin1Char('\n')));
    empty_->setVisible(runs.empty());
    table_->setVisible(!runs.empty());
    table_->setRowCount(static_cast<int>(runs.size()));
    int row = 0;
    for (const RunRecord& r : runs) {
        const auto minutes = [](double s) { return fmt::format("{:.1f} min", s / 60); };
        const std::string cells[] = {onTheWall(r.start).toStdString(),
                                     r.project,
                                     r.program,
                                     minutes(r.plannedSeconds),
                                     minutes(r.takenSeconds),
                                     r.outcome + (r.standIn ? ", on a stand-in" : ""),
                                     r.remark};
        for (int c = 0; c < 7; ++c) {
            auto* item = new QTableWidgetItem(QString::fromStdString(cells[c] + "   "));
            item->setFont(c == 1 || c >= 5 ? words(13, c == 5) : figures(12.5));
            if (c == 5) {
                item->setForeground(r.outcome == "done" ? colour::moss : colour::russet);
            }
            item->setToolTip(QString::fromStdString(fmt::format(
                "sent to {}\nSHA-256 {}\ndesign {}", r.address, r.sha256, r.designHash)));
            table_->setItem(row, c, item);
        }
        ++row;
    }
    table_->resizeColumnsToContents();
}

} // namespace wren::app
