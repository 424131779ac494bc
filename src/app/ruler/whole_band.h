#pragma once

#include "frame/sheet.h"
#include "frame/telling.h"
#include "ruler/handles.h"
#include "ruler/ruler_scale.h"

#include <QWidget>

#include <optional>

namespace wren::app {

/// The whole instrument to one scale: plan over side view, how high the strings lie over the frets,
/// and each string's numbers beside them. Diamonds drag the neck angle, the pocket's depth, the
/// strings' height over the bridge and the action. Wheel zooms to the pointer, the right button
/// pans, 0 shows everything.
class WholeBand : public QWidget, public Telling {
    Q_OBJECT
public:
    explicit WholeBand(Sheet& sheet, QWidget* parent = nullptr);
    QAccessible::Role accessRole() const override { return QAccessible::Canvas; }
    QString accessValue() const override;
    QSize minimumSizeHint() const override { return {800, 262}; }
    /// What can be taken hold of now, by place.
    std::vector<Handle> handles() const;

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

private:
    void showAll();
    void drag(QPointF to);

    Sheet& sheet_;
    RulerScale scale_;
    bool fitted_ = true; ///< follow the instrument's length until the maker zooms
    QPointF dragFrom_;
    std::optional<Handle> held_;
    QPointF grip_; ///< from the pointer to the handle, when it was taken
    QString hovered_;
};

} // namespace wren::app
