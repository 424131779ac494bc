#include "pages/room_card.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"

#include <fmt/format.h>

namespace wren::app {
namespace {

using Kind = RoomStep::Kind;

/// Text that takes no more than a height, its letters made smaller until it does. Returns where it
/// ends.
double fitted(QPainter& p, const QRectF& area, double size, double least, bool strong,
              const QString& text) {
    QRectF taken;
    for (double s = size;; s -= 1) {
        p.setFont(words(s, strong));
        taken = p.boundingRect(area, Qt::AlignLeft | Qt::TextWordWrap, text);
        if (taken.height() <= area.height() || s <= least) {
            break;
        }
    }
    p.drawText(area, Qt::AlignLeft | Qt::TextWordWrap, text);
    return std::min(taken.bottom(), area.bottom());
}

} // namespace

const std::vector<RoomStep>& RoomCard::steps() const {
    static const std::vector<RoomStep> none;
    return plan_ ? plan_->steps : none;
}

void RoomCard::card(QPainter& p, const QRectF& area) const {
    p.setPen(QPen(colour::ink, 1.4));
    p.setBrush(colour::paper);
    p.drawRect(area);
    p.fillRect(QRectF(area.left(), area.top(), 8, area.height()), colour::russet);
    const RoomStep* s = step();
    const QRectF inner = area.adjusted(26, 14, -18, -12);
    p.setPen(colour::ink);
    if (!s) {
        fitted(p, inner, 30, 18, true,
               steps().empty() ? tr("There is nothing to do at the machine: see the findings below.")
                              : tr("Everything is done."));
        return;
    }
    const double textWidth = inner.width() * 0.56;
    const QRectF words1(inner.left(), inner.top(), textWidth, inner.height());
    p.setFont(words(15));
    p.setPen(colour::faded);
    p.drawText(QRectF(words1.left(), words1.top(), words1.width(), 20), Qt::AlignLeft,
               tr("step %1 of %2, the %3")
                   .arg(qulonglong(at_ + 1))
                   .arg(qulonglong(steps().size()))
                   .arg(qs(s->part.name())));
    p.setPen(colour::ink);
    double y = fitted(p, QRectF(words1.left(), words1.top() + 24, words1.width(), 84), 36, 20, true,
                      qs(s->title)) +
               8;
    if (!s->number.empty()) {
        p.setPen(colour::russet);
        QFont big = figures(30, true);
        p.setFont(big);
        const QString number = qs(s->number);
        while (p.fontMetrics().horizontalAdvance(number) > words1.width() && big.pixelSize() > 14) {
            big.setPixelSize(big.pixelSize() - 1);
            p.setFont(big);
        }
        p.drawText(QRectF(words1.left(), y, words1.width(), 40), Qt::AlignLeft, number);
        y += 44;
    }
    p.setPen(colour::ink);
    const QString mind = s->caution.empty() ? QString() : tr("Mind: %1").arg(qs(s->caution));
    p.setFont(words(17, true));
    const double wanted =
        p.boundingRect(QRectF(0, 0, words1.width(), 1000), Qt::AlignLeft | Qt::TextWordWrap, mind)
            .height();
    const double foot =
        mind.isEmpty() ? 0 : std::min({wanted + 8, 84.0, inner.height() * 0.28});
    QString says = told(s->says, sheet_.unit());
    if (s->advice) {
        says += QLatin1Char(' ') + qs(s->advice->says);
        if (now_.sending == 0 && s->advice->feedPercent != 100) {
            says += QLatin1Char(' ') +
                    (now_.asLast ? tr("It begins at %1 % feed (E: at 100 %).")
                                 : tr("E begins it at %1 % feed."))
                        .arg(s->advice->feedPercent);
        }
    }
    y = fitted(p, QRectF(words1.left(), y, words1.width(), words1.bottom() - foot - y - 6), 21, 12,
               false, says);
    if (!s->caution.empty()) {
        const QRectF box(words1.left(), words1.bottom() - foot, words1.width(), foot);
        p.setPen(QPen(colour::ochre, 2));
        p.drawLine(box.topLeft(), box.topRight());
        fitted(p, box.adjusted(0, 6, 0, 0), 17, 11, true, mind);
    }
    const double left = inner.left() + textWidth + 18;
    picture(p, QRectF(left, inner.top(), inner.right() - left, inner.height()));
}

void RoomCard::picture(QPainter& p, const QRectF& area) const {
    if (step()->kind == Kind::mount) {
        bitPicture(p, area);
    } else if (step()->kind != Kind::hand && step()->kind != Kind::free) {
        const int until = now_.sending == step()->program ? std::max(1, now_.progress.line) : 0;
        bed_.paint(p, area, sheet_, plan_, at_, until,
                   now_.known ? std::optional(now_.status.position.xy()) : std::nullopt);
    } else {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(area, Qt::AlignCenter | Qt::TextWordWrap,
                   step()->minutes > 0
                       ? tr("at the bench, about %1 minutes").arg(std::round(step()->minutes))
                       : tr("hands off the keys, spindle standing"));
    }
}

/// To scale, with what stands out of the nut figured.
void RoomCard::bitPicture(QPainter& p, const QRectF& area) const {
    const Derived* d = sheet_.derived();
    const auto i = static_cast<std::size_t>(step()->program - 1);
    if (!d || i >= d->programs.size()) {
        return;
    }
    const Bit& bit = d->programs[i].program.bit;
    const double reach = std::max(bit.reachOrUsual(), bit.fluteLength + 4);
    const double k = std::min((area.height() - 70) / (reach + 16), area.width() / 60);
    const double x = area.center().x(), top = area.top() + 30;
    const auto box = [&](double from, double to, double wide, const QColor& fill) {
        p.setBrush(fill);
        p.drawRect(QRectF(x - wide * k / 2, top + from * k, wide * k, (to - from) * k));
    };
    p.setPen(QPen(colour::ink, 1.6));
    box(0, 14, 26, colour::rule);
    const double shank = std::max(bit.shank, 1.0);
    box(14, 14 + reach - bit.fluteLength, shank, colour::sheet);
    box(14 + reach - bit.fluteLength, 14 + reach, bit.diameter, colour::woodDark);
    const double side = x + std::max(13.0, bit.diameter) * k / 2 + 14;
    p.setPen(QPen(colour::russet, 1.6));
    p.drawLine(QPointF(side, top + 14 * k), QPointF(side, top + (14 + reach) * k));
    for (double z : {14.0, 14 + reach}) {
        p.drawLine(QPointF(side - 6, top + z * k), QPointF(side + 6, top + z * k));
    }
    p.setFont(words(15));
    p.setPen(colour::faded);
    p.drawText(QRectF(area.left(), area.bottom() - 26, area.width(), 24), Qt::AlignCenter,
               tr("collet nut, shank, flutes"));
}

void RoomCard::machine(QPainter& p, const QRectF& area, bool jogging, double jogStep) const {
    const LengthUnit unit = sheet_.unit();
    const auto size = [&](double v) { return qs(formatLengthValue(v, unit)); };
    QString state = !now_.known                  ? tr("not spoken to yet")
                    : now_.status.state.empty()  ? tr("does not tell")
                    : now_.status.state == "run" ? tr("moving")
                                                 : qs(now_.status.state);
    if (now_.sending > 0 && now_.progress.lines == 0) {
        state = tr("getting ready");
    } else if (now_.sending > 0) {
        state = now_.held ? tr("on hold") : tr("program %1 runs").arg(now_.sending);
    }
    p.setFont(words(26, true));
    p.setPen(now_.sending > 0 || now_.status.state == "alarm" ? colour::russet : colour::ink);
    p.drawText(QRectF(area.left(), area.top(), area.width(), 34), Qt::AlignLeft, state);
    double y = area.top() + 38;
    const double pitch = std::clamp((area.height() - 190) / 3, 34.0, 54.0);
    const Vec3 work = now_.status.work, at = now_.status.position;
    for (const auto& [axis, value, own] : {std::tuple{"X", work.x, at.x},
                                           {"Y", work.y, at.y},
                                           {"Z", work.z, at.z}}) {
        p.setFont(words(22, true));
        p.setPen(colour::faded);
        p.drawText(QRectF(area.left(), y, 34, pitch), Qt::AlignVCenter, QLatin1String(axis));
        p.setFont(figures(pitch > 44 ? 38 : 28, true));
        p.setPen(now_.known ? colour::ink : colour::faded);
        const double wide = area.width() * 0.56;
        p.drawText(QRectF(area.left() + 30, y, wide - 30, pitch), Qt::AlignVCenter | Qt::AlignRight,
                   now_.known ? size(value) : QStringLiteral("–"));
        p.setFont(figures(15));
        p.setPen(colour::faded);
        p.drawText(QRectF(area.left() + wide + 8, y, area.width() - wide - 8, pitch),
                   Qt::AlignVCenter | Qt::AlignRight,
                   now_.known ? tr("machine %1").arg(size(own)) : QString());
        y += pitch;
    }
    if (jogging) {
        p.setFont(words(16, true));
        p.setPen(colour::russet);
        p.drawText(QRectF(area.left(), y + 4, area.width(), 44), Qt::AlignLeft | Qt::TextWordWrap,
                   tr("Jogging by %1: arrows move X and Y, Page Up and Down move Z; 1 to 4 "
                      "choose the step")
                       .arg(qs(formatLength(jogStep, unit))));
        return;
    }
    const QRectF bar(area.left(), y + 8, area.width(), 14);
    const double share =
        now_.progress.lines > 0 ? double(now_.progress.acknowledged) / now_.progress.lines : 0;
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(bar);
    p.fillRect(QRectF(bar.left() + 2, bar.top() + 2, (bar.width() - 4) * share, bar.height() - 4),
               now_.sending > 0 ? colour::russet : colour::moss);
    QStringList lines;
    if (now_.sending > 0 && now_.minutesLeft >= 0) {
        lines << tr("%1 min left").arg(now_.minutesLeft, 0, 'f', 1);
    }
    const bool measured = now_.sending > 0 && now_.minutesLeft >= 0; // by what it has taken so far
    const double freeFor = measured && at_ < steps().size()
                               ? now_.minutesLeft + freeMinutes(steps(), at_ + 1)
                               : freeMinutes(steps(), at_);
    if (freeFor > 0) {
        lines << tr("your hands are free for %1 min").arg(freeFor, 0, 'f', freeFor < 3 ? 1 : 0);
    }
    if (now_.feed != 100 || now_.spindle != 100) {
        lines << tr("feed %1 %, spindle %2 %").arg(now_.feed).arg(now_.spindle);
    }
    if (now_.held) {
        lines << tr("the spindle still turns");
    }
    p.setPen(colour::ink);
    fitted(p, QRectF(area.left(), bar.bottom() + 6, area.width(), 26), 18, 11, true,
           lines.join(QStringLiteral(", ")));
    p.setPen(colour::faded);
    fitted(p, QRectF(area.left(), bar.bottom() + 34, area.width(),
                     std::max(20.0, area.bottom() - bar.bottom() - 36)),
           15, 11, false,
           now_.sending > 0 && now_.progress.lines > 0
               ? tr("Line %1 of %2 acknowledged. Held to its proved way within half a millimetre "
                    "by what it reports; steps it loses are not seen.")
                     .arg(now_.progress.acknowledged)
                     .arg(now_.progress.lines)
           : now_.status.state == "alarm"
               ? tr("It has stopped by itself. Look for the cause with the spindle standing; then go "
                    "back (Backspace) to homing, which takes it out of the alarm. %1")
                     .arg(now_.last)
               : now_.last);
}

void RoomCard::coming(QPainter& p, const QRectF& area) const {
    constexpr std::size_t shown = 3;
    const double wide = (area.width() - 2 * 12) / 3;
    for (std::size_t k = 0; k < shown && at_ + 1 + k < steps().size(); ++k) {
        const RoomStep& s = steps()[at_ + 1 + k];
        const QRectF box(area.left() + double(k) * (wide + 12), area.top(), wide, area.height());
        p.setPen(QPen(colour::rule, 1));
        p.setBrush(colour::sheet);
        p.drawRect(box);
        p.setFont(words(12));
        p.setPen(colour::faded);
        p.drawText(box.adjusted(10, 4, -8, 0), Qt::AlignLeft,
                   k == 0 ? tr("then") : tr("%1 later").arg(qulonglong(k + 1)));
        p.setFont(words(17, true));
        p.setPen(colour::ink);
        p.drawText(box.adjusted(10, 20, -8, 0), Qt::AlignLeft,
                   p.fontMetrics().elidedText(qs(s.title), Qt::ElideRight, int(wide - 20)));
    }
}

} // namespace wren::app
