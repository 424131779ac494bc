#include "pages/bed_picture.h"

#include "frame/theme.h"
#include "ruler/bed_drawing.h"

#include <QPainter>

namespace wren::app {
namespace {

using Kind = RoomStep::Kind;

constexpr double bedShare = 0.42; ///< of the height, where the blank is shown from near too
constexpr double gap = 10;        ///< pixels between them

QPixmap emptyPicture(const QSizeF& size, double density) {
    QPixmap out((size * density).toSize());
    out.setDevicePixelRatio(density);
    out.fill(Qt::transparent);
    return out;
}

bool moves(Kind kind) {
    return kind == Kind::home || kind == Kind::travel || kind == Kind::park || kind == Kind::probe;
}

bool runs(Kind kind) {
    return kind == Kind::cut || kind == Kind::air;
}

void drawCross(QPainter& p, QPointF at) {
    p.setPen(QPen(colour::russet, 2.4));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(at, 7, 7);
    p.drawLine(at - QPointF(12, 0), at + QPointF(12, 0));
    p.drawLine(at - QPointF(0, 12), at + QPointF(0, 12));
}

} // namespace

QRectF BedPicture::bedArea() const {
    const QSizeF size = of_.area.size();
    return {0, 0, size.width(), runs(step().kind) ? size.height() * bedShare : size.height()};
}

void BedPicture::begin(const Of& of, const Sheet& sheet) {
    of_ = of;
    near_ = {};
    pieces_.clear();
    cutPieces_ = 0;
    bed_ = emptyPicture(of.area.size(), of.density);
    cut_ = emptyPicture(of.area.size(), of.density);
    const PartJob& job = *of.plan->derived->job(step().part);
    const BedDrawing bed(sheet, job, *of.plan->cardOf(step()), bedArea());
    QPainter p(&bed_);
    p.setRenderHint(QPainter::Antialiasing);
    bed.bed(p);
    bed.blank(p);
    bed.clamps(p, {});
    if (moves(step().kind)) {
        bed.way(p);
    }
    if (runs(step().kind)) {
        p.end();
        beginNear();
    }
}

/// The blank, the part in it, and the program's way where a pixel and more lies between its ends.
void BedPicture::beginNear() {
    const Derived& d = *of_.plan->derived;
    const PartJob& job = *d.job(step().part);
    const Setup& setup = job.held.side(step().side);
    const double top = bedArea().height() + gap;
    near_.area = {0, top, of_.area.width(), of_.area.height() - top};
    near_.scale = std::min((near_.area.width() - 8) / setup.blank.length,
                           (near_.area.height() - 8) / setup.blank.width);
    near_.corner = near_.area.center() +
                   QPointF(-setup.blank.length, setup.blank.width) * near_.scale / 2;
    const ProgramPlace place = d.placeOf(static_cast<std::size_t>(step().program - 1));
    const RunProgram& program = job.read[place.side][place.index];
    bit_ = program.bit.diameter * near_.scale;
    QPainter p(&bed_);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::wood);
    p.drawRect(QRectF(near_.at({0, setup.blank.width}), near_.at({setup.blank.length, 0})));
    p.setPen(QPen(colour::ink, 1.4));
    p.setBrush(Qt::NoBrush);
    const std::vector<SetupFromInstrument> one{setup.fromInstrument};
    for (const SetupFromInstrument& at : setup.places.empty() ? one : setup.places) {
        QPolygonF outline;
        for (Vec2 v : pointsOf(outlineOf(d, job), 0.1)) {
            outline << near_.at(at.toSetup({v.x, v.y, 0}).xy());
        }
        p.drawPolygon(outline);
    }
    p.setPen(QPen(colour::faded, 0.8));
    QPointF last;
    bool any = false;
    for (const Move& m : program.path) {
        if (!m.cuts()) {
            any = false;
            continue;
        }
        const QPointF from = any ? last : near_.at(m.from.xy());
        const QPointF to = near_.at(m.to.xy());
        if (!any || QLineF(from, to).length() >= 1) {
            pieces_.push_back({m.line, {from, to}});
            p.drawLine(from, to);
            last = to;
        }
        any = true;
    }
}

void BedPicture::addCut(int until) {
    QPainter p(&cut_);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(colour::moss, std::max(bit_, 1.6), Qt::SolidLine, Qt::RoundCap));
    for (; cutPieces_ < pieces_.size() && pieces_[cutPieces_].line < until; ++cutPieces_) {
        p.drawLine(pieces_[cutPieces_].way);
    }
}

void BedPicture::paint(QPainter& p, const QRectF& area, const Sheet& sheet,
                       const RoomPlanPtr& plan, std::size_t at, int until,
                       std::optional<Vec2> spindle) {
    const HoldCard* card = plan->cardOf(plan->steps[at]);
    if (!card) {
        return;
    }
    const Of of{plan, at, area, p.device()->devicePixelRatioF()};
    const bool again = cutPieces_ > 0 && pieces_[cutPieces_ - 1].line >= until; // begun anew
    if (!(of == of_) || again) {
        begin(of, sheet);
    }
    addCut(until);
    p.drawPixmap(area.topLeft(), bed_);
    p.setOpacity(0.55); // its way stays to be seen
    p.drawPixmap(area.topLeft(), cut_);
    p.setOpacity(1);
    if (!spindle) {
        return;
    }
    p.save();
    p.setClipRect(area);
    p.translate(area.topLeft());
    drawCross(p, BedDrawing(sheet, *plan->derived->job(step().part), *card, bedArea()).at(*spindle));
    if (!near_.area.isEmpty()) { // the bit at its width
        const QPointF tip = near_.at(*spindle - card->setup->zeroOn(card->station));
        p.setBrush(colour::sheet);
        p.drawEllipse(tip, std::max(bit_ / 2, 3.0), std::max(bit_ / 2, 3.0));
    }
    p.restore();
}

} // namespace wren::app
