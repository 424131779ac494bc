#include "trace_desk.h"

#include "background.h"
#include "base/error.h"
#include "headed.h"
#include "text.h"
#include "theme.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QImageReader>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

constexpr double near = 9;           ///< pixels from a mark that still take hold of it
constexpr int largestPicture = 2400; ///< pixels along its longer side; more shows nothing more

QImage readPicture(const QString& file) {
    QImageReader reader(file);
    reader.setAutoTransform(true);
    const QSize size = reader.size();
    if (size.isValid() && std::max(size.width(), size.height()) > largestPicture) {
        reader.setScaledSize(size.scaled(largestPicture, largestPicture, Qt::KeepAspectRatio));
    }
    return reader.read();
}

} // namespace

TraceDesk::TraceDesk(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("Tracing a section"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 14, 24, 12);
    auto* title = new QLabel(tr("A section from a real neck"));
    title->setFont(words(22, true));
    column->addWidget(title);
    column->addStretch(1);
    auto* row = new QHBoxLayout;
    row->setObjectName(QStringLiteral("row"));
    row->setSpacing(18);
    column->addLayout(row);
    name_ = entry(tr("called"), QStringLiteral("trace.name"),
                  tr("stations then ask for it as @name"), 130);
    distance_ = entry(tr("A to B is"), QStringLiteral("trace.distance"),
                      tr("true distance of the two known points, as 42 or 1 5/8 in"), 100);
    sides_ = new QPushButton;
    sides_->setObjectName(QStringLiteral("choice"));
    sides_->setFont(figures(15));
    row->addLayout(headed(tr("bass edge"), sides_));
    points_ = entry(tr("points, edge to edge: across deep, ..."), QStringLiteral("trace.points"),
                    tr("mm from the middle and below the edges; laid on the picture or typed"), 0);
    trouble_ = new QLabel;
    trouble_->setFont(words(14));
    trouble_->setWordWrap(true);
    column->addWidget(trouble_);
    auto* foot = new QHBoxLayout;
    auto* picture = new QPushButton(tr("Lay a picture down"));
    picture->setObjectName(QStringLiteral("word"));
    keep_ = new QPushButton(tr("Keep it (Return)"));
    keep_->setObjectName(QStringLiteral("deed"));
    auto* leave = new QPushButton(tr("Leave it (Escape)"));
    leave->setObjectName(QStringLiteral("word"));
    for (QPushButton* b : {picture, keep_, leave}) {
        b->setFont(words(14, b == keep_));
        foot->addWidget(b);
    }
    foot->addStretch(1);
    column->addLayout(foot);
    connect(picture, &QPushButton::clicked, this, &TraceDesk::askPicture);
    connect(keep_, &QPushButton::clicked, this, &TraceDesk::keep);
    connect(leave, &QPushButton::clicked, this, &TraceDesk::left);
    connect(sides_, &QPushButton::clicked, this, &TraceDesk::turnSides);
    connect(distance_, &QLineEdit::textEdited, this, &TraceDesk::measure);
    for (QLineEdit* line : {name_, points_}) {
        connect(line, &QLineEdit::textChanged, this, &TraceDesk::read);
    }
    start();
}

QLineEdit* TraceDesk::entry(const QString& label, const QString& name, const QString& tip,
                            int width) {
    auto* line = new QLineEdit;
    line->setObjectName(name);
    line->setFont(figures(15));
    line->setToolTip(tip);
    if (width > 0) {
        line->setFixedWidth(width);
    }
    findChild<QHBoxLayout*>(QStringLiteral("row"))
        ->addLayout(headed(label, line), width > 0 ? 0 : 1);
    connect(line, &QLineEdit::returnPressed, this, &TraceDesk::keep);
    return line;
}

void TraceDesk::start() {
    picture_ = {};
    known_.clear();
    outline_.clear();
    chosen_ = -1;
    bassRight_ = true;
    turnSides();
    name_->setText(QStringLiteral("mine"));
    distance_->clear();
    points_->clear();
    name_->setFocus();
    read();
}

