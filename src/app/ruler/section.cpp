#include "ruler/section.h"

#include "base/length.h"
#include "frame/theme.h"

#include <QPolygonF>

#include <cmath>

namespace wren::app {
namespace {

constexpr double enlarge = 2.2; ///< heights against widths, so that a thin board can be read

/// The board's low and high Y at x; its edges where the end is slanted away there.
std::array<double, 2> sectionAt(const BoardPart& b, double x) {
    return b.across(x).value_or(std::array{b.edge(-1, x), b.edge(1, x)});
}

QRectF boxIn(const QRectF& area) {
    return {area.left(), area.top() + 42, area.width(), 84};
}

class Section {
public:
    Section(QPainter& p, const SectionScale& scale, const Sheet& sheet)
        : p_(p), d_(*sheet.derived()), b_(*d_.board), sheet_(sheet), scale_(scale), x_(scale.x) {}

    void draw() {
        if (sheet_.station() != Station::board || sheet_.scrubbing()) {
            drawBlank();
        }
        const auto [low, high] = sectionAt(b_, x_);
        const bool shelf = b_.onShelf({x_, 0});
        QPolygonF body{{px(low), py(0)}};
        body << curve([&](double y) { return shelf ? b_.shelf()->floor : b_.face(x_, y); }, low,
                      high);
        body << QPointF(px(high), py(0));
        p_.setPen(QPen(colour::ink, 1.4));
        p_.setBrush(colour::wood);
        p_.drawPolygon(body);
        p_.setBrush(Qt::NoBrush);
        p_.setPen(QPen(colour::ochre, 1.4, Qt::DotLine));
        p_.drawPolyline(curve([&](double y) { return b_.floor(x_, y); }, low, high));
        if (sheet_.scrubbing() && sheet_.stock() && d_.lies(Role::board)) {
            drawStock();
        }
    }

private:
    double px(double y) const { return scale_.px(y); }
    double py(double z) const { return scale_.py(z); }

    template <typename F>
    QPolygonF curve(F f, double from, double to) const {
        QPolygonF line;
        for (int i = 0; i <= 40; ++i) {
            const double y = from + (to - from) * i / 40;
            line << QPointF(px(y), py(f(y)));
        }
        return line;
    }

    void drawBlank() {
        const Blank& blank = d_.project.blank;
        const double front = d_.lies(Role::board)
                                 ? d_.lies(Role::board)->fromInstrument.toInstrument({0, 0, 0}).y
                                 : -blank.width / 2;
        p_.setPen(QPen(colour::faded, 1, Qt::DashDotLine));
        p_.setBrush(Qt::NoBrush);
        p_.drawRect(QRectF(QPointF(px(front), py(blank.thickness)),
                           QPointF(px(front + blank.width), py(0))));
    }

    /// What stands there at the moment on the tape.
    void drawStock() {
        const Stock& s = *sheet_.stock()->stock;
        const Vec3 at = d_.lies(Role::board)->fromInstrument.toSetup({x_, 0, 0});
        const int column = std::clamp(static_cast<int>(at.x / s.cell()), 0, s.columns() - 1);
        QPolygonF line;
        for (int r = 0; r < s.rows(); ++r) {
            const double y = d_.lies(Role::board)->fromInstrument.toInstrument({0, s.y(r), 0}).y;
            line << QPointF(
                px(y), py(std::max<double>(s.high(column, r), s.low(column, r)) - s.bottomZ()));
        }
        p_.setPen(QPen(colour::russet, 1.4));
        p_.drawPolyline(line);
    }

