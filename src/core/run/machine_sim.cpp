#include "run/machine_sim.h"

#include "base/error.h"
#include "base/length.h"

#include <algorithm>
#include <cctype>
#include <cstdlib>
#include <utility>

#include <fmt/format.h>

namespace wren {
namespace {

const char* nameOf(MachineSim::State state) {
    switch (state) {
    case MachineSim::State::idle:
        return "idle";
    case MachineSim::State::run:
        return "run";
    case MachineSim::State::hold:
        return "hold";
    case MachineSim::State::alarm:
        return "alarm";
    }
    return "idle";
}

std::string trimmed(std::string_view line) {
    const auto first = line.find_first_not_of(" \t\r");
    if (first == std::string_view::npos) {
        return {};
    }
    return std::string(line.substr(first, line.find_last_not_of(" \t\r") - first + 1));
}

bool startsWith(const std::string& line, const char* word) {
    return line.rfind(word, 0) == 0;
}

} // namespace

MachineSim::MachineSim(MachineSimOptions options)
    : options_(std::move(options)), speech_(options_.controller), reader_("controller") {
    // Parked at home; work zero somewhere useful until it is set.
    reader_.setOffset(1, {100, 100, options_.bedZ});
}

std::size_t MachineSim::freeBytes() const {
    return options_.bufferBytes - bufferedBytes_;
}

std::string MachineSim::status() const {
    const Vec3 p = position() + lie_;
    const Vec3 w = p - reader_.offset();
    const auto mm = [](double v) { return fmt::format("{:.3f}", v); };
    return answered(options_.controller.state, {{"state", speech_.wordFor(nameOf(state_))},
                                                {"x", mm(p.x)},
                                                {"y", mm(p.y)},
                                                {"z", mm(p.z)},
                                                {"wx", mm(w.x)},
                                                {"wy", mm(w.y)},
                                                {"wz", mm(w.z)},
                                                {"free", std::to_string(freeBytes())},
                                                {"feed", fmt::format("{:.0f}", feedPercent_)},
                                                {"spindle", fmt::format("{:.0f}", spindlePercent_)},
                                                {"rpm", fmt::format("{:.0f}", rpm_)},
                                                {"clock", mm(clock_)},
                                                {"", " stand-in"}});
}

std::vector<std::string> MachineSim::takeReplies() {
    std::vector<std::string> out;
    for (Reply& r : replies_) {
        out.push_back(std::move(r.text));
    }
    replies_.clear();
    return out;
}

std::string MachineSim::takeBytes() {
    std::string out;
    for (const Reply& r : silent_ > 0 ? std::vector<Reply>() : std::exchange(replies_, {})) {
        out += r.text + (r.ends ? "\n" : "");
    }
    return out;
}

bool MachineSim::hungUp() {
    return std::exchange(hungUp_, false);
}

void MachineSim::dropBuffer() {
    buffer_.clear();
    bufferedBytes_ = 0;
}

void MachineSim::feed(std::string_view bytes) {
    const Controller& c = options_.controller;
    const std::array<const std::string*, 4> words{&c.ask, &c.hold, &c.resume, &c.reset};
    for (char b : bytes) {
        const bool first = incoming_.empty();
        bool taken = false;
        for (const std::string* word : words) {
            // A sign that is no line: a control byte anywhere, a printed one where a line begins.
            const std::string sign = said(*word);
            taken = taken || (sign.size() == 1 && sign[0] == b &&
                              (first || static_cast<unsigned char>(b) < ' ') && atOnce(sign));
        }
        if (taken) {
            continue;
        }
        if (b == '\n' || b == '\r') {
            if (!first) {
                receive(std::exchange(incoming_, {}));
            }
        } else if (incoming_.size() < 65536) { // a flood without line ends
            incoming_ += b;
        }
    }
}

/// What acts whatever waits in the buffer.
bool MachineSim::atOnce(const std::string& line) {
    const Controller& c = options_.controller;
    const auto is = [&](const std::string& word) { return !word.empty() && line == said(word); };
    const auto ok = [&](const char* name) {
        if (speech_.answers(name)) {
            reply(answered(c.acknowledged, {}));
        }
    };
    if (is(c.ask)) {
        reply(status());
    } else if (is(c.reset) || is(c.unlock)) {
        stopMotion();
        runaway_ = -1;
        state_ = State::idle;
        ok(is(c.reset) ? "reset" : "unlock");
    } else if (is(c.hold)) {
        hold();
        ok("hold");
    } else if (is(c.resume)) {
        if (state_ != State::hold) {
            refuse(needsStandstill);
            return true;
        }
        resume();
        ok("resume");
        advance(0);
    } else if (const auto feed = heard(c.feed, line)) {
        feedPercent_ = std::clamp(std::atof(feed->at("percent").c_str()), 10.0, 200.0);
        ok("feed");
    } else if (const auto turn = heard(c.spindle, line)) {
        spindlePercent_ = std::clamp(std::atof(turn->at("percent").c_str()), 50.0, 150.0);
        ok("spindle");
    } else {
        return false;
    }
    return true;
}

void MachineSim::receive(std::string_view raw) {
    const std::string line = trimmed(raw);
    if (atOnce(line)) {
        return;
    }
    const Controller& c = options_.controller;
    if (!c.greet.empty() && line == said(c.greet)) {
        reply(answered(c.restarted.empty() ? c.acknowledged : c.restarted, {}));
    } else if (state_ == State::alarm) {
        refuse(inAlarm);
    } else if (line.size() + 1 > freeBytes()) {
        alarm(overrun);
    } else {
        buffer_.push_back(line);
        bufferedBytes_ += line.size() + 1;
        pull();
    }
}

/// Moves lines from the buffer to the planner while there is room.
void MachineSim::pull() {
    while (!buffer_.empty() && waiting_ == Waiting::nothing && state_ != State::hold &&
           queue_.size() < options_.queueMoves) {
        const std::string line = buffer_.front();
        if (!takeLine(line)) {
            return; // alarm: the buffer is gone
        }
        buffer_.pop_front();
        bufferedBytes_ -= line.size() + 1;
    }
}

/// False when the line ended in an alarm, or in the buffer's loss.
bool MachineSim::takeLine(const std::string& line) {
    const std::size_t waiting = buffer_.size();
    try {
        if (!takeWord(line)) {
            takeEffect(reader_.read(line));
            spindle_ = reader_.spindleOn();
        }
    } catch (const Error&) {
        refuse(unreadable);
    }
    return state_ != State::alarm && buffer_.size() == waiting;
}

/// What lies on the bed, which only a stand-in has to be told.
bool MachineSim::takeStandInWord(const std::string& line) {
    if (line == bareBed) {
        onBed_.clear();
        return true;
    }
    if (const auto thing = onBedFrom(line)) {
        onBed_.push_back(*thing);
        return true;
    }
    return false;
}

/// Words of the description, and those only a stand-in knows.
bool MachineSim::takeWord(const std::string& line) {
    const Controller& c = options_.controller;
    // With all its numbers as the description writes them, or some of them as a hand would.
    const auto begins = [&](const std::string& word) {
        const std::string first = word.substr(0, word.find(' '));
        return !first.empty() && first.find('{') == std::string::npos && startsWith(line, first.c_str()) &&
               !startsWith(first, "G") && line.size() > first.size() && line[first.size()] == ' ';
    };
    const auto rest = [&](const std::string& word, std::array<const char*, 4> names) {
        const auto fields = heard(word, line);
        if (!fields) {
            return line.substr(std::min(line.size(), word.find(' ') + 1));
        }
        std::string out;
        for (const char* name : names) {
            const auto it = fields->find(name);
            if (it != fields->end()) {
                const char letter = std::string(name) == "feed" ? 'F' : char(std::toupper(name[0]));
                out += std::string(out.empty() ? "" : " ") + letter + it->second;
            }
        }
        return out;
    };
    if (!c.home.empty() && line == said(c.home)) {
        home();
    } else if (!c.jog.empty() && begins(c.jog)) {
        jog(rest(c.jog, {"x", "y", "z", "feed"}));
    } else if (!c.state.empty() && takeStandInWord(line)) {
        acknowledge();
    } else if (!c.probe.empty() && begins(c.probe)) {
        Rs274Reader before = reader_;
        const LineEffect effect = reader_.read("G91 G38.2 " + rest(c.probe, {"x", "y", "z", "feed"}));
        reader_ = std::move(before); // its modes are not the program's
        takeEffect(effect);
    } else {
        return false;
    }
    return true;
}

void MachineSim::takeEffect(const LineEffect& effect) {
    for (const Move& move : effect.moves) {
        if (!insideTravel(move)) {
            alarm(outsideTravel);
            return;
        }
        queue_.push_back(move);
        state_ = State::run;
    }
    if (effect.dwell > 0) {
        Move wait = straightMove(Motion::rapid, reader_.position(), reader_.position(), 0);
        wait.dwell = effect.dwell;
        queue_.push_back(wait);
        state_ = State::run;
    }
    if (effect.probeTo) {
        probe(*effect.probeTo, effect.probeFeed);
    } else if (effect.programEnd) {
        waiting_ = Waiting::motion;
        state_ = State::run;
    } else if (effect.pause) {
        waiting_ = Waiting::pause;
        state_ = State::run;
    } else {
        acknowledge();
    }
}

} // namespace wren
