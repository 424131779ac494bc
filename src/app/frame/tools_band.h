#pragma once

#include "frame/sheet.h"

#include <QWidget>

namespace wren::app {

/// The drawer and the router. The bits stand side by side, to scale, their tips where a through cut
/// takes them, in front of the blank: which flutes reach is seen at once. Beside them the router's
/// bed from above with the blank on its lines. Left and Right choose the bit in hand.
class ToolsBand : public QWidget {
    Q_OBJECT
public:
    explicit ToolsBand(Sheet& sheet, QWidget* parent = nullptr);

    QSize minimumSizeHint() const override { return {800, 262}; }
    /// Where a bit stands, for a click on it.
    QRectF placeOf(int bit) const;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Bench; ///< scale and levels of the drawer's picture
    Bench bench() const;
    void drawBlank(QPainter& p, const Bench& bench) const;
    void drawBit(QPainter& p, const Bench& bench, int index) const;
    void drawRule(QPainter& p, const Bench& bench) const;
    void drawBed(QPainter& p) const;
    QRectF bedArea() const;
    int firstShown() const;
    int shown() const;

    Sheet& sheet_;
};

} // namespace wren::app