void TraceDesk::show(const QImage& picture) {
    picture_ = picture;
    const double w = picture_.width();
    const double h = picture_.height();
    known_ = {{0.2 * w, 0.9 * h}, {0.8 * w, 0.9 * h}};
    outline_.clear();
    chosen_ = -1;
    setFocus();
    read();
}

void TraceDesk::open(const QString& file) {
    inBackground(
        this, [file] { return readPicture(file); },
        [this, file](const QImage& picture) {
            if (picture.isNull()) {
                Q_EMIT refused(tr("%1 is not a picture that can be read; a PNG or JPEG file was "
                                  "expected.")
                                   .arg(file));
                return;
            }
            show(picture);
        });
}

void TraceDesk::askPicture() {
    const QString file = QFileDialog::getOpenFileName(
        this, tr("A picture of a neck's section"), QString(), tr("Pictures (*.png *.jpg *.jpeg)"));
    if (!file.isEmpty()) {
        open(file);
    }
}

void TraceDesk::turnSides() {
    bassRight_ = !bassRight_;
    sides_->setText(bassRight_ ? tr("on the right") : tr("on the left"));
    measure();
}

/// How the section lies on the picture; nothing before both edges and the distance are known.
std::optional<TracePlace> TraceDesk::placed() const {
    if (outline_.size() < 2 || known_.size() != 2) {
        return std::nullopt;
    }
    try {
        const QPointF apart = known_[1] - known_[0];
        const double distance = parseLength(distance_->text().toStdString(), document_.unit());
        std::vector<Vec2> laid;
        for (const QPointF& q : outline_) {
            laid.push_back({q.x(), q.y()});
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
        const std::string text = neckTracesText({{"", place->points()}});
        points_->setText(qs(text.substr(text.find(':') + 2)));
    } else if (!outline_.empty()) {
        points_->clear();
    }
    read();
}

/// What is missing, or the section the field holds.
void TraceDesk::read() {
    if (!trouble_) {
        return; // still being built
    }
    trace_ = {};
    QString say;
    bool good = false;
    if (points_->text().trimmed().isEmpty()) {
        say = picture_.isNull() ? tr("Lay a picture down, or type the points a profile gauge gave.")
              : distance_->text().trimmed().isEmpty()
                  ? tr("Put A and B on two places you have measured, and type how far they are "
                       "apart.")
                  : tr("Now click along the section from edge to edge, closer together where it "
                       "turns. Delete takes the chosen point away; the arrow keys nudge it.");
    } else {
        try {
            const std::vector<NeckTrace> read = neckTraces(name_->text().trimmed().toStdString() +
                                                           ": " + points_->text().toStdString());
            trace_ = read.front();
            good = true;
            const double wide = trace_.points.back().x - trace_.points.front().x;
            double deep = 0;
            for (Vec2 p : trace_.points) {
                deep = std::max(deep, p.y);
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
    trouble_->setStyleSheet(good || points_->text().isEmpty() ? QStringLiteral("color: #5B6058;")
                                                              : QStringLiteral("color: #9A3A1E;"));
    keep_->setEnabled(good);
    update();
}

void TraceDesk::keep() {
    if (trace_.points.empty()) {
        return;
    }
    try {
        std::vector<NeckTrace> all = neckTraces(document_.project().neck.traces);
        std::erase_if(all, [&](const NeckTrace& t) { return t.name == trace_.name; });
        all.push_back(trace_);
        document_.set(QStringLiteral("neck.traces"), qs(neckTracesText(all)));
        Q_EMIT kept(qs(trace_.name));
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

QRectF TraceDesk::canvas() const {
    const double bottom = name_->geometry().top() - 40;
    return {24, 52, width() - 48.0, std::max(40.0, bottom - 52)};
}

QPointF TraceDesk::onScreen(QPointF q) const {
    const QRectF c = canvas();
    const double k = std::min(c.width() / picture_.width(), c.height() / picture_.height());
    return c.center() + (q - QPointF(picture_.width(), picture_.height()) / 2) * k;
}

QPointF TraceDesk::onPicture(QPointF s) const {
    const QRectF c = canvas();
    const double k = std::min(c.width() / picture_.width(), c.height() / picture_.height());
    return (s - c.center()) / k + QPointF(picture_.width(), picture_.height()) / 2;
}

QPointF* TraceDesk::markAt(QPointF s) {
    QPointF* best = nullptr;
    double least = near;
    int number = 0;
    for (std::vector<QPointF>* marks : {&known_, &outline_}) {
        for (QPointF& q : *marks) {
            const QPointF d = onScreen(q) - s;
            if (std::hypot(d.x(), d.y()) < least) {
                least = std::hypot(d.x(), d.y());
                best = &q;
                chosen_ = number;
            }
            ++number;
        }
    }
    return best;
}

void TraceDesk::mousePressEvent(QMouseEvent* e) {
    if (picture_.isNull() || !canvas().contains(e->position()) || e->button() != Qt::LeftButton) {
        return;
    }
    setFocus();
    if (!markAt(e->position())) {
        outline_.push_back(onPicture(e->position()));
        chosen_ = static_cast<int>(known_.size() + outline_.size()) - 1;
    }
    dragging_ = true;
    measure();
}

void TraceDesk::mouseMoveEvent(QMouseEvent* e) {
    if (!dragging_ || chosen_ < 0) {
        return;
    }
    const auto i = static_cast<std::size_t>(chosen_);
    (i < known_.size() ? known_[i] : outline_[i - known_.size()]) = onPicture(e->position());
    measure();
}

void TraceDesk::mouseReleaseEvent(QMouseEvent*) {
    dragging_ = false;
}

void TraceDesk::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) {
        Q_EMIT left();
        return;
    }
    const auto i = static_cast<std::size_t>(chosen_);
    if (chosen_ < 0 || i >= known_.size() + outline_.size()) {
        QWidget::keyPressEvent(e);
        return;
    }
    QPointF& mark = i < known_.size() ? known_[i] : outline_[i - known_.size()];
    switch (e->key()) {
    case Qt::Key_Left:
        mark.rx() -= 1;
        break;
    case Qt::Key_Right:
        mark.rx() += 1;
        break;
    case Qt::Key_Up:
        mark.ry() -= 1;
        break;
    case Qt::Key_Down:
        mark.ry() += 1;
        break;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        if (i >= known_.size()) {
            outline_.erase(outline_.begin() + static_cast<long>(i - known_.size()));
            chosen_ = -1;
        }
        break;
    default:
        QWidget::keyPressEvent(e);
        return;
    }
    measure();
}

void TraceDesk::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.fillRect(rect(), colour::sheet);
    const QRectF c = canvas();
    if (picture_.isNull()) {
        p.setPen(QPen(colour::rule, 1.5, Qt::DashLine));
        p.drawRect(c);
    } else {
        p.drawImage(
            QRectF(onScreen({0, 0}), onScreen(QPointF(picture_.width(), picture_.height()))),
            picture_);
        p.setFont(words(14, true));
        for (std::size_t i = 0; i < known_.size(); ++i) {
            const QPointF s = onScreen(known_[i]);
            p.setPen(QPen(colour::slate, chosen_ == static_cast<int>(i) ? 3 : 1.8));
            p.drawLine(s - QPointF(9, 0), s + QPointF(9, 0));
            p.drawLine(s - QPointF(0, 9), s + QPointF(0, 9));
            p.drawText(s + QPointF(8, -8), i == 0 ? tr("A") : tr("B"));
        }
        for (std::size_t i = 0; i < outline_.size(); ++i) {
            const bool chosen = chosen_ == static_cast<int>(i + known_.size());
            p.setPen(QPen(colour::russet, 1.8));
            p.setBrush(chosen ? QBrush(colour::russet) : QBrush(colour::sheet));
            p.drawEllipse(onScreen(outline_[i]), 4.5, 4.5);
        }
        p.setBrush(Qt::NoBrush);
    }
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
        for (Vec2 q : trace_.points) {
            p.drawEllipse(QPointF(c.center().x() + q.x * k, c.top() + 0.15 * c.height() + q.y * k),
                          4, 4);
        }
    }
    p.setPen(QPen(colour::ink, 1.6));
    p.drawPolyline(curve);
}

} // namespace wren::app
