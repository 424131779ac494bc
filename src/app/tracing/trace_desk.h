#pragma once

#include "state/document.h"
#include "tracing/picture_desk.h"

#include <optional>
#include <vector>

class QLabel;
class QLineEdit;
class QPushButton;

namespace wren::app {

class PointTable;

/// A neck's section taken from a picture: two known points give its size, points from edge to edge
/// its shape, with the curve drawn through them as they are moved. Points may be typed as well.
/// Return keeps it, Escape leaves.
class TraceDesk : public PictureDesk {
    Q_OBJECT
public:
    explicit TraceDesk(Document& document, QWidget* parent = nullptr);

    void start();

Q_SIGNALS:
    void kept(QString name);

protected:
    void marksMoved() override { measure(); }
    double canvasBottom() const override;
    void drawOver(QPainter& p) override;
    void keep() override;

private:
    void turnSides();
    std::optional<TracePlace> placed() const;
    void measure(); ///< the points on the picture become the points in the table
    void read();

    Document& document_;
    bool bassRight_ = false;
    NeckTrace trace_; ///< what the table says; no points while it does not serve
    QLineEdit* name_ = nullptr;
    QLineEdit* distance_ = nullptr;
    PointTable* points_ = nullptr;
    QPushButton* sides_ = nullptr;
    QPushButton* keep_ = nullptr;
    QLabel* trouble_ = nullptr;
};

} // namespace wren::app
