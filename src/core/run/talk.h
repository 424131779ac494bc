#pragma once

#include "run/link.h"
#include "run/speech.h"

#include <atomic>
#include <functional>
#include <map>
#include <string>

namespace wren {

/// What another thread may ask of a run under way.
struct SendControl {
    std::atomic<bool> stop{false};
    std::atomic<bool> hold{false};      ///< true holds, false again resumes
    std::atomic<int> feedPercent{100};  ///< overrides, passed on where the machine has a word
    std::atomic<int> spindlePercent{100};
};

/// How long a machine may go without getting on, milliseconds; a test may have less patience.
struct SendPatience {
    int silence = 3000;   ///< without a readable answer, though asked again and again
    int standing = 20000; ///< without an acknowledgement or a change of place, hold not counted
    /// Without an acknowledgement, of a machine that cannot be asked for its state: a long move
    /// may be answered only when it is done.
    int unasked = 600000;
    int asking = 100; ///< between two questions for its state
};

/// Talks to one machine in the words of its description: single commands with their answers, its
/// state. Whatever it waits for, a stop is obeyed at once. No word goes out that the description
/// does not hold.
class Talk {
public:
    /// Greets it, and asks for its state where it has a word for that. Throws Error when it does
    /// not answer, Cancelled on a stop.
    Talk(Link& link, const Controller& controller, SendControl& control, SendPatience patience = {});

    const Speech& speech() const { return speech_; }
    const MachineStatus& status() const { return status_; }
    SendControl& control() const { return control_; }
    const SendPatience& patience() const { return patience_; }
    bool canAsk() const { return !speech_.controller().ask.empty(); }

    /// Says a word and waits for its acknowledgement, where it gives one. Throws Error: refused, in
    /// alarm, silent, or a word it does not have, by its `name`.
    void command(const char* name, const std::string& word,
                 const std::map<std::string, double>& numbers = {});
    /// A line of G-code, the same way.
    void line(const std::string& gcode) { command("", gcode); }
    /// Where the last probe touched; none since the last command.
    const std::optional<Vec3>& probed() const { return probed_; }
    void ask(); ///< nothing where it cannot be asked
    /// Until moves made ready earlier are done. Throws Error in an alarm.
    void waitForIdle();
    /// Everything stands, spindle off, as far as it has words for that. Waits for no answer.
    void halt() noexcept;

    /// Bytes as they are.
    void send(std::string_view bytes) {
        halted_ = false;
        link_.send(bytes);
    }
    /// Asks for the state whenever nothing comes, and gives every other line to `handle`, an empty
    /// one for a state, until that returns true. Throws Error after too long a silence, when the
    /// machine begins anew or stops by itself, Cancelled on a stop.
    void listen(const std::function<bool(const std::string&)>& handle);
    void takeStatus(const MachineStatus& status);

    /// Ends a wait in which the machine gets nowhere, however much it says.
    class Watchdog;

private:
    std::string nextLine(int milliseconds);

    Link& link_;
    Speech speech_;
    SendControl& control_;
    SendPatience patience_;
    std::string incoming_;
    MachineStatus status_;
    std::size_t most_ = 0; ///< room there was in its buffer
    bool greeting_ = false;
    bool halted_ = false; ///< and nothing said since
    std::optional<Vec3> probed_;
};

class Talk::Watchdog {
public:
    explicit Watchdog(const Talk& talk);
    void gotOn(); ///< something was acknowledged
    void look();  ///< throws Error

private:
    const Talk& talk_;
    MachineStatus seen_;
    long long moved_; ///< milliseconds of a steady clock
};

} // namespace wren
