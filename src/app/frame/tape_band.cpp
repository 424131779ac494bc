#include "frame/tape_band.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>
#include <utility>

namespace wren::app {
namespace {

constexpr double left = 132;
constexpr double changeSeconds = 90; ///< drawn for swapping a bit and probing; common practice
constexpr double plainChange = 26;   ///< pixels, so that the mark stays readable
constexpr double narrowChange = 9;   ///< and on a day of very many programs
constexpr double namedPiece = 120;   ///< pixels a short program wants, to keep its name
constexpr double barePiece = 21;     ///< and when there are many, for its number alone
constexpr double spokenPiece = 56;   ///< from which it says what it cuts and with which bit
constexpr double tightPiece = 16;    ///< at least, in a narrow window

QString clockText(double seconds) {
    const int s = static_cast<int>(std::lround(seconds));
    return QString::fromStdString(fmt::format("{}:{:02}", s / 60, s % 60));
}

} // namespace

TapeBand::TapeBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFixedHeight(74);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Cut tape"));
    setToolTip(tr("Drag to see the stock at that moment; End shows the finished cut."));
    connect(&sheet_, &Sheet::derivedChanged, this, qOverload<>(&QWidget::update));
    connect(&sheet_, &Sheet::stockChanged, this, qOverload<>(&QWidget::update));
}

std::vector<TapeBand::Piece> TapeBand::pieces() const {
    std::vector<Piece> out;
    const Derived* d = sheet_.derived();
    if (!d || d->programs.empty()) {
        return out;
    }
    const double n = static_cast<double>(d->programs.size());
    const double whole = d->seconds() + n * changeSeconds;
    const double room = width() - left - 20;
    // A short day names every program; on a long one the long programs get the room.
    const double leastChange = std::clamp(room / n - barePiece - 4, narrowChange, plainChange);
    const double leastPiece =
        std::min(std::clamp(0.6 * room / n - leastChange, barePiece, namedPiece),
                 std::max(tightPiece, room / n - leastChange));
    const double free = std::max(0.0, room - n * (leastChange + leastPiece));
    double x = left;
    double start = 0;
    for (std::size_t i = 0; i < d->programs.size(); ++i) {
        const double seconds = d->programs[i].time.seconds;
        x += leastChange + free * changeSeconds / whole;
        const double w = leastPiece + free * seconds / whole;
        out.push_back({x, x + w, start, start + seconds, i});
        x += w;
        start += seconds;
    }
    return out;
}

double TapeBand::secondsAt(double px) const {
    const std::vector<Piece> all = pieces();
    for (const Piece& p : all) {
        if (px < p.x0) {
            return p.start;
        }
        if (px <= p.x1) {
            return p.start + (px - p.x0) / (p.x1 - p.x0) * (p.end - p.start);
        }
    }
    return all.empty() ? 0 : all.back().end;
}

double TapeBand::pixelOf(double seconds) const {
    for (const Piece& p : pieces()) {
        if (seconds <= p.end) {
            return p.x0 + (seconds - p.start) / std::max(1e-9, p.end - p.start) * (p.x1 - p.x0);
        }
    }
    return left;
}

void TapeBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), colour::paper);
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(0, 0, width(), 0);
    const Derived* d = sheet_.derived();
    p.setPen(colour::ink);
    p.setFont(words(13.5, true));
    p.drawText(QRectF(14, 14, left - 20, 18), Qt::AlignLeft, tr("Cut tape"));
    p.setFont(words(12.5));
    p.setPen(colour::faded);
    const std::vector<Piece> all = pieces();
    if (all.empty()) {
        p.drawText(QRectF(left, 14, width() - left, 40), Qt::AlignVCenter,
                   sheet_.step() < 2 ? tr("Writing the programs ...")
                                     : tr("No programs: a finding below says what is in the way."));
        return;
    }
    p.drawText(QRectF(14, 33, left - 20, 18), Qt::AlignLeft,
               tr("%1 min, %2")
                   .arg(d->seconds() / 60, 0, 'f', 0)
                   .arg(counted(static_cast<int>(all.size()), "bit")));
    double before = left;
    const Program* lying = nullptr; ///< the one before
    for (const Piece& piece : all) {
        const PostedProgram& program = d->programs[piece.program];
        // The change: spindle stopped, bit swapped, Z probed again.
        const QRectF change(before + 2, 20, piece.x0 - before - 4, 36);
        p.setPen(QPen(colour::faded, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(change);
        const QPointF c = change.center();
        const bool relaid = !lying || !program.program.liesAs(*lying);
        p.setPen(QPen(relaid ? colour::russet : colour::faded, 1.4));
        if (change.width() < 12 && !relaid) {
            p.drawLine(c + QPointF(0, -4), c + QPointF(0, 4));
        } else if (relaid && lying) { // other wood, or the same turned over
            p.drawArc(QRectF(c.x() - 7, c.y() - 7, 14, 14), 40 * 16, 280 * 16);
            p.drawLine(c + QPointF(5, -5), c + QPointF(0, -8));
            p.drawLine(c + QPointF(5, -5), c + QPointF(6, 1));
        } else {
            p.drawLine(c + QPointF(0, -10), c + QPointF(0, 8));
            p.drawLine(c + QPointF(0, 8), c + QPointF(-4, 3));
            p.drawLine(c + QPointF(0, 8), c + QPointF(4, 3));
        }
        if (relaid && d->wantsNeck()) {
            double to = width() - 60.0; // as far as this way of lying goes
            for (const Piece& later : all) {
                const Program& other = d->programs[later.program].program;
                if (later.x0 > piece.x0 && !other.liesAs(program.program)) {
                    to = later.x0 - 6;
                    break;
                }
            }
            p.setFont(words(11));
            const QString text =
                QString::fromStdString(program.program.part.name() + ", " + program.program.setup);
            p.drawText(
                QPointF(piece.x0, 12),
                p.fontMetrics().elidedText(text, Qt::ElideRight, static_cast<int>(to - piece.x0)));
        }
        lying = &program.program;
        const QRectF box(piece.x0, 16, piece.x1 - piece.x0, 44);
        p.setPen(QPen(colour::ink, 1));
        p.setBrush(colour::sheet);
        p.drawRect(box);
        QPen pen = penOf(program.program.kinds.front(), 4);
        p.setPen(pen);
        p.drawLine(box.bottomLeft() + QPointF(4, -5), box.bottomRight() + QPointF(-4, -5));
        p.setPen(colour::ink);
        p.setFont(words(13.5, true));
        QStringList cuts;
        for (const std::string& w : program.program.what) {
            cuts << QString::fromStdString(w);
        }
        const bool bare = box.width() < spokenPiece;
        const auto fitted = [&](const QString& text) {
            return p.fontMetrics().elidedText(text, Qt::ElideRight,
                                              static_cast<int>(box.width()) - 10);
        };
        const QString number = QString::number(program.program.order);
        p.drawText(box.adjusted(box.width() < barePiece ? 2
                                : bare                  ? 4
                                                        : 8,
                                2, -2, -24),
                   Qt::AlignLeft | Qt::AlignVCenter,
                   bare ? number
                        : fitted(number + QStringLiteral("  ") + cuts.join(QStringLiteral(" + "))));
        p.setFont(figures(11));
        p.setPen(colour::faded);
        if (!bare) {
            p.drawText(box.adjusted(8, 18, -2, -13), Qt::AlignLeft | Qt::AlignVCenter,
                       fitted(QString::fromStdString(program.program.bit.name) +
                              QStringLiteral("  ") + clockText(program.time.seconds)));
        }
        drawLoad(p, box, program);
        before = piece.x1;
    }
    if (sheet_.scrubbing()) {
        p.setFont(words(11.5, true));
        p.setPen(colour::russet);
        p.drawText(QRectF(14, 50, left - 20, 18), Qt::AlignLeft, tr("Esc: to the design"));
    }
    const double x = pixelOf(sheet_.moment());
    p.setPen(QPen(colour::russet, 2));
    p.drawLine(QPointF(x, 10), QPointF(x, 66));
    const QString at = !typed_.isEmpty()    ? tr("to minute %1").arg(typed_)
                       : sheet_.scrubbing() ? clockText(sheet_.moment())
                                            : tr("finished");
    p.setFont(figures(11, true));
    const double w = p.fontMetrics().horizontalAdvance(at) + 8;
    const double tx = std::min(x - w / 2, width() - w - 2);
    p.fillRect(QRectF(tx, 0, w, 14), colour::russet);
    p.setPen(colour::sheet);
    p.drawText(QRectF(tx, 0, w, 14), Qt::AlignCenter, at);
    if (hasFocus()) {
        p.setPen(QPen(colour::russet, 1, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(3, 3, -3, -3));
    }
}

/// How hard the bit works from minute to minute, as a share of what it is allowed: the full height
/// of the strip.
void TapeBand::drawLoad(QPainter& p, const QRectF& box, const PostedProgram& program) const {
    const ProgramLoad* load = sheet_.derived()->loadOf(program.program.file);
    if (!load || load->ofAllowed.size() != program.time.ends.size()) {
        return; // not proved yet
    }
    const double tall = box.width() < spokenPiece ? 14 : 5; // under the words
    const double low = box.bottom() - 8;
    const int columns = std::max(1, static_cast<int>(box.width()) - 8);
    std::size_t move = 0;
    p.setPen(Qt::NoPen);
    for (int i = 0; i < columns; ++i) {
        const double until = program.time.seconds * (i + 1) / columns;
        float most = 0;
        do {
            most = std::max(most, load->ofAllowed[std::min(move, load->ofAllowed.size() - 1)]);
        } while (move < program.time.ends.size() && program.time.ends[move] < until && ++move);
        const double h = tall * std::min(1.2F, most);
        p.fillRect(QRectF(box.left() + 4 + i, low - h, 1, h),
                   most > 1 ? colour::russet : colour::rule);
    }
}

void TapeBand::mousePressEvent(QMouseEvent* e) {
    if (sheet_.scrubbing() && e->position().x() < left - 6) {
        sheet_.endScrub();
        return;
    }
    sheet_.setMoment(secondsAt(e->position().x()));
}

void TapeBand::mouseMoveEvent(QMouseEvent* e) {
    if (e->buttons() & Qt::LeftButton) {
        sheet_.setMoment(secondsAt(e->position().x()));
    }
}

void TapeBand::keyPressEvent(QKeyEvent* e) {
    const QString text = e->text();
    if (!text.isEmpty() && (text[0].isDigit() || text[0] == QLatin1Char('.'))) {
        typed_ += text[0]; // a minute; Return goes there
        update();
        return;
    }
    const double step = e->modifiers() & Qt::ShiftModifier ? 5 : 60;
    switch (e->key()) {
    case Qt::Key_Left:
        sheet_.setMoment(sheet_.moment() - step);
        break;
    case Qt::Key_Right:
        sheet_.setMoment(sheet_.moment() + step);
        break;
    case Qt::Key_Home:
        sheet_.setMoment(0);
        break;
    case Qt::Key_End:
        sheet_.endScrub();
        break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (!typed_.isEmpty()) {
            sheet_.setMoment(std::exchange(typed_, {}).toDouble() * 60);
            update();
        }
        break;
    case Qt::Key_Backspace:
        typed_.chop(1);
        update();
        break;
    case Qt::Key_Escape:
        if (!typed_.isEmpty()) {
            typed_.clear();
            update();
        } else {
            sheet_.endScrub();
        }
        break;
    default:
        QWidget::keyPressEvent(e);
    }
}

QAccessible::Role TapeBand::accessRole() const {
    return QAccessible::Slider;
}

QString TapeBand::accessValue() const {
    const Derived* d = sheet_.derived();
    if (!d || d->programs.empty()) {
        return tr("no programs yet");
    }
    const std::size_t program = momentAt(*d, sheet_.moment()).program;
    if (program >= d->programs.size()) {
        return tr("all %1 programs run").arg(d->programs.size());
    }
    return tr("program %1 of %2, %3")
        .arg(program + 1)
        .arg(d->programs.size())
        .arg(QString::fromStdString(d->programs[program].program.file));
}

} // namespace wren::app
