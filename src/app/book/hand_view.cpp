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

enum Column { what, number, done, noted, columns };
constexpr int stepRole = Qt::UserRole;

QLineEdit* entry(const QString& name, int width, const QFont& font) {
    auto* e = new QLineEdit;
    e->setFont(font);
    if (width > 0) {
        e->setFixedWidth(width);
    }
    e->setAccessibleName(name);
    return e;
}

/// "2026-11-30, Ansa, 75 min"
QString told(const BenchStep& s) {
    QStringList out;
    for (const std::string& part : {s.done.substr(0, 10), s.by}) {
        if (!part.empty()) {
            out << qs(part);
        }
    }
    if (s.minutes > 0) {
        out << QObject::tr("%1 min").arg(s.minutes);
    }
    return out.join(QStringLiteral(", "));
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
    who_ = entry(tr("who does the work"), 130, words(14));
    who_->setObjectName(QStringLiteral("who"));
    head->addWidget(who_);
    head->addSpacing(14);
    label(tr("minutes it took"));
    minutes_ = entry(tr("minutes the work took"), 96, figures(14));
    minutes_->setObjectName(QStringLiteral("minutes"));
    minutes_->setPlaceholderText(tr("if known"));
    head->addWidget(minutes_);
    head->addSpacing(14);
    label(tr("read, or noted"));
    note_ = entry(tr("what was read or is to be remembered of the work"), 0, words(14));
    note_->setObjectName(QStringLiteral("note"));
    note_->setPlaceholderText(tr("1.6 mm bass, 1.4 mm treble …"));
    head->addWidget(note_, 1);
    head->addSpacing(14);
    left_ = label(QString());
    left_->setObjectName(QStringLiteral("label"));
    column->addLayout(head);
    list_ = new QTreeWidget;
    list_->setColumnCount(columns);
    list_->setHeaderLabels({tr("by hand, in this order"), tr("this instrument"), tr("done"),
                            tr("read, or noted")});
    list_->setAccessibleName(tr("Work by hand"));
    list_->setFont(words(14));
    list_->header()->setFont(words(13));
    list_->setRootIsDecorated(false);
    list_->setItemsExpandable(false);
    list_->setIndentation(18);
    list_->setStyleSheet(QStringLiteral("QTreeView::item { padding: 3px 0; }"));
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(what, QHeaderView::Stretch);
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

/// What is to do has the most room; what is longer than its column has a tip.
void HandView::resizeEvent(QResizeEvent* e) {
    QWidget::resizeEvent(e);
    list_->setColumnWidth(number, int(width() * 0.23));
    list_->setColumnWidth(done, int(width() * 0.2));
    list_->setColumnWidth(noted, int(width() * 0.14));
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
            phase->setFont(what, words(14, true));
            phase->setFlags(Qt::ItemIsEnabled);
            phase->setData(what, stepRole, -1);
        }
        auto* item = new QTreeWidgetItem(phase, {qs(s.what), qs(s.number), told(s), qs(s.note)});
        item->setData(what, stepRole, int(i));
        item->setCheckState(what, s.done.empty() ? Qt::Unchecked : Qt::Checked);
        item->setFlags(may ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable
                           : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        item->setToolTip(what, tr("%1; %2").arg(qs(s.what), may ? tr("Space ticks it")
                                                               : tr("the book may only be read here")));
        item->setToolTip(number, qs(s.number));
        item->setToolTip(done, told(s));
        item->setToolTip(noted, qs(s.note));
        for (int c = number; c < columns; ++c) {
            item->setFont(c, figures(13));
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
    const bool isDone = item->checkState(what) == Qt::Checked;
    if (isDone == !step.done.empty()) {
        return;
    }
    std::vector<Record> records;
    try {
        records.push_back(benchRecord(sheet_.project().name, step, isDone,
                                      who_->text().trimmed().toStdString(),
                                      minutes_->text().trimmed().toStdString(),
                                      note_->text().trimmed().toStdString()));
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
        filling_ = true; // the item is still being changed: its list may not be made anew here
        item->setCheckState(what, step.done.empty() ? Qt::Unchecked : Qt::Checked);
        filling_ = false;
        return;
    }
    minutes_->clear(); // they were this one's
    note_->clear();
    setMakerAtWork(who_->text());
    writeDown(this, file_, std::move(records), [this](const QString& trouble) {
        if (!trouble.isEmpty()) {
            Q_EMIT refused(trouble);
        }
        Q_EMIT changed();
    });
}

} // namespace wren::app
