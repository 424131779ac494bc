#include "pages/new_board.h"

#include "base/error.h"
#include "design/fan.h"
#include "frame/theme.h"
#include "job/keys.h"
#include "part/board_part.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPalette>
#include <QPushButton>
#include <QVBoxLayout>

namespace wren::app {

NewBoard::NewBoard(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("A new board"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(40, 28, 40, 20);
    auto* title = new QLabel(tr("A board from nothing"));
    title->setFont(words(24, true));
    column->addWidget(title);
    auto* form = new QHBoxLayout;
    form->setSpacing(26);
    column->addSpacing(10);
    form->setObjectName(QStringLiteral("row"));
    column->addLayout(form);
    name_ = entry(tr("name"), QStringLiteral("new.name"), tr("the project's name"));
    strings_ = entry(tr("strings"), QStringLiteral("new.strings"), tr("4 to 9"));
    scale_ = entry(tr("scale"), QStringLiteral("new.scale"),
                   tr("nut to bridge, as 648 or 25 1/2 in; the bass string's when there are two"));
    treble_ = entry(tr("treble scale"), QStringLiteral("new.treble"),
                    tr("empty: one scale for all strings"));
    square_ = entry(tr("square fret"), QStringLiteral("new.square"),
                    tr("nut, bridge or a fret; matters with two scales"));
    frets_ = entry(tr("frets"), QStringLiteral("new.frets"), tr("0 for a fretless board"));
    auto* hand = new QVBoxLayout;
    auto* handLabel = new QLabel(tr("plays"));
    handLabel->setFont(words(14));
    handLabel->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    hand_ = new QPushButton;
    hand_->setObjectName(QStringLiteral("choice"));
    hand_->setFont(figures(17));
    hand_->setMinimumHeight(38);
    hand_->setAccessibleName(tr("hand it is played with"));
    hand->addWidget(handLabel);
    hand->addWidget(hand_);
    hand->addStretch(1);
    form->addLayout(hand);
    connect(hand_, &QPushButton::clicked, this, &NewBoard::turnHand);
    column->addStretch(1);
    trouble_ = new QLabel;
    trouble_->setFont(words(14));
    trouble_->setWordWrap(true);
    column->addWidget(trouble_);
    auto* foot = new QHBoxLayout;
    make_ = new QPushButton(tr("Make it (Return)"));
    make_->setObjectName(QStringLiteral("deed"));
    make_->setFont(words(15, true));
    auto* leave = new QPushButton(tr("Leave it (Escape)"));
    leave->setObjectName(QStringLiteral("word"));
    leave->setFont(words(14));
    foot->addWidget(make_);
    foot->addWidget(leave);
    foot->addStretch(1);
    column->addLayout(foot);
    connect(make_, &QPushButton::clicked, this, &NewBoard::finish);
    connect(leave, &QPushButton::clicked, this, &NewBoard::left);
}

QLineEdit* NewBoard::entry(const QString& label, const QString& name, const QString& tip) {
    auto* column = new QVBoxLayout;
    auto* words_ = new QLabel(label);
    words_->setFont(words(14));
    words_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    auto* line = new QLineEdit;
    line->setObjectName(name);
    line->setFont(figures(17));
    line->setMinimumHeight(38);
    line->setToolTip(tip);
    line->setAccessibleName(label);
    words_->setBuddy(line);
    column->addWidget(words_);
    column->addWidget(line);
    column->addStretch(1);
    findChild<QHBoxLayout*>(QStringLiteral("row"))->addLayout(column);
    connect(line, &QLineEdit::textChanged, this, &NewBoard::read);
    connect(line, &QLineEdit::returnPressed, this, &NewBoard::finish);
    return line;
}

void NewBoard::start(LengthUnit unit) {
    unit_ = unit;
    leftHanded_ = true;
    turnHand();
    name_->setText(tr("Untitled"));
    strings_->setText(QStringLiteral("6"));
    scale_->setText(unit == LengthUnit::mm ? QStringLiteral("648") : QStringLiteral("25 1/2"));
    treble_->clear();
    treble_->setPlaceholderText(tr("the same"));
    QPalette tones = treble_->palette();
    tones.setColor(QPalette::PlaceholderText, colour::faded);
    treble_->setPalette(tones);
    square_->setText(QStringLiteral("7"));
    frets_->setText(QStringLiteral("22"));
    name_->setFocus();
    name_->selectAll();
    read();
}

void NewBoard::turnHand() {
    leftHanded_ = !leftHanded_;
    hand_->setText(leftHanded_ ? tr("left") : tr("right"));
    read();
}

/// Reads all entries anew; the first that does not serve is told.
void NewBoard::read() {
    if (!frets_) {
        return; // still being built
    }
    project_.reset();
    try {
        const auto text = [](QLineEdit* line) { return line->text().trimmed().toStdString(); };
        const Project plain{};
        const auto number = [&](const char* key, QLineEdit* line) {
            return std::get<double>(readValue(keyAt(plain, key), text(line), unit_));
        };
        Project p = newProject(text(name_), static_cast<int>(number("board.strings", strings_)),
                               number("board.scale", scale_),
                               static_cast<int>(number("board.frets", frets_)),
                               leftHanded_ ? Hand::left : Hand::right);
        if (!text(treble_).empty()) {
            p = withTrebleScale(p, number("board.treble_scale", treble_), text(square_));
        }
        project_ = p;
        trouble_->setText(tr("Everything else has an ordinary size to start with, and can be "
                             "changed."));
        trouble_->setStyleSheet(QStringLiteral("color: #5B6058;"));
    } catch (const Error& e) {
        trouble_->setText(QString::fromUtf8(e.what()));
        trouble_->setStyleSheet(QStringLiteral("color: #9A3A1E;"));
    }
    make_->setEnabled(project_.has_value());
    update();
}

void NewBoard::finish() {
    if (project_) {
        Q_EMIT made(*project_);
    }
}

void NewBoard::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Escape) {
        Q_EMIT left();
        return;
    }
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) { // from wherever the focus is
        finish();
        return;
    }
    QWidget::keyPressEvent(e);
}

