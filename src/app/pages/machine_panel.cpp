#include "pages/machine_panel.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/posting.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWheelEvent>

#include <algorithm>

namespace wren::app {
namespace {

constexpr double rowPitch = 72;  ///< px from program to program in the list
constexpr double demoSpeed = 60; ///< the stand-in runs so many times faster than wood allows

QPushButton* deed(const QString& text, const QString& tip) {
    auto* b = new QPushButton(text);
    b->setObjectName(QStringLiteral("deed"));
    b->setFont(words(17, true));
    b->setToolTip(tip);
    return b;
}

} // namespace

MachinePanel::MachinePanel(Sheet& sheet, std::filesystem::path book, QWidget* parent)
    : QWidget(parent), sheet_(sheet), book_(std::move(book)) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Machine"));
    send_ = deed(tr("Send"), tr("home, set the zero, probe, and run (Return)"));
    air_ = deed(tr("Air pass"), QString());
    trace_ = deed(tr("Trace"), QString());
    hold_ = deed(tr("Hold"), tr("stand still, spindle turning (Space)"));
    stop_ = deed(tr("Stop"), tr("end the run; the machine forgets the rest (Escape)"));
    simulate_ = deed(
        tr("Start a stand-in"),
        tr("a simulated machine on this computer, %1 times faster than a real one").arg(demoSpeed));
    address_ = new QLineEdit;
    address_->setPlaceholderText(QStringLiteral("tcp:127.0.0.1:PORT or tty:PATH"));
    address_->setFont(figures(14));
    address_->setMinimumWidth(160);
    address_->setAccessibleName(tr("machine's address"));
    reason_ = new QLineEdit;
    reason_->setFont(words(14));
    reason_->setPlaceholderText(tr("why it may be sent in spite of its stop findings"));
    reason_->setAccessibleName(tr("reason for overriding"));
    why_ = new QLabel;
    why_->setFont(words(14));
    why_->setWordWrap(true);
    why_->setObjectName(QStringLiteral("why"));
    auto* deeds = new QHBoxLayout;
    deeds->setSpacing(14);
    for (QPushButton* b : {send_, air_, trace_, hold_, stop_}) {
        deeds->addWidget(b);
    }
    deeds->addWidget(why_, 1);
    auto* machine = new QHBoxLayout;
    machine->setSpacing(14);
    auto* to = new QLabel(tr("machine at"));
    to->setFont(words(14));
    machine->addWidget(to);
    machine->addWidget(address_, 1);
    machine->addWidget(simulate_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(26, 12, 26, 12);
    column->setSpacing(8);
    column->addStretch(1);
    column->addWidget(reason_);
    column->addLayout(machine);
    column->addLayout(deeds);

    connect(send_, &QPushButton::clicked, this, [this] { send(); });
    connect(air_, &QPushButton::clicked, this, [this] { send(RunHow::air); });
    connect(trace_, &QPushButton::clicked, this, [this] { send(RunHow::trace); });
    connect(hold_, &QPushButton::clicked, this, [this] {
        runner_.hold(!runner_.onHold());
        refresh();
    });
    connect(stop_, &QPushButton::clicked, this, [this] { runner_.stop(); });
    connect(simulate_, &QPushButton::clicked, this, [this] { startSimulated(demoSpeed); });
    connect(address_, &QLineEdit::textChanged, this, &MachinePanel::refresh);
    connect(reason_, &QLineEdit::editingFinished, this, [this] {
        const auto stop = openStop();
        if (stop && !reason_->text().trimmed().isEmpty()) {
            sheet_.giveReason(*stop, reason_->text());
            reason_->clear();
        }
    });
    connect(&sheet_, &Sheet::derivedChanged, this, &MachinePanel::refresh);
    connect(&sheet_.document(), &Document::unitChanged, this, qOverload<>(&QWidget::update));
    connect(&runner_, &Runner::progressed, this, [this](const SendProgress& p) {
        progress_ = p;
        update();
    });
    connect(&runner_, &Runner::ended, this, [this](const RunRecord& r) {
        sending_ = 0;
        last_ = r.outcome == "done"
                    ? tr("%1 is done: planned %2 min, took %3 min by the machine's clock.")
                          .arg(qs(r.program))
                          .arg(r.plannedSeconds / 60, 0, 'f', 1)
                          .arg(r.takenSeconds / 60, 0, 'f', 1)
                    : qs(r.program + ": " + r.remark);
        Q_EMIT told(last_);
        Q_EMIT runEnded();
        refresh();
    });
    connect(&runner_, &Runner::failed, this, [this](const QString& sentence) {
        sending_ = 0;
        last_ = sentence;
        Q_EMIT refused(sentence);
        refresh();
    });
    connect(&simulated_, &QProcess::readyReadStandardOutput, this, [this] {
        const QString line = QString::fromUtf8(simulated_.readAllStandardOutput()).trimmed();
        setAddress(line.section(QLatin1Char('\n'), 0, 0));
    });
    connect(&simulated_, &QProcess::errorOccurred, this, [this] {
        Q_EMIT refused(
            tr("The simulated machine (wren-controller) could not be started; it belongs "
               "beside this program."));
    });
    refresh();
}

MachinePanel::~MachinePanel() {
    runner_.stop();
    if (simulated_.state() != QProcess::NotRunning) {
        simulated_.terminate();
        simulated_.waitForFinished(1000);
    }
}

void MachinePanel::setAddress(const QString& address) {
    address_->setText(address);
}

void MachinePanel::setNext(int order, const std::vector<bool>& done) {
    next_ = order;
    done_ = done;
    refresh();
}

void MachinePanel::setBookRead(bool read) {
    bookRead_ = read;
    refresh();
}

void MachinePanel::startSimulated(double speed) {
    if (simulated_.state() == QProcess::NotRunning) {
        // Where the maker would lay the probe plate: on the bed, or on the blank.
        const Project& p = sheet_.document().project();
        const double plateOn = p.zZero == ZZero::top ? p.blank.thickness : 0;
        simulated_.start(QApplication::applicationDirPath() + QStringLiteral("/wren-controller"),
                         {QStringLiteral("--tcp"), QStringLiteral("0"), QStringLiteral("--speed"),
                          QString::number(speed), QStringLiteral("--with-parent"),
                          QStringLiteral("--plate-on"), QString::number(plateOn)});
    }
}

void MachinePanel::send(RunHow how) {
    refresh(); // a change of the design may be under way: what is on the sheet is old then
    if (!send_->isEnabled()) {
        return;
    }
    sending_ = next_ > 0 ? next_ : 1;
    progress_ = {};
    last_.clear();
    runner_.start(sheet_.derivedPtr(), sending_, address_->text().trimmed(), book_, how);
    refresh();
    setFocus();
}

int MachinePanel::inHand() const {
    return sending_ > 0 ? sending_ : std::max(1, next_);
}

std::optional<PartId> MachinePanel::partInHand() const {
    const Derived* d = sheet_.derived();
    const auto i = static_cast<std::size_t>(inHand() - 1);
    return d && i < d->programs.size() ? std::optional(d->programs[i].program.part) : std::nullopt;
}

std::optional<Finding> MachinePanel::openStop() const {
    const Derived* d = sheet_.derived();
    const std::optional<PartId> part = partInHand();
    if (!d || sheet_.step() < 3 || !part) {
        return {};
    }
    for (const Finding& f : d->findings) {
        if (f.weight == Weight::stop && f.part == part && !overrideOf(d->overrides, f)) {
            return f;
        }
    }
    return {};
}

QString MachinePanel::whyNot() const {
    const Derived* d = sheet_.derived();
    if (runner_.running()) {
        return {};
    }
    if (!d || sheet_.step() < 3) {
        return tr("Not yet: the programs are being proved.");
    }
    if (d->programs.empty()) {
        return tr("There is no program to send.");
    }
    if (!bookRead_) {
        return tr("Not yet: the shop's book is being read, to know which program comes next.");
    }
    if (const auto stop = openStop()) {
        return tr("The %1 has a stop finding: %2")
            .arg(qs(stop->part.name()), app::told(stop->message, sheet_.unit()));
    }
    const std::optional<PartId> part = partInHand();
    if (!part || postingRight(*d, *part) == PostingRight::refused) {
        return tr("The %1 is not proved.").arg(qs(part ? part->name() : "part"));
    }
    if (address_->text().trimmed().isEmpty()) {
        return tr("Give the machine's address, or start a stand-in.");
    }
    return {};
}

void MachinePanel::refresh() {
    const bool running = runner_.running();
    const auto stop = openStop();
    reason_->setVisible(stop && stop->overridable && !running);
    if (stop) {
        reason_->setPlaceholderText(
            tr("why the %1 may be sent in spite of it").arg(qs(stop->part.name())));
    }
    const QString why = whyNot();
    why_->setText(why);
    why_->setToolTip(why);
    send_->setToolTip(why.isEmpty() ? tr("home, set the zero, probe, and run (Return)") : why);
    send_->setEnabled(why.isEmpty() && !running);
    send_->setText(next_ > 0 ? tr("Send program %1").arg(next_) : tr("Send program 1 again"));
    air_->setToolTip(why.isEmpty() ? tr("the same moves an inch above the work, or as high as the "
                                        "machine can (A)")
                                   : why);
    trace_->setToolTip(why.isEmpty() ? tr("round what it cuts, at its safe height, spindle "
                                          "standing (T)")
                                     : why);
    for (QPushButton* b : {air_, trace_}) {
        b->setEnabled(why.isEmpty() && !running);
    }
    hold_->setEnabled(running);
    hold_->setToolTip(running ? tr("stand still, spindle turning (Space)")
                              : tr("nothing is running"));
    hold_->setText(runner_.onHold() ? tr("Resume") : tr("Hold"));
    stop_->setEnabled(running);
    stop_->setToolTip(running ? tr("end the run; the machine forgets the rest (Escape)")
                              : tr("nothing is running"));
    simulate_->setEnabled(simulated_.state() == QProcess::NotRunning);
    address_->setEnabled(!running);
    // The program in hand stays in sight, with the one before it.
    scroll_ = (inHand() - 2) * rowPitch;
    update();
}

void MachinePanel::wheelEvent(QWheelEvent* e) {
    scroll_ -= e->angleDelta().y() / 120.0 * rowPitch;
    update();
}

/// Its own keys come before the drawing's, which has nothing to add here.
bool MachinePanel::event(QEvent* e) {
    if (e->type() == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(e);
        if ((key->key() == Qt::Key_A || key->key() == Qt::Key_T) &&
            key->modifiers() == Qt::NoModifier) {
            e->accept();
            return true;
        }
    }
    return QWidget::event(e);
}

void MachinePanel::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) {
        send();
    } else if (e->key() == Qt::Key_A && e->modifiers() == Qt::NoModifier) {
        send(RunHow::air);
    } else if (e->key() == Qt::Key_T && e->modifiers() == Qt::NoModifier) {
        send(RunHow::trace);
    } else if (e->key() == Qt::Key_Space && runner_.running()) {
        hold_->click();
    } else if (e->key() == Qt::Key_Escape && runner_.running()) {
        stop_->click();
    } else {
        QWidget::keyPressEvent(e);
    }
}

