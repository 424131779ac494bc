#include "frame/tools_band.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

constexpr double ruleWidth = 104; ///< of the depth rule on the left, as wide as the strips' names
constexpr double bedWidth = 380;
constexpr double leastSlot = 58; ///< pixels a bit gets
constexpr double nameRoom = 44;  ///< two rows of names under the bits

} // namespace

struct ToolsBand::Bench {
    double k;                                             ///< pixels a mm
    double tips;                                          ///< pixel row of the tips
    double top;                                           ///< of the picture
    double thick;                                         ///< of the blank, mm
    double through;                                       ///< past its underside, mm
    double row(double mm) const { return tips - mm * k; } ///< so far above the tips
};

ToolsBand::ToolsBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Drawer and router"));
    for (auto signal : {&Sheet::derivedChanged, &Sheet::bitChanged, &Sheet::leafChanged}) {
        connect(&sheet_, signal, this, qOverload<>(&QWidget::update));
    }
    connect(&sheet_.document(), &Document::unitChanged, this, qOverload<>(&QWidget::update));
}

QRectF ToolsBand::bedArea() const {
    return {width() - bedWidth, 0, bedWidth, static_cast<double>(height())};
}

int ToolsBand::shown() const {
    const int fit = static_cast<int>((width() - ruleWidth - bedWidth - 20) / leastSlot);
    return std::min(std::max(1, fit), static_cast<int>(sheet_.document().project().bits.size()));
}

/// A long drawer is shown so far along that the bit in hand is in sight.
int ToolsBand::firstShown() const {
    return std::max(0, sheet_.bitInHand() - shown() + 1);
}

QRectF ToolsBand::placeOf(int bit) const {
    const int n = std::max(1, shown());
    const double w = (width() - ruleWidth - bedWidth - 20) / n;
    return {ruleWidth + (bit - firstShown()) * w, 30, w, height() - 34.0};
}

ToolsBand::Bench ToolsBand::bench() const {
    const Project& p = sheet_.document().project();
    Bench b{};
    b.thick = p.blank.thickness;
    b.through = p.cut.through;
    b.top = 34;
    b.tips = height() - nameRoom - 10;
    double tallest = b.thick + 20;
    for (const Bit& bit : p.bits) {
        tallest = std::max(tallest, bit.fluteLength + 12);
    }
    b.k = std::min(4.2, (b.tips - b.top) / tallest);
    return b;
}

void ToolsBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), colour::sheet);
    const Bench b = bench();
    drawBlank(p, b);
    drawRule(p, b);
    for (int i = firstShown(); i < firstShown() + shown(); ++i) {
        drawBit(p, b, i);
    }
    const int count = static_cast<int>(sheet_.document().project().bits.size());
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QRectF(14, 8, width() - bedWidth - 30, 18), Qt::AlignLeft,
               tr("The drawer to scale, tips where a through cut takes them%1")
                   .arg(shown() < count ? tr(": bits %1 to %2 of %3")
                                              .arg(firstShown() + 1)
                                              .arg(firstShown() + shown())
                                              .arg(count)
                                        : QString()));
    drawBed(p);
    if (hasFocus()) {
        p.setPen(QPen(colour::russet, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
}

void ToolsBand::drawBlank(QPainter& p, const Bench& b) const {
    const double right = width() - bedWidth - 20;
    const QRectF wood(QPointF(ruleWidth - 6, b.row(b.through + b.thick)),
                      QPointF(right, b.row(b.through)));
    p.fillRect(wood, colour::wood);
    p.setPen(QPen(colour::grain, 1));
    for (double y = wood.top() + 6; y < wood.bottom() - 2; y += 8) {
        p.drawLine(QPointF(wood.left(), y), QPointF(wood.right(), y));
    }
    p.setPen(QPen(colour::ink, 1.2));
    p.drawLine(wood.topLeft(), wood.topRight());
    p.drawLine(wood.bottomLeft(), wood.bottomRight());
    p.fillRect(QRectF(wood.left(), wood.bottom(), wood.width(), std::max(3.0, b.through * b.k)),
               colour::woodDark);
}

void ToolsBand::drawRule(QPainter& p, const Bench& b) const {
    p.setFont(words(11.5));
    p.setPen(colour::faded);
    const auto mm = [this](double v) { return qs(formatLength(v, sheet_.unit())); };
    p.drawText(QRectF(14, b.row(b.through + b.thick) - 18, ruleWidth - 20, 16), Qt::AlignLeft,
               tr("blank's top"));
    p.setFont(figures(12));
    p.setPen(colour::ink);
    p.drawText(QRectF(14, b.row(b.through + b.thick / 2) - 8, ruleWidth - 20, 16), Qt::AlignLeft,
               mm(b.thick));
    p.setFont(words(11.5));
    p.setPen(colour::faded);
    p.drawText(QRectF(14, b.row(b.through) + 3, ruleWidth - 20, 16), Qt::AlignLeft,
               tr("%1 into bed").arg(qs(formatLengthValue(b.through, sheet_.unit()))));
}

void ToolsBand::drawBit(QPainter& p, const Bench& b, int index) const {
    const Project& project = sheet_.document().project();
    const Bit& bit = project.bits[static_cast<std::size_t>(index)];
    const bool here = index == sheet_.bitInHand();
    const QRectF place = placeOf(index);
    const double x = place.center().x();
    const EndShape end = EndShape::of(bit);
    const double r = bit.radius();
    QPolygonF cutter;
    const int n = 24;
    const double flutes = b.row(bit.fluteLength);
    cutter << QPointF(x - r * b.k, flutes);
    for (int i = -n; i <= n; ++i) {
        const double d = r * i / n;
        cutter << QPointF(x + d * b.k, b.row(std::min(bit.fluteLength, end.heightAt(std::abs(d)))));
    }
    cutter << QPointF(x + r * b.k, flutes);
    // Above the flutes the shank, up to the nut or to the picture's top.
    const double nut = std::max(b.top + 8, b.row(bit.reachOrUsual()));
    const double shank = std::max(1.0, bit.shank / 2 * b.k);
    p.setPen(QPen(here ? colour::russet : colour::ink, here ? 1.8 : 1.1));
    p.setBrush(colour::paper);
    p.drawRect(QRectF(QPointF(x - shank, nut), QPointF(x + shank, flutes)));
    if (b.row(bit.reachOrUsual()) >= b.top + 8) { // the collet nut
        const double wide = std::max(shank + 9, 16.0);
        const double shoulder = std::max(b.top, nut - 12);
        p.setBrush(colour::woodDark);
        p.drawPolygon(QPolygonF{{x - shank - 3, nut},
                                {x + shank + 3, nut},
                                {x + wide, shoulder},
                                {x + wide, b.top},
                                {x - wide, b.top},
                                {x - wide, shoulder}});
    }
    p.setBrush(colour::sheet);
    p.drawPolygon(cutter);
    // Flutes as a few slanting lines inside the cutter.
    QPainterPath inside;
    inside.addPolygon(cutter);
    p.save();
    p.setClipPath(inside);
    p.setPen(QPen(here ? colour::russet : colour::faded, 0.8));
    const double lean = bit.kind == BitKind::downCut ? -1 : 1;
    for (double y = flutes - 2 * r * b.k; y < b.tips + 2 * r * b.k; y += 9) {
        const bool other = bit.kind == BitKind::compression && y > b.tips - 9 * b.k;
        const double rise = (other ? lean : -lean) * r * b.k;
        p.drawLine(QPointF(x - r * b.k, y - rise), QPointF(x + r * b.k, y + rise));
    }
    p.restore();
    const Derived* d = sheet_.derived();
    const bool used =
        d && d->boardPlan() &&
        std::any_of(d->boardPlan()->face().cuts.begin(), d->boardPlan()->face().cuts.end(),
                    [&](const Cut& c) { return c.bit == bit; });
    const double y = height() - nameRoom + (index % 2) * 19.0;
    p.setFont(figures(11, here));
    p.setPen(here ? colour::russet : used ? colour::ink : colour::faded);
    const QString name = (used ? QStringLiteral("\u25CF ") : QString()) + qs(bit.name);
    p.drawText(
        QRectF(x - place.width(), y, 2 * place.width(), 16), Qt::AlignCenter,
        p.fontMetrics().elidedText(name, Qt::ElideRight, static_cast<int>(2 * place.width()) - 4));
    if (here) {
        p.setPen(QPen(colour::russet, 1.4));
        p.drawLine(QPointF(x - 14, y + 16), QPointF(x + 14, y + 16));
    }
}

void ToolsBand::drawBed(QPainter& p) const {
    const QRectF area = bedArea();
    const Project& project = sheet_.document().project();
    const Machine& m = project.machine;
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(area.left() - 2, 8), QPointF(area.left() - 2, height() - 8.0));
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QRectF(area.left() + 12, 8, area.width() - 20, 18), Qt::AlignLeft,
               tr("%1, from above").arg(qs(m.name)));
    const double k = std::min((area.width() - 60) / m.travel.x, (height() - 120.0) / m.travel.y);
    const QPointF corner(area.left() + 26, 40 + m.travel.y * k); // front left of the travel
    const Vec2 low = m.lowCorner();
    const auto at = [&](Vec2 machine) {
        return corner + QPointF((machine.x - low.x) * k, -(machine.y - low.y) * k);
    };
    const QRectF bed(corner - QPointF(0, m.travel.y * k), QSizeF(m.travel.x * k, m.travel.y * k));
    p.setPen(QPen(colour::ink, 1.4));
    p.setBrush(colour::paper);
    p.drawRect(bed);
    if (const Derived* d = sheet_.derived(); d && d->lies(Role::board)) {
        const Vec2 zero = d->lies(Role::board)->zeroOnMachine;
        const Blank& blank = d->lies(Role::board)->blank;
        p.setBrush(colour::wood);
        p.setPen(QPen(colour::ink, 1));
        p.drawRect(QRectF(at(zero), at(zero + Vec2{blank.length, blank.width})).normalized());
        p.setPen(QPen(colour::russet, 2));
        p.drawLine(at(zero), at(zero) + QPointF(14, 0));
        p.drawLine(at(zero), at(zero) - QPointF(0, 14));
    }
    p.setPen(QPen(colour::faded, 1, Qt::DashDotLine));
    const QPointF cross = at(m.crossing);
    p.drawLine(QPointF(bed.left(), cross.y()), QPointF(bed.right(), cross.y()));
    p.drawLine(QPointF(cross.x(), bed.top()), QPointF(cross.x(), bed.bottom()));
    const QPointF home = at({0, 0});
    p.setPen(Qt::NoPen);
    p.setBrush(colour::moss);
    p.drawEllipse(home, 5, 5);
    p.setFont(words(11.5));
    p.setPen(colour::moss);
    const bool right = home.x() > bed.center().x();
    p.drawText(QRectF(right ? home.x() - 68 : home.x() + 8, home.y() - 18, 60, 16),
               right ? Qt::AlignRight : Qt::AlignLeft, tr("home"));
    const auto size = [this](double v) { return qs(formatLengthValue(v, sheet_.unit(), 0)); };
    p.setFont(figures(12));
    p.setPen(colour::ink);
    p.drawText(QRectF(bed.left(), bed.bottom() + 6, bed.width(), 18), Qt::AlignHCenter,
               tr("%1 by %2 by %3 %4")
                   .arg(size(m.travel.x), size(m.travel.y), size(m.travel.z),
                        sheet_.unit() == LengthUnit::mm ? tr("mm") : tr("in")));
    p.setFont(words(12));
    p.setPen(colour::faded);
    p.drawText(QRectF(area.left() + 12, bed.bottom() + 26, area.width() - 24, 34),
               Qt::AlignHCenter | Qt::TextWordWrap,
               tr("programs in %1, %2; %3 to %4 rpm")
                   .arg(m.programUnit == LengthUnit::mm ? tr("millimetres") : tr("inches"),
                        m.arcs ? tr("arcs as arcs") : tr("arcs as short lines"))
                   .arg(m.spindleMin, 0, 'f', 0)
                   .arg(m.spindleMax, 0, 'f', 0));
}

void ToolsBand::mousePressEvent(QMouseEvent* e) {
    setFocus(Qt::MouseFocusReason);
    if (bedArea().contains(e->position())) {
        sheet_.setLeaf(1);
        return;
    }
    for (int i = firstShown(); i < firstShown() + shown(); ++i) {
        if (placeOf(i).contains(e->position())) {
            sheet_.setLeaf(0);
            sheet_.setBitInHand(i);
            return;
        }
    }
}

void ToolsBand::keyPressEvent(QKeyEvent* e) {
    const int step = e->key() == Qt::Key_Right ? 1 : (e->key() == Qt::Key_Left ? -1 : 0);
    if (step == 0) {
        QWidget::keyPressEvent(e);
        return;
    }
    sheet_.setBitInHand(sheet_.bitInHand() + step);
}

} // namespace wren::app
