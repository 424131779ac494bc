#include "run/sender.h"

#include "base/error.h"

#include <chrono>
#include <deque>
#include <limits>
#include <optional>
#include <vector>

#include <fmt/format.h>

namespace wren {
namespace {

using Clock = std::chrono::steady_clock;

constexpr std::size_t leastRoom = 16; ///< bytes: less, and another job is in its buffer

/// Lines worth sending, with their numbers in the file: comments alone only fill the buffer.
struct SourceLine {
    int number;
    std::string_view text;
};

std::vector<SourceLine> linesOf(std::string_view program) {
    std::vector<SourceLine> lines;
    int number = 0;
    while (!program.empty()) {
        ++number;
        const std::size_t end = program.find('\n');
        std::string_view text = program.substr(0, end);
        program.remove_prefix(end == std::string_view::npos ? program.size() : end + 1);
        if (!text.empty() && text.back() == '\r') {
            text.remove_suffix(1);
        }
        if (!text.empty() && text.front() != '(' && text.front() != ';') {
            lines.push_back({number, text});
        }
    }
    return lines;
}

/// The machine left the way its program was proved to go.
struct Strayed {
    std::string remark;
};

/// One program on its way.
class Stream {
public:
    Stream(Talk& talk, std::string_view program,
           const std::function<void(const SendProgress&)>& progress, Corridor* along)
        : talk_(talk), speech_(talk.speech()), controller_(speech_.controller()),
          lines_(linesOf(program)), end_(speech_.lineEnd()), progress_(progress), along_(along),
          watchdog_(talk) {
        now_.lines = static_cast<int>(lines_.size());
    }

    SendResult run() {
        const auto began = Clock::now();
        std::optional<double> clockAtStart; // none while it has not come to rest
        try {
            talk_.waitForIdle();
            room_ = roomThere();
            if (!fits()) {
                return std::move(result_);
            }
            clockAtStart = talk_.status().clock;
            fill();
            talk_.listen([this](const std::string& line) { return take(line); });
            if (result_.outcome == SendOutcome::done) {
                settle();
            }
        } catch (const Cancelled&) {
            talk_.halt();
            endAs(SendOutcome::stopped,
                  fmt::format("Stopped by hand after line {} of {}.{}", lineInHand(),
                              lines_.empty() ? 0 : lines_.back().number,
                              controller_.hold.empty() && controller_.reset.empty()
                                  ? " It has no word that stops it: what it had taken is finished "
                                    "unless its own stop is pressed."
                                  : ""));
        } catch (const Strayed& s) {
            talk_.halt();
            endAs(SendOutcome::strayed, s.remark);
        } catch (const Error& e) {
            talk_.halt();
            endAs(SendOutcome::lost, fmt::format("{} {} of {} lines had been acknowledged.",
                                                 e.what(), now_.acknowledged, now_.lines));
        }
        result_.feedPercent = feed_;
        result_.spindlePercent = spindle_;
        const double clock = talk_.status().clock;
        result_.machineSeconds =
            talk_.canAsk() && clock > 0
                ? clock - clockAtStart.value_or(clock)
                : std::chrono::duration<double>(Clock::now() - began).count();
        return std::move(result_);
    }

private:
    void endAs(SendOutcome outcome, std::string remark) {
        result_.outcome = outcome;
        result_.remark = std::move(remark);
        result_.line = lineInHand();
    }

    int lineInHand() const {
        return unanswered_.empty() ? 0 : lines_[unanswered_.front()].number;
    }

    bool counted() const { return controller_.flow == LineFlow::counted; }

    /// Bytes its buffer has room for; one line at a time needs none told.
    std::size_t roomThere() const {
        if (!counted()) {
            return std::numeric_limits<std::size_t>::max();
        }
        const auto told = talk_.status().freeBytes;
        const std::size_t room = controller_.buffer > 0
                                     ? static_cast<std::size_t>(controller_.buffer)
                                     : told.value_or(0);
        if (room < leastRoom || (told && *told < leastRoom)) {
            throw Error("The machine is busy with another job; its buffer has no room.");
        }
        return told ? std::min(room, *told) : room;
    }

    std::size_t sizeOf(std::size_t i) const { return lines_[i].text.size() + end_.size(); }

    bool fits() {
        for (std::size_t i = 0; i < lines_.size(); ++i) {
            if (sizeOf(i) > room_) {
                endAs(SendOutcome::refused,
                      fmt::format("Line {} is {} bytes long and the machine's buffer holds {}; "
                                  "nothing was sent.",
                                  lines_[i].number, sizeOf(i), room_));
                return false;
            }
        }
        return true;
    }

    /// Together, so that a short line does not wait for its own packet.
    void fill() {
        std::string out;
        const auto more = [&] {
            return next_ < lines_.size() &&
                   (counted() ? bytes_ + sizeOf(next_) <= room_ : unanswered_.empty());
        };
        while (more()) {
            out += lines_[next_].text;
            out += end_;
            bytes_ += sizeOf(next_);
            unanswered_.push_back(next_++);
        }
        if (!out.empty()) {
            talk_.send(out);
        }
    }

