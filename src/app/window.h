#pragma once

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
    bool postTo(const QString& folder);
    void readBook();

    Document& document() { return document_; }
    Sheet& sheet() { return sheet_; }
    MachinePanel& machine() { return *machine_; }
    bool settled() const;

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

    Document document_;
    Sheet sheet_;
    std::filesystem::path book_;
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
