#include "pages/machine_room.h"

#include "base/error.h"
#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/fit_pass.h"
#include "job/posting.h"
#include "job/probe_spot.h"
#include "state/background.h"

#include <QApplication>
#include <QCompleter>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace wren::app {
namespace {

using Kind = RoomStep::Kind;

constexpr double demoSpeed = 60; ///< the stand-in runs so many times faster than wood allows
constexpr std::array jogSteps{0.1, 1.0, 10.0, 50.0};
constexpr double jogFeed = 2000; ///< mm/min

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
    for (QPushButton* b : {do_, hold_, stop_, air_, trace_, send_, resume_, fit_, trial_}) {
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
    connect(resume_, &QPushButton::clicked, this, &MachineRoom::takeUpAgain);
    connect(fit_, &QPushButton::clicked, this, &MachineRoom::askFit);
    connect(trial_, &QPushButton::clicked, this, &MachineRoom::trialWanted);
    connect(simulate_, &QPushButton::clicked, this, [this] { startSimulated(demoSpeed); });
    connect(address_, &QLineEdit::textChanged, this, &MachineRoom::refresh);
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
        const double share = p.lines > 0 ? double(p.acknowledged) / p.lines : 0;
        const double taken = since_.isValid() ? double(since_.elapsed()) / 60000 : 0;
        now_.minutesLeft = share > 0.02 ? taken / share - taken : -1;
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
        refresh();
    });
    connect(&runner_, &Runner::ended, this, [this](const RunRecord& r) {
        const int order = std::exchange(now_.sending, 0);
        now_.held = false;
        const bool cut = r.program.find("-air.nc") == std::string::npos &&
                         r.program.find("-trace.nc") == std::string::npos;
        stoppedAt_ = r.outcome != "done" && cut ? r.line : 0;
        stoppedProgram_ = order;
        now_.last = r.outcome == "done"
                        ? tr("%1 is done: planned %2 min, took %3 min by the machine's clock.")
                              .arg(qs(r.program))
                              .arg(r.plannedSeconds / 60, 0, 'f', 1)
                              .arg(r.takenSeconds / 60, 0, 'f', 1)
                        : qs(r.program + ": " + r.remark);
        if (r.outcome == "done" && at_ < steps_.size() && steps_[at_].kind == Kind::air && !cut) {
            tick(true);
            next();
        } else if (r.outcome == "done" && cut && at_ < steps_.size() &&
                   steps_[at_].kind == Kind::cut && steps_[at_].program == order) {
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

void MachineRoom::setBookRead(bool read) {
    bookRead_ = read;
    refresh();
}

/// The step in hand follows from ticks and book, unless one is under way.
void MachineRoom::stepsAnew() {
    const Derived* d = sheet_.derived();
    if (!runner_.busy()) {
        steps_ = d && sheet_.step() >= 3 ? roomSteps(*d, sheet_.unit()) : std::vector<RoomStep>();
        at_ = nextStep(steps_, ticks_, done_);
    }
    refresh();
}

void MachineRoom::startSimulated(double speed) {
    if (simulated_.state() == QProcess::NotRunning) {
        // Where the maker would lay the probe plate: on the bed, or on the blank.
        const Project& p = sheet_.document().project();
        const double plateOn = p.zZero == ZZero::top ? p.blank.thickness : 0;
        QStringList words{QStringLiteral("--tcp"), QStringLiteral("0"), QStringLiteral("--speed"),
                          QString::number(speed), QStringLiteral("--with-parent"),
                          QStringLiteral("--plate-on"), QString::number(plateOn)};
        for (const Controller& shipped : shippedControllers()) {
            if (shipped == p.machine.talk) { // it speaks as the machine is described
                words << QStringLiteral("--manner") << qs(shipped.name);
            }
        }
        simulated_.start(QApplication::applicationDirPath() + QStringLiteral("/wren-controller"),
                         words);
    }
}

void MachineRoom::runProgram(int order, RunHow how, bool readied, int fromLine) {
    const Kind kind = how == RunHow::air ? Kind::air : Kind::cut;
    for (std::size_t i = 0; i < steps_.size(); ++i) { // the card shows what runs
        at_ = steps_[i].program == order && steps_[i].kind == kind ? i : at_;
    }
    now_.sending = order;
    now_.progress = {};
    now_.minutesLeft = -1;
    now_.last.clear();
    turn(100, 100);
    since_.start();
    shownResume_ = false;
    RunAsk ask;
    ask.order = order;
    ask.how = how;
    ask.readied = readied;
    ask.fromLine = fromLine;
    runner_.start(sheet_.derivedPtr(), ask, book_);
    jogging_ = false;
    refresh();
    setFocus();
}

void MachineRoom::send(RunHow how) {
    refresh(); // a change of the design may be under way: what is on the sheet is old then
    if (send_->isEnabled()) {
        runProgram(next_ > 0 ? next_ : 1, how, false);
    }
}

void MachineRoom::tick(bool on) {
    if (at_ >= steps_.size()) {
        return;
    }
    const std::string id = steps_[at_].id;
    ticksAreOf(sheet_.document().project().name);
    (on ? ticks_ : takenBack_).insert(id);
    (on ? takenBack_ : ticks_).erase(id);
    const auto keep = [file = book_, id, on,
                       project = sheet_.document().project().name]() -> QString {
        try {
            ShopBook(file).tick(project, id, on);
            return {};
        } catch (const Error& e) {
            return QString::fromUtf8(e.what());
        }
    };
    inBackground(this, keep, [this](const QString& trouble) {
        if (!trouble.isEmpty()) {
            Q_EMIT refused(trouble);
        }
    });
}

void MachineRoom::next() {
    at_ = std::min(at_ + 1, steps_.size());
    now_.progress = {};
    refresh();
}

void MachineRoom::stepBack() {
    if (at_ > 0 && !runner_.busy()) {
        --at_;
        tick(false);
        now_.last.clear();
        refresh();
    }
}

void MachineRoom::doStep() {
    if (at_ >= steps_.size() || runner_.busy()) {
        return;
    }
    const RoomStep& step = steps_[at_];
    if (!step.ofMachine()) {
        tick(true);
        next();
        return;
    }
    refresh();
    if (const QString why = whyNot(); !why.isEmpty()) {
        Q_EMIT refused(why);
        return;
    }
    actStep(step);
}

/// What the machine does for a step; the step is behind once it has.
void MachineRoom::actStep(const RoomStep& step) {
    const auto order = static_cast<std::size_t>(step.program - 1);
    const ProgramPlace place = sheet_.derived()->placeOf(order);
    if (!place.job) {
        return;
    }
    switch (step.kind) {
    case Kind::home:
        bedZ_->reset();
        runner_.act(tr("Homed"), [](Talk& talk) {
            unlock(talk);
            home(talk);
        });
        break;
    case Kind::travel: {
        const Vec2 spot = probeSpot(*sheet_.derived(), *place.job, step.side, step.station);
        runner_.act(tr("Over the plate's place"), [spot](Talk& talk) { travelTo(talk, spot); });
        break;
    }
    case Kind::park: {
        const Vec2 front = parkPlace(sheet_.document().project().machine);
        runner_.act(tr("Where bits are changed"), [front](Talk& talk) { travelTo(talk, front); });
        break;
    }
    case Kind::probe:
        probeStep(step);
        break;
    case Kind::air:
        runProgram(step.program, RunHow::air, true);
        return;
    case Kind::cut:
        runProgram(step.program, RunHow::cut, true);
        return;
    default:
        return;
    }
    now_.busy = true;
    const std::size_t at = at_;
    connect(
        &runner_, &Runner::acted, this,
        [this, at] {
            if (at_ == at) {
                tick(true);
                next();
            }
        },
        Qt::SingleShotConnection);
    refresh();
}

/// The plate lies where the maker says it does; a height that cannot be is questioned.
void MachineRoom::probeStep(const RoomStep& step) {
    const auto order = static_cast<std::size_t>(step.program - 1);
    const ProgramPlace place = sheet_.derived()->placeOf(order);
    const Setup setup = place.setup();
    const Machine machine = sheet_.document().project().machine;
    const auto bed = bedZ_;
    runner_.act(tr("Probed"), [setup, machine, station = step.station, bed](Talk& talk) {
        if (talk.status().standIn) { // its plate is laid by word
            talk.line(fmt::format("plate {:.4f}",
                                  setup.zZero == ZZero::top ? setup.blank.thickness : 0));
        }
        const double touched = probe(talk, machine);
        if (const std::string doubt = doubtOf(touched, setup, machine, *bed); !doubt.empty()) {
            throw Error(doubt);
        }
        if (setup.zZero == ZZero::bed) {
            *bed = touched - machine.plate;
        }
        setZero(talk, setup, machine, station, touched);
        lift(talk);
    });
}

void MachineRoom::takeUpAgain() {
    const Derived* d = sheet_.derived();
    if (!d || stoppedAt_ == 0 || runner_.busy() || !whyNot().isEmpty()) {
        return;
    }
    try {
        const int line = safeLineOf(*d, stoppedProgram_, stoppedAt_);
        if (!std::exchange(shownResume_, true)) { // what will happen, before it does
            QStringList sentences;
            for (const std::string& s : resumeOf(*d, stoppedProgram_, line).does) {
                sentences << qs(s);
            }
            now_.last = tr("%1 Press R again and it does.").arg(sentences.join(QLatin1Char(' ')));
            refresh();
            return;
        }
        const int program = stoppedProgram_;
        runProgram(program, RunHow::cut, true, line);
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

void MachineRoom::runFit(const QString& pocket, double by) {
    refresh();
    if (!fit_->isEnabled()) {
        return;
    }
    RunAsk ask;
    ask.fit = pocket.toStdString();
    ask.fitBy = by;
    now_.sending = inHand();
    now_.progress = {};
    now_.minutesLeft = -1;
    now_.last.clear();
    since_.start();
    runner_.start(sheet_.derivedPtr(), ask, book_);
    refresh();
    setFocus();
}

void MachineRoom::askFit() {
    const Derived* d = sheet_.derived();
    QStringList names;
    for (const std::string& name : d && d->body ? fitNames(*d) : std::vector<std::string>()) {
        names << qs(name);
    }
    if (names.isEmpty()) {
        Q_EMIT refused(tr("There is no pocket whose walls could be cut again."));
        return;
    }
    bool yes = false;
    const QString pocket = QInputDialog::getItem(this, tr("Fit a pocket"), tr("walls of the"), names,
                                                 0, false, &yes);
    const double by = yes ? QInputDialog::getDouble(this, tr("Fit a pocket"),
                                                    tr("further out, mm"), 0.05, leastFitPass,
                                                    mostFitPass, 2, &yes)
                          : 0;
    if (yes) {
        runFit(pocket, by);
    }
}

void MachineRoom::turn(int feed, int spindle) {
    now_.feed = std::clamp(feed, 10, 200);
    now_.spindle = std::clamp(spindle, 50, 150);
    runner_.turnTo(now_.feed, now_.spindle);
    update();
}

void MachineRoom::jogBy(Vec3 way) {
    if (runner_.busy()) {
        return; // a held key comes again
    }
    if (address_->text().trimmed().isEmpty()) {
        Q_EMIT refused(tr("Give the machine's address, or start a stand-in."));
        return;
    }
    runner_.act(tr("Jogged"), [way](Talk& talk) { jog(talk, way, jogFeed); });
}

bool MachineRoom::jogKey(int key) {
    switch (key) {
    case Qt::Key_Left:
        jogBy({-jogStep_, 0, 0});
        return true;
    case Qt::Key_Right:
        jogBy({jogStep_, 0, 0});
        return true;
    case Qt::Key_Up:
        jogBy({0, jogStep_, 0});
        return true;
    case Qt::Key_Down:
        jogBy({0, -jogStep_, 0});
        return true;
    case Qt::Key_PageUp:
        jogBy({0, 0, jogStep_});
        return true;
    case Qt::Key_PageDown:
        jogBy({0, 0, -jogStep_});
        return true;
    case Qt::Key_C:
    case Qt::Key_N:
    case Qt::Key_B:
        takePlace(key);
        return true;
    default:
        break;
    }
    if (key >= Qt::Key_1 && key <= Qt::Key_4) {
        jogStep_ = jogSteps[std::size_t(key - Qt::Key_1)];
        update();
        return true;
    }
    return false;
}

/// C: the lines' crossing; N and B: the zero hole of the neck's and the body's fixture board.
void MachineRoom::takePlace(int key) {
    if (!now_.known) {
        Q_EMIT refused(tr("The machine has not said where it stands: jog it there first."));
        return;
    }
    Project next = sheet_.document().project();
    const Vec2 at = now_.status.position.xy();
    if (key == Qt::Key_C) {
        next.machine.crossing = at;
    } else {
        TurnHold& hold = key == Qt::Key_N ? next.neckHold : next.bodyHold;
        hold.zeroX = at.x;
        hold.zeroY = at.y;
        hold.fixtureMoved = false;
    }
    sheet_.document().change(std::move(next), key == Qt::Key_C ? tr("the lines' crossing")
                                                               : tr("a fixture board's zero hole"));
    Q_EMIT told(tr("Taken from where the spindle stands: machine X %1 Y %2.")
                    .arg(at.x, 0, 'f', 2)
                    .arg(at.y, 0, 'f', 2));
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
    do_->setEnabled(at_ < steps_.size() && !busy && (!steps_[at_].ofMachine() || can));
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
                           "what will happen (R)")
                            .arg(stoppedProgram_)
                            .arg(stoppedAt_));
    simulate_->setEnabled(simulated_.state() == QProcess::NotRunning);
    address_->setEnabled(!busy);
    update();
}

/// Its own keys come before the drawing's, which has nothing to add here.
bool MachineRoom::event(QEvent* e) {
    if (e->type() == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(e);
        constexpr std::array plain{Qt::Key_A, Qt::Key_T,  Qt::Key_S,      Qt::Key_J,
                                   Qt::Key_R, Qt::Key_F, Qt::Key_Plus, Qt::Key_Minus, Qt::Key_Asterisk};
        constexpr std::array jog{Qt::Key_Left, Qt::Key_Right,  Qt::Key_Up,       Qt::Key_Down,
                                 Qt::Key_N,    Qt::Key_PageUp, Qt::Key_PageDown, Qt::Key_C,
                                 Qt::Key_B,    Qt::Key_1,      Qt::Key_2,        Qt::Key_3,
                                 Qt::Key_4};
        const auto has = [&](const auto& keys) {
            return std::find(keys.begin(), keys.end(), key->key()) != keys.end();
        };
        const bool bare = key->modifiers() == Qt::NoModifier ||
                          key->modifiers() == Qt::KeypadModifier ||
                          key->modifiers() == Qt::ShiftModifier;
        if (bare && (has(plain) || (jogging_ && has(jog)))) {
            e->accept();
            return true;
        }
    }
    return QWidget::event(e);
}

void MachineRoom::keyPressEvent(QKeyEvent* e) {
    const int key = e->key();
    if (jogging_ && e->modifiers() == Qt::NoModifier && jogKey(key)) {
        return;
    }
    if (e->isAutoRepeat()) {
        return;
    }
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        doStep();
    } else if (key == Qt::Key_Backspace) {
        stepBack();
    } else if (key == Qt::Key_S) {
        send();
    } else if (key == Qt::Key_A) {
        send(RunHow::air);
    } else if (key == Qt::Key_T) {
        send(RunHow::trace);
    } else if (key == Qt::Key_R) {
        takeUpAgain();
    } else if (key == Qt::Key_F) {
        fit_->click();
    } else if (key == Qt::Key_J) {
        jogging_ = !jogging_ && !runner_.running();
        update();
    } else if (key == Qt::Key_Plus) {
        turn(now_.feed + 10, now_.spindle);
    } else if (key == Qt::Key_Minus) {
        turn(now_.feed - 10, now_.spindle);
    } else if (key == Qt::Key_Asterisk) {
        turn(100, 100);
    } else if (key == Qt::Key_Space && runner_.running()) {
        hold_->click();
    } else if (key == Qt::Key_Escape && runner_.busy()) {
        stop_->click();
    } else {
        QWidget::keyPressEvent(e);
    }
}

void MachineRoom::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), colour::sheet);
    now_.held = runner_.running() && runner_.onHold();
    if (steps_.empty() && sheet_.step() < 3) {
        p.setFont(words(22));
        p.setPen(colour::faded);
        p.drawText(cardArea(), Qt::AlignCenter | Qt::TextWordWrap, tr("Proving the programs ..."));
    } else {
        const RoomCard drawn(sheet_, steps_, at_, now_);
        drawn.card(p, cardArea());
        drawn.coming(p, comingArea());
    }
    RoomCard(sheet_, steps_, at_, now_).machine(p, machineArea(), jogging_, jogStep_);
    p.setFont(words(12));
    p.setPen(colour::faded);
    const QRectF keys(26, comingArea().bottom() + 4, width() - 52.0, 18);
    p.drawText(keys, Qt::AlignLeft,
               p.fontMetrics().elidedText(
                   jogging_ ? tr("J: stop jogging. C: the lines cross here. N, B: here is the zero "
                                 "hole of the neck's, the body's fixture board.")
                            : tr("Return: do it. Backspace: back. Space: hold. Escape: stop. J: jog. "
                                 "+ and -: feed. Local workshop and mains rules come first."),
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
