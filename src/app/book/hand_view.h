#pragma once

#include "frame/sheet.h"
#include "job/bench_steps.h"
#include "state/book_reading.h"

#include <QWidget>

#include <filesystem>

class QLabel;
class QLineEdit;
class QTreeWidget;
class QTreeWidgetItem;

namespace wren::app {

/// The work by hand on the instrument that is open, with its numbers: ticked as it is done, with
/// who did it and how long it took.
class HandView : public QWidget {
    Q_OBJECT
public:
    HandView(Sheet& sheet, std::filesystem::path book, QWidget* parent = nullptr);

    void show(const BookReadingPtr& book, const QString& search);

Q_SIGNALS:
    void changed(); ///< something was written down
    void refused(QString sentence);

protected:
    void resizeEvent(QResizeEvent*) override;

private:
    void rebuild();
    void ticked(QTreeWidgetItem* item);

    Sheet& sheet_;
    std::filesystem::path file_;
    BookReadingPtr book_;
    QString search_;
    std::vector<BenchStep> steps_; ///< as listed
    QTreeWidget* list_;
    QLineEdit* who_;
    QLineEdit* minutes_;
    QLineEdit* note_;
    QLabel* left_;
    bool filling_ = false;
};

} // namespace wren::app
