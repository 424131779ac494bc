#include "frame/tray_band.h"

#include "frame/text.h"
#include "frame/theme.h"
#include "ruler/body_strips.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <QPainterPath>
#include <QScrollArea>
#include <QScrollBar>

#include <algorithm>

namespace wren::app {
namespace {

constexpr int markersLeaf = 2; ///< of a board's numbers
constexpr int bandHeight = 58;

/// What a kind of thing looks like, within a box of about 30 by 18 pixels.
void drawKind(QPainter& p, QPointF m, const Feature& f) {
    const auto box = [&](double w, double h, double r) {
        p.drawRoundedRect(QRectF(m.x() - w / 2, m.y() - h / 2, w, h), r, r);
    };
    const auto cross = [&](double r) {
        p.drawLine(m + QPointF(-r, 0), m + QPointF(r, 0));
        p.drawLine(m + QPointF(0, -r), m + QPointF(0, r));
    };
    switch (f.id.kind) {
    case FeatureKind::outline: {
        QPainterPath path(m + QPointF(-14, 0));
        path.cubicTo(m + QPointF(-12, -12), m + QPointF(-2, -4), m + QPointF(4, -9));
        path.cubicTo(m + QPointF(16, -9), m + QPointF(16, 9), m + QPointF(4, 9));
        path.cubicTo(m + QPointF(-2, 4), m + QPointF(-12, 12), m + QPointF(-14, 0));
        p.drawPath(path);
        break;
    }
    case FeatureKind::neckPocket:
        p.drawPolyline(QPolygonF{m + QPointF(-12, -7), m + QPointF(8, -6), m + QPointF(8, 6),
                                 m + QPointF(-12, 7)});
        break;
    case FeatureKind::bridge:
        box(9, 18, 1);
        p.drawLine(m + QPointF(0, -7), m + QPointF(0, 7));
        break;
    case FeatureKind::cavity:
    case FeatureKind::chamber:
    case FeatureKind::recess:
    case FeatureKind::cutOut:
    case FeatureKind::inlay:
        box(26, 14, 6);
        break;
    case FeatureKind::pickup:
        box(10, 18, 3);
        for (double y : {-5.0, 0.0, 5.0}) {
            p.drawPoint(m + QPointF(0, y));
        }
        break;
    case FeatureKind::pot:
        p.drawEllipse(m, 8, 8);
        p.drawEllipse(m, 2.5, 2.5);
        break;
    case FeatureKind::toggle:
        p.drawEllipse(m, 5, 5);
        p.drawLine(m, m + QPointF(8, -8));
        break;
    case FeatureKind::lever:
        box(24, 5, 2.5);
        p.drawLine(m + QPointF(5, 0), m + QPointF(8, -9));
        break;
    case FeatureKind::jack:
        p.drawEllipse(m, 7, 7);
        p.drawEllipse(m, 3, 3);
        break;
    case FeatureKind::strap:
        box(7, 12, 3);
        p.drawLine(m + QPointF(-8, 6), m + QPointF(8, 6));
        break;
    case FeatureKind::channel:
    case FeatureKind::wire:
        p.drawLine(m + QPointF(-12, 4), m + QPointF(12, -4));
        if (f.id.kind == FeatureKind::channel) {
            p.drawLine(m + QPointF(-12, 8), m + QPointF(12, 0));
        }
        break;
    case FeatureKind::hole:
        p.drawEllipse(m, 6, 6);
        cross(9);
        break;
    case FeatureKind::contour:
        p.drawPolyline(QPolygonF{m + QPointF(-13, -4), m + QPointF(0, -4), m + QPointF(13, 6)});
        break;
    case FeatureKind::plate:
        p.drawPolygon(QPolygonF{m + QPointF(-13, -5), m + QPointF(2, -8), m + QPointF(13, 2),
                                m + QPointF(8, 8), m + QPointF(-11, 7)});
        for (const QPointF& screw : {QPointF(-10, -2), QPointF(9, 3), QPointF(-8, 5)}) {
            p.drawEllipse(m + screw, 1.2, 1.2);
        }
        break;
    case FeatureKind::engraving:
        p.setFont(words(15));
        p.drawText(QRectF(m.x() - 14, m.y() - 11, 28, 22), Qt::AlignCenter, QStringLiteral("ab"));
        break;
    case FeatureKind::station:
        p.drawArc(QRectF(m.x() - 12, m.y() - 14, 24, 22), 180 * 16, 180 * 16);
        p.drawLine(m + QPointF(-12, -3), m + QPointF(12, -3));
        break;
    case FeatureKind::tree: // two strings pulled together under a bar
        p.drawPolyline(QPolygonF{m + QPointF(-14, -6), m + QPointF(0, 2), m + QPointF(14, -4)});
        p.drawPolyline(QPolygonF{m + QPointF(-14, 0), m + QPointF(0, 8), m + QPointF(14, 2)});
        p.drawLine(m + QPointF(0, -8), m + QPointF(0, 10));
        break;
    case FeatureKind::marker:
        p.drawLine(m + QPointF(-11, -9), m + QPointF(-11, 9));
        p.drawLine(m + QPointF(11, -9), m + QPointF(11, 9));
        p.drawEllipse(m, 3.5, 3.5);
        break;
    case FeatureKind::sideDot:
        p.drawLine(m + QPointF(-13, 4), m + QPointF(13, 4));
        p.drawLine(m + QPointF(-13, -4), m + QPointF(13, -4));
        p.drawEllipse(m, 2, 2);
        break;
    default:
        p.drawEllipse(m, 5, 5);
        cross(9);
        break;
    }
}

} // namespace

TrayThing::TrayThing(const Feature& feature, QWidget* parent) : QPushButton(parent) {
    setCheckable(true);
    setFocusPolicy(Qt::StrongFocus);
    show(feature, nullptr, LengthUnit::mm);
}

void TrayThing::show(const Feature& feature, const Finding* worst, LengthUnit unit) {
    feature_ = feature;
    worst_ = worst ? std::optional(worst->weight) : std::nullopt;
    setText(qs(feature.name));
    setAccessibleName(qs(feature.name));
    setAccessibleDescription(worst ? told(worst->message, unit) : QString());
    setToolTip(worst ? told(worst->message, unit)
                     : tr("%1: take it in hand (arrow keys move it, Delete removes it)")
                           .arg(qs(feature.name)));
    updateGeometry();
    update();
}

QSize TrayThing::sizeHint() const {
    const QFontMetrics m(words(11.5));
    return {std::max(52, m.horizontalAdvance(text()) + 16), bandHeight - 8};
}

void TrayThing::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF r = QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5);
    if (isChecked() || underMouse()) {
        p.setPen(QPen(isChecked() ? colour::russet : colour::rule, 1.4));
        p.setBrush(colour::sheet);
        p.drawRect(r);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(isChecked() ? colour::russet : colour::ink, 1.3));
    drawKind(p, {r.center().x(), r.top() + 16}, feature_);
    p.setFont(words(11.5, isChecked()));
    p.setPen(colour::ink);
    p.drawText(QRectF(r.left(), r.bottom() - 17, r.width(), 15), Qt::AlignCenter, text());
    if (worst_ && *worst_ != Weight::note) { // stop a square, caution a triangle
        const QPointF at = r.topRight() + QPointF(-9, 9);
        p.setPen(QPen(*worst_ == Weight::stop ? colour::russet : colour::ochre, 1.6));
        p.setBrush(*worst_ == Weight::stop ? QBrush(colour::russet) : QBrush(Qt::NoBrush));
        if (*worst_ == Weight::stop) {
            p.drawRect(QRectF(at.x() - 4, at.y() - 4, 8, 8));
        } else {
            p.drawPolygon(QPolygonF{at + QPointF(0, -5), at + QPointF(5, 4), at + QPointF(-5, 4)});
        }
    }
    if (hasFocus()) {
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(colour::russet, 1, Qt::DotLine));
        p.drawRect(r.adjusted(2, 2, -2, -2));
    }
}

