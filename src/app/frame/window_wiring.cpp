#include "frame/window.h"

#include "base/error.h"
#include "frame/findings_band.h"
#include "frame/route_band.h"
#include "frame/tape_band.h"
#include "frame/text.h"
#include "frame/tools_band.h"
#include "frame/tray_band.h"
#include "numbers/ledger.h"
#include "book/book_page.h"
#include "book/measure_form.h"
#include "pages/machine_room.h"
#include "pages/new_board.h"
#include "pages/program_desk.h"
#include "ruler/bed_band.h"
#include "ruler/ruler_band.h"
#include "ruler/shaded_band.h"
#include "ruler/whole_band.h"
#include "state/autosave.h"
#include "state/errand.h"
#include "tracing/import_desk.h"
#include "tracing/outline_desk.h"
#include "tracing/trace_desk.h"

#include <QStackedWidget>
#include <QVBoxLayout>

namespace wren::app {

void Window::makeBands() {
    auto* whole = new QWidget(this);
    auto* bands = new QVBoxLayout(whole);
    bands->setContentsMargins(0, 0, 0, 0);
    bands->setSpacing(0);
    auto* header = new QWidget;
    makeHeader(header);
    route_ = new RouteBand(sheet_);
    ruler_ = new RulerBand(sheet_);
    whole_ = new WholeBand(sheet_);
    bed_ = new BedBand(sheet_);
    programDesk_ = new ProgramDesk(sheet_);
    shaded_ = new ShadedBand(sheet_);
    tools_ = new ToolsBand(sheet_);
    newBoard_ = new NewBoard;
    traceDesk_ = new TraceDesk(document_);
    outlineDesk_ = new OutlineDesk(document_);
    importDesk_ = new ImportDesk(document_);
    ledger_ = new Ledger(sheet_);
    tray_ = new TrayBand(sheet_);
    tape_ = new TapeBand(sheet_);
    findings_ = new FindingsBand(sheet_);
    machine_ = new MachineRoom(sheet_, book_);
    bookPage_ = new BookPage(sheet_, book_);
    middle_ = new QStackedWidget;
    for (QWidget* w : {static_cast<QWidget*>(ruler_), static_cast<QWidget*>(whole_),
                       static_cast<QWidget*>(bed_), static_cast<QWidget*>(shaded_),
                       static_cast<QWidget*>(machine_), static_cast<QWidget*>(bookPage_),
                       static_cast<QWidget*>(tools_), static_cast<QWidget*>(newBoard_),
                       static_cast<QWidget*>(traceDesk_), static_cast<QWidget*>(outlineDesk_),
                       static_cast<QWidget*>(importDesk_), static_cast<QWidget*>(programDesk_)}) {
        middle_->addWidget(w);
    }
    bands->addWidget(header);
    bands->addWidget(route_);
    bands->addWidget(middle_, 1);
    bands->addWidget(tray_);
    bands->addWidget(ledger_);
    bands->addWidget(tape_);
    bands->addWidget(findings_);
    setCentralWidget(whole);
    // Nothing is in hand at first: no word in the header should look chosen.
    whole->setAccessibleName(tr("Upland Wren"));
    whole->setFocusPolicy(Qt::ClickFocus);
    whole->setFocus();
}

void Window::followState() {
    connect(&sheet_, &Sheet::stationChanged, this, [this] {
        onTop_ = nullptr;
        showStation();
        if (sheet_.station() == Station::proof || sheet_.station() == Station::machine) {
            lookForOldPosting();
        }
    });
    connect(&sheet_, &Sheet::shadedChanged, this, &Window::showStation);
    connect(&sheet_, &Sheet::derivedChanged, this, &Window::markRuns);
    connect(&sheet_, &Sheet::derivedChanged, this, [this] {
        if (tray_->isHidden() == tray_->wanted()) {
            showStation(); // the first things, or the last is gone
        }
    });
    connect(&sheet_, &Sheet::derivedChanged, this, &Window::tellOldPosting);
    connect(&sheet_, &Sheet::takenChanged, this, &Window::showStation);
    connect(&sheet_, &Sheet::leafChanged, this, &Window::showStation);
    connect(&sheet_, &Sheet::failed, findings_, &FindingsBand::refuse);
    connect(&document_, &Document::changed, this, &Window::refreshHeader);
    connect(&document_, &Document::unitChanged, this, &Window::refreshHeader);
    autosave_ = new Autosave(document_, this);
    connect(autosave_, &Autosave::failed, findings_, &FindingsBand::refuse);
}

void Window::followBands() {
    connect(tray_, &TrayBand::filled, this, &Window::showStation);
    connect(ledger_, &Ledger::refused, findings_, &FindingsBand::refuse);
    connect(ledger_, &Ledger::accepted, findings_, &FindingsBand::clear);
    connect(ledger_, &Ledger::testSlotsWanted, this, &Window::askTestSlots);
    connect(ledger_, &Ledger::fixtureWanted, this, &Window::askFixture);
    connect(ledger_, &Ledger::programWanted, this, &Window::askProgram);
    connect(ledger_, &Ledger::trialWanted, this, &Window::askTrial);
    connect(ledger_, &Ledger::batchWanted, this, &Window::askBatch);
    connect(ledger_, &Ledger::bedProgramWanted, this, &Window::askBedProgram);
    connect(ledger_, &Ledger::controllerFileWanted, this, &Window::askControllerFile);
    connect(ledger_, &Ledger::fitWanted, this, &Window::askFit);
    connect(ledger_, &Ledger::handSheetWanted, this, &Window::askHandSheet);
    connect(ledger_, &Ledger::comparisonWanted, this, &Window::compareWith);
    connect(ledger_, &Ledger::doubleWanted, ruler_, &RulerBand::doubleIt);
    connect(ledger_, &Ledger::mirrorWanted, ruler_, &RulerBand::mirror);
    connect(ledger_, &Ledger::removeWanted, ruler_, &RulerBand::remove);
    connect(tray_, &TrayBand::addWanted, this, &Window::offerThings);
    connect(ruler_, &RulerBand::refused, findings_, &FindingsBand::refuse);
    connect(ruler_, &RulerBand::accepted, findings_, &FindingsBand::clear);
    connect(bed_, &BedBand::refused, findings_, &FindingsBand::refuse);
    connect(bed_, &BedBand::accepted, findings_, &FindingsBand::clear);
    connect(whole_, &WholeBand::refused, findings_, &FindingsBand::refuse);
    connect(whole_, &WholeBand::accepted, findings_, &FindingsBand::clear);
    connect(machine_, &MachineRoom::refused, findings_, &FindingsBand::refuse);
    connect(machine_, &MachineRoom::told, findings_, &FindingsBand::tell);
    connect(machine_, &MachineRoom::trialWanted, this, &Window::askTrial);
    connect(machine_, &MachineRoom::runEnded, this, &Window::readBook);
    connect(machine_, &MachineRoom::measureWanted, this, [this](PartId part) {
        if (MeasureForm* form = bookPage_->measureForm(part, this)) {
            form->open();
        } else {
            findings_->tell(tr("Nothing that is cut next follows from the %1.").arg(qs(part.name())));
        }
    });
    connect(bookPage_, &BookPage::changed, this, &Window::readBook);
    watch_ = new BookWatch(book_, this);
    connect(watch_, &BookWatch::written, this, [this] {
        if (bookPage_->isVisible()) { // elsewhere it is read when it is turned to
            readBook();
        }
    });
    connect(bookPage_, &BookPage::told, findings_, &FindingsBand::tell);
    connect(bookPage_, &BookPage::refused, findings_, &FindingsBand::refuse);
}

void Window::putOnTop(QWidget* page) {
    onTop_ = page;
    showStation();
}

void Window::followDesks() {
    connect(newBoard_, &NewBoard::made, this, [this](const Project& project) {
        onTop_ = nullptr;
        autosave_->letGo(); // what was here before has been saved or let go
        document_.startNew(project);
        sheet_.setStation(Station::board);
        showStation();
        ruler_->setFocus();
        findings_->tell(tr("%1 is on the sheet. Save gives it a file.").arg(qs(project.name)));
    });
    connect(ledger_, &Ledger::traceWanted, this, [this] {
        putOnTop(traceDesk_);
        traceDesk_->start();
    });
    connect(ledger_, &Ledger::outlineTraceWanted, this, [this] {
        putOnTop(outlineDesk_);
        outlineDesk_->start();
    });
    connect(traceDesk_, &TraceDesk::kept, this, [this](const QString& name) {
        putOnTop(nullptr);
        findings_->tell(tr("The section is kept: a station asks for it as @%1.").arg(name));
    });
    connect(ledger_, &Ledger::importWanted, this, [this] {
        putOnTop(importDesk_);
        importDesk_->start();
    });
    const auto taken = [this](const QString& told) {
        putOnTop(nullptr);
        findings_->tell(told);
    };
    connect(importDesk_, &ImportDesk::taken, this, taken);
    connect(outlineDesk_, &OutlineDesk::kept, this, taken);
    for (PictureDesk* desk :
         {static_cast<PictureDesk*>(traceDesk_), static_cast<PictureDesk*>(outlineDesk_)}) {
        connect(desk, &PictureDesk::left, this, [this] { putOnTop(nullptr); });
        connect(desk, &PictureDesk::refused, findings_, &FindingsBand::refuse);
    }
    connect(importDesk_, &ImportDesk::left, this, [this] { putOnTop(nullptr); });
    connect(importDesk_, &ImportDesk::refused, findings_, &FindingsBand::refuse);
    connect(newBoard_, &NewBoard::left, this, [this] { putOnTop(nullptr); });
    connect(programDesk_, &ProgramDesk::left, this, [this] { putOnTop(nullptr); });
    connect(programDesk_, &ProgramDesk::refused, findings_, &FindingsBand::refuse);
}

void Window::followFindings() {
    connect(findings_, &FindingsBand::stopWanted, this, [this] {
        if (errand_) {
            errand_->request_stop();
        }
    });
    connect(findings_, &FindingsBand::showPlace, this, [this](double x) {
        if (sheet_.station() >= Station::machine) {
            sheet_.setStation(Station::proof);
        }
        sheet_.setCursor(x);
    });
    connect(findings_, &FindingsBand::showThing, this, [this](const QString& path) {
        sheet_.setStation(Station::body);
        sheet_.take(path.toStdString());
        ruler_->setFocus();
    });
    connect(findings_, &FindingsBand::cureWanted, this, [this](const Cure& cure) {
        try {
            document_.change(cured(document_.project(), cure), qs(cure.label));
        } catch (const Error& e) {
            findings_->refuse(QString::fromUtf8(e.what()));
        }
    });
}

} // namespace wren::app
