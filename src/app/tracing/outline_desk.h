#pragma once

#include "design/picture_place.h"
#include "design/shape.h"
#include "state/document.h"
#include "tracing/picture_desk.h"

#include <optional>
#include <vector>

class QLabel;

namespace wren::app {

/// An outline taken from a picture: A and B lie on the centreline and say its size and place, nodes
/// laid round it say its shape, smooth ones and corners (C). Return keeps it, Escape leaves.
class OutlineDesk : public PictureDesk {
    Q_OBJECT
public:
    explicit OutlineDesk(Document& document, QWidget* parent = nullptr);

    void start();
    const std::vector<ShapeNode>& nodes() const { return nodes_; } ///< from A, mm

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
    enum class Use { body, cavity, head };

    static QString wordOf(Use use);
    void setUse(Use use);
    void offerUses();
    void turnSides();
    std::optional<PicturePlace> placed() const;
    void measure(); ///< the marks on the picture become nodes
    void read();
    QString told(double wide, double tall) const;

    Document& document_;
    bool bassAbove_ = false;
    Use use_ = Use::body;
    std::vector<ShapeNode> nodes_;
    Contour curve_; ///< through them; empty while they do not serve
    QPushButton* for_ = nullptr;
    QPushButton* sides_ = nullptr;
    QLineEdit* distance_ = nullptr;
    QPushButton* keep_ = nullptr;
    QLabel* trouble_ = nullptr;
};

} // namespace wren::app