void MachinePanel::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), colour::sheet);
    const Derived* d = sheet_.derived();
    const QRectF list = listArea();
    drawPrograms(p, list);
    drawPosition(p, QRectF(width() * 0.5 + 10, list.top(), width() * 0.5 - 36, list.height()));
    if (!d || d->programs.empty()) {
        return;
    }
    p.setFont(words(13));
    p.setPen(colour::faded);
    p.drawText(
        QRectF(26, list.bottom() + 4, width() - 52.0, 40), Qt::AlignLeft | Qt::TextWordWrap,
        tr("Eyes and ears protected, extraction on, no gloves near the cutter, a hand at the "
           "stop. Let the spindle stand still before a clamp or a bit is touched. Workshop "
           "and mains rules are your local code's."));
}

/// What is left over the fields and the cautions.
QRectF MachinePanel::listArea() const {
    const QWidget* first = reason_->isVisible() ? static_cast<QWidget*>(reason_) : address_;
    const double low = first->geometry().top() - 48;
    return {26, 14, width() * 0.5 - 50, std::max(80.0, low - 14)};
}

void MachinePanel::drawPrograms(QPainter& p, const QRectF& area) const {
    const Derived* d = sheet_.derived();
    p.setFont(words(13, true));
    p.setPen(colour::faded);
    p.drawText(QRectF(area.left(), area.top(), area.width(), 20), Qt::AlignLeft,
               tr("In this order"));
    p.setFont(words(13));
    if (!d || d->programs.empty()) {
        p.setFont(words(20));
        p.drawText(area.adjusted(0, 40, 0, 0), Qt::AlignLeft | Qt::TextWordWrap,
                   sheet_.step() < 3 ? tr("Proving the programs ...")
                                     : tr("There is nothing to send: see the findings below."));
        return;
    }
    const double room = area.height() - 26;
    const double most = std::max(0.0, rowPitch * double(d->programs.size()) - room);
    const double scroll = std::clamp(scroll_, 0.0, most);
    const auto above = static_cast<int>(scroll / rowPitch + 0.5);
    const auto below =
        static_cast<int>((rowPitch * double(d->programs.size()) - scroll - room) / rowPitch + 0.5);
    p.drawText(QRectF(area.left(), area.top(), area.width(), 20), Qt::AlignRight,
               tr("%1 above, %2 below").arg(above).arg(std::max(0, below)));
    p.save();
    p.setClipRect(QRectF(area.left(), area.top() + 24, area.width(), room));
    double y = area.top() + 26 - scroll;
    for (std::size_t i = 0; i < d->programs.size(); ++i) {
        const PostedProgram& post = d->programs[i];
        const int order = static_cast<int>(i) + 1;
        const bool now = order == sending_ || (sending_ == 0 && order == next_);
        const bool done = i < done_.size() && done_[i];
        const QRectF row(area.left(), y, area.width(), 66);
        if (now) {
            p.fillRect(row, colour::paper);
            p.fillRect(QRectF(row.left(), row.top(), 5, row.height()), colour::russet);
        }
        p.setPen(now ? colour::russet : colour::ink);
        p.setFont(figures(30, true));
        p.drawText(QRectF(row.left() + 16, y, 40, 66), Qt::AlignVCenter, QString::number(order));
        p.setFont(words(22, true));
        p.setPen(colour::ink);
        QStringList cuts;
        for (const std::string& w : post.program.what) {
            cuts << qs(w);
        }
        p.drawText(QRectF(row.left() + 60, y + 6, area.width() - 200, 30), Qt::AlignVCenter,
                   cuts.join(QStringLiteral(" + ")));
        p.setFont(figures(14));
        p.setPen(colour::faded);
        p.drawText(QRectF(row.left() + 60, y + 36, area.width() - 200, 22), Qt::AlignVCenter,
                   tr("bit %1").arg(qs(post.program.bit.name)));
        p.setFont(words(15, true));
        p.setPen(done ? colour::moss : colour::faded);
        const QString state = order == sending_
                                  ? tr("running")
                                  : (done ? tr("\u2713 done") : (now ? tr("next") : tr("waits")));
        p.drawText(QRectF(row.right() - 150, y + 6, 140, 28), Qt::AlignRight | Qt::AlignVCenter,
                   state);
        p.setFont(figures(14));
        p.setPen(colour::faded);
        p.drawText(QRectF(row.right() - 150, y + 36, 140, 22), Qt::AlignRight | Qt::AlignVCenter,
                   qs(fmt::format("{:.1f} min", post.time.seconds / 60)));
        y += rowPitch;
    }
    p.restore();
}