/// The board the numbers make, from nut to bridge, with its strings.
void NewBoard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), colour::sheet);
    if (!project_ || hasFirmStop(judgeFretboard(project_->board))) {
        return;
    }
    const Fretboard& b = project_->board;
    const Fan fan(b);
    const BoardPart board(b);
    const double whole = std::max(b.scaleLength, b.trebleScale.value_or(b.scaleLength)) + 60;
    const double k =
        std::min((width() - 80) / whole, 150 / std::max(board.widest(), b.bridgeSpread));
    const QPointF origin(60, 170 + (height() - 170 - 90) / 2.0);
    const auto at = [&](Vec2 v) { return origin + QPointF(v.x * k, -v.y * k); };
    QPolygonF outline;
    for (const ContourPiece& piece : board.outline()) {
        outline << at(piece.from);
    }
    p.setPen(QPen(colour::ink, 1.5));
    p.setBrush(colour::wood);
    p.drawPolygon(outline);
    for (const FretSlot& slot : board.slots()) {
        p.setPen(QPen(colour::ink, 1.1));
        p.drawLine(at(slot.low), at(slot.high));
    }
    p.setPen(QPen(colour::faded, 0.8));
    for (double place : stringCentres(b, 2)) {
        p.drawLine(at(fan.string(place, 0)), at(fan.string(place, 1)));
    }
    p.setPen(QPen(colour::russet, 2));
    p.drawLine(at(fan.bassString(1)), at(fan.trebleString(1)));
    p.setFont(words(12));
    p.setPen(colour::faded);
    p.drawText(at(fan.trebleString(1)) + QPointF(-40, fan.trebleString(1).y > 0 ? -8 : 18),
               tr("bridge line"));
    p.drawText(at(fan.bassString(0)) + QPointF(-6, fan.bassString(0).y > 0 ? -14 : 24), tr("bass"));
}

} // namespace wren::app
