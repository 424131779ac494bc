#pragma once

#include "design/picture_place.h"
#include "design/shape.h"
#include "document.h"
#include "picture_desk.h"

#include <optional>
#include <vector>

class QLabel;

namespace wren::app {

/// An outline taken from a picture: A and B lie on the centreline and say its size and place, nodes
/// laid round it say its shape, smooth ones and corners (C). Nodes may be typed as well. Return
/// keeps it, Escape leaves.
class OutlineDesk : public PictureDesk {
    Q_OBJECT
public:
    explicit OutlineDesk(Document& document, QWidget* parent = nullptr);

    void start();

Q_SIGNALS:
    void kept(QString told);

protected:
    void marksMoved() override { measure(); }
    double canvasBottom() const override;
    void drawOver(QPainter& p) override;
    std::size_t placeFor(QPointF screen) const override;
    void keep() override;
    void keyPressEvent(QKeyEvent*) override;

private:
    void offerUses();
    void turnSides();
    bool forHead() const;
    std::optional<PicturePlace> placed() const;
    void measure(); ///< the nodes on the picture become the nodes in the field
    void read();
    QString told(double wide, double tall) const;

    Document& document_;
    bool bassAbove_ = false;
    Contour curve_; ///< what the field says; empty while it does not serve
    QPushButton* for_ = nullptr;
    QPushButton* sides_ = nullptr;
    QLineEdit* distance_ = nullptr;
    QLineEdit* nodes_ = nullptr;
    QPushButton* keep_ = nullptr;
    QLabel* trouble_ = nullptr;
};

} // namespace wren::app
