#include "tracing/trace_desk.h"

#include "base/error.h"
#include "base/length.h"
#include "frame/headed.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "tracing/point_table.h"

#include <QBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>

#include <algorithm>
#include <cmath>

namespace wren::app {

TraceDesk::TraceDesk(Document& document, QWidget* parent)
    : PictureDesk({0.2, 0.9}, {0.8, 0.9}, parent), document_(document) {
    setAccessibleName(tr("Tracing a section"));
    QBoxLayout* row = startRow(tr("A section from a real neck"));
    name_ = entry(tr("name"), QStringLiteral("trace.name"), tr("stations then ask for it as @name"),
                  130);
    distance_ = entry(tr("A to B is"), QStringLiteral("trace.distance"),
                      tr("true distance of the two known points, as 42 or 1 5/8 in"), 100);
    sides_ = new QPushButton;
    sides_->setObjectName(QStringLiteral("choice"));
    sides_->setFont(figures(15));
    row->addLayout(headed(tr("bass edge"), sides_));
    points_ = new PointTable;
    row->addLayout(headed(tr("points, from the bass edge to the treble edge"), points_), 1);
    for (int i = 0; i < row->count(); ++i) {
        row->itemAt(i)->setAlignment(Qt::AlignBottom); // the table is higher than a field
    }
    trouble_ = new QLabel;
    trouble_->setFont(words(14));
    trouble_->setWordWrap(true);
    keep_ = finishRow(tr("A picture of a neck's section"), trouble_);
    connect(sides_, &QPushButton::clicked, this, &TraceDesk::turnSides);
    connect(distance_, &QLineEdit::textEdited, this, &TraceDesk::measure);
    connect(name_, &QLineEdit::textChanged, this, &TraceDesk::read);
    connect(points_, &PointTable::edited, this, &TraceDesk::read);
    connect(&document_, &Document::unitChanged, this,
            [this] { points_->setUnit(document_.unit()); });
    points_->setUnit(document_.unit());
    start();
}

void TraceDesk::start() {
    clearMarks();
    bassRight_ = true;
    turnSides();
    name_->setText(QStringLiteral("mine"));
    distance_->clear();
    points_->setPoints({});
    name_->setFocus();
}

void TraceDesk::turnSides() {
    bassRight_ = !bassRight_;
    sides_->setText(bassRight_ ? tr("on the right") : tr("on the left"));
    measure();
}

/// How the section lies on the picture; nothing before both edges and the distance are known.
std::optional<TracePlace> TraceDesk::placed() const {
    if (laid_.size() < 2 || known_.size() != 2) {
        return std::nullopt;
    }
    try {
        const QPointF apart = known_[1].at - known_[0].at;
        const double distance = parseLength(distance_->text().toStdString(), document_.unit());
        std::vector<Vec2> laid;
        for (const Mark& m : laid_) {
            laid.push_back({m.at.x(), m.at.y()});
        }
        const double pixels = std::max(1.0, std::hypot(apart.x(), apart.y()));
        return distance > 0 ? std::optional(TracePlace(laid, distance / pixels, bassRight_))
                            : std::nullopt;
    } catch (const Error&) {
        return std::nullopt; // the distance is still being typed
    }
}

void TraceDesk::measure() {
    if (const auto place = placed()) {
        points_->setPoints(place->points());
    } else if (!laid_.empty()) {
        points_->setPoints({});
    } else {
        read();
    }
}

/// What is missing, or the section the table holds.
void TraceDesk::read() {
    if (!trouble_) {
        return; // still being built
    }
    trace_ = {};
    QString say;
    bool good = false;
    if (points_->empty()) {
        say = !hasPicture() ? tr("Lay a picture down, or type the points a profile gauge gave.")
              : distance_->text().trimmed().isEmpty()
                  ? tr("Put A and B on two places you have measured, and type how far they are "
                       "apart.")
                  : tr("Now click along the section from edge to edge, closer together where it "
                       "turns. Delete takes the chosen point away; the arrow keys nudge it.");
    } else {
        try {
            NeckTrace read;
            read.name = name_->text().trimmed().toStdString();
            read.points = points_->points();
            checkTraces({read});
            trace_ = read;
            good = true;
            const double wide = trace_.points.back().at.x - trace_.points.front().at.x;
            double deep = 0;
            for (const TracePoint& p : trace_.points) {
                deep = std::max(deep, p.at.y);
            }
            say = tr("%1 points, %2 wide and %3 deep. A station takes the shape, and gives it its "
                     "own "
                     "width and thickness.")
                      .arg(trace_.points.size())
                      .arg(qs(formatLength(wide, document_.unit())),
                           qs(formatLength(deep, document_.unit())));
        } catch (const Error& e) {
            say = QString::fromUtf8(e.what());
        }
    }
    trouble_->setText(say);
    trouble_->setStyleSheet(good || points_->empty() ? QStringLiteral("color: #5B6058;")
                                                     : QStringLiteral("color: #9A3A1E;"));
    keep_->setEnabled(good);
    update();
}

void TraceDesk::keep() {
    if (trace_.points.empty()) {
        return;
    }
    try {
        Project p = document_.project();
        std::vector<NeckTrace>& all = p.neck.traces;
        std::erase_if(all, [&](const NeckTrace& t) { return t.name == trace_.name; });
        all.push_back(trace_);
        checkTraces(all);
        document_.change(p, tr("a traced section"));
        Q_EMIT kept(qs(trace_.name));
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

double TraceDesk::canvasBottom() const {
    return points_->geometry().top() - 34;
}

void TraceDesk::drawOver(QPainter& p) {
    const QRectF c = canvas();
    if (trace_.points.empty()) {
        return;
    }
    // The curve the neck will have: over the picture it was taken from, else by itself.
    QPolygonF curve;
    const std::vector<Vec2> points = traceCurve(trace_, 120);
    if (const auto place = placed()) {
        for (Vec2 q : points) {
            const Vec2 at = place->toPicture(q);
            curve << onScreen({at.x, at.y});
        }
    } else {
        const double half = (points.back().x - points.front().x) / 2;
        const double k = std::min(c.width() / (2.4 * half), c.height() / (1.4 * half));
        for (Vec2 q : points) {
            curve << QPointF(c.center().x() + q.x * k, c.top() + 0.15 * c.height() + q.y * k);
        }
        p.setPen(QPen(colour::russet, 1.8));
        for (const auto& [q, unknown] : trace_.points) {
            p.drawEllipse(QPointF(c.center().x() + q.x * k, c.top() + 0.15 * c.height() + q.y * k),
                          4, 4);
        }
    }
    p.setPen(QPen(colour::ink, 1.6));
    p.drawPolyline(curve);
}

} // namespace wren::app
