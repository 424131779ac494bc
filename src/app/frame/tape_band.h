#pragma once

#include "frame/sheet.h"
#include "frame/telling.h"

#include <QWidget>

namespace wren::app {

/// The day at the machine as one strip to scale in minutes: programs, and the bit changes between
/// them. Drag along it to see the stock at that moment; Left and Right go by a minute, End shows
/// the finished cut.
class TapeBand : public QWidget, public Telling {
    Q_OBJECT
public:
    explicit TapeBand(Sheet& sheet, QWidget* parent = nullptr);
    QAccessible::Role accessRole() const override;
    QString accessValue() const override;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Piece {
        double x0, x1;     ///< pixels
        double start, end; ///< seconds of machining
        std::size_t program;
    };
    std::vector<Piece> pieces() const;
    double secondsAt(double px) const;
    void drawLoad(QPainter& p, const QRectF& box, const PostedProgram& program) const;
    double pixelOf(double seconds) const;

    Sheet& sheet_;
    QString typed_; ///< a minute, so far
};

} // namespace wren::app