TrayBand::TrayBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFixedHeight(bandHeight);
    setAccessibleName(tr("Things of this station"));
    auto* whole = new QHBoxLayout(this);
    whole->setContentsMargins(14, 2, 14, 2);
    whole->setSpacing(6);
    scroll_ = new QScrollArea;
    scroll_->setObjectName(QStringLiteral("tray"));
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setWidgetResizable(true);
    scroll_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget;
    row_ = new QHBoxLayout(inner);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(2);
    row_->addStretch(1);
    scroll_->setWidget(inner);
    whole->addWidget(scroll_, 1);
    add_ = new QPushButton(tr("Add (A)"));
    add_->setObjectName(QStringLiteral("word"));
    add_->setFont(words(13.5, true));
    add_->setToolTip(tr("a new thing where the pointer or the cursor is"));
    connect(add_, &QPushButton::clicked, this, [this] { Q_EMIT addWanted(add_); });
    whole->addWidget(add_);
    connect(&sheet_, &Sheet::derivedChanged, this, &TrayBand::refresh);
    connect(&sheet_, &Sheet::stationChanged, this, &TrayBand::refresh);
    connect(&sheet_, &Sheet::partChanged, this, &TrayBand::refresh);
    connect(&sheet_, &Sheet::takenChanged, this, &TrayBand::mark);
    refresh();
}

