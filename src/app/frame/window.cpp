#include "frame/window.h"

#include "base/error.h"
#include "frame/findings_band.h"
#include "frame/route_band.h"
#include "frame/tape_band.h"
#include "frame/telling.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "frame/tools_band.h"
#include "frame/tray_band.h"
#include "job/posting.h"
#include "numbers/ledger.h"
#include "book/book_page.h"
#include "pages/machine_room.h"
#include "pages/new_board.h"
#include "ruler/bed_band.h"
#include "ruler/ruler_band.h"
#include "ruler/shaded_band.h"
#include "ruler/whole_band.h"
#include "state/autosave.h"
#include "state/background.h"
#include "state/errand.h"
#include "tracing/import_desk.h"
#include "tracing/outline_desk.h"
#include "tracing/trace_desk.h"

#include <QApplication>
#include <QCloseEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QShortcut>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <array>

namespace wren::app {
namespace {

QString numberWord(int n) {
    static const char* const names[] = {"no",   "one", "two",   "three", "four",
                                        "five", "six", "seven", "eight", "nine"};
    return n >= 0 && n <= 9 ? QLatin1String(names[n]) : QString::number(n);
}

} // namespace

Window::Window(std::filesystem::path book, QWidget* parent)
    : QMainWindow(parent), sheet_(document_), book_(std::move(book)) {
    setWindowTitle(QStringLiteral("Upland Wren"));
    qApp->installEventFilter(this);
    installTelling();
    makeBands();
    followState();
    followBands();
    followDesks();
    followFindings();
    makeShortcuts();
    refreshHeader();
    showStation();
    readBook();
    ruler_->setFocus(); // the work is in the drawing
    resize(1280, 800);
    restoreGeometry(QSettings().value(QStringLiteral("window")).toByteArray());
    if (QSettings().value(QStringLiteral("inches")).toBool()) {
        document_.setUnit(LengthUnit::inch);
    }
}

void Window::makeHeader(QWidget* header) {
    auto* row = new QHBoxLayout(header);
    row->setContentsMargins(18, 7, 12, 3);
    title_ = new QLabel;
    title_->setFont(words(21, true));
    summary_ = new QLabel;
    summary_->setFont(words(14));
    summary_->setStyleSheet(QStringLiteral("color: #5B6058;"));
    summary_->setMinimumWidth(1); // the first to give way in a narrow window
    row->addWidget(title_);
    row->addSpacing(10);
    row->addWidget(summary_);
    row->addStretch(1);
    const auto word = [row](const QString& text, const QString& tip) {
        auto* b = new QPushButton(text);
        b->setObjectName(QStringLiteral("word"));
        b->setFont(words(14));
        b->setToolTip(tip);
        row->addWidget(b);
        return b;
    };
    connect(word(tr("New"), tr("a board from nothing (Ctrl+N)")), &QPushButton::clicked, this,
            &Window::startNew);
    connect(word(tr("Open"), tr("a project file (Ctrl+O)")), &QPushButton::clicked, this,
            &Window::askOpen);
    connect(word(tr("Save"), tr("keep the project (Ctrl+S; Ctrl+Shift+S under another name)")),
            &QPushButton::clicked, this, [this] { askSave(false); });
    undo_ = word(tr("Undo"), QString());
    connect(undo_, &QPushButton::clicked, &document_, &Document::undo);
    redo_ = word(tr("Redo"), QString());
    connect(redo_, &QPushButton::clicked, &document_, &Document::redo);
    export_ = word(tr("Export"),
                   tr("the fret table, a template to print, the drawing or the solid (Ctrl+E)"));
    connect(export_, &QPushButton::clicked, this, &Window::askExport);
    connect(word(tr("Post"), tr("write the programs and the report to a folder (Ctrl+P)")),
            &QPushButton::clicked, this, &Window::askPost);
    shade_ = word(tr("Wood"), tr("the wood as a shaded view that turns, or the strips (S)"));
    connect(shade_, &QPushButton::clicked, this, [this] { sheet_.setShaded(!sheet_.shaded()); });
    unit_ = word(QString(), tr("millimetres or inches (U)"));
    unit_->setMinimumWidth(118);
    connect(unit_, &QPushButton::clicked, this, [this] {
        document_.setUnit(document_.unit() == LengthUnit::mm ? LengthUnit::inch : LengthUnit::mm);
    });
}

void Window::makeShortcuts() {
    const auto on = [this](const QKeySequence& keys, auto f) {
        connect(new QShortcut(keys, this), &QShortcut::activated, this, f);
    };
    on(QKeySequence::Open, [this] { askOpen(); });
    on(QKeySequence::Save, [this] { askSave(false); });
    on(QKeySequence(QStringLiteral("Ctrl+Shift+S")), [this] { askSave(true); });
    on(QKeySequence::Undo, [this] { document_.undo(); });
    on(QKeySequence(QStringLiteral("Ctrl+Shift+Z")), [this] { document_.redo(); });
    on(QKeySequence(QStringLiteral("Ctrl+Y")), [this] { document_.redo(); });
    on(QKeySequence(QStringLiteral("Ctrl+P")), [this] { askPost(); });
    on(QKeySequence(QStringLiteral("Ctrl+E")), [this] { askExport(); });
    on(QKeySequence::New, [this] { startNew(); });
    on(QKeySequence(QStringLiteral("Alt+Left")), [this] { ledger_->turnLeaf(-1); });
    on(QKeySequence(QStringLiteral("Alt+Right")), [this] { ledger_->turnLeaf(1); });
    on(QKeySequence(QStringLiteral("U")), [this] { unit_->click(); });
    on(QKeySequence(QStringLiteral("S")), [this] { shade_->click(); });
    on(QKeySequence(QStringLiteral("N")), [this] {
        numbersFolded_ = !numbersFolded_;
        showStation();
    });
    on(QKeySequence(QStringLiteral("T")), [this] {
        tapeFolded_ = !tapeFolded_;
        showStation();
    });
    on(QKeySequence(QStringLiteral("A")), [this] {
        if (!sheet_.addable().empty() && !onTop_) {
            offerThings(tray_->isVisible() ? static_cast<QWidget*>(tray_) : ledger_);
        }
    });
    on(QKeySequence(Qt::Key_PageDown), [this] { findings_->step(1); });
    on(QKeySequence(Qt::Key_PageUp), [this] { findings_->step(-1); });
    on(QKeySequence(QStringLiteral("[")), [this] { sheet_.setPiece(sheet_.piece() - 1); });
    on(QKeySequence(QStringLiteral("]")), [this] { sheet_.setPiece(sheet_.piece() + 1); });
    on(QKeySequence(Qt::Key_F8), [this] {
        const Derived* d = sheet_.derived();
        if (d && !d->findings.empty() && d->findings.front().atX) {
            sheet_.setCursor(*d->findings.front().atX);
        }
    });
    for (int i = 0; i < stationCount; ++i) {
        on(QKeySequence(QStringLiteral("Alt+%1").arg((i + 1) % 10)),
           [this, i] { sheet_.setStation(static_cast<Station>(i)); });
    }
}

Window::~Window() {
    if (errand_) {
        errand_->request_stop();
    }
}

bool Window::settled() const {
    return sheet_.settled() && bookRead_ == bookReadings_ &&
           (!shaded_->isVisible() || shaded_->settled()) && machine_->settled();
}

/// What can be added, where the pointer or the cursor is.
void Window::offerThings(QWidget* below) {
    QMenu menu(this);
    menu.setFont(words(14));
    for (const NewThing& thing : sheet_.addable()) {
        menu.addAction(qs(thing.name), [this, thing] { ruler_->add(thing); });
    }
    menu.exec(below->mapToGlobal(QPoint(0, -menu.sizeHint().height())));
}

void Window::showStation() {
    const Station s = sheet_.station();
    const bool things = tray_->wanted();
    // The tape tells of the day at the machine: while a part is drawn, the drawing has its room.
    const bool drawing = s <= Station::whole;
    const std::array<std::pair<QWidget*, bool>, 3> bands{
        {{tray_, things && !onTop_ && !sheet_.shaded()},
         {ledger_, s < Station::machine && !onTop_ && (!numbersFolded_ || !sheet_.taken().empty())},
         {tape_, !onTop_ && tapeFolded_ == drawing}}};
    for (const bool shown : {false, true}) { // what goes makes room for what comes
        for (const auto& [band, visible] : bands) {
            if (visible == shown) {
                band->setVisible(visible);
            }
        }
    }
    if (onTop_) {
        middle_->setCurrentWidget(onTop_);
    } else if (s == Station::machine) {
        middle_->setCurrentWidget(machine_);
        machine_->setFocus();
    } else if (s == Station::book) {
        readBook();
        middle_->setCurrentWidget(bookPage_);
    } else if (s == Station::tools) {
        middle_->setCurrentWidget(tools_);
    } else if (s == Station::whole) {
        middle_->setCurrentWidget(whole_);
    } else if (sheet_.showsBed()) {
        middle_->setCurrentWidget(bed_);
    } else {
        middle_->setCurrentWidget(sheet_.shaded() ? static_cast<QWidget*>(shaded_)
                                                  : static_cast<QWidget*>(ruler_));
    }
    shade_->setText(sheet_.shaded() ? tr("Strips") : tr("Wood"));
    shade_->setEnabled(s < Station::machine && s != Station::tools && s != Station::whole &&
                       !sheet_.showsBed() && !onTop_);
}

void Window::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    ledger_->takeRoom();
}

