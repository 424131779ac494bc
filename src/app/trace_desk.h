#pragma once

#include "document.h"

#include <QImage>
#include <QWidget>

#include <optional>
#include <vector>

class QLabel;
class QLineEdit;
class QPushButton;

namespace wren::app {

/// A neck's section taken from a picture: two known points give its size, points from edge to edge
/// its shape, with the curve drawn through them as they are moved. Points may be typed as well.
/// Return keeps it, Escape leaves.
class TraceDesk : public QWidget {
    Q_OBJECT
public:
    explicit TraceDesk(Document& document, QWidget* parent = nullptr);

    void start();
    void show(const QImage& picture); ///< lays a picture on the desk
    void open(const QString& file);
    QPointF onScreen(QPointF picture) const; ///< where a place of the picture lies in this page

Q_SIGNALS:
    void kept(QString name);
    void left();
    void refused(QString sentence);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QLineEdit* entry(const QString& label, const QString& name, const QString& tip, int width);
    void askPicture();
    void turnSides();
    std::optional<TracePlace> placed() const;
    void measure(); ///< the points on the picture become the points in the field
    void read();
    void keep();
    QRectF canvas() const;
    QPointF onPicture(QPointF screen) const;
    QPointF* markAt(QPointF screen);

    Document& document_;
    QImage picture_;
    std::vector<QPointF> known_;   ///< the two known points, on the picture
    std::vector<QPointF> outline_; ///< on the picture, as they were laid
    int chosen_ = -1;              ///< 0 and 1 a known point, from 2 on one of the outline
    bool dragging_ = false;
    bool bassRight_ = false;
    NeckTrace trace_; ///< what the field says; no points while it does not serve
    QLineEdit* name_ = nullptr;
    QLineEdit* distance_ = nullptr;
    QLineEdit* points_ = nullptr;
    QPushButton* sides_ = nullptr;
    QPushButton* keep_ = nullptr;
    QLabel* trouble_ = nullptr;
};

} // namespace wren::app
