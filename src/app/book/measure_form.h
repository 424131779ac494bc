#pragma once

#include "frame/sheet.h"
#include "job/measure.h"
#include "state/book_reading.h"

#include <QDialog>

#include <filesystem>
#include <vector>

class QLabel;
class QLineEdit;

namespace wren::app {

/// Sizes of a finished part, as read off the caliper: drawn, measured and used beside one another.
/// What is written down goes into the book, and into the project where cuts follow it.
class MeasureForm : public QDialog {
    Q_OBJECT
public:
    MeasureForm(Sheet& sheet, std::filesystem::path book, PartId part,
                const BookReadingPtr& reading, QWidget* parent);

    /// Whether there is anything to ask for.
    bool any() const { return !rows_.empty(); }
    /// Of what was written down: what is cut already and keeps its size, in sentences.
    QString kept() const { return kept_.join(QLatin1Char(' ')); }
    void take(); ///< writes it down and closes, or says in one sentence why not

private:
    struct Row {
        KnownSize size;
        QLineEdit* entry;
    };
    void addRow(class QGridLayout* grid, const KnownSize& size, int at);

    Sheet& sheet_;
    std::filesystem::path book_;
    DerivedPtr drawn_; ///< what the sizes are of
    CutAlready cut_;
    QStringList kept_;
    std::vector<Row> rows_;
    QLineEdit* moisture_;
    QLabel* trouble_;
};

} // namespace wren::app
