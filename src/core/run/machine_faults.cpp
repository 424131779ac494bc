// What goes wrong with the simulated machine: on command, or because it was asked for too much.
#include "run/machine_sim.h"

#include "base/error.h"

#include <algorithm>
#include <charconv>

#include <fmt/format.h>

namespace wren {

Fault faultFrom(const std::string& text) {
    const std::size_t at = text.find('@');
    Fault fault;
    const auto name = std::find(faultNames.begin(), faultNames.end(), text.substr(0, at));
    int line = 0;
    const char* const end = text.data() + text.size();
    const auto [rest, code] = at == std::string::npos
                                  ? std::from_chars_result{end, std::errc::invalid_argument}
                                  : std::from_chars(text.data() + at + 1, end, line);
    if (name == faultNames.end() || code != std::errc() || rest != end || line < 1) {
        throw Error(fmt::format("\"{}\" is no fault; KIND@LINE was expected, as garble@120, KIND "
                                "one of {}.",
                                text, fmt::join(faultNames, ", ")));
    }
    fault.kind = static_cast<FaultKind>(name - faultNames.begin());
    fault.line = line;
    return fault;
}

void MachineSim::stopMotion() {
    standHere();
    queue_.clear();
    exitSpeed_ = 0;
    waiting_ = Waiting::nothing;
    reader_.setPosition(at_);
    reader_.stopSpindle(); // and it stays off until the next M3
    spindle_ = false;
    dropBuffer();
}

/// A line of G-code is answered; what is to go wrong at that line does.
void MachineSim::acknowledge() {
    ++lines_;
    const std::string ok = answered(options_.controller.acknowledged, {});
    const auto fault = std::find_if(options_.faults.begin(), options_.faults.end(),
                                    [&](const Fault& f) { return f.line == lines_; });
    if (fault == options_.faults.end()) {
        reply(ok);
        return;
    }
    switch (fault->kind) {
    case FaultKind::garble:
        reply("\x7f#" + ok.substr(0, 1) + "\x01~");
        return;
    case FaultKind::half:
        replies_.push_back({ok.substr(0, 1), false});
        return;
    case FaultKind::missing:
        return;
    case FaultKind::twice:
        reply(ok);
        break;
    default:
        break;
    }
    reply(ok);
    befall(*fault);
}

void MachineSim::befall(const Fault& fault) {
    switch (fault.kind) {
    case FaultKind::lie:
        lie_ = {37, -12, 0};
        break;
    case FaultKind::delay:
        silent_ = 5;
        break;
    case FaultKind::alarm:
        alarm(limitSwitch);
        break;
    case FaultKind::estop:
        alarm(emergencyStop);
        break;
    case FaultKind::link:
        hungUp_ = true;
        break;
    case FaultKind::power:
        loseAll();
        break;
    case FaultKind::runaway:
        runaway_ = 0;
        break;
    default:
        break;
    }
}

/// Current gone and come again.
void MachineSim::loseAll() {
    stopMotion();
    reader_ = Rs274Reader("controller");
    reader_.setPosition(at_);
    state_ = State::idle;
    rpm_ = 0;
    feedPercent_ = spindlePercent_ = 100;
    incoming_.clear();
    reply(answered(options_.controller.restarted, {}));
}

void MachineSim::refuse(ErrorNumber number) {
    const std::string n = std::to_string(number);
    const std::string& pattern = options_.controller.refused;
    reply(pattern.empty() ? "fault " + n : answered(pattern, {{"number", n}}));
}

void MachineSim::alarm(ErrorNumber number) {
    stopMotion();
    state_ = State::alarm;
    const std::string& pattern = options_.controller.alarm;
    if (pattern.empty()) {
        refuse(number);
    } else {
        reply(answered(pattern, {{"number", std::to_string(number)}}));
    }
}

} // namespace wren
