// Bits with what they have cut since they were sharp.
#include "book/book_views.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QPainter>

#include <algorithm>

#include <fmt/format.h>

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

void BitsView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto lifeOf = [&](const std::string& name) -> const BitLife* {
        if (!book_) {
            return nullptr;
        }
        const auto it = std::find_if(book_->lives.begin(), book_->lives.end(),
                                     [&](const BitLife& l) { return l.bit == name; });
        return it == book_->lives.end() ? nullptr : &*it;
    };
    const int columns = width() > 1100 ? 3 : 2;
    const double wide = (width() - 20.0) / columns;
    int n = 0;
    const int rows = std::max(1, int((height() - 4) / row));
    for (const Bit& bit : sheet_.project().bits) {
        const BitLife* life = lifeOf(bit.name);
        std::string did;
        for (const auto& [wood, work] : life ? life->byWood : std::map<std::string, BitWork>()) {
            did += fmt::format("{}{:.1f} h, {:.0f} m in {}", did.empty() ? "" : "; ",
                               work.seconds / 3600, work.mm / 1000, wood);
        }
        if (!fits(bit.name + " " + did) || n >= rows * columns) {
            continue;
        }
        const QRectF place(10 + (n / rows) * wide, 4 + (n % rows) * row, wide - 12, row - 6);
        ++n;
        p.setPen(QPen(colour::rule, 1));
        p.drawLine(place.bottomLeft(), place.bottomRight());
        const double hours = life ? life->sinceSharp.seconds / 3600 : 0;
        drawBit(p, bit, QRectF(place.left(), place.top() + 4, 120, place.height() - 8),
                std::min(1.0, hours / full));
        const QRectF text(place.left() + 132, place.top() + 2, place.width() - 134, 22);
        p.setFont(words(15, true));
        p.setPen(colour::ink);
        QString name = qs(bit.name);
        if (life && !life->broken.empty()) {
            name += tr(", broken on %1").arg(qs(life->broken.substr(0, 10)));
            p.setPen(colour::russet);
        }
        p.drawText(text, Qt::AlignVCenter, p.fontMetrics().elidedText(name, Qt::ElideRight,
                                                                      int(text.width())));
        p.setFont(words(12.5));
        p.setPen(colour::faded);
        QString what = did.empty() ? tr("not run on a real machine yet") : qs(did);
        if (life && !life->slots.empty()) {
            what += tr("; slots %1 in %2")
                        .arg(size(life->slots.front().width, 2), qs(life->slots.front().wood));
        }
        if (life && !life->sharpened.empty()) {
            what += tr("; sharp since %1").arg(qs(life->sharpened.substr(0, 10)));
        }
        const QRectF low(text.left(), text.bottom(), text.width(), 20);
        p.drawText(low, Qt::AlignVCenter, p.fontMetrics().elidedText(what, Qt::ElideRight,
                                                                     int(low.width())));
    }
    if (n == 0) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(rect(), Qt::AlignCenter, tr("No bit is called so."));
    }
}

} // namespace wren::app