/// On a board the tray would take the room the strips need: it comes with the markers' numbers.
bool TrayBand::wanted() const {
    switch (sheet_.station()) {
    case Station::board:
        return sheet_.leaf() == markersLeaf || (hasThings() && !sheet_.taken().empty());
    case Station::neck:
    case Station::body:
    case Station::cuts:
        return hasThings();
    default:
        return false;
    }
}

void TrayBand::refresh() {
    const std::vector<Feature> things = sheet_.things();
    const bool had = hasThings();
    while (tiles_.size() > things.size()) {
        tiles_.back()->hide();
        tiles_.back()->deleteLater();
        tiles_.pop_back();
    }
    const Derived* d = sheet_.derived();
    for (std::size_t i = 0; i < things.size(); ++i) {
        if (i == tiles_.size()) {
            auto* tile = new TrayThing(things[i]);
            tile->installEventFilter(this);
            connect(tile, &QPushButton::clicked, this, [this, tile] { sheet_.take(tile->path()); });
            row_->insertWidget(static_cast<int>(i), tile);
            tiles_.push_back(tile);
        }
        const Finding* worst = nullptr;
        for (std::size_t n = 0; d && n < d->findings.size(); ++n) {
            const Finding& f = d->findings[n];
            const bool own = f.feature && pathOf(f.feature) == things[i].path;
            worst = own && (!worst || f.weight < worst->weight) ? &f : worst;
        }
        tiles_[i]->show(things[i], worst, sheet_.unit());
    }
    add_->setVisible(!sheet_.addable().empty());
    mark();
    if (had != hasThings()) {
        Q_EMIT filled();
    }
}

void TrayBand::mark() {
    const std::string thing = thingOf(sheet_.taken());
    for (TrayThing* tile : tiles_) {
        tile->setChecked(!thing.empty() && tile->path() == thing);
        if (tile->isChecked()) {
            scroll_->ensureWidgetVisible(tile, 20, 0);
        }
    }
}

void TrayBand::stepTo(int index) {
    if (tiles_.empty()) {
        return;
    }
    const int n = static_cast<int>(tiles_.size());
    TrayThing* tile = tiles_[static_cast<std::size_t>((index % n + n) % n)];
    tile->setFocus();
    sheet_.take(tile->path());
}

bool TrayBand::eventFilter(QObject* watched, QEvent* event) {
    const auto it = std::find(tiles_.begin(), tiles_.end(), watched);
    if (it == tiles_.end() ||
        (event->type() != QEvent::KeyPress && event->type() != QEvent::ShortcutOverride)) {
        return QWidget::eventFilter(watched, event);
    }
    const auto* key = static_cast<QKeyEvent*>(event);
    const int here = static_cast<int>(it - tiles_.begin());
    const bool letter = key->text().size() == 1 && key->text()[0].isLetter() &&
                        !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier));
    if (event->type() == QEvent::ShortcutOverride) {
        if (letter) {
            event->accept(); // here it jumps to a name
        }
        return letter;
    }
    if (key->key() == Qt::Key_Right || key->key() == Qt::Key_Left) {
        stepTo(here + (key->key() == Qt::Key_Right ? 1 : -1));
        return true;
    }
    if (letter) {
        for (int i = 1; i <= static_cast<int>(tiles_.size()); ++i) {
            const int n = (here + i) % static_cast<int>(tiles_.size());
            if (tiles_[static_cast<std::size_t>(n)]->text().startsWith(key->text(),
                                                                       Qt::CaseInsensitive)) {
                stepTo(n);
                return true;
            }
        }
    }
    return QWidget::eventFilter(watched, event);
}

QAccessible::Role TrayBand::accessRole() const {
    return QAccessible::List;
}

QString TrayBand::accessValue() const {
    return tr("%1 things").arg(sheet_.things().size());
}

} // namespace wren::app
