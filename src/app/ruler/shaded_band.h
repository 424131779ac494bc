#pragma once

#include "frame/sheet.h"
#include "ruler/relief.h"

#include <QWidget>

#include <array>
#include <functional>

class QPushButton;

namespace wren::app {

/// A lit relief that turns: the stock at the moment on the tape, the part as designed, or the
/// proved wood coloured by what it misses of the design. Drag to roll it about its length and swing
/// it, wheel to come nearer, arrow keys likewise, D for the next of the three. Drawn in a worker
/// thread.
class ShadedBand : public QWidget {
    Q_OBJECT
public:
    explicit ShadedBand(Sheet& sheet, QWidget* parent = nullptr);

    enum class Look { wood, designed, missed };

    bool settled() const { return !busy_ && !wanted_; }
    void setLook(Look look);
    Look look() const { return look_; }
    const QImage& image() const { return image_; }

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
    /// Draws for the worker; a null picture when there is nothing to show.
    std::function<QImage()> drawing(const ReliefView& view, QSize size) const;

    Sheet& sheet_;
    Look look_ = Look::wood;
    std::array<QPushButton*, 3> looks_{};
    ReliefView view_;
    QImage image_;
    bool busy_ = false;
    bool wanted_ = false;
    QPointF dragFrom_;
};

} // namespace wren::app
