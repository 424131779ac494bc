// What the room at the machine does: the step in hand, programs, fits, taking up again.
#include "pages/machine_room.h"

#include "base/error.h"
#include "frame/text.h"
#include "job/fit_pass.h"
#include "job/probe_spot.h"
#include "run/on_bed.h"
#include "state/background.h"

#include <QInputDialog>
#include <QPushButton>

#include <algorithm>

namespace wren::app {
void MachineRoom::runProgram(int order, RunHow how, bool readied, int fromLine) {
    now_.how = how;
    now_.sending = order;
    showRunning();
    now_.progress = {};
    now_.minutesLeft = -1;
    now_.last.clear();
    const auto& advice = at_ < steps().size() ? steps()[at_].advice : std::nullopt;
    turn(now_.asLast && how == RunHow::cut && advice ? advice->feedPercent : 100, 100);
    cutting_.invalidate();
    posted_ = fromLine == 0 && how != RunHow::trace;
    shownResume_ = false;
    readying_ = !readied;
    RunAsk ask;
    ask.order = order;
    ask.how = how;
    ask.readied = readied;
    ask.fromLine = fromLine;
    ask.by = who_->text().trimmed().toStdString();
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
    if (at_ >= steps().size()) {
        return;
    }
    const std::string id = steps()[at_].id;
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
    at_ = std::min(at_ + 1, steps().size());
    now_.progress = {};
    now_.asLast = false;
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
    if (at_ >= steps().size() || runner_.busy()) {
        return;
    }
    const RoomStep& step = steps()[at_];
    if (!step.ofMachine()) {
        if (step.kind == Kind::mount || step.kind == Kind::turn || step.kind == Kind::lay) {
            zeroed_.clear(); // Z was another bit's, or all of it another place's
        }
        tick(true);
        next();
        return;
    }
    refresh();
    if (const QString why = whyNot(); !why.isEmpty()) {
        Q_EMIT refused(why);
        return;
    }
    if (const auto missing = missingBefore(step)) {
        backTo(*missing);
        return;
    }
    actStep(step);
}

/// What has to be done before a step of the machine that has been done once, but does not hold any
/// more. Where it has no words for homing and zeroing, that is the maker's to know.
std::optional<RoomStep::Kind> MachineRoom::missingBefore(const RoomStep& step) const {
    if (step.kind == Kind::home ||
        !missingWords(sheet_.document().project().machine.talk).empty()) {
        return {};
    }
    if (!homed_) {
        return Kind::home;
    }
    const bool cuts = step.kind == Kind::air || step.kind == Kind::cut;
    const bool beside = step.kind == Kind::probe && step.spot && now_.known &&
                        length(now_.status.position.xy() - *step.spot) > plateHalf;
    return beside || (cuts && zeroed_ != lyingOf(step)) ? std::optional(Kind::travel)
                                                        : std::nullopt;
}

void MachineRoom::backTo(Kind kind) {
    const std::string lying = lyingOf(steps()[at_]);
    for (std::size_t i = at_ + 1; i-- > 0;) {
        if (steps()[i].kind == kind && lyingOf(steps()[i]) == lying) {
            at_ = i;
            break;
        }
    }
    Q_EMIT refused(kind == Kind::home
                       ? tr("The machine has not been homed since it was last sure to know its "
                            "place: that comes first, and its zero after it.")
                       : tr("The bit has to be over the plate's place, and the zero probed with it: "
                            "that comes first."));
    refresh();
}

/// Whatever it knew of where it stands, it may know no more.
void MachineRoom::forgetPlace() {
    homed_ = false;
    zeroed_.clear();
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
    case Kind::travel:
        runner_.act(tr("Over the plate's place"),
                    [spot = *step.spot](Talk& talk) { travelTo(talk, spot); });
        break;
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
    acting_ = at_;
    refresh();
}

/// The plate lies where the maker says it does; a height that cannot be is questioned.
void MachineRoom::probeStep(const RoomStep& step) {
    const auto order = static_cast<std::size_t>(step.program - 1);
    const ProgramPlace place = sheet_.derived()->placeOf(order);
    const Setup setup = place.setup();
    const Machine machine = sheet_.document().project().machine;
    const auto bed = bedZ_;
    const std::vector<OnBed> lies = onBed(setup, step.station, place.job->held.under);
    runner_.act(tr("Probed"), [setup, machine, lies, station = step.station, bed](Talk& talk) {
        layOnBed(talk, lies);
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

/// The feed its like ended well at, from the start; once more: not.
void MachineRoom::takeAdvice() {
    if (at_ < steps().size() && steps()[at_].advice) {
        now_.asLast = !now_.asLast;
        refresh();
    }
}

void MachineRoom::measure() {
    if (measure_->isVisible() && at_ < steps().size()) {
        Q_EMIT measureWanted(steps()[at_].part);
    }
}

void MachineRoom::takeUpAgain(bool exactly) {
    const Derived* d = sheet_.derived();
    if (!d || stoppedAt_ == 0 || runner_.busy() || !whyNot().isEmpty()) {
        return;
    }
    try {
        const int line = exactly ? stoppedAt_ : safeLineOf(*d, stoppedProgram_, stoppedAt_);
        if (!std::exchange(shownResume_, true)) { // what will happen, before it does
            QStringList sentences;
            for (const std::string& s : resumeOf(*d, stoppedProgram_, line).does) {
                sentences << qs(s);
            }
            if (!stoppedByHand_) {
                sentences.prepend(tr("It is homed, the plate probed and the zero set again."));
            }
            now_.last = tr("%1 Press it again and it does.").arg(sentences.join(QLatin1Char(' ')));
            refresh();
            return;
        }
        const int program = stoppedProgram_;
        // After anything but a stop by hand it is homed and zeroed again first.
        runProgram(program, RunHow::cut, stoppedByHand_, line);
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
    ask.by = who_->text().trimmed().toStdString();
    now_.sending = inHand();
    now_.progress = {};
    now_.minutesLeft = -1;
    now_.last.clear();
    cutting_.invalidate();
    posted_ = false;
    readying_ = false;
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

} // namespace wren::app
