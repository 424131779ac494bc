#include "run/sender.h"

#include "base/error.h"
#include "cut/settings.h"
#include "hold/fixture_board.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <cmath>
#include <deque>
#include <vector>

#include <fmt/format.h>

namespace wren {
namespace {

using Clock = std::chrono::steady_clock;

constexpr auto askEvery = std::chrono::milliseconds(100);
constexpr std::size_t longestAnswer = 4096; ///< bytes without a line end

std::string meaningOf(const std::string& error) {
    static const char* const meanings[] = {"",
                                           "it could not read the line",
                                           "the move would leave its travel",
                                           "it is in alarm",
                                           "its buffer was overrun",
                                           "the probe touched nothing",
                                           "it is not on hold"};
    int n = 0;
    std::from_chars(error.data() + 6, error.data() + error.size(), n);
    return n > 0 && n < static_cast<int>(std::size(meanings)) ? meanings[n] : error;
}

bool isError(const std::string& line) {
    return line.rfind("error:", 0) == 0;
}

/// Lines worth sending, with their numbers in the file: comments alone only fill the buffer.
struct SourceLine {
    int number;
    std::string text;
};

std::vector<SourceLine> linesOf(std::string_view program) {
    std::vector<SourceLine> lines;
    int number = 0;
    while (!program.empty()) {
        ++number;
        const std::size_t end = program.find('\n');
        std::string text(program.substr(0, end));
        program.remove_prefix(end == std::string_view::npos ? program.size() : end + 1);
        if (!text.empty() && text.back() == '\r') {
            text.pop_back();
        }
        if (!text.empty() && text.front() != '(' && text.front() != ';') {
            lines.push_back({number, std::move(text)});
        }
    }
    return lines;
}

} // namespace

std::vector<Vec2> probePlaces(const Setup& setup, const Machine& machine, std::size_t station,
                              bool onFixture) {
    constexpr double corner = 4; ///< mm in from the blank's edges
    constexpr double step = 20;  ///< between places along them
    const Vec2 zero = setup.zeroOn(station);
    const Vec2 low = machine.lowCorner();
    const Blank& b = setup.blank;
    const bool bed = setup.zZero == ZZero::bed;
    std::vector<Vec2> places;
    if (!setup.stations.empty()) { // by the first pin, which every station has on the machine
        constexpr double besidePin = 20;
        const Vec2 pin = setup.zeroOf(station);
        places.push_back(zero +
                         (bed ? Vec2{pin.x, -besideBlank} : Vec2{pin.x + besidePin, pin.y / 2}));
    }
    const double off = bed ? besideBlank : -corner; // outside the blank's edges
    const auto alongEnds = [&] {
        for (double y = corner; y < b.width; y += step) {
            places.push_back(zero + Vec2{-off, y});
            places.push_back(zero + Vec2{b.length + off, y});
        }
    };
    const auto alongEdges = [&] {
        for (double x = corner; x < b.length; x += step) {
            places.push_back(zero + Vec2{x, -off});
            places.push_back(zero + Vec2{x, b.width + off});
        }
    };
    // A fixture board reaches out at the blank's ends, under a blank that slides along its edges.
    if (!bed || !onFixture || setup.stations.empty()) {
        alongEnds();
    }
    if (!bed || !onFixture || !setup.stations.empty()) {
        alongEdges();
    }
    std::erase_if(places, [&](Vec2 p) {
        return p.x < low.x || p.y < low.y || p.x > low.x + machine.travel.x ||
               p.y > low.y + machine.travel.y;
    });
    if (places.empty()) {
        throw Error(fmt::format("{} cannot reach a place for the probe plate {}; the zero stands "
                                "at X {:.1f}, Y {:.1f}.",
                                machine.name,
                                bed ? fmt::format("{:.0f} mm beside the blank", besideBlank)
                                    : std::string("near the blank's edges"),
                                zero.x, zero.y));
    }
    return places;
}

/// Ends a wait in which the machine gets nowhere, however much it says.
class Sender::Watchdog {
public:
    Watchdog(const Sender& sender) : sender_(sender), seen_(sender.status_), moved_(Clock::now()) {}

    /// Something was acknowledged.
    void gotOn() { moved_ = Clock::now(); }

