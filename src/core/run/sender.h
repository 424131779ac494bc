#pragma once

#include "run/corridor.h"
#include "run/steps.h"

#include <functional>
#include <string>
#include <string_view>

namespace wren {

struct SendProgress {
    int acknowledged = 0; ///< lines of the program
    int lines = 0;
    int line = 0; ///< number, in the file, of the oldest not acknowledged; 0: none
    MachineStatus status;
};

enum class SendOutcome { done, stopped, refused, lost, strayed };

struct SendResult {
    SendOutcome outcome = SendOutcome::done;
    std::string remark;        ///< one sentence when it did not end well
    double machineSeconds = 0; ///< by the machine's own clock, or the wall's where it has none
    int line = 0;              ///< of the file, that it ended at when not well; 0: before the first
    int feedPercent = 100;     ///< what the maker had turned the feed to at the end
    int spindlePercent = 100;
};

/// Streams a program and waits for its end: as many lines as the machine's buffer holds, or one at
/// a time, as its description has it, checking every acknowledgement. Hold, resume and overrides of
/// the talk's control are passed on as far as there are words for them. `along`: the way it is
/// proved to go; a machine that reports its place outside of it is held and reset at once.
///
/// A machine that vanishes, lies or refuses a line is an outcome, not an exception; it is held and
/// reset, so that nothing behind a refused line is run.
SendResult sendProgram(Talk& talk, std::string_view program,
                       const std::function<void(const SendProgress&)>& progress = {},
                       Corridor* along = nullptr);

/// All of it at once: greets a machine, readies it for a setup, streams.
class Sender {
public:
    /// Throws Error when it does not answer or is busy with another job, Cancelled on a stop.
    Sender(Link& link, SendControl& control, SendPatience patience = {},
           const Controller& controller = {});

    /// readyAll(): homed, the plate touched at `spot`, the setup's zero set.
    void ready(const Setup& setup, const Machine& machine, std::size_t station = 0,
               std::optional<Vec2> spot = {}) {
        readyAll(talk_, setup, machine, station, spot);
    }
    SendResult send(std::string_view program,
                    const std::function<void(const SendProgress&)>& progress = {},
                    Corridor* along = nullptr) {
        return sendProgram(talk_, program, progress, along);
    }

    const MachineStatus& status() const { return talk_.status(); }
    Talk& talk() { return talk_; }

private:
    Talk talk_;
};

} // namespace wren
