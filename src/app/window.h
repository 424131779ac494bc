#pragma once

#include "book/shop_book.h"
#include "document.h"
#include "sheet.h"

#include <QMainWindow>

#include <filesystem>

class QLabel;
class QPushButton;
class QStackedWidget;

namespace wren::app {

class BookPanel;
class FindingsBand;
class Ledger;
class MachinePanel;
class RouteBand;
class RulerBand;
class ShadedBand;
class TapeBand;

/// The window: full-width bands, nothing beside the work.
class Window : public QMainWindow {
    Q_OBJECT
public:
    explicit Window(std::filesystem::path book, QWidget* parent = nullptr);

    /// Opens a project; what cannot be opened is told in the findings band.
    bool open(const QString& file);
    bool saveTo(const QString& file);
    /// Writes programs and report in a worker thread; posted() follows.
    void postTo(const QString& folder);
    /// Reads the shop book in a worker thread and marks what it knows of the programs on the sheet.
    void readBook();

    Document& document() { return document_; }
    Sheet& sheet() { return sheet_; }
    MachinePanel& machine() { return *machine_; }
    bool settled() const;

Q_SIGNALS:
    void posted(bool done);

protected:
    void closeEvent(QCloseEvent*) override;

private:
    void makeHeader(QWidget* header);
    void makeShortcuts();
    void showStation();
    void refreshHeader();
    void askOpen();
    void askSave(bool elsewhere);
    void askPost();
    void askCsv();
    bool mayLeave();
    void markRuns();

    Document document_;
    Sheet sheet_;
    std::filesystem::path book_;
    std::vector<RunRecord> runs_; ///< the book as last read
    QLabel* title_ = nullptr;
    QLabel* summary_ = nullptr;
    QPushButton* undo_ = nullptr;
    QPushButton* redo_ = nullptr;
    QPushButton* unit_ = nullptr;
    QPushButton* shade_ = nullptr;
    RouteBand* route_ = nullptr;
    RulerBand* ruler_ = nullptr;
    ShadedBand* shaded_ = nullptr;
    Ledger* ledger_ = nullptr;
    TapeBand* tape_ = nullptr;
    FindingsBand* findings_ = nullptr;
    MachinePanel* machine_ = nullptr;
    BookPanel* bookPanel_ = nullptr;
    QStackedWidget* middle_ = nullptr;
};

} // namespace wren::app
