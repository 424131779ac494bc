#pragma once

#include "sheet.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace wren::app {

/// The heaviest finding in words, the count of the others, and a way to its place. Page Up and Page
/// Down step through them. What a field refused is shown here too, until something is accepted.
class FindingsBand : public QWidget {
    Q_OBJECT
public:
    explicit FindingsBand(Sheet& sheet, QWidget* parent = nullptr);

    void refuse(const QString& sentence);
    void tell(const QString& sentence); ///< something done, e.g. where a file went
    void clear();
    void step(int direction);

Q_SIGNALS:
    void showPlace(double x);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void refresh();

    Sheet& sheet_;
    std::size_t index_ = 0;
    QString refusal_;
    QString news_;
    QPushButton* place_;
    QPushButton* previous_;
    QPushButton* next_;
};

} // namespace wren::app