    void look() {
        const MachineStatus& now = sender_.status_;
        if (!(now.position == seen_.position) || (now.state == "hold" && sender_.control_.hold)) {
            moved_ = Clock::now();
        }
        seen_ = now;
        if (Clock::now() - moved_ > std::chrono::milliseconds(sender_.patience_.standing)) {
            throw Error(fmt::format("The machine has neither moved nor acknowledged anything for "
                                    "{:g} s; it says \"{}\".",
                                    sender_.patience_.standing / 1000.0, now.state));
        }
    }

private:
    const Sender& sender_;
    MachineStatus seen_;
    Clock::time_point moved_;
};

Sender::Sender(Link& link, SendControl& control, SendPatience patience)
    : link_(link), control_(control), patience_(patience) {
    ask();
    capacity_ = status_.freeBytes;
    if (capacity_ < 16) {
        throw Error("The machine is busy with another job; its buffer has no room.");
    }
}

/// The next whole line, printable signs only, or an empty one when none came in time.
std::string Sender::nextLine(int milliseconds) {
    const auto until = Clock::now() + std::chrono::milliseconds(milliseconds);
    for (;;) {
        const std::size_t end = incoming_.find('\n');
        if (end != std::string::npos) {
            std::string line = incoming_.substr(0, end);
            incoming_.erase(0, end + 1);
            while (!line.empty() && line.back() == '\r') {
                line.pop_back();
            }
            std::replace_if(
                line.begin(), line.end(), [](char c) { return c < ' ' || c > '~'; }, '?');
            return line;
        }
        if (incoming_.size() > longestAnswer) {
            throw Error("The machine sends without ever ending a line.");
        }
        const auto left =
            std::chrono::duration_cast<std::chrono::milliseconds>(until - Clock::now()).count();
        if (left < 0) {
            return {};
        }
        incoming_ += link_.receive(static_cast<int>(left) + 1);
    }
}

/// Everything stands, spindle off. Said without waiting for an answer: there may be none.
void Sender::halt() noexcept {
    try {
        link_.send("hold\nreset\n");
    } catch (const std::exception&) {
        // It is gone; the outcome says so.
    }
}

void Sender::takeStatus(const MachineStatus& status) {
    if (capacity_ > 0 && status.freeBytes > capacity_) {
        throw Error(fmt::format("The machine says its buffer has room for {} bytes, and {} when it "
                                "was empty.",
                                status.freeBytes, capacity_));
    }
    status_ = status;
}

/// Asks for the state whenever nothing comes, and gives every other line to `handle` until that
/// returns true. Throws Error after too long a silence, Cancelled on a stop.
void Sender::listen(const std::function<bool(const std::string&)>& handle) {
    auto heard = Clock::now();
    auto asked = Clock::now();
    for (;;) {
        if (control_.stop) {
            throw Cancelled();
        }
        const std::string line = nextLine(static_cast<int>(askEvery.count()));
        if (control_.stop) {
            throw Cancelled();
        }
        const auto now = Clock::now();
        if (!line.empty()) {
            if (const auto status = parseStatus(line)) {
                heard = now;
                takeStatus(*status);
                if (handle({})) {
                    return;
                }
            } else {
                if (line == "ok" || isError(line)) {
                    heard = now;
                }
                if (handle(line)) {
                    return;
                }
            }
        }
        if (now - asked >= askEvery) {
            asked = now;
            link_.send("?\n");
        }
        if (now - heard > std::chrono::milliseconds(patience_.silence)) {
            throw Error("The machine has stopped answering.");
        }
    }
}

void Sender::ask() {
    link_.send("?\n");
    listen([](const std::string& line) { return line.empty(); });
}

/// Until moves made ready earlier are done, so that they do not count as the program's.
void Sender::waitForIdle() {
    Watchdog watchdog(*this);
    do {
        ask();
        watchdog.look();
    } while (status_.state == "run");
    if (status_.state == "alarm") {
        throw Error("The machine is in alarm.");
    }
}

/// Sends one line and waits for its acknowledgement.
void Sender::command(const std::string& text) {
    link_.send(text + "\n");
    Watchdog watchdog(*this);
    listen([&](const std::string& line) {
        watchdog.look();
        if (line.rfind("probe:", 0) == 0) {
            probed_ = line;
        }
        if (isError(line)) {
            throw Error(fmt::format("The machine refused \"{}\": {}.", text, meaningOf(line)));
        }
        if (line.empty() && status_.state == "alarm" && text != "reset") {
            throw Error(fmt::format("The machine went into alarm at \"{}\".", text));
        }
        return line == "ok";
    });
}

namespace {

/// Whether zeroed there a setup's wood and the way over it lie within Z's travel.
void checkProbe(Vec3 touched, Vec2 place, const Setup& setup, const Machine& machine) {
    constexpr double off = 1; ///< mm: it was sent there
    if (length(touched.xy() - place) > off) {
        throw Error(fmt::format("The machine was sent to probe at X {:.1f}, Y {:.1f} and says it "
                                "did at X {:.1f}, Y {:.1f}.",
                                place.x, place.y, touched.x, touched.y));
    }
    const double zero = touched.z - machine.plate;
    const double high = zero + setup.topZ() + clearanceHeight;
    const double low = zero + setup.bottomZ();
    if (high > 1e-6 || low < -machine.travel.z - 1e-6) {
        throw Error(fmt::format("The probe touched at {:.2f} mm, and then the blank would lie from "
                                "{:.1f} to {:.1f} mm on an axis that travels from {:.1f} to 0: "
                                "something else was touched, or the plate's thickness is wrong.",
                                touched.z, low, high - clearanceHeight, -machine.travel.z));
    }
}

} // namespace

void Sender::ready(const Setup& setup, const Machine& machine, std::size_t station,
                   std::optional<Vec2> spot) {
    const Vec2 place = spot ? *spot : probePlaces(setup, machine, station).front();
    try {
        if (status_.state == "alarm") {
            command("reset");
        }
        command("home");
        command("G21 G90");
        if (status_.standIn) { // its plate is laid by word; at a machine the maker lays it
            command(
                fmt::format("plate {:.4f}", setup.zZero == ZZero::top ? setup.blank.thickness : 0));
        }
        command(fmt::format("G53 G0 X{:.4f} Y{:.4f}", place.x, place.y));
        probed_.clear();
        command(fmt::format("probe Z-{:.1f} F400", machine.travel.z - 0.1));
        const Vec3 touched = parseProbe(probed_);
        checkProbe(touched, place, setup, machine);
        const Vec2 zero = setup.zeroOn(station) + setup.zeroOf(station);
        command(fmt::format("G10 L2 P1 X{:.4f} Y{:.4f} Z{:.4f}", zero.x, zero.y,
                            touched.z - machine.plate));
        command("G53 G0 Z0");
    } catch (const std::exception&) {
        halt();
        throw;
    }
}

SendResult Sender::send(std::string_view program,
                        const std::function<void(const SendProgress&)>& progress) {
    const std::vector<SourceLine> lines = linesOf(program);
    std::deque<std::size_t> unanswered; // indices of lines sent but not acknowledged
    std::size_t bytes = 0;
    std::size_t next = 0;
    int onHold = 0;       // what the machine was last told
    int wordsPending = 0; // acknowledgements of hold and resume still to come
    SendResult result;
    SendProgress now;
    now.lines = static_cast<int>(lines.size());
    for (const SourceLine& line : lines) {
        if (line.text.size() + 1 > capacity_) {
            result.outcome = SendOutcome::refused;
            result.remark = fmt::format("Line {} is {} bytes long and the machine's buffer holds "
                                        "{}; nothing was sent.",
                                        line.number, line.text.size() + 1, capacity_);
            return result;
        }
    }
    const auto lineInHand = [&] {
        return unanswered.empty() ? 0 : lines[unanswered.front()].number;
    };
    const auto fill = [&] {
        while (next < lines.size() && bytes + lines[next].text.size() + 1 <= capacity_) {
            link_.send(lines[next].text + "\n");
            bytes += lines[next].text.size() + 1;
            unanswered.push_back(next++);
        }
    };
    const auto tellHold = [&] {
        const int wanted = control_.hold ? 1 : 0;
        if (wanted != onHold) {
            link_.send(wanted ? "hold\n" : "resume\n");
            onHold = wanted;
            ++wordsPending;
        }
    };
    Watchdog watchdog(*this);
    const auto handle = [&](const std::string& line) {
        tellHold();
        if (isError(line)) {
            halt(); // what is queued behind it would be cut at the wrong place
            result.outcome = SendOutcome::refused;
            result.remark = fmt::format("The machine refused line {}: {}. It was stopped there.",
                                        lineInHand(), meaningOf(line));
            return true;
        }
        if (status_.state == "alarm" || line.rfind("ALARM", 0) == 0) {
            throw Error(fmt::format("The machine went into alarm at line {}.", lineInHand()));
        }
        if (line == "ok" && wordsPending > 0) {
            --wordsPending; // which of two answers comes first does not matter, only the count
            watchdog.gotOn();
        } else if (line == "ok" && !unanswered.empty()) {
            bytes -= lines[unanswered.front()].text.size() + 1;
            unanswered.pop_front();
            ++now.acknowledged;
            watchdog.gotOn();
            fill();
        }
        watchdog.look();
        now.status = status_;
        if (progress) {
            progress(now);
        }
        return next == lines.size() && unanswered.empty();
    };
    std::optional<double> clockAtStart; // none while it has not come to rest
    try {
        waitForIdle();
        clockAtStart = status_.clock;
        fill();
        listen(handle);
        if (result.outcome == SendOutcome::done) {
            ask();
        }
    } catch (const Cancelled&) {
        halt();
        result.outcome = SendOutcome::stopped;
        result.remark = fmt::format("Stopped by hand after line {} of {}.", lineInHand(),
                                    lines.empty() ? 0 : lines.back().number);
    } catch (const Error& e) {
        halt();
        result.outcome = SendOutcome::lost;
        result.remark = fmt::format("{} {} of {} lines had been acknowledged.", e.what(),
                                    now.acknowledged, now.lines);
    }
    result.machineSeconds = status_.clock - clockAtStart.value_or(status_.clock);
    return result;
}

} // namespace wren
