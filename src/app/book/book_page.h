#pragma once

#include "book/book_views.h"
#include "book/hand_view.h"
#include "book/run_model.h"

#include <QWidget>

#include <filesystem>

class QLabel;
class QLineEdit;
class QPushButton;
class QStackedWidget;
class QTableView;

namespace wren::app {

/// The shop's book: what is on the rack, what the bits have done, how far the instruments are, what
/// is to do by hand, what was run and written down, where time goes. Whatever is typed into the
/// search narrows all of it.
class BookPage : public QWidget {
    Q_OBJECT
public:
    BookPage(Sheet& sheet, std::filesystem::path book, QWidget* parent = nullptr);

    void setBook(const BookReadingPtr& book);
    enum class Leaf { rack, bits, instruments, hand, runs, written, time };
    void turnTo(Leaf leaf);
    /// The form that asks for the part's sizes, for whoever shows it; null: nothing is asked of it.
    class MeasureForm* measureForm(PartId part, QWidget* parent);
    /// The part is cut from the blank from now on, which is kept for this instrument. Throws Error
    /// where it cannot be.
    void takeBlank(PartId part, const RackBlank& blank);

Q_SIGNALS:
    void changed(); ///< something was written down
    void told(QString sentence);
    void refused(QString sentence);

private:
    void makeHead(class QVBoxLayout* column);
    void makeDeeds(class QVBoxLayout* column);
    QTableView* table(QAbstractTableModel* model, const QString& name);
    void showAll();
    void offerKinds();
    void writeOne(const std::string& kind, const std::map<std::string, std::string>& begun);
    void measure();
    void takeForPart();
    void saveCard();
    void saveRuns();
    void backUp();
    void restore();
    void takenInHand();
    void allowWriting(bool may);

    Sheet& sheet_;
    std::filesystem::path file_;
    BookReadingPtr book_;
    std::vector<QPushButton*> leaves_;
    QLineEdit* search_;
    QStackedWidget* stack_;
    RackView* rack_;
    BitsView* bits_;
    InstrumentsView* instruments_;
    HandView* hand_;
    TimeView* time_;
    RunModel* runs_;
    RecordModel* records_;
    QTableView* runTable_;
    QTableView* recordTable_;
    QPushButton* take_;
    std::vector<QPushButton*> writing_; ///< what writes in the book
    QLabel* inHand_;
};

} // namespace wren::app
