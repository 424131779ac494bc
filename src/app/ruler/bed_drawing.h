#pragma once

#include "frame/sheet.h"
#include "hold/clamp.h"
#include "job/hold_card.h"

#include <QCoreApplication>
#include <QPainter>

#include <optional>

namespace wren::app {

/// Draws a bed from above, front at the bottom, and what lies on it.
class BedDrawing {
    Q_DECLARE_TR_FUNCTIONS(BedDrawing)
public:
    /// Of what `card` tells of a way of lying; both must outlive it.
    BedDrawing(const Sheet& sheet, const PartJob& job, const HoldCard& card, const QRectF& area);

    QPointF at(Vec2 machine) const;    ///< in the band
    Vec2 machineAt(QPointF p) const;   ///< mm
    QPointF onBlank(Vec2 setup) const; ///< of a place of the setup
    Vec2 setupAt(QPointF p) const;
    /// The clamp there, an index into the project's; the smallest where several are.
    std::optional<std::size_t> clampAt(QPointF p) const;

    void bed(QPainter& p) const;
    void blank(QPainter& p) const;
    void clamps(QPainter& p, std::optional<std::size_t> chosen) const;
    void way(QPainter& p) const;
    /// How it is laid, in words: the way to the zero, the plate, what error to expect.
    void laying(QPainter& p, const QRectF& area) const;
    /// What must find room under the spindle, for this setup's program that needs most.
    void room(QPainter& p, const QRectF& area) const;

private:
    void neckBeside(QPainter& p) const;
    QPolygonF polygon(const ClampBox& box) const;
    void note(QPainter& p, QPointF at, const QString& words) const;
    QString size(double mm) const;

    const Sheet& sheet_;
    const PartJob& job_;
    const HoldCard& card_;
    const Setup& setup_;
    std::size_t side_, station_;
    const Machine& machine_;
    double scale_ = 1;
    QPointF corner_; ///< front left of the travel
};

} // namespace wren::app
