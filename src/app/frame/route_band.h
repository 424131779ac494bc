#pragma once

#include "frame/sheet.h"
#include "frame/telling.h"

#include <QWidget>

namespace wren::app {

/// The way from numbers to a logged run as one line: where one stands, what is done, what has gone
/// stale. Click, or Alt and a figure; Left and Right when it has the focus.
class RouteBand : public QWidget, public Telling {
    Q_OBJECT
public:
    explicit RouteBand(Sheet& sheet, QWidget* parent = nullptr);
    QAccessible::Role accessRole() const override;
    QString accessValue() const override;

    /// What the book knows of the programs now on the sheet.
    void setRuns(int doneOfThese, int stale, int all);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    enum class Mark { open, done, trouble, busy };
    Mark markOf(Station s) const;
    Mark inHand(int step, bool (*good)(const PartJob&)) const;
    QString tellingOf(Station s) const;
    double stopX(int i) const;

    Sheet& sheet_;
    int done_ = 0;
    int stale_ = 0;
    int all_ = 0;
};

} // namespace wren::app
