#pragma once

#include "part/setup_geometry.h"
#include "ruler/handles.h"

namespace wren::app {

/// The instrument drawn as a whole. Needs a derived body.
class WholeDrawing {
public:
    /// `area`: of plan, side and heights, under the rule.
    WholeDrawing(const Sheet& sheet, const RulerScale& scale, const QRectF& area);

    void plan(QPainter& p) const;
    void side(QPainter& p) const;
    void heights(QPainter& p) const; ///< of the outer strings over the frets, enlarged
    /// Each string's numbers, in an area of its own.
    void table(QPainter& p, const QRectF& area) const;
    /// The side view at the bridge, enlarged: where each saddle stands in its travel.
    void lens(QPainter& p, const QRectF& area) const;
    /// Names of the three, left of them.
    void names(QPainter& p) const;
    std::vector<Handle> handles() const;
    void solved(QPainter& p) const; ///< what follows the others, and its value

    /// So that all of it shows, from the head's tip to the body's end, plan and side to one scale.
    static RulerScale fit(const Derived& d, const QRectF& area);

private:
    QPointF angleAt() const;              ///< where the neck angle is taken hold of
    QPointF pocketAt() const;             ///< and the pocket
    QPointF at(double x, double z) const; ///< of the body's frame, in the side view
    double overAt(double height) const;   ///< pixel of a height over the frets
    void boardSide(QPainter& p) const;
    void stringsSide(QPainter& p) const;
    void hardwareSide(QPainter& p) const;

    const Sheet& sheet_;
    const Derived& d_;
    RulerScale scale_;
    QRectF plan_, side_, heights_;
    double top_ = 0; ///< Z at the side view's upper edge
    SetupGeometry setup_;
    std::vector<StringSide> strings_;
};

} // namespace wren::app
