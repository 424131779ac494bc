#pragma once

#include <QImage>
#include <QWidget>

#include <vector>

class QBoxLayout;
class QLineEdit;
class QPushButton;

namespace wren::app {

/// A page with a picture on it, two known places A and B, and points laid one after the other: each
/// dragged with the mouse, nudged with the arrow keys, taken away with Delete. What the points mean
/// is the matter of the pages made of it. Escape leaves.
class PictureDesk : public QWidget {
    Q_OBJECT
public:
    void show(const QImage& picture); ///< lays a picture on the desk
    void open(const QString& file);
    QPointF onScreen(QPointF picture) const; ///< where a place of the picture lies in this page

Q_SIGNALS:
    void left();
    void refused(QString sentence);

protected:
    struct Mark {
        QPointF at; ///< on the picture
        bool corner = false;
    };

    /// A and B lie at these shares of a new picture's width and height.
    PictureDesk(QPointF a, QPointF b, QWidget* parent);

    virtual void marksMoved() = 0;
    virtual double canvasBottom() const = 0;
    virtual void drawOver(QPainter& p) = 0;
    /// Before which of the points a new one belongs.
    virtual std::size_t placeFor(QPointF) const { return laid_.size(); }
    virtual void keep() = 0;

    QBoxLayout* startRow(const QString& title);
    QLineEdit* entry(const QString& label, const QString& name, const QString& tip, int width);
    /// The buttons under the row; `keep` is its deed.
    QPushButton* finishRow(const QString& pictures, QWidget* trouble);
    void clearMarks();
    Mark* chosenMark(); ///< of the points; null when a known place or nothing is chosen
    bool hasPicture() const { return !picture_.isNull(); }
    QRectF canvas() const;
    QRectF pictureRect() const; ///< of it the picture
    QPointF onPicture(QPointF screen) const;

    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

    std::vector<Mark> known_; ///< A and B
    std::vector<Mark> laid_;  ///< as they were laid

private:
    Mark* markAt(QPointF screen);
    Mark& mark(std::size_t i) { return i < known_.size() ? known_[i] : laid_[i - known_.size()]; }
    void askPicture(const QString& title);

    QPointF firstA_, firstB_;
    QImage picture_;
    int chosen_ = -1; ///< 0 and 1 a known place, from 2 on a point
    bool dragging_ = false;
};

} // namespace wren::app