/// Undo and redo are the document's, wherever the caret is, unless a field holds typing that was
/// not taken yet: then the field's own comes first.
bool Window::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(event);
        const auto* line = qobject_cast<QLineEdit*>(watched);
        const bool undo = key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo);
        if (undo && line && line->window() == this && !line->isModified()) {
            event->ignore();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void Window::refreshHeader() {
    const Project& p = document_.project();
    title_->setText(qs(p.name));
    setWindowTitle(document_.changedSinceSave() ? tr("%1, not saved - Upland Wren").arg(qs(p.name))
                                                : tr("%1, saved - Upland Wren").arg(qs(p.name)));
    summary_->setText(
        tr("%1, %2 scale, %3 strings%4")
            .arg(p.neck.joint == NeckJoint::none ? tr("fretboard")
                 : p.carved()                    ? tr("neck, its frets in its own face")
                              : (document_.project().wantsBody() ? tr("fretboard, neck and body")
                                                                 : tr("fretboard and neck")))
            .arg(qs(formatLength(p.board.scaleLength, document_.unit(), 1)),
                 numberWord(p.board.strings),
                 document_.changedSinceSave() ? tr(", not saved") : QString()));
    const History& h = document_.history();
    undo_->setEnabled(h.canUndo());
    undo_->setToolTip(h.canUndo() ? tr("take back: %1 (Ctrl+Z)").arg(qs(h.undoName())) : QString());
    redo_->setEnabled(h.canRedo());
    redo_->setToolTip(h.canRedo() ? tr("again: %1 (Ctrl+Shift+Z)").arg(qs(h.redoName()))
                                  : QString());
    unit_->setText(document_.unit() == LengthUnit::mm ? tr("shown in mm") : tr("shown in inches"));
}

void Window::readBook() {
    machine_->setBookRead(false);
    // Readings may end out of turn: an older one never stands over a newer.
    inBackground(
        this, [file = book_, project = document_.project().name] { return app::readBook(file, project); },
        [this, turn = ++bookReadings_](const BookReadingPtr& reading) {
            if (turn != bookReadings_) {
                return;
            }
            bookRead_ = turn;
            machine_->setBookRead(true);
            if (!reading->trouble.empty()) {
                findings_->refuse(qs(reading->trouble));
                return;
            }
            watch_->look();
            reading_ = reading;
            machine_->setBook(reading);
            bookPage_->setBook(reading);
            markRuns();
        });
}

/// Which of the programs on the sheet the book knows as done.
void Window::markRuns() {
    const Derived* d = sheet_.derived();
    int stale = 0;
    int next = 0;
    std::vector<bool> done;
    for (const PostedProgram& p : d ? d->programs : std::vector<PostedProgram>{}) {
        const bool same = reading_ && reading_->done(d->project.name, p);
        done.push_back(same);
        stale += !same && reading_ && reading_->ranOnce(d->project.name, p);
        next = next == 0 && !same ? p.program.order : next;
    }
    const auto doneCount = std::count(done.begin(), done.end(), true);
    route_->setRuns(static_cast<int>(doneCount), stale,
                    reading_ ? static_cast<int>(reading_->memory.runs.size()) : 0);
    machine_->setNext(next, done);
}

void Window::closeEvent(QCloseEvent* e) {
    if (machine_->busy()) {
        findings_->refuse(tr("A program is running; stop it before leaving."));
        e->ignore();
        return;
    }
    if (!mayLeave()) {
        e->ignore();
        return;
    }
    autosave_->letGo();
    while (!autosave_->idle()) { // its file is still being written, and then taken away
        QApplication::processEvents(QEventLoop::ExcludeUserInputEvents |
                                    QEventLoop::WaitForMoreEvents);
    }
    QSettings().setValue(QStringLiteral("window"), saveGeometry());
    QSettings().setValue(QStringLiteral("inches"), document_.unit() == LengthUnit::inch);
    e->accept();
}

} // namespace wren::app
