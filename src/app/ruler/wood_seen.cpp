#include "ruler/wood_seen.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QFileInfo>

namespace wren::app {
namespace {

/// From the blank's corner to the picture, and back.
struct OnBlank {
    const PlanView& v;
    const Setup& face;

    QPointF at(Vec2 blank) const {
        return v.at(face.fromInstrument.toInstrument({blank.x, blank.y, 0}).xy());
    }
};

QString whole(const Sheet& sheet, const std::string& file) {
    const QFileInfo own(qs(file));
    return own.isAbsolute() ? own.filePath()
                            : QFileInfo(sheet.document().file()).absolutePath() +
                                  QLatin1Char('/') + qs(file);
}

void drawPhoto(QPainter& p, const OnBlank& on, const WoodPhoto& photo, const QImage& image) {
    const PhotoPlace place(photo, image.width(), image.height());
    const QPointF o = on.at(place.onBlank({0, 0}));
    const QPointF x = on.at(place.onBlank({double(image.width()), 0})) - o;
    const QPointF y = on.at(place.onBlank({0, double(image.height())})) - o;
    const QTransform lay(x.x() / image.width(), x.y() / image.width(), y.x() / image.height(),
                         y.y() / image.height(), o.x(), o.y());
    const QRectF blank = on.v.blank(on.face);
    p.save();
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.setOpacity(0.8); // lines over it stay to be read
    QRectF half = blank;
    if (photo.mirrored) {
        half.setTop(blank.center().y());
        const QTransform fold(1, 0, 0, -1, 0, 2 * blank.center().y());
        p.setClipRect(QRectF(blank.topLeft(), QPointF(blank.right(), blank.center().y())));
        p.setTransform(lay * fold, true);
        p.drawImage(0, 0, image);
        p.resetTransform();
    }
    p.setClipRect(half);
    p.setTransform(lay, true);
    p.drawImage(0, 0, image);
    p.restore();
}

void drawMark(QPainter& p, const OnBlank& on, const WoodMark& m, double k) {
    const QPointF a = on.at(m.from), b = on.at(m.to);
    const QColor ink = m.kind == WoodMarkKind::nail ? colour::russet : colour::ochre;
    if (m.kind == WoodMarkKind::seam) {
        p.setPen(QPen(ink, 1.8, Qt::DashDotDotLine));
        p.drawLine(a, b);
        return;
    }
    p.setPen(QPen(ink, 1.4));
    p.setBrush(QBrush(ink, Qt::BDiagPattern));
    const double r = std::max(3.0, m.width / 2 * k);
    p.drawEllipse(QRectF(a, b).normalized().adjusted(-r, -r, r, r));
    p.setBrush(Qt::NoBrush);
    if (m.kind == WoodMarkKind::nail) {
        p.drawLine(a - QPointF(r, r), a + QPointF(r, r));
        p.drawLine(a - QPointF(r, -r), a + QPointF(r, -r));
    }
}

bool shown(const Sheet& sheet) {
    return sheet.station() == Station::blank || sheet.station() == Station::cuts;
}

} // namespace

void drawWoodPhotos(const PlanView& view, const PartJob& job) {
    const Sheet& sheet = view.c.sheet;
    if (!shown(sheet) || !job.placed) {
        return;
    }
    QPainter& p = view.c.painter;
    const OnBlank on{view, job.held.face};
    for (const WoodPhoto& photo : sheet.project().woodPhotos) {
        const QImage image = photo.part == job.name() && PhotoPlace::holds(photo)
                                 ? sheet.pictures().picture(whole(sheet, photo.file))
                                 : QImage();
        if (!image.isNull()) {
            drawPhoto(p, on, photo, image);
        }
    }
}

void drawWoodMarks(const PlanView& view, const PartJob& job) {
    const OnBlank on{view, job.held.face};
    for (const WoodMark& m : view.c.sheet.project().woodMarks) {
        if (m.part == job.name() && shown(view.c.sheet) && job.placed) {
            drawMark(view.c.painter, on, m, view.k);
        }
    }
}

QColor woodOver(const PlanView& view, const PartJob* job) {
    constexpr int thin = 70; // of 255
    QColor tint = colour::wood;
    for (const WoodPhoto& photo : view.c.sheet.project().woodPhotos) {
        if (job && photo.part == job->name() && shown(view.c.sheet)) {
            tint.setAlpha(thin);
        }
    }
    return tint;
}

std::vector<Handle> woodHandles(const StripContext& c, const PlanView& view, const PartJob& job) {
    std::vector<Handle> out;
    if (c.sheet.station() != Station::blank || !job.placed) {
        return out;
    }
    const OnBlank on{view, job.held.face};
    const RulerScale scale = c.scale;
    const QRectF area = c.area;
    const auto add = [&](Vec2 place, const QString& what,
                         std::function<Vec2&(Project&)> which) {
        Handle h;
        h.at = on.at(place);
        h.what = what;
        const double k = view.k, middle = view.middle;
        h.moved = [&sheet = c.sheet, which = std::move(which), scale, area, k, middle,
                   from = job.held.face.fromInstrument](QPointF q) {
            const Vec2 p{scale.mm(q.x()), middle - (q.y() - area.center().y()) / k};
            Project next = sheet.project();
            const Vec2 at = from.toSetup({p.x, p.y, 0}).xy();
            which(next) = {std::round(at.x * 10) / 10, std::round(at.y * 10) / 10};
            return next;
        };
        out.push_back(std::move(h));
    };
    const Project& p = c.sheet.project();
    for (std::size_t i = 0; i < p.woodPhotos.size(); ++i) {
        if (p.woodPhotos[i].part == job.name()) {
            add(p.woodPhotos[i].a, QObject::tr("the photograph's first known place"),
                [i](Project& q) -> Vec2& { return q.woodPhotos[i].a; });
            add(p.woodPhotos[i].b, QObject::tr("the photograph's second known place"),
                [i](Project& q) -> Vec2& { return q.woodPhotos[i].b; });
        }
    }
    for (std::size_t i = 0; i < p.woodMarks.size(); ++i) {
        if (p.woodMarks[i].part != job.name()) {
            continue;
        }
        const QString what = QObject::tr("the %1's end")
                                 .arg(QLatin1String(woodMarkName(p.woodMarks[i].kind)));
        add(p.woodMarks[i].from, what, [i](Project& q) -> Vec2& { return q.woodMarks[i].from; });
        if (length(p.woodMarks[i].to - p.woodMarks[i].from) > 0.5) {
            add(p.woodMarks[i].to, what, [i](Project& q) -> Vec2& { return q.woodMarks[i].to; });
        }
    }
    return out;
}

} // namespace wren::app
