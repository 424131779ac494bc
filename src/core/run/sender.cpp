#include "run/sender.h"

#include "base/error.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <deque>
#include <vector>

#include <fmt/format.h>

namespace wren {
namespace {

using Clock = std::chrono::steady_clock;

constexpr auto askEvery = std::chrono::milliseconds(100);
/// A machine that says nothing for this long, though asked again and again, is gone.
constexpr auto silence = std::chrono::milliseconds(3000);

double numberAfter(std::string_view line, std::string_view key) {
    double value = 0;
    const std::size_t at = line.find(key);
    if (at != std::string_view::npos) {
        std::from_chars(line.data() + at + key.size(), line.data() + line.size(), value);
    }
    return value;
}

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

std::optional<MachineStatus> parseStatus(std::string_view line) {
    if (line.rfind("state:", 0) != 0) {
        return std::nullopt;
    }
    MachineStatus s;
    s.state = std::string(line.substr(6, line.find(' ') - 6));
    s.position = {numberAfter(line, " x:"), numberAfter(line, " y:"), numberAfter(line, " z:")};
    s.work = {numberAfter(line, " wx:"), numberAfter(line, " wy:"), numberAfter(line, " wz:")};
    s.freeBytes = static_cast<std::size_t>(numberAfter(line, " free:"));
    s.clock = numberAfter(line, " clock:");
    return s;
}

Sender::Sender(Link& link) : link_(link) {
    ask();
    capacity_ = status_.freeBytes;
    if (capacity_ < 16) {
        throw Error("The machine is busy with another job; its buffer has no room.");
    }
}

/// The next whole line, or an empty one when none came in time.
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
            return line;
        }
        const auto left =
            std::chrono::duration_cast<std::chrono::milliseconds>(until - Clock::now()).count();
        if (left < 0) {
            return {};
        }
        incoming_ += link_.receive(static_cast<int>(left) + 1);
    }
}

/// Asks for the state whenever nothing comes, and gives every other line to `handle` until that
/// returns true. Throws Error after too long a silence.
void Sender::listen(const std::function<bool(const std::string&)>& handle) {
    auto heard = Clock::now();
    auto asked = Clock::now();
    for (;;) {
        const std::string line = nextLine(static_cast<int>(askEvery.count()));
        const auto now = Clock::now();
        if (!line.empty()) {
            heard = now;
            if (const auto status = parseStatus(line)) {
                status_ = *status;
                if (handle({})) {
                    return;
                }
            } else if (handle(line)) {
                return;
            }
        }
        if (now - asked >= askEvery) {
            asked = now;
            link_.send("?\n");
        }
        if (now - heard > silence) {
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
    do {
        ask();
    } while (status_.state == "run");
}

/// Sends one line and waits for its acknowledgement.
std::string Sender::command(const std::string& text) {
    link_.send(text + "\n");
    std::string answer;
    listen([&](const std::string& line) {
        if (line.rfind("probe:", 0) == 0) {
            probed_ = line;
        }
        if (line == "ok" || isError(line)) {
            answer = line;
            return true;
        }
        return false;
    });
    if (isError(answer)) {
        throw Error(fmt::format("The machine refused \"{}\": {}.", text, meaningOf(answer)));
    }
    return answer;
}

void Sender::ready(const Setup& setup, const Machine& machine) {
    if (status_.state == "alarm") {
        command("reset");
    }
    command("home");
    command("G21 G90");
    try { // a stand-in's plate is laid by word; at a machine the maker lays it, and it knows no
          // such word
        command(fmt::format("plate {:.4f}", setup.zZero == ZZero::top ? setup.blank.thickness : 0));
    } catch (const Error&) {
        // said above
    }
    const Vec2 zero = setup.zeroOnMachine;
    // The plate lies beside the blank on the bed, or on the blank's corner where no program cuts.
    const bool bed = setup.zZero == ZZero::bed;
    const Vec2 low = machine.lowCorner();
    const double px = std::clamp(bed ? zero.x - 25 : zero.x + 4, low.x, low.x + machine.travel.x);
    const double py = std::clamp(zero.y + 4, low.y, low.y + machine.travel.y);
    command(fmt::format("G53 G0 X{:.4f} Y{:.4f}", px, py));
    command(fmt::format("probe Z-{:.1f} F400", machine.travel.z - 0.1));
    double z = 0;
    const std::size_t comma = probed_.rfind(',');
    if (comma != std::string::npos) {
        std::from_chars(probed_.data() + comma + 1, probed_.data() + probed_.size(), z);
    }
    command(fmt::format("G10 L2 P1 X{:.4f} Y{:.4f} Z{:.4f}", zero.x, zero.y, z - machine.plate));
    command("G53 G0 Z0");
}

SendResult Sender::send(std::string_view program, SendControl& control,
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

    const auto fill = [&] {
        while (next < lines.size() && bytes + lines[next].text.size() + 1 <= capacity_) {
            link_.send(lines[next].text + "\n");
            bytes += lines[next].text.size() + 1;
            unanswered.push_back(next++);
        }
    };
    const auto tellHold = [&] {
        const int wanted = control.hold ? 1 : 0;
        if (wanted != onHold) {
            link_.send(wanted ? "hold\n" : "resume\n");
            onHold = wanted;
            ++wordsPending;
        }
    };
    const auto handle = [&](const std::string& line) {
        if (control.stop) {
            link_.send("hold\nreset\n");
            result.outcome = SendOutcome::stopped;
            result.remark = fmt::format("Stopped by hand after line {} of {}.",
                                        unanswered.empty() ? 0 : lines[unanswered.front()].number,
                                        lines.back().number);
            return true;
        }
        tellHold();
        if (isError(line)) {
            const int at = unanswered.empty() ? 0 : lines[unanswered.front()].number;
            result.outcome = SendOutcome::refused;
            result.remark = fmt::format("The machine refused line {}: {}.", at, meaningOf(line));
            return true;
        }
        if (line == "ok" && wordsPending > 0) {
            --wordsPending; // which of two answers comes first does not matter, only the count
        } else if (line == "ok" && !unanswered.empty()) {
            bytes -= lines[unanswered.front()].text.size() + 1;
            unanswered.pop_front();
            ++now.acknowledged;
            fill();
        }
        now.status = status_;
        if (progress) {
            progress(now);
        }
        return next == lines.size() && unanswered.empty();
    };
    double clockAtStart = status_.clock;
    try {
        waitForIdle();
        clockAtStart = status_.clock;
        fill();
        listen(handle);
        if (result.outcome == SendOutcome::done) {
            ask();
        }
    } catch (const Error& e) {
        result.outcome = SendOutcome::lost;
        result.remark = fmt::format("{} {} of {} lines had been acknowledged.", e.what(),
                                    now.acknowledged, now.lines);
    }
    result.machineSeconds = status_.clock - clockAtStart;
    return result;
}

} // namespace wren
