#include "book/book_page.h"

#include "base/error.h"
#include "base/files.h"
#include "book/measure_form.h"
#include "book/record_form.h"
#include "book/run_list.h"
#include "book/write_down.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/job_card.h"
#include "state/background.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QShortcut>
#include <QStackedWidget>
#include <QTableView>
#include <QVBoxLayout>

namespace wren::app {
namespace {

QPushButton* small(const QString& text, const QString& tip) {
    auto* b = new QPushButton(text);
    b->setObjectName(QStringLiteral("smallDeed"));
    b->setFont(words(14));
    b->setToolTip(tip);
    return b;
}

} // namespace

BookPage::BookPage(Sheet& sheet, std::filesystem::path book, QWidget* parent)
    : QWidget(parent), sheet_(sheet), file_(std::move(book)) {
    setAutoFillBackground(true);
    QPalette paper = palette();
    paper.setColor(QPalette::Window, colour::sheet);
    setPalette(paper);
    setAccessibleName(tr("Shop book"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(26, 12, 26, 10);
    column->setSpacing(8);
    makeHead(column);
    stack_ = new QStackedWidget;
    rack_ = new RackView(sheet_);
    bits_ = new BitsView(sheet_);
    instruments_ = new InstrumentsView(sheet_);
    hand_ = new HandView(sheet_, file_);
    connect(hand_, &HandView::changed, this, &BookPage::changed);
    connect(hand_, &HandView::refused, this, &BookPage::refused);
    time_ = new TimeView(sheet_);
    runs_ = new RunModel(this);
    records_ = new RecordModel(this);
    runTable_ = table(runs_, tr("Runs"));
    recordTable_ = table(records_, tr("Written down"));
    const auto scrolled = [](QWidget* view) {
        auto* area = new QScrollArea;
        area->setWidget(view);
        area->setWidgetResizable(true);
        area->setFrameShape(QFrame::NoFrame);
        area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        area->viewport()->setAutoFillBackground(false);
        view->setAutoFillBackground(false);
        return area;
    };
    for (QWidget* w : {static_cast<QWidget*>(rack_), static_cast<QWidget*>(scrolled(bits_)),
                       static_cast<QWidget*>(scrolled(instruments_)), static_cast<QWidget*>(hand_),
                       static_cast<QWidget*>(runTable_),
                       static_cast<QWidget*>(recordTable_), static_cast<QWidget*>(time_)}) {
        stack_->addWidget(w);
    }
    column->addWidget(stack_, 1);
    makeDeeds(column);
    connect(rack_, &RackView::chosen, this, &BookPage::takenInHand);
    connect(&sheet_, &Sheet::derivedChanged, this, [this] {
        bits_->update();
        instruments_->update();
    });
    turnTo(Leaf::rack);
}

void BookPage::makeHead(QVBoxLayout* column) {
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    const QStringList names{tr("Rack"), tr("Bits"),         tr("Instruments"), tr("By hand"),
                            tr("Runs"), tr("Written down"), tr("Time")};
    for (int i = 0; i < names.size(); ++i) {
        QPushButton* leaf = small(names[i], tr("Ctrl+%1").arg(i + 1));
        leaf->setCheckable(true);
        connect(leaf, &QPushButton::clicked, this, [this, i] { turnTo(Leaf(i)); });
        auto* key = new QShortcut(QKeySequence(Qt::CTRL | Qt::Key(Qt::Key_1 + i)), this);
        key->setContext(Qt::WidgetWithChildrenShortcut);
        connect(key, &QShortcut::activated, this, [this, i] { turnTo(Leaf(i)); });
        leaves_.push_back(leaf);
        head->addWidget(leaf);
    }
    head->addStretch(1);
    auto* label = new QLabel(tr("find"));
    label->setFont(words(14));
    head->addWidget(label);
    search_ = new QLineEdit;
    search_->setFont(words(14));
    search_->setFixedWidth(260);
    search_->setObjectName(QStringLiteral("find"));
    search_->setAccessibleName(tr("find in the book"));
    search_->setPlaceholderText(tr("wood, bit, instrument, day …"));
    search_->setClearButtonEnabled(true);
    connect(search_, &QLineEdit::textChanged, this, &BookPage::showAll);
    head->addWidget(search_);
    column->addLayout(head);
}

void BookPage::makeDeeds(QVBoxLayout* column) {
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    const auto deed = [&](const QString& text, const QString& tip, auto slot) {
        QPushButton* b = small(text, tip);
        connect(b, &QPushButton::clicked, this, slot);
        row->addWidget(b);
        return b;
    };
    writing_.push_back(deed(tr("Write down…"),
                            tr("a blank, a fitting, a note, a mishap, what became of a bit"),
                            &BookPage::offerKinds));
    writing_.push_back(deed(tr("Measure…"),
                            tr("sizes of a part that is finished, for what is cut next"),
                            &BookPage::measure));
    take_ = deed(tr("Take it for…"), tr("a part is cut from the blank in hand"),
                 &BookPage::takeForPart);
    writing_.push_back(take_);
    deed(tr("Job card…"), tr("this instrument's steps, sizes and work by hand, to print"),
         &BookPage::saveCard);
    deed(tr("Runs as CSV…"), tr("all of them, for another program to read"), &BookPage::saveRuns);
    deed(tr("Back up…"), tr("the whole book as one file"), &BookPage::backUp);
    writing_.push_back(deed(tr("Restore…"),
                            tr("a backup in the place of the book; what it was is kept beside it"),
                            &BookPage::restore));
    for (QPushButton* b : writing_) {
        b->setProperty("tip", b->toolTip());
    }
    row->addStretch(1);
    inHand_ = new QLabel;
    inHand_->setFont(words(14));
    inHand_->setObjectName(QStringLiteral("label"));
    inHand_->setMinimumWidth(1); // a long note does not widen the window
    column->addWidget(inHand_);
    column->addLayout(row);
}

QTableView* BookPage::table(QAbstractTableModel* model, const QString& name) {
    auto* t = new QTableView;
    t->setModel(model);
    t->setAccessibleName(name);
    t->verticalHeader()->hide();
    t->verticalHeader()->setDefaultSectionSize(28);
    t->setSelectionBehavior(QAbstractItemView::SelectRows);
    t->setShowGrid(false);
    t->setWordWrap(false);
    t->horizontalHeader()->setStretchLastSection(true);
    t->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    t->horizontalHeader()->setResizeContentsPrecision(50); // rows looked at
    return t;
}

void BookPage::turnTo(Leaf leaf) {
    stack_->setCurrentIndex(int(leaf));
    for (std::size_t i = 0; i < leaves_.size(); ++i) {
        leaves_[i]->setChecked(int(i) == int(leaf));
    }
    if (leaf == Leaf::hand) {
        hand_->show(book_, search_->text());
    }
    takenInHand();
}

void BookPage::allowWriting(bool may) {
    for (QPushButton* b : writing_) {
        b->setEnabled(may);
        b->setToolTip(may ? b->property("tip").toString()
                          : tr("The book may only be read here: %1").arg(qs(file_.string())));
    }
}

void BookPage::setBook(const BookReadingPtr& book) {
    book_ = book;
    allowWriting(!book || !book->readOnly);
    showAll();
    runTable_->resizeColumnsToContents();
    recordTable_->resizeColumnsToContents();
}

void BookPage::showAll() {
    const QString text = search_->text();
    for (BookView* view : {static_cast<BookView*>(rack_), static_cast<BookView*>(bits_),
                           static_cast<BookView*>(instruments_), static_cast<BookView*>(time_)}) {
        view->show(book_, text);
    }
    hand_->show(book_, text);
    runs_->show(book_, text);
    records_->show(book_, text);
}

void BookPage::takenInHand() {
    const RackBlank* b = rack_->inHand();
    const bool rack = stack_->currentIndex() == int(Leaf::rack) && b;
    take_->setVisible(rack);
    inHand_->setVisible(rack);
    if (!rack) {
        inHand_->clear();
        return;
    }
    QStringList says;
    const LengthUnit unit = sheet_.unit();
    const auto size = [&](double mm) { return qs(formatLength(mm, unit, unit == LengthUnit::mm ? 1 : 3)); };
    says << tr("%1: %2 thick").arg(qs(b->name), size(b->thickness));
    if (b->bow > 0) {
        says << tr("bow %1").arg(size(b->bow));
    }
    if (b->twist > 0) {
        says << tr("twist %1").arg(size(b->twist));
    }
    if (!b->moisture.empty()) {
        says << tr("%1 % moisture").arg(qs(b->moisture));
    }
    for (const char* field : {"figure", "from", "note"}) {
        if (!b->record.field(field).empty()) {
            says << qs(b->record.field(field));
        }
    }
    inHand_->setText(says.join(QStringLiteral(", ")));
    inHand_->setToolTip(inHand_->text());
}

void BookPage::offerKinds() {
    QMenu menu(this);
    menu.setFont(words(14));
    for (const RecordKind& kind : recordKinds()) {
        menu.addAction(tr("%1: %2").arg(QLatin1String(kind.name), QLatin1String(kind.meaning)), this,
                       [this, &kind] {
                           writeOne(kind.name, {{"project", sheet_.project().name}});
                       });
    }
    menu.exec(QCursor::pos());
}

void BookPage::writeOne(const std::string& kind, const std::map<std::string, std::string>& begun) {
    RecordForm form(file_, recordKind(kind), begun, this);
    if (form.exec() == QDialog::Accepted) {
        Q_EMIT told(tr("It is in the book."));
        Q_EMIT changed();
    }
}

MeasureForm* BookPage::measureForm(PartId part, QWidget* parent) {
    if (!sheet_.derived()) {
        return nullptr;
    }
    auto* form = new MeasureForm(sheet_, file_, part, book_, parent);
    if (!form->any()) {
        delete form;
        return nullptr;
    }
    connect(form, &QDialog::accepted, this, [this, form] {
        Q_EMIT told(form->kept().isEmpty()
                        ? tr("The sizes are in the book, and what follows from them does.")
                        : tr("The sizes are in the book. %1").arg(form->kept()));
        Q_EMIT changed();
    });
    form->setAttribute(Qt::WA_DeleteOnClose);
    return form;
}

void BookPage::measure() {
    QMenu menu(this);
    menu.setFont(words(14));
    for (PartId part : partsFromRack(sheet_.project())) {
        menu.addAction(qs(part.name()), this, [this, part] {
            if (MeasureForm* form = measureForm(part, this)) {
                form->open();
            }
        });
    }
    menu.exec(QCursor::pos());
}

void BookPage::takeForPart() {
    const RackBlank* chosen = rack_->inHand();
    if (!chosen) {
        return;
    }
    QMenu menu(this);
    menu.setFont(words(14));
    for (PartId part : partsFromRack(sheet_.project())) {
        menu.addAction(qs(part.name()), this, [this, part, blank = *chosen] {
            try {
                takeBlank(part, blank);
            } catch (const Error& e) {
                Q_EMIT refused(QString::fromUtf8(e.what()));
            }
        });
    }
    menu.exec(QCursor::pos());
}

void BookPage::takeBlank(PartId part, const RackBlank& blank) {
    Project next = withBlank(sheet_.project(), part, blank);
    const Record kept = reservedFor(blank, next.name);
    sheet_.document().change(std::move(next), tr("%1 for the %2").arg(qs(blank.name), qs(part.name())));
    writeDown(this, file_, {kept}, [this, part, blank](const QString& trouble) {
        if (trouble.isEmpty()) {
            Q_EMIT told(tr("The %1 is cut from %2 now: its sizes and wood are the blank's.")
                            .arg(qs(part.name()), qs(blank.name)));
            Q_EMIT changed();
        } else {
            Q_EMIT refused(trouble);
        }
    });
}

namespace {

/// Writes off the interface thread and tells how it went.
template <typename Work>
void write(BookPage* page, const QString& done, Work work) {
    inBackground(
        page,
        [work]() -> QString {
            try {
                work();
                return {};
            } catch (const Error& e) {
                return QString::fromUtf8(e.what());
            }
        },
        [page, done](const QString& trouble) {
            trouble.isEmpty() ? Q_EMIT page->told(done) : Q_EMIT page->refused(trouble);
            Q_EMIT page->changed();
        });
}

} // namespace

void BookPage::saveCard() {
    if (!sheet_.derived() || sheet_.step() < 3) {
        Q_EMIT refused(tr("Not yet: the programs are being proved."));
        return;
    }
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Job card"), qs(sheet_.project().name) + QStringLiteral(" job card.pdf"),
        tr("PDF (*.pdf)"));
    if (file.isEmpty()) {
        return;
    }
    write(this, tr("The job card is in %1.").arg(file),
          [d = sheet_.derivedPtr(), book = book_, unit = sheet_.unit(), name = file.toStdString()] {
              const JobCard card = jobCard(*d, book ? book->memory : ShopMemory(), unit);
              writeFileSafely(name, cardPdf(card, unit, paperNamed("a4")));
          });
}

void BookPage::saveRuns() {
    const QString file = QFileDialog::getSaveFileName(this, tr("Runs as CSV"),
                                                      QStringLiteral("runs.csv"),
                                                      tr("CSV (*.csv)"));
    if (!file.isEmpty()) {
        write(this, tr("The runs are in %1.").arg(file), [book = book_, name = file.toStdString()] {
            writeFileSafely(name, runsCsv(book ? book->memory.runs : std::vector<RunRecord>()));
        });
    }
}

void BookPage::backUp() {
    const QString file = QFileDialog::getSaveFileName(this, tr("Back up the book"),
                                                      QStringLiteral("shop-backup.sqlite"));
    if (!file.isEmpty()) {
        write(this, tr("The whole book is in %1.").arg(file),
              [book = file_, name = file.toStdString()] { ShopBook(book).backup(name); });
    }
}

void BookPage::restore() {
    const QString file = QFileDialog::getOpenFileName(this, tr("A backup in the place of the book"));
    if (!file.isEmpty()) {
        write(this, tr("%1 is the book now; what it was is kept beside it.").arg(file),
              [book = file_, name = file.toStdString()] { ShopBook::restore(name, book); });
    }
}

} // namespace wren::app
