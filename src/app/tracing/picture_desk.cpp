#include "tracing/picture_desk.h"

#include "frame/headed.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "state/background.h"

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

PictureDesk::PictureDesk(QPointF a, QPointF b, QWidget* parent)
    : QWidget(parent), firstA_(a), firstB_(b) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
}

QBoxLayout* PictureDesk::startRow(const QString& title) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 14, 24, 12);
    auto* head = new QLabel(title);
    head->setFont(words(22, true));
    column->addWidget(head);
    column->addStretch(1);
    auto* row = new QHBoxLayout;
    row->setObjectName(QStringLiteral("row"));
    row->setSpacing(18);
    column->addLayout(row);
    return row;
}

QLineEdit* PictureDesk::entry(const QString& label, const QString& name, const QString& tip,
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
    connect(line, &QLineEdit::returnPressed, this, [this] { keep(); });
    return line;
}

QPushButton* PictureDesk::finishRow(const QString& pictures, QWidget* trouble) {
    auto* column = qobject_cast<QVBoxLayout*>(layout());
    column->addWidget(trouble);
    auto* foot = new QHBoxLayout;
    auto* picture = new QPushButton(tr("Lay a picture down"));
    picture->setObjectName(QStringLiteral("word"));
    auto* deed = new QPushButton(tr("Keep it (Return)"));
    deed->setObjectName(QStringLiteral("deed"));
    auto* leave = new QPushButton(tr("Leave it (Escape)"));
    leave->setObjectName(QStringLiteral("word"));
    for (QPushButton* b : {picture, deed, leave}) {
        b->setFont(words(14, b == deed));
        foot->addWidget(b);
    }
    foot->addStretch(1);
    column->addLayout(foot);
    connect(picture, &QPushButton::clicked, this, [this, pictures] { askPicture(pictures); });
    connect(deed, &QPushButton::clicked, this, [this] { keep(); });
    connect(leave, &QPushButton::clicked, this, &PictureDesk::left);
    return deed;
}

void PictureDesk::clearMarks() {
    picture_ = {};
    known_.clear();
    laid_.clear();
    chosen_ = -1;
}

void PictureDesk::show(const QImage& picture) {
    picture_ = picture;
    known_.clear();
    for (QPointF share : {firstA_, firstB_}) {
        known_.push_back({{share.x() * picture_.width(), share.y() * picture_.height()}, false});
    }
    laid_.clear();
    chosen_ = -1;
    setFocus();
    marksMoved();
}

void PictureDesk::open(const QString& file) {
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

void PictureDesk::askPicture(const QString& title) {
    const QString file =
        QFileDialog::getOpenFileName(this, title, QString(), tr("Pictures (*.png *.jpg *.jpeg)"));
    if (!file.isEmpty()) {
        open(file);
    }
}

QRectF PictureDesk::canvas() const {
    return {24, 52, width() - 48.0, std::max(40.0, canvasBottom() - 52)};
}

QPointF PictureDesk::onScreen(QPointF q) const {
    const QRectF c = canvas();
    const double k = std::min(c.width() / picture_.width(), c.height() / picture_.height());
    return c.center() + (q - QPointF(picture_.width(), picture_.height()) / 2) * k;
}

QPointF PictureDesk::onPicture(QPointF s) const {
    const QRectF c = canvas();
    const double k = std::min(c.width() / picture_.width(), c.height() / picture_.height());
    return (s - c.center()) / k + QPointF(picture_.width(), picture_.height()) / 2;
}

QRectF PictureDesk::pictureRect() const {
    return {onScreen({0, 0}), onScreen(QPointF(picture_.width(), picture_.height()))};
}

PictureDesk::Mark* PictureDesk::markAt(QPointF s) {
    Mark* best = nullptr;
    double least = near;
    for (std::size_t i = 0; i < known_.size() + laid_.size(); ++i) {
        const QPointF d = onScreen(mark(i).at) - s;
        if (std::hypot(d.x(), d.y()) < least) {
            least = std::hypot(d.x(), d.y());
            best = &mark(i);
            chosen_ = static_cast<int>(i);
        }
    }
    return best;
}

PictureDesk::Mark* PictureDesk::chosenMark() {
    const auto i = static_cast<std::size_t>(chosen_);
    return chosen_ >= 2 && i < known_.size() + laid_.size() ? &mark(i) : nullptr;
}

void PictureDesk::mousePressEvent(QMouseEvent* e) {
    if (!hasPicture() || !canvas().contains(e->position()) || e->button() != Qt::LeftButton) {
        return;
    }
    setFocus();
    if (!markAt(e->position())) {
        const std::size_t before = placeFor(e->position());
        laid_.insert(laid_.begin() + static_cast<long>(before),
                     Mark{onPicture(e->position()), false});
        chosen_ = static_cast<int>(known_.size() + before);
    }
    dragging_ = true;
    marksMoved();
}

void PictureDesk::mouseMoveEvent(QMouseEvent* e) {
    if (dragging_ && chosen_ >= 0) {
        mark(static_cast<std::size_t>(chosen_)).at = onPicture(e->position());
        marksMoved();
    }
}

void PictureDesk::mouseReleaseEvent(QMouseEvent*) {
    dragging_ = false;
}

void PictureDesk::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) {
        Q_EMIT left();
        return;
    }
    const auto i = static_cast<std::size_t>(chosen_);
    if (chosen_ < 0 || i >= known_.size() + laid_.size()) {
        QWidget::keyPressEvent(e);
        return;
    }
    QPointF& at = mark(i).at;
    switch (e->key()) {
    case Qt::Key_Left:
        at.rx() -= 1;
        break;
    case Qt::Key_Right:
        at.rx() += 1;
        break;
    case Qt::Key_Up:
        at.ry() -= 1;
        break;
    case Qt::Key_Down:
        at.ry() += 1;
        break;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        if (i >= known_.size()) {
            laid_.erase(laid_.begin() + static_cast<long>(i - known_.size()));
            chosen_ = -1;
        }
        break;
    default:
        QWidget::keyPressEvent(e);
        return;
    }
    marksMoved();
}

void PictureDesk::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.fillRect(rect(), colour::sheet);
    if (!hasPicture()) {
        p.setPen(QPen(colour::rule, 1.5, Qt::DashLine));
        p.drawRect(canvas());
        drawOver(p);
        return;
    }
    p.drawImage(pictureRect(), picture_);
    drawOver(p);
    p.setFont(words(14, true));
    for (std::size_t i = 0; i < known_.size(); ++i) {
        const QPointF s = onScreen(known_[i].at);
        p.setPen(QPen(colour::slate, chosen_ == static_cast<int>(i) ? 3 : 1.8));
        p.drawLine(s - QPointF(9, 0), s + QPointF(9, 0));
        p.drawLine(s - QPointF(0, 9), s + QPointF(0, 9));
        p.drawText(s + QPointF(8, -8), i == 0 ? tr("A") : tr("B"));
    }
    for (std::size_t i = 0; i < laid_.size(); ++i) {
        const bool chosen = chosen_ == static_cast<int>(i + known_.size());
        const QPointF s = onScreen(laid_[i].at);
        p.setPen(QPen(colour::russet, 1.8));
        p.setBrush(chosen ? QBrush(colour::russet) : QBrush(colour::sheet));
        if (laid_[i].corner) {
            p.drawRect(QRectF(s - QPointF(4.5, 4.5), QSizeF(9, 9)));
        } else {
            p.drawEllipse(s, 4.5, 4.5);
        }
    }
    p.setBrush(Qt::NoBrush);
}

} // namespace wren::app
