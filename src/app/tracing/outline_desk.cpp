#include "tracing/outline_desk.h"

#include "base/error.h"
#include "base/length.h"
#include "cut/contour_pass.h"
#include "frame/headed.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/import_head.h"
#include "job/keys.h"

#include <QApplication>
#include <QBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPainter>
#include <QPushButton>

#include <algorithm>
#include <array>
#include <cmath>

namespace wren::app {
namespace {

constexpr double headCurves = 0.05; ///< mm a headstock's own nodes may leave the traced curve
const QString choiceMark = QStringLiteral(" \u25BE");

} // namespace

OutlineDesk::OutlineDesk(Document& document, QWidget* parent)
    : PictureDesk({0.72, 0.5}, {0.25, 0.5}, parent), document_(document) {
    setAccessibleName(tr("Tracing an outline"));
    QBoxLayout* row = startRow(tr("An outline from a picture"));
    for_ = new QPushButton;
    for_->setObjectName(QStringLiteral("choice"));
    for_->setProperty("path", QStringLiteral("outline.for"));
    sides_ = new QPushButton;
    sides_->setObjectName(QStringLiteral("choice"));
    sides_->setProperty("path", QStringLiteral("outline.bass"));
    for (QPushButton* b : {for_, sides_}) {
        b->setFont(figures(14));
        b->setFixedWidth(b == for_ ? 190 : 120);
    }
    row->addLayout(headed(tr("it becomes"), for_));
    distance_ = entry(tr("A to B is"), QStringLiteral("outline.distance"),
                      tr("true distance of the two places, as 310 or 12 1/4 in"), 100);
    row->addLayout(headed(tr("bass side"), sides_));
    trouble_ = new QLabel;
    trouble_->setFont(words(14));
    trouble_->setWordWrap(true);
    trouble_->setMinimumHeight(40);
    keep_ = finishRow(tr("A picture of an outline"), trouble_);
    connect(for_, &QPushButton::clicked, this, &OutlineDesk::offerUses);
    connect(sides_, &QPushButton::clicked, this, &OutlineDesk::turnSides);
    connect(distance_, &QLineEdit::textEdited, this, &OutlineDesk::measure);
    start();
}

void OutlineDesk::start() {
    clearMarks();
    setUse(Use::body);
    bassAbove_ = true;
    turnSides();
    distance_->clear();
    nodes_.clear();
    setFocus();
    read();
}

void OutlineDesk::offerUses() {
    QMenu menu(this);
    menu.setFont(words(14));
    for (const Use use : {Use::body, Use::cavity, Use::head}) {
        menu.addAction(wordOf(use), [this, use] {
            setUse(use);
            measure();
        });
    }
    menu.exec(for_->mapToGlobal(QPoint(0, for_->height())));
}

void OutlineDesk::turnSides() {
    bassAbove_ = !bassAbove_;
    sides_->setText(bassAbove_ ? tr("above") : tr("below"));
    measure();
}

QString OutlineDesk::wordOf(Use use) {
    return use == Use::body     ? tr("body's outline")
           : use == Use::cavity ? tr("cavity in its back")
                                : tr("headstock");
}

void OutlineDesk::setUse(Use use) {
    use_ = use;
    for_->setText(wordOf(use) + choiceMark);
}

/// How the plan lies on the picture; nothing before the distance is known.
std::optional<PicturePlace> OutlineDesk::placed() const {
    if (known_.size() != 2) {
        return {};
    }
    try {
        const double apart = parseLength(distance_->text().toStdString(), document_.unit());
        const Vec2 a{known_[0].at.x(), known_[0].at.y()};
        const Vec2 b{known_[1].at.x(), known_[1].at.y()};
        // From the bridge line B lies toward the nut; from the nut, toward the bridge.
        return apart > 0 && length(b - a) > 1
                   ? std::optional(
                         PicturePlace(a, b, use_ == Use::head ? apart : -apart, !bassAbove_))
                   : std::nullopt;
    } catch (const Error&) {
        return {}; // the distance is still being typed
    }
}

void OutlineDesk::measure() {
    const auto place = placed();
    nodes_.clear();
    for (const Mark& m : place ? laid_ : std::vector<Mark>{}) {
        const Vec2 p = place->toPlan({m.at.x(), m.at.y()});
        ShapeNode n;
        n.at = {std::round(p.x * 10) / 10, std::round(p.y * 10) / 10};
        n.smooth = !m.corner;
        nodes_.push_back(n);
    }
    read();
}

QString OutlineDesk::told(double wide, double tall) const {
    return tr("%1 along the strings and %2 across. C makes the chosen node a corner or smooth "
              "again; Shift and a click add one to the nearest stretch; Delete takes it away.")
        .arg(qs(formatLength(wide, document_.unit())), qs(formatLength(tall, document_.unit())));
}

/// What is missing, or the outline the nodes make.
void OutlineDesk::read() {
    if (!trouble_) {
        return; // still being built
    }
    curve_.clear();
    QString say;
    const bool empty = nodes_.empty();
    if (empty && !hasPicture()) {
        say = tr("Lay a picture down: a photograph taken square from far off, or a scan.");
    } else if (empty && !placed()) {
        say = use_ == Use::head
                  ? tr("Put A on the centreline at the nut and B on the centreline further "
                       "toward the bridge, and type how far they are apart.")
                  : tr("Put A on the centreline at the bridge line and B on the centreline "
                       "further toward the nut, and type how far they are apart.");
    } else if (empty || laid_.size() == 1 || laid_.size() == 2) {
        say = tr("Now click round the outline, node after node, closer together where it bends "
                 "sharply.");
    } else {
        try {
            checkNodes(nodes_);
            curve_ = shapeOutline(nodes_);
            const auto box = boxOf(curve_);
            say = told(box[1].x - box[0].x, box[1].y - box[0].y);
        } catch (const Error& e) {
            say = QString::fromUtf8(e.what());
        }
    }
    trouble_->setText(say);
    trouble_->setStyleSheet(!curve_.empty() || empty ? QStringLiteral("color: #5B6058;")
                                                     : QStringLiteral("color: #9A3A1E;"));
    keep_->setEnabled(!curve_.empty());
    update();
}

void OutlineDesk::keep() {
    if (curve_.empty()) {
        return;
    }
    try {
        Project next = document_.project();
        if (use_ == Use::head) {
            const DrawnHead head = headFrom(curve_, headCurves);
            next.neck.head.nodes = head.nodes;
            document_.change(next, tr("the headstock's outline from a picture"));
            Q_EMIT kept(tr("The headstock has the picture's outline."));
            return;
        }
        const bool body = use_ == Use::body;
        (body ? next.body.nodes : next.body.cavity.nodes) = nodes_;
        if (body) {
            next.body.mirror = false;
            next.body.build = next.wantsBody() ? next.body.build : BodyBuild::onePiece;
        }
        document_.change(next, body ? tr("the body's outline from a picture")
                                    : tr("the cavity's outline from a picture"));
        Q_EMIT kept(body ? tr("The body has the picture's outline.")
                         : tr("The cavity has the picture's outline."));
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

double OutlineDesk::canvasBottom() const {
    return distance_->geometry().top() - 40;
}

/// With Shift between the two neighbours whose stretch of the curve is nearest; else at the end.
std::size_t OutlineDesk::placeFor(QPointF screen) const {
    const auto place = placed();
    if (!place || curve_.empty() ||
        !QApplication::keyboardModifiers().testFlag(Qt::ShiftModifier)) {
        return laid_.size();
    }
    const QPointF picture = onPicture(screen);
    const Vec2 at = place->toPlan({picture.x(), picture.y()});
    // Nodes may have been laid either way round; the outline runs clockwise.
    const double here = placeOn(curve_, at);
    std::size_t best = laid_.size();
    double least = 1e18;
    const double whole = lengthOf(curve_);
    for (std::size_t i = 0; i < laid_.size(); ++i) {
        const std::size_t k = (i + 1) % laid_.size();
        const double a = placeOn(curve_, place->toPlan({laid_[i].at.x(), laid_[i].at.y()}));
        const double b = placeOn(curve_, place->toPlan({laid_[k].at.x(), laid_[k].at.y()}));
        const auto ahead = [&](double from, double to) {
            return std::fmod(to - from + whole, whole);
        };
        const double span = std::min(ahead(a, b), ahead(b, a));
        const double detour = std::min(ahead(a, here), ahead(here, a)) +
                              std::min(ahead(b, here), ahead(here, b)) - span;
        if (detour < least) {
            least = detour;
            best = i + 1;
        }
    }
    return best;
}

void OutlineDesk::keyPressEvent(QKeyEvent* e) {
    Mark* chosen = chosenMark();
    if (e->key() == Qt::Key_C && chosen) {
        chosen->corner = !chosen->corner;
        measure();
    } else if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) {
        keep();
    } else {
        PictureDesk::keyPressEvent(e);
    }
}

void OutlineDesk::drawOver(QPainter& p) {
    const auto place = placed();
    if (known_.size() == 2) { // the centreline
        const QPointF a = onScreen(known_[0].at);
        const QPointF b = onScreen(known_[1].at);
        const QPointF way = a - b;
        p.save();
        p.setClipRect(pictureRect());
        p.setPen(QPen(colour::slate, 1.2, Qt::DashDotLine));
        p.drawLine(a + way * 20, b - way * 20);
        p.restore();
    }
    if (curve_.empty()) {
        return;
    }
    QPolygonF line;
    if (place) {
        for (Vec2 q : pointsOf(curve_, 0.05)) {
            const Vec2 at = place->toPicture(q);
            line << onScreen({at.x, at.y});
        }
    } else { // typed, without a picture
        const auto box = boxOf(curve_);
        const QRectF c = canvas();
        const double k = std::min(c.width() / (1.1 * (box[1].x - box[0].x)),
                                  c.height() / (1.1 * (box[1].y - box[0].y)));
        for (Vec2 q : pointsOf(curve_, 0.05)) {
            line << c.center() + QPointF(q.x - (box[0].x + box[1].x) / 2,
                                         -(q.y - (box[0].y + box[1].y) / 2)) *
                                     k;
        }
    }
    p.setPen(QPen(colour::ink, 1.6));
    p.drawPolygon(line);
}

} // namespace wren::app
