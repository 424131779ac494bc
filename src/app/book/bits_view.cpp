// Bits with what they have cut since they were sharp.
#include "book/book_views.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

constexpr double row = 58;
constexpr double full = 8; ///< hours that fill a bit's bar; common practice, no source

/// To scale with its shank, lying, tip to the right; so much of its flutes worn.
void drawBit(QPainter& p, const Bit& bit, const QRectF& area, double worn) {
    const double length = bit.fluteLength + 22;
    const double k = std::min(area.width() / std::max(length, 70.0), area.height() / 26);
    const double y = area.center().y();
    const auto box = [&](double from, double to, double wide) {
        return QRectF(area.left() + from * k, y - wide * k / 2, (to - from) * k, wide * k);
    };
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::rule);
    p.drawRect(box(0, 22, std::max(bit.shank, 1.0)));
    const QRectF flutes = box(22, 22 + bit.fluteLength, bit.diameter);
    p.setBrush(colour::sheet);
    p.drawRect(flutes);
    p.fillRect(QRectF(flutes.left(), flutes.top(), flutes.width() * worn, flutes.height())
                   .adjusted(1, 1, 0, -1),
               worn >= 1 ? colour::russet : colour::woodDark);
}

} // namespace

const BitLife* BitsView::lifeOf(const Bit& bit) const {
    if (!book_) {
        return nullptr;
    }
    const auto it = std::find_if(book_->lives.begin(), book_->lives.end(),
                                 [&](const BitLife& l) { return l.bit == bit.name; });
    return it == book_->lives.end() ? nullptr : &*it;
}

QString BitsView::did(const Bit& bit) const {
    const BitLife* life = lifeOf(bit);
    QStringList parts;
    for (const auto& [wood, work] : life ? life->byWood : std::map<std::string, BitWork>()) {
        parts << tr("%1 h, %2 m in %3")
                     .arg(work.seconds / 3600, 0, 'f', 1)
                     .arg(std::round(work.mm / 1000))
                     .arg(qs(wood));
    }
    if (parts.isEmpty()) {
        parts << tr("not run on a real machine yet");
    }
    if (life && !life->slots.empty()) {
        parts << tr("slots %1 in %2").arg(size(life->slots.front().width, 2),
                                          qs(life->slots.front().wood));
    }
    if (life && !life->sharpened.empty()) {
        parts << tr("sharp since %1").arg(qs(life->sharpened.substr(0, 10)));
    }
    return parts.join(QStringLiteral("; "));
}

std::vector<const Bit*> BitsView::shown() const {
    std::vector<const Bit*> out;
    for (const Bit& bit : sheet_.project().bits) {
        if (fits(bit.name + " " + did(bit).toStdString())) {
            out.push_back(&bit);
        }
    }
    return out;
}

int BitsView::wantedHeight() const {
    const int n = static_cast<int>(shown().size());
    return 8 + int(row) * ((n + columns() - 1) / columns());
}

void BitsView::drawRow(QPainter& p, const Bit& bit, const QRectF& place) const {
    const BitLife* life = lifeOf(bit);
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(place.bottomLeft(), place.bottomRight());
    const double hours = life ? life->sinceSharp.seconds / 3600 : 0;
    drawBit(p, bit, QRectF(place.left(), place.top() + 4, 120, place.height() - 8),
            std::min(1.0, hours / full));
    const QRectF text(place.left() + 132, place.top() + 2, place.width() - 134, 22);
    const auto write = [&](const QRectF& area, const QString& what) {
        p.drawText(area, Qt::AlignVCenter,
                   p.fontMetrics().elidedText(what, Qt::ElideRight, int(area.width())));
    };
    const bool broken = life && !life->broken.empty();
    p.setFont(words(15, true));
    p.setPen(broken ? colour::russet : colour::ink);
    write(text, broken ? tr("%1, broken on %2").arg(qs(bit.name), qs(life->broken.substr(0, 10)))
                       : qs(bit.name));
    p.setFont(words(12.5));
    p.setPen(colour::faded);
    write(QRectF(text.left(), text.bottom(), text.width(), 20), did(bit));
}

void BitsView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const std::vector<const Bit*> bits = shown();
    const int rows = (static_cast<int>(bits.size()) + columns() - 1) / columns();
    const double wide = (width() - 20.0) / columns();
    for (int n = 0; n < static_cast<int>(bits.size()); ++n) {
        drawRow(p, *bits[std::size_t(n)],
                QRectF(10 + (n / rows) * wide, 4 + (n % rows) * row, wide - 12, row - 6));
    }
    if (bits.empty()) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(rect(), Qt::AlignCenter, tr("No bit is called so."));
    }
}

} // namespace wren::app
