#pragma once

#include "post/motion.h"
#include "proof/rs274.h"

#include <deque>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace wren {

/// What the simulated machine is made of. Machine coordinates as in shop/machine.h.
struct MachineSimOptions {
    Machine machine;
    std::size_t bufferBytes = 512; ///< for lines not yet acknowledged, line ends counted
    std::size_t queueMoves = 24;   ///< moves planned ahead
    double bedZ = -100;            ///< where a bit's tip would touch the bed
    double plateOn = 0;            ///< height above the bed of what the probe plate lies on
};

/// A bench router's controller without wires: lines in, replies out, time moved on by the caller.
///
/// A line is acknowledged with `ok` or `error:N` when it leaves the buffer for the planner. `home`,
/// probes and M2 answer when they are done. These words act at once and need no room in the buffer:
/// `?` (state and position), `hold`, `resume`, `reset`. The protocol is in docs/controller.md.
class MachineSim {
public:
    enum class State { idle, run, hold, alarm };

    enum ErrorNumber {
        unreadable = 1,      ///< not RS274, or a word it does not know
        outsideTravel = 2,   ///< the move would leave the travel; alarm
        inAlarm = 3,         ///< only `reset` and `?` are taken
        overrun = 4,         ///< more bytes than the buffer holds; alarm
        nothingProbed = 5,   ///< the probe reached its end without touching; alarm
        needsStandstill = 6, ///< `resume` without a hold
    };

    explicit MachineSim(MachineSimOptions options);

    /// Takes one line without its line end. Replies are appended to replies().
    void receive(std::string_view line);

    /// Lets the machine work for so many seconds of its own time.
    void advance(double seconds);

    /// What it has said since the last call; each without its line end.
    std::vector<std::string> takeReplies();

    /// Forgets lines not yet acknowledged (the sender is gone); motion already planned is finished.
    void dropBuffer();

    State state() const { return state_; }
    Vec3 position() const;
    double clock() const { return clock_; }
    std::string status() const;

private:
    void reply(std::string line) { replies_.push_back(std::move(line)); }
    void refuse(ErrorNumber number) { reply("error:" + std::to_string(number)); }
    void alarm(ErrorNumber number);
    void stopMotion();
    void hold();
    void pull();
    bool takeLine(const std::string& line);
    void takeEffect(const LineEffect& effect);
    void jog(const std::string& words);
    void home();
    void probe(Vec3 to, double feed);
    bool insideTravel(const Move& move) const;
    void startNext();
    void finishMove();
    std::size_t freeBytes() const;

    MachineSimOptions options_;
    Rs274Reader reader_;
    State state_ = State::idle;
    std::deque<std::string> buffer_;
    std::size_t bufferedBytes_ = 0;

    std::deque<Move> queue_;
    std::optional<Move> current_;
    SpeedProfile profile_;
    double elapsed_ = 0;   ///< seconds into the current move
    double exitSpeed_ = 0; ///< of the move before

    /// Something that answers only when all motion is done.
    enum class Waiting { nothing, motion, pause, probeHit, probeMiss };
    Waiting waiting_ = Waiting::nothing;

    std::vector<std::string> replies_;
    Vec3 at_;
    double clock_ = 0;
    bool spindle_ = false;
};

} // namespace wren
