#pragma once

#include "relief.h"
#include "sheet.h"

#include <QWidget>

namespace wren::app {

/// The stock at the moment on the tape as a lit relief that turns: drag to roll it about its length
/// and swing it, wheel to come nearer, arrow keys likewise. Drawn in a worker thread.
class ShadedBand : public QWidget {
    Q_OBJECT
public:
    explicit ShadedBand(Sheet& sheet, QWidget* parent = nullptr);

    bool settled() const { return !busy_ && !wanted_; }

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override { redraw(); }
    void showEvent(QShowEvent*) override { redraw(); }
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void redraw();

    Sheet& sheet_;
    ReliefView view_;
    QImage image_;
    bool busy_ = false;
    bool wanted_ = false;
    QPointF dragFrom_;
};

} // namespace wren::app
