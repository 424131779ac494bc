#pragma once

#include "base/watch.h"
#include "state/book_reading.h"
#include "state/book_watch.h"
#include "frame/sheet.h"
#include "job/posted.h"
#include "state/document.h"

#include <QMainWindow>

#include <filesystem>
#include <functional>
#include <optional>
#include <vector>

class QLabel;
class QPushButton;
class QStackedWidget;

namespace wren::app {

class Autosave;
class BookPage;
class FindingsBand;
class Ledger;
class MachineRoom;
class NewBoard;
class RouteBand;
class RulerBand;
class BedBand;
class ProgramDesk;
class WholeBand;
class ShadedBand;
class TapeBand;
class TrayBand;
class TraceDesk;
class ImportDesk;
class OutlineDesk;
class ToolsBand;

/// The window: full-width bands, nothing beside the work.
class Window : public QMainWindow {
    Q_OBJECT
public:
    explicit Window(std::filesystem::path book, QWidget* parent = nullptr);
    ~Window() override;

    /// Opens a project; what cannot be opened is told in the findings band. Work on it that a
    /// window left behind without saving is put on top.
    bool open(const QString& file);
    /// Work without a file that a window left behind; true when there was some.
    bool recover();
    void startNew();          ///< the page for a board from nothing
    void lookForOldPosting(); ///< says so where programs beside the file are of an older design
    // These write in a worker thread; the signals of the same name follow.
    void saveTo(const QString& file);
    void postTo(const QString& folder);
    void exportTo(const QString& file, const QString& format, const QString& paper);
    void testSlotsTo(const QString& folder);
    void exportWholeTo(const QString& file, const QString& format, const QString& paper);
    void handSheetTo(const QString& file, const QString& name, const QString& paper);
    void compareWith(const QString& variant);
    void fitTo(const QString& folder, const QString& pocket, double by);
    /// Writes a program for the machine's bed: surfacing it, or its lines.
    void bedProgramTo(const QString& folder, bool surface);
    /// Lays a program from anywhere on a part of the design.
    void openProgram(const QString& file);
    /// The same part out of another sheet, posted as a trial.
    void trialTo(const QString& folder, PartId part, const QString& wood, double thickness);
    /// Derives, proves and posts every instrument of the batch.
    void batchTo(const QString& folder);
    void fixtureTo(const QString& folder);
    /// Reads the shop book in a worker thread and marks what it knows of the programs on the sheet.
    void readBook();

    Document& document() { return document_; }
    Sheet& sheet() { return sheet_; }
    MachineRoom& machine() { return *machine_; }
    bool settled() const;

Q_SIGNALS:
    void posted(bool done);
    void saved(bool done);
    void exported(bool done);

protected:
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    void closeEvent(QCloseEvent*) override;

private:
    QString partWord() const;
    void makeHeader(QWidget* header);
    void makeBands();
    // What of the window follows what: window_wiring.cpp.
    void followState();
    void followBands();
    void followDesks();
    void followFindings();
    void putOnTop(QWidget* page);
    void makeShortcuts();
    void showStation();
    void offerThings(QWidget* below);
    void refreshHeader();
    void askOpen();
    bool askSave(bool elsewhere); ///< false: no file was named, nothing is being saved
    void askPost();
    void askExport();
    struct ExportChoice; ///< a way something can be written
    void offerExports(const std::vector<ExportChoice>& choices, const QString& what,
                      void (Window::*write)(const QString&, const QString&, const QString&));
    bool drawnYet(); ///< else says that it is not
    void askHandSheet(const QString& name);
    void askTestSlots();
    void askFit(const QString& pocket, double by);
    void askFixture();
    void askBedProgram(bool surface);
    void askControllerFile(bool write);
    void controllerFile(const QString& file, bool write); ///< its description, to or from a file
    void askBatch();
    void askProgram();
    void askTrial();
    bool mayLeave();
    bool saveAndWait();
    void markRuns();
    void tellOldPosting();
    void errand(const QString& what, std::function<QString(const Watch&)> work,
                std::function<void(bool)> done);

    Document document_;
    Sheet sheet_;
    Autosave* autosave_ = nullptr;
    std::optional<std::stop_source> errand_; ///< of what is under way
    std::filesystem::path book_;
    BookReadingPtr reading_;             ///< the book as last read; null: not yet
    int bookReadings_ = 0;               ///< begun so far
    int bookRead_ = 0;                   ///< the newest that has ended
    std::optional<PostedFolder> beside_; ///< posted beside the file, not yet held against the sheet
    QLabel* title_ = nullptr;
    QLabel* summary_ = nullptr;
    QPushButton* undo_ = nullptr;
    QPushButton* redo_ = nullptr;
    QPushButton* unit_ = nullptr;
    QPushButton* shade_ = nullptr;
    QPushButton* export_ = nullptr;
    RouteBand* route_ = nullptr;
    RulerBand* ruler_ = nullptr;
    WholeBand* whole_ = nullptr;
    BedBand* bed_ = nullptr;
    ProgramDesk* programDesk_ = nullptr;
    ShadedBand* shaded_ = nullptr;
    ToolsBand* tools_ = nullptr;
    NewBoard* newBoard_ = nullptr;
    TraceDesk* traceDesk_ = nullptr;
    OutlineDesk* outlineDesk_ = nullptr;
    ImportDesk* importDesk_ = nullptr;
    QWidget* onTop_ = nullptr; ///< the page that lies over the stations; mostly none
    Ledger* ledger_ = nullptr;
    TrayBand* tray_ = nullptr;
    TapeBand* tape_ = nullptr;
    bool numbersFolded_ = false; ///< the ledger, by its key
    bool tapeFolded_ = false;
    FindingsBand* findings_ = nullptr;
    MachineRoom* machine_ = nullptr;
    BookPage* bookPage_ = nullptr;
    BookWatch* watch_ = nullptr;
    QStackedWidget* middle_ = nullptr;
};

} // namespace wren::app
