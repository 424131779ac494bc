#pragma once

#include "hold/setup.h"
#include "run/answers.h"
#include "run/link.h"

#include <atomic>
#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace wren {

struct SendProgress {
    int acknowledged = 0; ///< lines of the program
    int lines = 0;
    MachineStatus status;
};

enum class SendOutcome { done, stopped, refused, lost };

struct SendResult {
    SendOutcome outcome = SendOutcome::done;
    std::string remark;        ///< one sentence when it did not end well
    double machineSeconds = 0; ///< by the machine's own clock, from first line to last
};

/// What another thread may ask of a run under way.
struct SendControl {
    std::atomic<bool> stop{false};
    std::atomic<bool> hold{false}; ///< true holds, false again resumes
};

/// How long a machine may go without getting on, milliseconds; a test may have less patience.
struct SendPatience {
    int silence = 3000;   ///< without a readable answer, though asked again and again
    int standing = 20000; ///< without an acknowledgement or a change of place, hold not counted
};

/// Talks to one machine: readies it, then streams a program, never sending more bytes than the
/// machine's buffer has room for and checking every acknowledgement. Whatever it waits for, a stop
/// is obeyed at once: hold and reset go out before anything else.
class Sender {
public:
    /// Asks the machine for its state and with it the size of its buffer. Throws Error when it does
    /// not answer, Cancelled on a stop.
    Sender(Link& link, SendControl& control, SendPatience patience = {});

    /// Homes, sets the setup's zero in X and Y, and takes Z from the probe plate, laid on the bed
    /// or on the blank as the setup's zero asks. Whatever goes wrong, the machine is held and reset
    /// first. `spot`: the plate's middle on the machine; none: the first of probePlaces(). Throws
    /// Error, or Cancelled on a stop.
    void ready(const Setup& setup, const Machine& machine, std::size_t station = 0,
               std::optional<Vec2> spot = {});

    /// Streams the program and waits for its end. A machine that vanishes, lies or refuses a line
    /// is an outcome, not an exception; it is held and reset, so that nothing behind a refused line
    /// is run.
    SendResult send(std::string_view program,
                    const std::function<void(const SendProgress&)>& progress = {});

    const MachineStatus& status() const { return status_; }

private:
    class Watchdog;

    std::string nextLine(int milliseconds);
    void command(const std::string& line);
    void ask();
    void waitForIdle();
    void halt() noexcept;
    void takeStatus(const MachineStatus& status);
    void listen(const std::function<bool(const std::string&)>& handle);

    Link& link_;
    SendControl& control_;
    SendPatience patience_;
    std::string incoming_;
    MachineStatus status_;
    std::size_t capacity_ = 0;
    std::string probed_;
};

/// Where the probe plate may lie for a setup, machine X-Y, the likeliest first: beside the blank
/// when the bed is meant, there where a fixture board under it reaches out; near its edges when its
/// top is. Those inside the travel. Throws Error when there is none.
std::vector<Vec2> probePlaces(const Setup& setup, const Machine& machine, std::size_t station = 0,
                              bool onFixture = false);

} // namespace wren
