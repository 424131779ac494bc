#pragma once

#include "frame/sheet.h"
#include "frame/telling.h"
#include "job/hold_card.h"

#include <QWidget>

#include <optional>

namespace wren::app {

class BedDrawing;

/// The machine's bed from above with the blank of the part in hand on it: lines, inserts, marks,
/// pins, clamps, where the plate lies, the way from home to the zero; beside it what must find room
/// under the spindle. Clamps are taken hold of here: dragged, nudged by the arrows, turned by R,
/// taken away by Delete, gone through by C. Return goes to the next setup or station.
class BedBand : public QWidget, public Telling {
    Q_OBJECT
public:
    explicit BedBand(Sheet& sheet, QWidget* parent = nullptr);
    QAccessible::Role accessRole() const override { return QAccessible::Canvas; }
    QString accessValue() const override;
    QSize minimumSizeHint() const override { return {800, 262}; }

    std::optional<std::size_t> chosen() const; ///< index of the clamp in hand
    QPointF placeOf(std::size_t clamp) const;  ///< its middle in the band

Q_SIGNALS:
    void refused(QString sentence); ///< what a drag asked for cannot be had
    void accepted();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void lieAnew();               ///< after something was derived
    const HoldCard* card() const; ///< of the way it lies now; null when nothing does
    void paintBed(QPainter& p) const;
    BedDrawing drawing() const;   ///< needs a card
    std::vector<std::size_t> clampsStanding() const; ///< there, indices; needs a card
    void next();
    void chooseNext();
    void moveTo(std::size_t clamp, Vec2 at);
    void change(std::size_t clamp, const std::function<void(Clamp&)>& how, const QString& what);
    void takeAway(std::size_t clamp);

    Sheet& sheet_;
    DerivedPtr shown_;            ///< what the cards are of
    PartId part_;
    std::vector<HoldCard> cards_; ///< every way the part in hand lies
    std::size_t way_ = 0;         ///< which of them is shown
    std::optional<std::size_t> chosen_;
    bool dragging_ = false;
    Vec2 grip_; ///< from the pointer to the clamp's middle, mm
};

} // namespace wren::app
