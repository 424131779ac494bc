#pragma once

#include "hold/setup.h"
#include "run/link.h"

#include <atomic>
#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace wren {

/// What the machine said of itself last.
struct MachineStatus {
    std::string state; ///< "idle", "run", "hold", "alarm"
    Vec3 position;     ///< machine coordinates, mm
    Vec3 work;         ///< program coordinates, mm
    std::size_t freeBytes = 0;
    double clock = 0; ///< seconds of its own time
};

/// Reads an answer to `?`; none when the line is something else.
std::optional<MachineStatus> parseStatus(std::string_view line);

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

/// Talks to one machine: readies it, then streams a program, never sending more bytes than the
/// machine's buffer has room for and checking every acknowledgement.
class Sender {
public:
    /// Asks the machine for its state and with it the size of its buffer. Throws Error when it does
    /// not answer.
    explicit Sender(Link& link);

    /// Homes, sets the setup's zero in X and Y, and takes Z from the probe plate, laid on the bed
    /// or on the blank as the setup's zero asks. Throws Error.
    void ready(const Setup& setup, const Machine& machine);

    /// Streams the program and waits for its end. A machine that vanishes or refuses a line is an
    /// outcome, not an exception.
    SendResult send(std::string_view program, SendControl& control,
                    const std::function<void(const SendProgress&)>& progress = {});

    const MachineStatus& status() const { return status_; }

private:
    std::string nextLine(int milliseconds);
    std::string command(const std::string& line);
    void ask();
    void waitForIdle();
    void listen(const std::function<bool(const std::string&)>& handle);

    Link& link_;
    std::string incoming_;
    MachineStatus status_;
    std::size_t capacity_ = 0;
    std::string probed_;
};

} // namespace wren
