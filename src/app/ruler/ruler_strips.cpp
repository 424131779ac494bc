// Which strips the ruler's band shows.

#include "ruler/body_strips.h"
#include "ruler/neck_strips.h"
#include "ruler/ruler_band.h"
#include "ruler/ruler_layout.h"
#include "ruler/strip_parts.h"

#include <QPainter>

namespace wren::app {

void RulerBand::addStrip(Strip::Kind kind, const QString& name, const QString& note, double share) {
    const QRectF area = stripsArea();
    const double y = strips_.empty() ? area.top() : strips_.back().area.bottom() + 5;
    strips_.push_back(
        {name, note, QRectF(area.left(), y + 5, area.width(), area.height() * share - 10), kind});
}

QString RulerBand::noteOf(const Strip& strip) const {
    if (!strip.note.contains(QLatin1String("%1"))) {
        return strip.note;
    }
    QPainter none; // heights are asked for, not drawn
    const StripContext c{none, scale_, sheet_, strip.area};
    const auto heights = [&]() -> HeightScale {
        switch (strip.kind) {
        case Strip::side:
            return sideHeights(c);
        case Strip::depth:
            return cutHeights(c);
        case Strip::neckSide:
            return neckHeights(c);
        case Strip::neckFaceDepth:
        case Strip::neckBackDepth:
            return depthHeights(c, sheet_.derived()->job(Role::neck)->held.blank);
        default:
            return depthHeights(c, sheet_.pieceInHand()->held.blank);
        }
    };
    return strip.note.arg(heights().perMm / scale_.perMm, 0, 'f', 1);
}

void RulerBand::layoutStrips() {
    strips_.clear();
    const bool inches = sheet_.unit() == LengthUnit::inch;
    const bool left = sheet_.document().project().board.hand == Hand::left;
    const QString bass = left ? tr("bass side above") : tr("bass side below");
    const QString turned = tr("back up, as seen\nthrough the front");
    if (sheet_.showsBody()) {
        layoutBody(bass);
        return;
    }
    if (sheet_.showsNeck()) {
        switch (sheet_.station()) {
        case Station::neck:
            addStrip(Strip::neckPlan, tr("Plan"), bass, 0.38);
            addStrip(Strip::neckSide, tr("Side"), tr("heights \u00d7%1, cut\nalong the rod"), 0.25);
            addStrip(Strip::neckRod, tr("Wood under"), tr("the rod's slot"), 0.17);
            addStrip(Strip::neckBend, tr("Bend"), tr("of the spine,\ndashed: shoulders"), 0.20);
            break;
        case Station::proof:
            addStrip(Strip::neckBackMiss, tr("Back"),
                     tr("laid flat round it\nslate: wood left\nrusset: too deep"), 0.37);
            addStrip(Strip::neckBackProfile, tr("Along it"), tr("most and least\nover the width"),
                     0.26);
            addStrip(Strip::neckFaceMiss, tr("Front"), tr("the same"), 0.37);
            break;
        default:
            addStrip(Strip::neckPlan, tr("Plan"),
                     sheet_.scrubbing() && sheet_.stock() && sheet_.stock()->side == 1 ? turned
                                                                                       : bass,
                     0.44);
            addStrip(Strip::neckFaceDepth, tr("Face up"), tr("depth of cuts,\n\u00d7%1"), 0.27);
            addStrip(Strip::neckBackDepth, tr("Back up"), tr("turned over,\n\u00d7%1"), 0.29);
            break;
        }
        return;
    }
    switch (sheet_.station()) {
    case Station::board: {
        // The figures stand upright: in a low window the plan gives way to them.
        const double figures = std::max(0.17, 54 / stripsArea().height());
        addStrip(Strip::plan, tr("Plan"), bass, 0.63 - figures);
        addStrip(Strip::distances, tr("From nut"), inches ? tr("inches") : tr("millimetres"),
                 figures);
        addStrip(Strip::side, tr("Side"), tr("heights \u00d7%1"), 0.18);
        addStrip(Strip::wood, tr("Wood under"), tr("slots, at the edge"), 0.19);
        break;
    }
    case Station::proof:
        addStrip(Strip::deviationPlan, tr("Miss"), tr("slate: wood left\nrusset: too deep"), 0.42);
        addStrip(Strip::deviationProfile, tr("Along it"), tr("most and least\nover the width"),
                 0.30);
        addStrip(Strip::depth, tr("Cut depth"), tr("below the top,\nheights \u00d7%1"), 0.28);
        break;
    default:
        addStrip(Strip::plan, tr("Plan"), bass, 0.46);
        addStrip(Strip::side, tr("Side"), tr("heights \u00d7%1"), 0.18);
        addStrip(Strip::depth, tr("Cut depth"), tr("below the top,\nheights \u00d7%1"), 0.36);
        break;
    }
}

void RulerBand::addHeaded(Strip::Kind kind, const QString& name, const QString& note,
                          const QRectF& area) {
    const Column& first = columns().front();
    const double shift = area.left() > first.area.right() ? columns().back().shift : 0;
    strips_.push_back({name, note, area.adjusted(0, headHeight, 0, -4), kind, shift});
}

void RulerBand::layoutBody(const QString& bass) {
    if (bodyStation()) {
        addStrip(Strip::bodyPlan, tr("Plan"), bass, 1); // the side view stands beside it
        return;
    }
    const PartJob& job = *sheet_.pieceInHand();
    const std::vector<Column> both = columns();
    const QRectF left = both.front().area;
    const QRectF right = both.back().area;
    if (sheet_.station() == Station::proof) {
        addHeaded(Strip::pieceFaceMiss, tr("Front"), tr("slate: wood left, russet: too deep"),
                  left);
        if (job.held.back) {
            addHeaded(Strip::pieceBackMiss, tr("Back"), tr("as seen through the front"), right);
        }
        return;
    }
    const bool turned = sheet_.scrubbing() && sheet_.stock() && sheet_.stock()->side == 1;
    addHeaded(Strip::bodyPlan, tr("Plan of the %1").arg(pieceName(job)),
              turned ? tr("back up, as seen through the front") : bass, left);
    const double half = right.height() / (job.held.back ? 2 : 1);
    addHeaded(Strip::pieceFaceDepth, tr("Face up"), tr("depth of cuts, heights \u00d7%1"),
              QRectF(right.left(), right.top(), right.width(), half));
    if (job.held.back) {
        addHeaded(Strip::pieceBackDepth, tr("Back up"), tr("turned over, heights \u00d7%1"),
                  QRectF(right.left(), right.top() + half, right.width(), half));
    }
}

} // namespace wren::app
