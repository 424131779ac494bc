// Which strips the ruler's band shows.

#include "body_strips.h"
#include "ruler_band.h"

namespace wren::app {

void RulerBand::addStrip(Strip::Kind kind, const QString& name, const QString& note, double share) {
    const QRectF area = stripsArea();
    const double y = strips_.empty() ? area.top() : strips_.back().area.bottom() + 5;
    strips_.push_back(
        {name, note, QRectF(area.left(), y + 5, area.width(), area.height() * share - 10), kind});
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
            addStrip(Strip::neckSide, tr("Side"), tr("enlarged, cut\nalong the rod"), 0.25);
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
            addStrip(Strip::neckFaceDepth, tr("Face up"), tr("depth of cuts"), 0.27);
            addStrip(Strip::neckBackDepth, tr("Back up"), tr("turned over"), 0.29);
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
        addStrip(Strip::side, tr("Side"), tr("heights enlarged"), 0.18);
        addStrip(Strip::wood, tr("Wood under"), tr("slots, at the edge"), 0.19);
        break;
    }
    case Station::proof:
        addStrip(Strip::deviationPlan, tr("Miss"), tr("slate: wood left\nrusset: too deep"), 0.42);
        addStrip(Strip::deviationProfile, tr("Along it"), tr("most and least\nover the width"),
                 0.30);
        addStrip(Strip::depth, tr("Cut depth"), tr("below the top"), 0.28);
        break;
    default:
        addStrip(Strip::plan, tr("Plan"), bass, 0.46);
        addStrip(Strip::side, tr("Side"), tr("heights enlarged"), 0.18);
        addStrip(Strip::depth, tr("Cut depth"), tr("below the top"), 0.36);
        break;
    }
}

void RulerBand::layoutBody(const QString& bass) {
    if (bodyStation()) {
        addStrip(Strip::bodyPlan, tr("Plan"), bass, 1); // the side view stands beside it
        return;
    }
    const PartJob& job = *sheet_.pieceInHand();
    const QString piece = job.held.back ? bass : tr("the %1").arg(pieceName(job));
    if (sheet_.station() == Station::proof) {
        addStrip(Strip::pieceFaceMiss, tr("Front"), tr("slate: wood left\nrusset: too deep"), 0.5);
        addStrip(Strip::pieceBackMiss, tr("Back"), tr("as seen through\nthe front"), 0.5);
        return;
    }
    addStrip(Strip::bodyPlan, tr("Plan"),
             sheet_.scrubbing() && sheet_.stock() && sheet_.stock()->side == 1
                 ? tr("back up, as seen\nthrough the front")
                 : piece,
             0.66);
    addStrip(Strip::pieceFaceDepth, tr("Face up"), tr("depth of cuts"),
             job.held.back ? 0.17 : 0.34);
    if (job.held.back) {
        addStrip(Strip::pieceBackDepth, tr("Back up"), tr("turned over"), 0.17);
    }
}

} // namespace wren::app
