#include "book/hand_view.h"

#include "book/write_down.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "state/maker.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QTreeWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace wren::app {
namespace {

enum Column { what, number, when, by, minutes, columns };
constexpr int stepRole = Qt::UserRole;

QLineEdit* entry(const QString& name, int width, const QFont& font) {
    auto* e = new QLineEdit;
    e->setFont(font);
    e->setFixedWidth(width);
    e->setAccessibleName(name);
    return e;
}

} // namespace

HandView::HandView(Sheet& sheet, std::filesystem::path book, QWidget* parent)
    : QWidget(parent), sheet_(sheet), file_(std::move(book)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* head = new QHBoxLayout;
    const auto label = [&](const QString& text) {
        auto* l = new QLabel(text);
        l->setFont(words(14));
        head->addWidget(l);
        return l;
    };
    label(tr("done by"));
    who_ = entry(tr("who does the work"), 180, words(14));
    who_->setObjectName(QStringLiteral("who"));
    head->addWidget(who_);
    head->addSpacing(14);
    label(tr("minutes it took"));
    minutes_ = entry(tr("minutes the work took"), 80, figures(14));
    minutes_->setObjectName(QStringLiteral("minutes"));
    minutes_->setPlaceholderText(tr("if known"));
    head->addWidget(minutes_);
    head->addSpacing(20);
    left_ = label(QString());
    left_->setObjectName(QStringLiteral("label"));
    head->addStretch(1);
    column->addLayout(head);
    list_ = new QTreeWidget;
    list_->setColumnCount(columns);
    list_->setHeaderLabels({tr("by hand, in this order"), tr("this instrument"), tr("done on"),
                            tr("by"), tr("minutes")});
    list_->setAccessibleName(tr("Work by hand"));
    list_->setFont(words(15));
    list_->header()->setFont(words(13));
    list_->setRootIsDecorated(false);
    list_->setItemsExpandable(false);
    list_->setIndentation(18);
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(what, QHeaderView::Stretch);
    for (int c = number; c < columns; ++c) {
        list_->header()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
    }
    column->addWidget(list_, 1);
    who_->setText(makerAtWork());
    connect(who_, &QLineEdit::editingFinished, this, [this] { setMakerAtWork(who_->text()); });
    connect(list_, &QTreeWidget::itemChanged, this, &HandView::ticked);
    connect(&sheet_, &Sheet::derivedChanged, this, &HandView::rebuild);
    connect(&sheet_.document(), &Document::unitChanged, this, &HandView::rebuild);
}

void HandView::show(const BookReadingPtr& book, const QString& search) {
    book_ = book;
    search_ = search;
    rebuild();
}

void HandView::rebuild() {
    if (!isVisibleTo(window()) || !sheet_.derived()) {
        return;
    }
    filling_ = true;
    const int at = list_->currentItem() ? list_->currentItem()->data(what, stepRole).toInt() : -1;
    list_->clear();
    steps_ = benchSteps(*sheet_.derived(), sheet_.unit(),
                        book_ ? book_->memory.of("handwork") : std::vector<Record>());
    const bool may = book_ && !book_->readOnly;
    QTreeWidgetItem* phase = nullptr;
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        const BenchStep& s = steps_[i];
        if (!search_.isEmpty() && !qs(s.id()).contains(search_, Qt::CaseInsensitive)) {
            continue;
        }
        if (!phase || phase->text(what) != qs(s.phase)) {
            phase = new QTreeWidgetItem(list_, {qs(s.phase)});
            phase->setFont(what, words(15, true));
            phase->setFlags(Qt::ItemIsEnabled);
            phase->setData(what, stepRole, -1);
        }
        auto* item = new QTreeWidgetItem(
            phase, {qs(s.what), qs(s.number), qs(s.done.substr(0, 10)), qs(s.by),
                    s.minutes > 0 ? QString::number(s.minutes) : QString()});
        item->setData(what, stepRole, int(i));
        item->setCheckState(what, s.done.empty() ? Qt::Unchecked : Qt::Checked);
        item->setFlags(may ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable
                           : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        item->setToolTip(what, may ? tr("Space ticks it") : tr("The book may only be read here."));
        for (int c = number; c < columns; ++c) {
            item->setFont(c, figures(14));
        }
        if (int(i) == at) {
            list_->setCurrentItem(item);
        }
    }
    list_->expandAll();
    const auto open = std::count_if(steps_.begin(), steps_.end(),
                                    [](const BenchStep& s) { return s.done.empty(); });
    left_->setText(open == 0 ? tr("all of it is done")
                             : tr("%1 of %2 still to do").arg(open).arg(steps_.size()));
    filling_ = false;
}

void HandView::ticked(QTreeWidgetItem* item) {
    const int i = item->data(what, stepRole).toInt();
    if (filling_ || i < 0) {
        return;
    }
    const BenchStep& step = steps_[static_cast<std::size_t>(i)];
    const bool done = item->checkState(what) == Qt::Checked;
    if (done == !step.done.empty()) {
        return;
    }
    std::vector<Record> records;
    try {
        records.push_back(benchRecord(sheet_.project().name, step, done,
                                      who_->text().trimmed().toStdString(),
                                      minutes_->text().trimmed().toStdString()));
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
        rebuild();
        return;
    }
    minutes_->clear(); // they were this one's
    setMakerAtWork(who_->text());
    writeDown(this, file_, std::move(records), [this](const QString& trouble) {
        if (!trouble.isEmpty()) {
            Q_EMIT refused(trouble);
        }
        Q_EMIT changed();
    });
}

} // namespace wren::app
