#pragma once

#include <QLabel>
#include <QPainter>

namespace wren::app {

/// One line that ends in an ellipsis where it finds no room; its text stays whole for whoever asks.
class ElidedLabel : public QLabel {
public:
    using QLabel::QLabel;

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setPen(palette().color(QPalette::WindowText));
        const QString fits = fontMetrics().elidedText(text(), Qt::ElideRight, width());
        p.drawText(rect(), Qt::AlignLeft | Qt::AlignVCenter, fits);
    }
};

} // namespace wren::app