    void say(const char* name, const std::string& word,
             const std::map<std::string, double>& numbers = {}) {
        if (!word.empty()) {
            talk_.send(speech_.bytes(name, word, numbers));
            wordsPending_ += speech_.answers(name) ? 1 : 0;
        }
    }

    /// What the maker asks for meanwhile. What takes room in the buffer is not squeezed in.
    void passOn() {
        const SendControl& control = talk_.control();
        if (control.hold != held_) {
            held_ = control.hold;
            held_ ? say("hold", controller_.hold) : say("resume", controller_.resume);
        }
        const auto turn = [&](const char* name, const std::string& word, int wanted, int& is) {
            if (wanted != is && (speech_.atOnce(name) || word.empty())) {
                is = wanted;
                say(name, word, {{"percent", double(wanted)}});
            }
        };
        turn("feed", controller_.feed, control.feedPercent, feed_);
        turn("spindle", controller_.spindle, control.spindlePercent, spindle_);
    }

    bool tellsPlace() const { return controller_.state.find("{wx}") != std::string::npos; }

    void keepToTheWay(bool ended = false) {
        if (!along_ || !tellsPlace() || next_ == 0) {
            return;
        }
        const Vec3 at = talk_.status().work;
        const auto stray = ended ? along_->endsElsewhere(at)
                                 : along_->strays(at, lines_[next_ - 1].number);
        if (stray) {
            throw Strayed{fmt::format(
                "The machine stands at X {:.2f} Y {:.2f} Z {:.2f}, {:.2f} mm off the way it was "
                "proved to go, since line {}: it was held at once and reset.",
                at.x, at.y, at.z, stray->by, stray->line)};
        }
    }

    /// Whether it is really done: it must come to rest, and owe no answer more than it gave.
    void settle() {
        if (!talk_.canAsk()) {
            return;
        }
        do {
            talk_.send(speech_.bytes("ask", controller_.ask));
            talk_.listen([&](const std::string& line) {
                if (speech_.acknowledges(line)) {
                    throw Error("The machine acknowledged more lines than it was sent.");
                }
                watchdog_.look();
                return line.empty();
            });
        } while (talk_.status().state == "run");
        if (talk_.status().state == "alarm") {
            throw Error("The machine went into alarm at its last line.");
        }
        keepToTheWay(true);
    }

    bool take(const std::string& line) {
        passOn();
        if (const auto why = speech_.refuses(line)) {
            talk_.halt(); // what is queued behind it would be cut at the wrong place
            endAs(SendOutcome::refused, fmt::format("The machine refused line {}: {}. It was "
                                                    "stopped there.",
                                                    lineInHand(), *why));
            return true;
        }
        if (!line.empty() && !counted() && controller_.refused.empty() &&
            !speech_.acknowledges(line)) { // what it says then, nobody has told us
            talk_.halt();
            endAs(SendOutcome::refused,
                  fmt::format("The machine answered line {} with \"{}\" instead of \"{}\"; nothing "
                              "behind it was sent.",
                              lineInHand(), line.substr(0, 60), controller_.acknowledged));
            return true;
        }
        if (talk_.status().state == "alarm") {
            throw Error(fmt::format("The machine went into alarm at line {}.", lineInHand()));
        }
        if (line.empty()) {
            keepToTheWay();
        } else if (speech_.acknowledges(line) && wordsPending_ > 0) {
            --wordsPending_; // which of two answers comes first does not matter, only the count
            watchdog_.gotOn();
        } else if (speech_.acknowledges(line) && !unanswered_.empty()) {
            bytes_ -= sizeOf(unanswered_.front());
            unanswered_.pop_front();
            ++now_.acknowledged;
            watchdog_.gotOn();
            fill();
        } else if (speech_.acknowledges(line)) {
            throw Error("The machine acknowledged a line it had not been sent.");
        }
        watchdog_.look();
        now_.status = talk_.status();
        now_.line = lineInHand();
        if (progress_) {
            progress_(now_);
        }
        return next_ == lines_.size() && unanswered_.empty() && wordsPending_ == 0;
    }

    Talk& talk_;
    const Speech& speech_;
    const Controller& controller_;
    std::vector<SourceLine> lines_;
    std::string end_;
    const std::function<void(const SendProgress&)>& progress_;
    Corridor* along_;
    Talk::Watchdog watchdog_;
    std::deque<std::size_t> unanswered_; ///< indices of lines sent but not acknowledged
    std::size_t room_ = 0, bytes_ = 0, next_ = 0;
    bool held_ = false;    ///< what the machine was last told
    int feed_ = 100, spindle_ = 100;
    int wordsPending_ = 0; ///< acknowledgements of words still to come
    SendProgress now_;
    SendResult result_;
};

} // namespace

Sender::Sender(Link& link, SendControl& control, SendPatience patience,
               const Controller& controller)
    : talk_(link, controller, control, patience) {
    const auto& room = talk_.status().freeBytes;
    if (controller.flow == LineFlow::counted && room && *room < leastRoom) {
        throw Error("The machine is busy with another job; its buffer has no room.");
    }
}

SendResult sendProgram(Talk& talk, std::string_view program,
                       const std::function<void(const SendProgress&)>& progress, Corridor* along) {
    return Stream(talk, program, progress, along).run();
}

} // namespace wren
