#pragma once

#include "frame/sheet.h"
#include "frame/telling.h"
#include "job/feature_edits.h"
#include "ruler/handles.h"
#include "ruler/ruler_scale.h"

#include <QWidget>

#include <optional>
#include <vector>

namespace wren::app {

/// The long ruler, the strips that share it, and the cross-section at the cursor. Wheel zooms to
/// the pointer, dragging with the right button pans, a click or the arrow keys move the cursor
/// (Ctrl: from fret to fret), 0 shows everything. The small diamonds are handles: widths, scale,
/// end, thickness, radius, markers and tabs are dragged by them. A click takes a thing in hand: the
/// arrow keys move it then (Shift: finer), Delete removes it, Ctrl+D doubles it, M mirrors it,
/// Escape lets it go. A double click on an outline adds a node.
class RulerBand : public QWidget, public Telling {
    Q_OBJECT
public:
    explicit RulerBand(Sheet& sheet, QWidget* parent = nullptr);
    QAccessible::Role accessRole() const override;
    QString accessValue() const override;

    void showAll();
    /// What can be taken hold of now, by place.
    std::vector<Handle> handles();
    QSize minimumSizeHint() const override { return {800, 262}; }
    /// Changes of the thing in hand; refused() says what cannot be had.
    void nudge(Vec2 by);
    void remove();
    void doubleIt();
    void mirror();
    void add(const NewThing& thing);

Q_SIGNALS:
    void refused(QString sentence); ///< what a drag asked for cannot be had
    void accepted();

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    bool event(QEvent*) override;

private:
    struct Strip {
        QString name;
        QString note;
        QRectF area;
        enum Kind {
            plan,
            distances,
            side,
            depth,
            wood,
            deviationPlan,
            deviationProfile,
            neckPlan,
            neckSide,
            neckRod,
            neckBend,
            neckFaceDepth,
            neckBackDepth,
            neckFaceMiss,
            neckBackMiss,
            neckBackProfile,
            bodyPlan,
            bodySide,
            pieceFaceDepth,
            pieceBackDepth,
            pieceFaceMiss,
            pieceBackMiss
        } kind;
        double shift = 0; ///< of its ruler: pixels to the right of the first column's
    };
    /// One of the columns that strips stand in, each under a ruler of its own.
    struct Column {
        QRectF area;
        double shift = 0;
    };

    void layoutStrips();
    void addStrip(Strip::Kind kind, const QString& name, const QString& note, double share);
    void addHeaded(Strip::Kind kind, const QString& name, const QString& note, const QRectF& area);
    void drawRuler(QPainter& p, const Column& column) const;
    QString noteOf(const Strip& strip) const; ///< by how much its heights are enlarged filled in
    void drawHead(QPainter& p, const Strip& strip) const;
    void drawStrip(QPainter& p, const Strip& strip);
    void drawNeckStrip(const StripContext& c, Strip::Kind kind);
    void drawBodyStrip(const StripContext& c, Strip::Kind kind);
    void layoutBody(const QString& bass);
    void waiting(QPainter& p, const QRectF& area);
    void drawCursor(QPainter& p, const Column& column) const;
    void drawSection(QPainter& p) const;
    void drawNothing(QPainter& p) const;
    void drawHandles(QPainter& p);
    void drag(QPointF to);
    bool ownKey(const QKeyEvent& e) const; ///< a key that changes the thing in hand
    bool bodyStation() const;
    bool showsPiece() const; ///< of a body, as it is cut: as wide as long, so in columns
    std::vector<Column> columns() const;
    RulerScale shifted(double by) const;
    double cursorAt(QPointF at) const; ///< mm from the nut under a place of the strips
    void tryChange(const QString& what, const std::function<Project()>& change);
    std::optional<Handle> thingUnder(QPointF at);
    const Strip* planStrip() const; ///< of the body's own plan
    Vec2 placeForNew(const NewThing& thing) const;
    void hover(QPointF at);
    QRectF sectionArea() const;
    void toFret(int direction);
    QRectF stripsArea() const;
    std::pair<double, double> extent() const;

    Sheet& sheet_;
    RulerScale scale_;
    bool fitted_ = true; ///< follow the part's length until the maker zooms
    std::vector<Strip> strips_;
    QPointF dragFrom_;
    std::optional<Handle> held_; ///< by the left button
    QPointF grip_;               ///< from the pointer to the handle, when it was taken
    QString hovered_;
    QString onto_;    ///< what the dragged place snaps to
    QPointF pointer_; ///< where it was last
};

} // namespace wren::app