    QPainter& p_;
    const Derived& d_;
    const BoardPart& b_;
    const Sheet& sheet_;
    SectionScale scale_;
    double x_;
};

QString nearestFret(const BoardPart& b, double x) {
    const int slot = b.nearestSlot({x, 0});
    if (slot < 0) {
        return {};
    }
    const FretSlot& nearest = b.slots()[static_cast<std::size_t>(slot)];
    if (std::abs(x - nearest.middle()) < 0.05) {
        return nearest.fret == 0 ? QObject::tr("at the zero fret")
                                 : QObject::tr("at fret %1").arg(nearest.fret);
    }
    const int left = x > nearest.middle() ? nearest.fret : nearest.fret - 1;
    if (left < 0 || (left == 0 && x < 0)) {
        return QObject::tr("behind the zero fret");
    }
    return left == 0 ? QObject::tr("between nut and fret 1")
                     : (left >= b.slots().back().fret
                            ? QObject::tr("past the last fret")
                            : QObject::tr("between frets %1 and %2").arg(left).arg(left + 1));
}

} // namespace

SectionScale sectionScale(const QRectF& area, const Sheet& sheet) {
    const Derived& d = *sheet.derived();
    const QRectF box = boxIn(area);
    SectionScale s;
    s.x = std::clamp(sheet.cursor(), d.board->xLow(), d.board->xHigh());
    const auto [low, high] = sectionAt(*d.board, s.x);
    s.low = low;
    s.high = high;
    const bool blank = sheet.station() != Station::board || sheet.scrubbing();
    const double widest =
        blank ? std::max(d.board->widest(), d.project.blank.width) : d.board->widest();
    s.k = box.width() / (widest + 2);
    s.tall = s.k * enlarge;
    s.middle = box.center().x();
    s.base = box.bottom() - 8;
    return s;
}

void drawCrossSection(QPainter& p, const QRectF& area, const Sheet& sheet) {
    const Derived& d = *sheet.derived();
    const BoardPart& b = *d.board;
    const double x = std::clamp(sheet.cursor(), b.xLow(), b.xHigh());
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QRectF(area.left(), area.top(), area.width(), 18), Qt::AlignLeft,
               QObject::tr("Cut across at %1")
                   .arg(QString::fromStdString(formatLength(x, sheet.unit(), 1))));
    p.setFont(words(11.5));
    p.setPen(colour::faded);
    p.drawText(QRectF(area.left(), area.top() + 19, area.width(), 16), Qt::AlignLeft,
               nearestFret(b, x));
    const QRectF box = boxIn(area);
    Section(p, sectionScale(area, sheet), sheet).draw();

    const auto [low, high] = sectionAt(b, x);
    const double thinner = std::min(b.face(x, low), b.face(x, high));
    std::vector<std::pair<QString, QString>> rows;
    const auto row = [&](const QString& name, double mm) {
        rows.emplace_back(name, QString::fromStdString(formatLengthValue(mm, sheet.unit())));
    };
    row(QObject::tr("width"), high - low);
    row(QObject::tr("edge thickness"), thinner);
    row(QObject::tr("arc's drop"), b.design().thickness - thinner);
    row(QObject::tr("wood under a slot"), std::min(b.floor(x, low), b.floor(x, high)));
    row(QObject::tr("radius here"), b.face().radiusAt(x));
    const int slot = b.nearestSlot({x, 0});
    if (slot >= 0) {
        const FretSlot& nearest = b.slots()[static_cast<std::size_t>(slot)];
        row(QObject::tr("fret %1 from nut").arg(nearest.fret), nearest.middle());
    }
    drawFigures(p, area, box.bottom() + 20, rows);
}

void drawFigures(QPainter& p, const QRectF& area, double y,
                 const std::vector<std::pair<QString, QString>>& rows) {
    for (const auto& [name, value] : rows) {
        if (y > area.bottom() - 4) {
            break;
        }
        p.setFont(words(12.5));
        p.setPen(colour::faded);
        p.drawText(QPointF(area.left(), y), name);
        p.setFont(figures(14));
        p.setPen(colour::slate);
        p.drawText(QRectF(area.left(), y - 15, area.width(), 20), Qt::AlignRight, value);
        p.setPen(QPen(colour::rule, 1));
        p.drawLine(QPointF(area.left(), y + 6), QPointF(area.right(), y + 6));
        y += 24;
    }
}

} // namespace wren::app
