// The room at the machine: its steps, worked out in the background, and how long they take.
#include "pages/machine_room.h"

#include "state/background.h"

namespace wren::app {

const std::vector<RoomStep>& MachineRoom::steps() const {
    static const std::vector<RoomStep> none;
    return plan_ ? plan_->steps : none;
}

/// The step in hand follows from ticks and book, unless one is under way.
void MachineRoom::stepsAnew() {
    if (isVisible() && !runner_.busy()) {
        planAnew();
        at_ = nextStep(steps(), ticks_, done_);
    }
    refresh();
}

/// The card shows what runs.
void MachineRoom::showRunning() {
    const Kind kind = now_.how == RunHow::air ? Kind::air : Kind::cut;
    for (std::size_t i = 0; now_.sending > 0 && i < steps().size(); ++i) {
        at_ = steps()[i].program == now_.sending && steps()[i].kind == kind ? i : at_;
    }
}

/// Where what is planned is not what is on the sheet. Only where it is seen.
void MachineRoom::planAnew() {
    const DerivedPtr derived = sheet_.step() >= 3 ? sheet_.derivedPtr() : nullptr;
    const LengthUnit unit = sheet_.unit();
    const bool practice = now_.known && now_.status.standIn;
    const bool same = plan_ && plan_->derived == derived && plan_->unit == unit;
    if (same && plan_->book == reading_ && plan_->practice == practice) {
        return;
    }
    if (!same) {
        plan_.reset();
    }
    if (planning_ || !derived) {
        return; // the one that is under way asks again when it comes
    }
    planning_ = true;
    inBackground(this,
                 [derived, unit, book = reading_, practice] {
                     return roomPlan(derived, unit, book, practice);
                 },
                 [this](const RoomPlanPtr& plan) {
                     planning_ = false;
                     const bool first = !plan_;
                     plan_ = plan;
                     at_ = first ? nextStep(steps(), ticks_, done_) : at_;
                     showRunning();
                     stepsAnew();
                 });
}

/// By what is behind has taken, measured against what was planned for it.
void MachineRoom::minutesFrom(const SendProgress& p) {
    constexpr double enough = 0.02; // of a program, to tell by
    if (p.line > 0 && !cutting_.isValid()) {
        cutting_.start();
    }
    const double taken = cutting_.isValid() ? double(cutting_.elapsed()) / 60000 : 0;
    const double lines = p.lines > 0 ? double(p.acknowledged) / p.lines : 0;
    const double behind =
        posted_ ? timeBehind(*sheet_.derived(), now_.sending, p.line).value_or(lines) : lines;
    now_.minutesLeft = behind > enough ? taken / behind - taken : -1;
}

} // namespace wren::app
