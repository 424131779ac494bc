#pragma once

#include "post/motion.h"
#include "proof/rs274.h"
#include "run/on_bed.h"
#include "run/speech.h"

#include <deque>
#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace wren {

/// What can go wrong on command, for practice and for tests.
enum class FaultKind {
    garble,   ///< an answer comes as nonsense
    half,     ///< an answer comes without its end
    missing,  ///< an answer does not come
    twice,    ///< an answer comes twice
    lie,      ///< it says from then on that it stands elsewhere
    delay,    ///< it says nothing for some seconds
    alarm,    ///< a limit switch is met
    estop,    ///< its emergency stop is pressed
    link,     ///< the line to it is gone
    power,    ///< it begins anew, everything forgotten
    runaway,  ///< it goes off by itself
};
inline constexpr std::array<const char*, 11> faultNames{
    "garble", "half", "missing", "twice", "lie", "delay", "alarm", "estop", "link", "power",
    "runaway"};

struct Fault {
    FaultKind kind = FaultKind::garble;
    int line = 1; ///< at the answer to its so-many-eth line of G-code
};
/// "garble@120"; throws Error.
Fault faultFrom(const std::string& text);

/// What the simulated machine is made of. Machine coordinates as in shop/machine.h.
struct MachineSimOptions {
    Machine machine;
    Controller controller;         ///< the words it speaks
    std::size_t bufferBytes = 512; ///< for lines not yet acknowledged, line ends counted
    std::size_t queueMoves = 24;   ///< moves planned ahead
    double bedZ = -100;            ///< where a bit's tip would touch the bed
    double plateOn = 0;            ///< height above the bed of what the probe plate lies on, where
                                   ///< nothing that lies on the bed is higher
    double spindleRamp = 6000;     ///< rpm it gains or loses a second
    /// Told each stretch of its way once it is behind: machine coordinates, as it really went, with
    /// the work zero it then had.
    std::function<void(const Move&, Vec3 zero)> gone{};
    std::vector<Fault> faults;
};

/// A bench router's controller without wires: bytes or lines in, replies out, time moved on by the
/// caller. It speaks the words of a description (shop/controller.h); docs/controller.md has those
/// of its own.
///
/// A line is acknowledged or refused when it leaves the buffer for the planner. Homing, probes and
/// M2 answer when they are done. Words that act at once need no room in the buffer.
class MachineSim {
public:
    enum class State { idle, run, hold, alarm };

    enum ErrorNumber {
        unreadable = 1,      ///< not RS274, or a word it does not know
        outsideTravel = 2,   ///< the move would leave the travel; alarm
        inAlarm = 3,         ///< only unlocking and asking are taken
        overrun = 4,         ///< more bytes than the buffer holds; alarm
        nothingProbed = 5,   ///< the probe reached its end without touching; alarm
        needsStandstill = 6, ///< going on without a hold
        limitSwitch = 7,     ///< met; alarm
        emergencyStop = 8,   ///< pressed; alarm
    };

    explicit MachineSim(MachineSimOptions options);

    /// Takes bytes as they come: lines by their ends, single bytes where its words are such.
    void feed(std::string_view bytes);
    /// Takes one line without its line end. Replies are appended.
    void receive(std::string_view line);

    /// Lets the machine work for so many seconds of its own time.
    void advance(double seconds);

    /// What it has said since the last call: as bytes, or each without its line end.
    std::string takeBytes();
    std::vector<std::string> takeReplies();

    /// Forgets lines not yet acknowledged (the sender is gone); motion already planned is finished.
    void dropBuffer();
    /// Whether a fault has cut its line; told once.
    bool hungUp();

    State state() const { return state_; }
    Vec3 position() const;
    double clock() const { return clock_; }
    double rpm() const { return rpm_; }
    std::string status() const;

private:
    struct Reply {
        std::string text;
        bool ends = true;
    };
    void reply(std::string line) { replies_.push_back({std::move(line), true}); }
    void acknowledge();
    void refuse(ErrorNumber number);
    void alarm(ErrorNumber number);
    void befall(const Fault& fault);
    void loseAll();
    void stopMotion();
    Vec3 astray() const;
    void tellWay();
    void standHere();
    void hold();
    void resume();
    bool atOnce(const std::string& line);
    void pull();
    bool takeLine(const std::string& line);
    bool takeWord(const std::string& line);
    bool takeStandInWord(const std::string& line);
    void takeEffect(const LineEffect& effect);
    void jog(const std::string& words);
    void home();
    void probe(Vec3 to, double feed);
    double plateAt(Vec2 place) const;
    bool insideTravel(const Move& move) const;
    void startNext();
    void finishMove();
    void turnSpindle(double seconds);
    std::size_t freeBytes() const;

    MachineSimOptions options_;
    Speech speech_;
    Rs274Reader reader_;
    State state_ = State::idle;
    std::string incoming_;
    std::deque<std::string> buffer_;
    std::size_t bufferedBytes_ = 0;

    std::deque<Move> queue_;
    std::optional<Move> current_;
    SpeedProfile profile_;
    double elapsed_ = 0;   ///< seconds into the current move
    double exitSpeed_ = 0; ///< of the move before
    Vec3 goneTo_;          ///< where what it has told of its way ends
    std::vector<OnBed> onBed_;

    /// Something that answers only when all motion is done.
    enum class Waiting { nothing, motion, pause, probeHit, probeMiss };
    Waiting waiting_ = Waiting::nothing;

    std::vector<Reply> replies_;
    Vec3 at_;
    double clock_ = 0;
    bool spindle_ = false;
    double rpm_ = 0;
    double feedPercent_ = 100, spindlePercent_ = 100;

    int lines_ = 0;       ///< of G-code, answered
    Vec3 lie_;            ///< how far off it says it stands
    double silent_ = 0;   ///< seconds it still says nothing
    double runaway_ = -1; ///< seconds it has gone off by itself; less than 0: it has not
    bool hungUp_ = false;
};

} // namespace wren