void MachinePanel::drawPosition(QPainter& p, const QRectF& area) const {
    const QString state = sending_ == 0 ? (last_.isEmpty() ? tr("standing by") : tr("standing"))
                          : progress_.lines == 0 ? tr("homing and probing")
                                                 : qs(progress_.status.state);
    p.setFont(words(13, true));
    p.setPen(colour::faded);
    p.drawText(QRectF(area.left(), area.top(), area.width(), 20), Qt::AlignLeft, tr("The machine"));
    p.setFont(words(26, true));
    p.setPen(sending_ ? colour::russet : colour::ink);
    p.drawText(QRectF(area.left(), area.top() + 24, area.width(), 36), Qt::AlignLeft, state);
    const Vec3 at = progress_.status.work;
    const bool tight = area.height() < 330;
    const double pitch = tight ? 40 : 54;
    double y = area.top() + (tight ? 60 : 70);
    for (const auto& [axis, value] : {std::pair{"X", at.x}, {"Y", at.y}, {"Z", at.z}}) {
        p.setFont(words(22, true));
        p.setPen(colour::faded);
        p.drawText(QRectF(area.left(), y, 40, pitch - 2), Qt::AlignVCenter, QLatin1String(axis));
        p.setFont(figures(tight ? 28 : 40, true));
        p.setPen(progress_.lines ? colour::ink : colour::rule);
        p.drawText(QRectF(area.left() + 40, y, 300, pitch - 2), Qt::AlignVCenter | Qt::AlignRight,
                   qs(formatLengthValue(value, sheet_.unit())));
        p.setFont(words(16));
        p.setPen(colour::faded);
        p.drawText(QRectF(area.left() + 350, y + 4, 60, pitch - 8), Qt::AlignVCenter,
                   sheet_.unit() == LengthUnit::inch ? tr("in") : tr("mm"));
        y += pitch;
    }
    const QRectF bar(area.left(), y + 14, area.width(), 12);
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(bar);
    const double share =
        progress_.lines ? static_cast<double>(progress_.acknowledged) / progress_.lines : 0;
    p.fillRect(QRectF(bar.left() + 2, bar.top() + 2, (bar.width() - 4) * share, bar.height() - 4),
               sending_ ? colour::russet : colour::moss);
    p.setFont(words(14));
    p.setPen(colour::ink);
    p.drawText(
        QRectF(area.left(), bar.bottom() + 6, area.width(), 44), Qt::AlignLeft | Qt::TextWordWrap,
        sending_ && progress_.lines
            ? tr("line %1 of %2 acknowledged").arg(progress_.acknowledged).arg(progress_.lines)
        : !last_.isEmpty() ? last_
        : address_->text().isEmpty()
            ? QString() // said beside the grey key
            : tr("Return sends; the machine homes, takes its zero and probes first."));
}

} // namespace wren::app
