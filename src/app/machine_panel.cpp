#include "machine_panel.h"

#include "base/length.h"
#include "job/posting.h"
#include "text.h"
#include "theme.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace wren::app {
namespace {

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
    hold_ = deed(tr("Hold"), tr("stand still, spindle turning (Space)"));
    stop_ = deed(tr("Stop"), tr("end the run; the machine forgets the rest (Escape)"));
    simulate_ = deed(
        tr("Start a stand-in"),
        tr("a simulated machine on this computer, %1 times faster than a real one").arg(demoSpeed));
    address_ = new QLineEdit;
    address_->setPlaceholderText(QStringLiteral("tcp:127.0.0.1:PORT or tty:PATH"));
    address_->setFont(figures(14));
    address_->setMinimumWidth(300);
    address_->setAccessibleName(tr("machine's address"));
    reason_ = new QLineEdit;
    reason_->setFont(words(14));
    reason_->setPlaceholderText(tr("why it may be sent in spite of its stop findings"));
    reason_->setAccessibleName(tr("reason for overriding"));
    auto* deeds = new QHBoxLayout;
    deeds->setSpacing(14);
    for (QPushButton* b : {send_, hold_, stop_}) {
        deeds->addWidget(b);
    }
    deeds->addStretch(1);
    auto* to = new QLabel(tr("machine at"));
    to->setFont(words(14));
    deeds->addWidget(to);
    deeds->addWidget(address_);
    deeds->addWidget(simulate_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(26, 20, 26, 16);
    column->addStretch(1);
    column->addWidget(reason_);
    column->addLayout(deeds);

    connect(send_, &QPushButton::clicked, this, &MachinePanel::send);
    connect(hold_, &QPushButton::clicked, this, [this] {
        runner_.hold(!runner_.onHold());
        refresh();
    });
    connect(stop_, &QPushButton::clicked, this, [this] { runner_.stop(); });
    connect(simulate_, &QPushButton::clicked, this, [this] { startSimulated(demoSpeed); });
    connect(address_, &QLineEdit::textChanged, this, &MachinePanel::refresh);
    connect(reason_, &QLineEdit::editingFinished, this,
            [this] { sheet_.setOverrideReason(reason_->text().trimmed()); });
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

void MachinePanel::send() {
    refresh(); // a change of the design may be under way: what is on the sheet is old then
    if (!send_->isEnabled()) {
        return;
    }
    sending_ = next_ > 0 ? next_ : 1;
    progress_ = {};
    last_.clear();
    runner_.start(sheet_.derivedPtr(), sending_, address_->text().trimmed(), book_);
    refresh();
    setFocus();
}

void MachinePanel::refresh() {
    const Derived* d = sheet_.derived();
    const bool ready = d && sheet_.step() == 3 && postingRight(*d) != PostingRight::refused;
    const bool running = runner_.running();
    reason_->setVisible(d && sheet_.step() == 3 && hasStop(d->findings) &&
                        !hasFirmStop(d->findings) && d->proof);
    if (!reason_->hasFocus()) {
        reason_->setText(sheet_.overrideReason());
    }
    send_->setEnabled(ready && !running && !address_->text().trimmed().isEmpty());
    send_->setText(next_ > 0 ? tr("Send program %1").arg(next_) : tr("Send program 1 again"));
    hold_->setEnabled(running);
    hold_->setText(runner_.onHold() ? tr("Resume") : tr("Hold"));
    stop_->setEnabled(running);
    simulate_->setEnabled(simulated_.state() == QProcess::NotRunning);
    address_->setEnabled(!running);
    update();
}

void MachinePanel::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) {
        send();
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
    const double half = width() * 0.5;
    const double low = height() - (reason_->isVisible() ? 140.0 : 96.0);
    drawPrograms(p, QRectF(26, 18, half - 50, low - 18));
    drawPosition(p, QRectF(half + 10, 18, half - 36, low - 18));
    if (!d || d->programs.empty()) {
        return;
    }
    p.setFont(words(13));
    p.setPen(colour::faded);
    p.drawText(
        QRectF(26, low - 26, width() - 52.0, 40), Qt::AlignLeft | Qt::TextWordWrap,
        tr("Eyes and ears protected, extraction on, no gloves near the cutter, a hand at the "
           "stop. Let the spindle stand still before a clamp or a bit is touched. Workshop "
           "and mains rules are your local code's."));
}

void MachinePanel::drawPrograms(QPainter& p, const QRectF& area) const {
    const Derived* d = sheet_.derived();
    p.setFont(words(13, true));
    p.setPen(colour::faded);
    p.drawText(QRectF(area.left(), area.top(), area.width(), 20), Qt::AlignLeft,
               tr("In this order"));
    if (!d || d->programs.empty()) {
        p.setFont(words(20));
        p.drawText(area.adjusted(0, 40, 0, 0), Qt::AlignLeft | Qt::TextWordWrap,
                   sheet_.step() < 3 ? tr("Proving the programs ...")
                                     : tr("There is nothing to send: see the findings below."));
        return;
    }
    double y = area.top() + 30;
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
        y += 72;
    }
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
    double y = area.top() + 70;
    for (const auto& [axis, value] : {std::pair{"X", at.x}, {"Y", at.y}, {"Z", at.z}}) {
        p.setFont(words(22, true));
        p.setPen(colour::faded);
        p.drawText(QRectF(area.left(), y, 40, 52), Qt::AlignVCenter, QLatin1String(axis));
        p.setFont(figures(40, true));
        p.setPen(progress_.lines ? colour::ink : colour::rule);
        p.drawText(QRectF(area.left() + 40, y, 300, 52), Qt::AlignVCenter | Qt::AlignRight,
                   qs(formatLengthValue(value, sheet_.unit())));
        p.setFont(words(16));
        p.setPen(colour::faded);
        p.drawText(QRectF(area.left() + 350, y + 6, 60, 46), Qt::AlignVCenter,
                   sheet_.unit() == LengthUnit::inch ? tr("in") : tr("mm"));
        y += 54;
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
            ? tr("Give the machine's address below, or start a stand-in to try it.")
            : tr("Return sends; the machine homes, takes its zero and probes first."));
}

} // namespace wren::app
