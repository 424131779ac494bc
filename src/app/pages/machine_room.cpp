#include "pages/machine_room.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/posting.h"
#include "state/maker.h"

#include <QApplication>
#include <QCompleter>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace wren::app {
namespace {

constexpr double demoSpeed = 60; ///< the stand-in runs so many times faster than wood allows

QPushButton* deed(const QString& text, const QString& tip) {
    auto* b = new QPushButton(text);
    b->setObjectName(QStringLiteral("deed"));
    b->setFont(words(16, true));
    b->setToolTip(tip);
    return b;
}

} // namespace

MachineRoom::MachineRoom(Sheet& sheet, std::filesystem::path book, QWidget* parent)
    : QWidget(parent), sheet_(sheet), book_(std::move(book)) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Machine"));
    makeDeeds();
    wire();
    refresh();
}

void MachineRoom::makeDeeds() {
    do_ = deed(tr("Do it"), tr("what the card says (Return); Backspace goes back a step"));
    send_ = deed(tr("Send"), QString());
    air_ = deed(tr("Air pass"), QString());
    trace_ = deed(tr("Trace"), QString());
    hold_ = deed(tr("Hold"), tr("stand still, spindle turning (Space)"));
    stop_ = deed(tr("Stop"), tr("end the run; the machine forgets the rest (Escape)"));
    resume_ = deed(tr("Take up again"), QString());
    fit_ = deed(tr("Fit…"), tr("a pocket's walls once more, a little further out (F)"));
    trial_ = deed(tr("Trial…"), tr("the same part out of another sheet, posted beside"));
    measure_ = deed(tr("Measure…"), tr("what the part came out as, for what is cut next (M)"));
    simulate_ = deed(
        tr("Start a stand-in"),
        tr("a simulated machine on this computer, %1 times faster than a real one").arg(demoSpeed));
    address_ = new QLineEdit;
    address_->setPlaceholderText(QStringLiteral("tcp:127.0.0.1:PORT, serial:NAME@RATE or tty:PATH"));
    address_->setFont(figures(14));
    address_->setMinimumWidth(160);
    address_->setAccessibleName(tr("machine's address"));
    QStringList ports;
    for (const SerialPort& port : serialPorts()) {
        ports << QStringLiteral("serial:") + qs(port.name);
    }
    address_->setCompleter(new QCompleter(ports, address_));
    who_ = new QLineEdit(makerAtWork());
    who_->setObjectName(QStringLiteral("who"));
    who_->setFont(words(14));
    who_->setFixedWidth(110);
    who_->setPlaceholderText(tr("who runs it"));
    who_->setAccessibleName(tr("who stands at the machine"));
    who_->setToolTip(tr("written beside what is run and done by hand"));
    connect(who_, &QLineEdit::editingFinished, this, [this] { setMakerAtWork(who_->text()); });
    reason_ = new QLineEdit;
    reason_->setFont(words(14));
    reason_->setPlaceholderText(tr("why it may be sent in spite of its stop findings"));
    reason_->setAccessibleName(tr("reason for overriding"));
    why_ = new QLabel;
    why_->setFont(words(14));
    why_->setWordWrap(true);
    why_->setObjectName(QStringLiteral("why"));
    auto* deeds = new QHBoxLayout;
    deeds->setSpacing(10);
    for (QPushButton* b : {do_, hold_, stop_, air_, trace_, send_, resume_, fit_, trial_, measure_}) {
        deeds->addWidget(b);
    }
    deeds->addStretch(1);
    auto* machine = new QHBoxLayout;
    machine->setSpacing(10);
    auto* to = new QLabel(tr("machine at"));
    to->setFont(words(14));
    machine->addWidget(to);
    machine->addWidget(address_, 1);
    machine->addWidget(simulate_);
    auto* by = new QLabel(tr("by"));
    by->setFont(words(14));
    machine->addWidget(by);
    machine->addWidget(who_);
    machine->addWidget(why_, 1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(26, 8, 26, 10);
    column->setSpacing(6);
    column->addStretch(1);
    column->addWidget(reason_);
    column->addLayout(deeds);
    column->addLayout(machine);
}

void MachineRoom::wire() {
    connect(do_, &QPushButton::clicked, this, &MachineRoom::doStep);
    connect(send_, &QPushButton::clicked, this, [this] { send(); });
    connect(air_, &QPushButton::clicked, this, [this] { send(RunHow::air); });
    connect(trace_, &QPushButton::clicked, this, [this] { send(RunHow::trace); });
    connect(hold_, &QPushButton::clicked, this, [this] {
        runner_.hold(!runner_.onHold());
        now_.held = runner_.onHold();
        refresh();
    });
    connect(stop_, &QPushButton::clicked, this, [this] { runner_.stop(); });
    connect(resume_, &QPushButton::clicked, this, [this] { takeUpAgain(); });
    connect(fit_, &QPushButton::clicked, this, &MachineRoom::askFit);
    connect(trial_, &QPushButton::clicked, this, &MachineRoom::trialWanted);
    connect(measure_, &QPushButton::clicked, this, &MachineRoom::measure);
    connect(simulate_, &QPushButton::clicked, this, [this] { startSimulated(demoSpeed); });
    connect(address_, &QLineEdit::textChanged, this, [this] {
        forgetPlace(); // another machine
        now_.known = false;
        refresh();
    });
    connect(reason_, &QLineEdit::editingFinished, this, [this] {
        const auto stop = openStop();
        if (stop && !reason_->text().trimmed().isEmpty()) {
            sheet_.giveReason(*stop, reason_->text());
            reason_->clear();
        }
    });
    connect(&sheet_, &Sheet::derivedChanged, this, &MachineRoom::stepsAnew);
    connect(&sheet_.document(), &Document::unitChanged, this, &MachineRoom::stepsAnew);
    connect(&runner_, &Runner::progressed, this, [this](const SendProgress& p) {
        now_.progress = p;
        now_.status = p.status;
        now_.known = true;
        minutesFrom(p);
        update();
    });
    connect(&runner_, &Runner::stands, this, [this](const MachineStatus& s) {
        now_.status = s;
        now_.known = true;
        update();
    });
    connect(&runner_, &Runner::acted, this, [this](const QString& what) {
        now_.busy = false;
        now_.last = tr("%1: done.").arg(what);
        const auto at = std::exchange(acting_, std::nullopt);
        if (at && *at == at_ && at_ < steps().size()) {
            homed_ = homed_ || steps()[at_].kind == Kind::home;
            if (steps()[at_].kind == Kind::probe) {
                zeroed_ = lyingOf(steps()[at_]);
            }
            tick(true);
            next();
        }
        refresh();
    });
    connect(&runner_, &Runner::ended, this, [this](const RunRecord& r) {
        const int order = std::exchange(now_.sending, 0);
        now_.held = false;
        const bool cut = r.program.find("-air.nc") == std::string::npos &&
                         r.program.find("-trace.nc") == std::string::npos;
        stoppedAt_ = r.outcome != "done" && cut ? r.line : 0;
        stoppedProgram_ = order;
        stoppedByHand_ = r.outcome == "stopped";
        if (r.outcome != "done" && !stoppedByHand_) {
            forgetPlace();
        } else if (readying_ && (r.outcome == "done" || r.line > 0) && at_ < steps().size()) {
            homed_ = true;
            zeroed_ = lyingOf(steps()[at_]);
        }
        now_.last = r.outcome == "done"
                        ? tr("%1 is done: planned %2 min, took %3 min by the machine's clock.")
                              .arg(qs(r.program))
                              .arg(r.plannedSeconds / 60, 0, 'f', 1)
                              .arg(r.takenSeconds / 60, 0, 'f', 1)
                        : qs(r.program + ": " + r.remark);
        if (r.outcome == "done" && at_ < steps().size() && steps()[at_].kind == Kind::air && !cut) {
            tick(true);
            next();
        } else if (r.outcome == "done" && cut && at_ < steps().size() &&
                   steps()[at_].kind == Kind::cut && steps()[at_].program == order) {
            next(); // the book knows it
            QApplication::alert(this); // hands are wanted
            QApplication::beep();
        }
        Q_EMIT told(now_.last);
        Q_EMIT runEnded();
        refresh();
    });
    connect(&runner_, &Runner::failed, this, [this](const QString& sentence) {
        now_.sending = 0;
        now_.busy = false;
        now_.held = false;
        acting_.reset();
        forgetPlace();
        now_.last = sentence;
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
}

MachineRoom::~MachineRoom() {
    runner_.stop();
    if (simulated_.state() != QProcess::NotRunning) {
        simulated_.terminate();
        simulated_.waitForFinished(1000);
    }
}

void MachineRoom::setAddress(const QString& address) {
    address_->setText(address);
}

void MachineRoom::setNext(int order, const std::vector<bool>& done) {
    next_ = order;
    done_ = done;
    stepsAnew();
}

void MachineRoom::ticksAreOf(const std::string& project) {
    if (project != ticksOf_) {
        ticksOf_ = project;
        ticks_.clear();
        takenBack_.clear();
    }
}

/// A reading of the book may be older than what was ticked, or taken back, since.
void MachineRoom::setTicks(const std::string& project, const std::set<std::string>& ticks) {
    ticksAreOf(project);
    for (const std::string& id : ticks) {
        if (takenBack_.count(id) == 0) {
            ticks_.insert(id);
        }
    }
    stepsAnew();
}

void MachineRoom::setBook(const BookReadingPtr& book) {
    reading_ = book;
    setTicks(book->project, book->ticks);
}

void MachineRoom::setBookRead(bool read) {
    bookRead_ = read;
    refresh();
}

void MachineRoom::showEvent(QShowEvent* e) {
    QWidget::showEvent(e);
    who_->setText(makerAtWork());
    stepsAnew();
}

void MachineRoom::startSimulated(double speed) {
    if (simulated_.state() == QProcess::NotRunning) {
        const Project& p = sheet_.document().project();
        QStringList words{QStringLiteral("--tcp"), QStringLiteral("0"), QStringLiteral("--speed"),
                          QString::number(speed), QStringLiteral("--with-parent")};
        for (const Controller& shipped : shippedControllers()) {
            if (shipped == p.machine.talk) { // it speaks as the machine is described
                words << QStringLiteral("--manner") << qs(shipped.name);
            }
        }
        simulated_.start(QApplication::applicationDirPath() + QStringLiteral("/wren-controller"),
                         words);
    }
}

int MachineRoom::inHand() const {
    return now_.sending > 0 ? now_.sending : std::max(1, next_);
}

std::optional<PartId> MachineRoom::partInHand() const {
    const Derived* d = sheet_.derived();
    const auto i = static_cast<std::size_t>(inHand() - 1);
    return d && i < d->programs.size() ? std::optional(d->programs[i].program.part) : std::nullopt;
}

std::optional<Finding> MachineRoom::openStop() const {
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

QString MachineRoom::whyNot() const {
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

void MachineRoom::refresh() {
    runner_.setMachine(address_->text().trimmed(), sheet_.document().project().machine.talk);
    const bool running = runner_.running();
    const bool busy = runner_.busy();
    const auto stop = openStop();
    reason_->setVisible(stop && stop->overridable && !running);
    if (stop) {
        reason_->setPlaceholderText(
            tr("why the %1 may be sent in spite of it").arg(qs(stop->part.name())));
    }
    const QString why = whyNot();
    why_->setText(why);
    why_->setToolTip(why);
    const bool can = why.isEmpty() && !busy;
    do_->setEnabled(at_ < steps().size() && !busy && (!steps()[at_].ofMachine() || can));
    send_->setToolTip(why.isEmpty() ? tr("home, set the zero, probe, and run, all at once (S)")
                                    : why);
    send_->setEnabled(can);
    send_->setText(next_ > 0 ? tr("Send program %1").arg(next_) : tr("Send program 1 again"));
    air_->setToolTip(why.isEmpty() ? tr("the same moves an inch above the work, or as high as the "
                                        "machine can (A)")
                                   : why);
    trace_->setToolTip(why.isEmpty() ? tr("round what it cuts, at its safe height, spindle "
                                          "standing (T)")
                                     : why);
    air_->setEnabled(can);
    trace_->setEnabled(can);
    fit_->setEnabled(can && sheet_.derived()->body.has_value());
    fit_->setToolTip(why.isEmpty() ? tr("a pocket's walls once more, a little further out (F)")
                                   : why);
    trial_->setEnabled(!busy && sheet_.derived());
    hold_->setEnabled(running);
    hold_->setToolTip(running ? tr("stand still, spindle turning (Space)")
                              : tr("nothing is running"));
    hold_->setText(runner_.onHold() ? tr("Resume") : tr("Hold"));
    stop_->setEnabled(busy);
    stop_->setToolTip(busy ? tr("end it; the machine forgets the rest (Escape)")
                           : tr("nothing is running"));
    resume_->setVisible(stoppedAt_ > 0 && !busy);
    resume_->setToolTip(tr("program %1 from its last safe place before line %2; it is said first "
                           "what will happen (R; Shift+R: at that line itself)")
                            .arg(stoppedProgram_)
                            .arg(stoppedAt_));
    const bool finished = at_ < steps().size() && (steps()[at_].kind == Kind::free ||
                                                   steps()[at_].kind == Kind::hand);
    measure_->setVisible(finished && !busy);
    trial_->setVisible(!finished);
    simulate_->setEnabled(simulated_.state() == QProcess::NotRunning);
    address_->setEnabled(!busy);
    update();
}

void MachineRoom::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), colour::sheet);
    now_.held = runner_.running() && runner_.onHold();
    const RoomCard drawn(sheet_, plan_, at_, now_, bed_);
    if (!plan_) {
        p.setFont(words(22));
        p.setPen(colour::faded);
        p.drawText(cardArea(), Qt::AlignCenter | Qt::TextWordWrap, tr("Proving the programs ..."));
    } else {
        drawn.card(p, cardArea());
        drawn.coming(p, comingArea());
    }
    drawn.machine(p, machineArea(), jogging_, jogStep_);
    p.setFont(words(12));
    p.setPen(colour::faded);
    const QRectF keys(26, comingArea().bottom() + 4, width() - 52.0, 18);
    p.drawText(keys, Qt::AlignLeft,
               p.fontMetrics().elidedText(
                   jogging_ ? tr("J: stop jogging. C: the lines cross here. N, B: here is the zero "
                                 "hole of the neck's, the body's fixture board.")
                            : tr("Return: do it. Backspace: back. Space: hold. Escape: stop. J: jog. "
                                 "+ and -: feed. Comma and period: spindle. R, Shift+R: take up again. Local workshop "
                                 "and mains rules come first."),
                   Qt::ElideRight, int(keys.width())));
}

QRectF MachineRoom::cardArea() const {
    const QRectF coming = comingArea();
    return {26, 12, width() * 0.66 - 36, std::max(60.0, coming.top() - 22)};
}

QRectF MachineRoom::machineArea() const {
    const QRectF card = cardArea();
    return {card.right() + 22, card.top(), width() - card.right() - 48, card.height()};
}

/// What is left over the fields.
QRectF MachineRoom::comingArea() const {
    const QWidget* first = reason_->isVisible() ? static_cast<QWidget*>(reason_) : do_;
    const double low = first->geometry().top() - 26;
    return {26, low - 48, width() - 52.0, 46};
}

} // namespace wren::app
