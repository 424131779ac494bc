// Where time goes.
#include "book/book_views.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QPainter>

#include <algorithm>

namespace wren::app {
namespace {

/// The most first, no more than there is room for.
SpentBy head(const SpentBy& all, int most) {
    return {all.begin(), all.begin() + std::min(std::ssize(all), std::ptrdiff_t(std::max(1, most)))};
}

/// Two bars a row: what was planned, and what it took.
void drawBars(QPainter& p, const QRectF& area, const QString& title, const SpentBy& shares,
              bool planned) {
    p.setFont(words(16, true));
    p.setPen(colour::ink);
    p.drawText(QRectF(area.left(), area.top(), area.width(), 24), Qt::AlignVCenter, title);
    double longest = 1;
    for (const auto& [name, sums] : shares) {
        longest = std::max({longest, sums.taken, planned ? sums.planned : 0});
    }
    const double nameWide = area.width() * 0.36, barWide = area.width() - nameWide - 110;
    double y = area.top() + 30;
    for (const auto& [name, sums] : shares) {
        p.setFont(words(13));
        p.setPen(colour::ink);
        p.drawText(QRectF(area.left(), y, nameWide - 10, 22), Qt::AlignVCenter | Qt::AlignRight,
                   p.fontMetrics().elidedText(qs(name), Qt::ElideRight, int(nameWide - 10)));
        const double x = area.left() + nameWide;
        if (planned) {
            p.setPen(QPen(colour::ink, 1));
            p.setBrush(Qt::NoBrush);
            p.drawRect(QRectF(x, y + 2, barWide * sums.planned / longest, 8));
        }
        p.fillRect(QRectF(x, y + (planned ? 11 : 5), barWide * sums.taken / longest,
                          planned ? 8 : 12),
                   planned && sums.taken > sums.planned * 1.1 ? colour::russet : colour::moss);
        p.setFont(figures(12));
        p.setPen(colour::faded);
        const QString minutes =
            planned ? QObject::tr("%1 / %2 min").arg(std::round(sums.planned / 60)).arg(
                          std::round(sums.taken / 60))
                    : QObject::tr("%1 h").arg(sums.taken / 3600, 0, 'f', 1);
        p.drawText(QRectF(area.right() - 106, y, 106, 22), Qt::AlignVCenter | Qt::AlignRight,
                   minutes);
        y += 26;
    }
}

} // namespace

void TimeView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const TimeSpent spent = book_ ? book_->spent : TimeSpent();
    if (spent.parts.empty()) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(rect(), Qt::AlignCenter, tr("No run has ended well yet."));
        return;
    }
    const double half = (width() - 60) / 2.0, low = (height() - 20) / 2.0;
    const int tall = int((height() - 40) / 26), some = int((low - 34) / 26);
    drawBars(p, QRectF(16, 6, half, height() - 10.0),
             tr("By kind of cut: planned, and taken"), head(spent.cuts, tall), true);
    const double x = half + 44;
    drawBars(p, QRectF(x, 6, half, low), tr("Hours by part"), head(spent.parts, some), false);
    const double each = (low - 10) / 2;
    drawBars(p, QRectF(x, 6 + low, half, each), tr("Hours by instrument"),
             head(spent.instruments, int((each - 34) / 26)), false);
    drawBars(p, QRectF(x, 6 + low + each, half, each), tr("Hours by bit"),
             head(spent.bits, int((each - 34) / 26)), false);
}

} // namespace wren::app
