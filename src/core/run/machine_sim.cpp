#include "run/machine_sim.h"

#include "base/error.h"
#include "base/length.h"

#include <algorithm>
#include <cctype>
#include <charconv>
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

Fault faultFrom(const std::string& text) {
    const std::size_t at = text.find('@');
    Fault fault;
    const auto name = std::find(faultNames.begin(), faultNames.end(), text.substr(0, at));
    int line = 0;
    const char* const end = text.data() + text.size();
    const auto [rest, code] = at == std::string::npos
                                  ? std::from_chars_result{end, std::errc::invalid_argument}
                                  : std::from_chars(text.data() + at + 1, end, line);
    if (name == faultNames.end() || code != std::errc() || rest != end || line < 1) {
        throw Error(fmt::format("\"{}\" is no fault; KIND@LINE was expected, as garble@120, KIND "
                                "one of {}.",
                                text, fmt::join(faultNames, ", ")));
    }
    fault.kind = static_cast<FaultKind>(name - faultNames.begin());
    fault.line = line;
    return fault;
}

MachineSim::MachineSim(MachineSimOptions options)
    : options_(std::move(options)), speech_(options_.controller), reader_("controller") {
    // Parked at home; work zero somewhere useful until it is set.
    reader_.setOffset(1, {100, 100, options_.bedZ});
}

std::size_t MachineSim::freeBytes() const {
    return options_.bufferBytes - bufferedBytes_;
}

Vec3 MachineSim::position() const {
    constexpr double speed = 20; // mm/s it goes off with
    const Vec3 off{runaway_ > 0 ? speed * runaway_ : 0, 0, 0};
    if (!current_ || profile_.length <= 0) {
        return at_ + off;
    }
    return current_->at(profile_.distanceAt(elapsed_) / profile_.length) + off;
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

/// Of the move under way, as far as it came.
void MachineSim::keepWay() {
    if (current_ && options_.keepsWay) {
        gone_.push_back(*current_);
        gone_.back().to = at_;
    }
}

void MachineSim::stopMotion() {
    at_ = position();
    keepWay();
    current_.reset();
    queue_.clear();
    exitSpeed_ = 0;
    waiting_ = Waiting::nothing;
    reader_.setPosition(at_);
    reader_.stopSpindle(); // and it stays off until the next M3
    spindle_ = false;
    dropBuffer();
}

/// A line of G-code is answered; what is to go wrong at that line does.
void MachineSim::acknowledge() {
    ++lines_;
    const std::string ok = answered(options_.controller.acknowledged, {});
    const auto fault = std::find_if(options_.faults.begin(), options_.faults.end(),
                                    [&](const Fault& f) { return f.line == lines_; });
    if (fault == options_.faults.end()) {
        reply(ok);
        return;
    }
    switch (fault->kind) {
    case FaultKind::garble:
        reply("\x7f#" + ok.substr(0, 1) + "\x01~");
        return;
    case FaultKind::half:
        replies_.push_back({ok.substr(0, 1), false});
        return;
    case FaultKind::missing:
        return;
    case FaultKind::twice:
        reply(ok);
        break;
    default:
        break;
    }
    reply(ok);
    befall(*fault);
}

void MachineSim::befall(const Fault& fault) {
    switch (fault.kind) {
    case FaultKind::lie:
        lie_ = {37, -12, 0};
        break;
    case FaultKind::delay:
        silent_ = 5;
        break;
    case FaultKind::alarm:
        alarm(limitSwitch);
        break;
    case FaultKind::estop:
        alarm(emergencyStop);
        break;
    case FaultKind::link:
        hungUp_ = true;
        break;
    case FaultKind::power:
        loseAll();
        break;
    case FaultKind::runaway:
        runaway_ = 0;
        break;
    default:
        break;
    }
}

/// Current gone and come again.
void MachineSim::loseAll() {
    stopMotion();
    reader_ = Rs274Reader("controller");
    reader_.setPosition(at_);
    state_ = State::idle;
    rpm_ = 0;
    feedPercent_ = spindlePercent_ = 100;
    incoming_.clear();
    reply(answered(options_.controller.restarted, {}));
}

void MachineSim::refuse(ErrorNumber number) {
    const std::string n = std::to_string(number);
    const std::string& pattern = options_.controller.refused;
    reply(pattern.empty() ? "fault " + n : answered(pattern, {{"number", n}}));
}

void MachineSim::alarm(ErrorNumber number) {
    stopMotion();
    state_ = State::alarm;
    const std::string& pattern = options_.controller.alarm;
    if (pattern.empty()) {
        refuse(number);
    } else {
        reply(answered(pattern, {{"number", std::to_string(number)}}));
    }
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

void MachineSim::resume() {
    waiting_ = waiting_ == Waiting::pause ? Waiting::nothing : waiting_;
    state_ = State::run;
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

/// Stands at once: the way a real slide still coasts is a few hundredths of a millimetre here.
void MachineSim::hold() {
    if (state_ != State::run) {
        return;
    }
    if (current_) {
        at_ = position();
        keepWay();
        current_->from = at_;
        if (!current_->isArc() || length(current_->to - at_) > 1e-9) {
            queue_.push_front(*current_); // an arc of no length left would read as a full circle
        }
        current_.reset();
    }
    exitSpeed_ = 0;
    state_ = State::hold;
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

/// Words of the description; and "plate", which only a stand-in knows.
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
    } else if (!c.state.empty() && startsWith(line, "plate ")) {
        options_.plateOn = parseLength(line.substr(6), LengthUnit::mm);
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

bool MachineSim::insideTravel(const Move& move) const {
    const Vec3 t = options_.machine.travel;
    const Vec2 low = options_.machine.lowCorner();
    const int n = chordsFor(move, 0.01);
    for (int i = 1; i <= n; ++i) {
        const Vec3 p = move.at(static_cast<double>(i) / n);
        if (p.x < low.x - 1e-6 || p.x > low.x + t.x + 1e-6 || p.y < low.y - 1e-6 ||
            p.y > low.y + t.y + 1e-6 || p.z > 1e-6 || p.z < -t.z - 1e-6) {
            return false;
        }
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

void MachineSim::jog(const std::string& words) {
    Rs274Reader before = reader_;
    const LineEffect effect = reader_.read("G91 G1 " + words);
    const Vec3 to = reader_.position();
    reader_ = std::move(before);
    takeEffect(effect);
    if (state_ != State::alarm) {
        reader_.setPosition(to);
    }
}

void MachineSim::home() {
    const Vec3 from = reader_.position();
    queue_.push_back(straightMove(Motion::rapid, from, {from.x, from.y, 0}, 0));
    queue_.push_back(straightMove(Motion::rapid, {from.x, from.y, 0}, {0, 0, 0}, 0));
    reader_.setPosition({});
    waiting_ = Waiting::motion;
    state_ = State::run;
}

void MachineSim::probe(Vec3 to, double feed) {
    const Vec3 from = reader_.position();
    const double touches = options_.bedZ + options_.plateOn + options_.machine.plate;
    const bool hit = from.z >= touches && to.z <= touches;
    const double share = hit && from.z > to.z ? (from.z - touches) / (from.z - to.z) : 1;
    const Move way = straightMove(Motion::line, from, from + (to - from) * share, feed);
    if (!insideTravel(way)) {
        alarm(outsideTravel);
        return;
    }
    queue_.push_back(way);
    reader_.setPosition(way.to);
    waiting_ = hit ? Waiting::probeHit : Waiting::probeMiss;
    state_ = State::run;
}

void MachineSim::startNext() {
    current_ = queue_.front();
    const Path ahead(queue_.begin(), queue_.end());
    profile_ = planSpeeds(ahead, options_.machine, exitSpeed_).front();
    queue_.pop_front();
    elapsed_ = 0;
}

void MachineSim::finishMove() {
    at_ = current_->to;
    exitSpeed_ = profile_.exit;
    keepWay();
    current_.reset();
    if (!queue_.empty()) {
        return;
    }
    exitSpeed_ = 0;
    const Waiting done = std::exchange(waiting_, Waiting::nothing);
    if (done == Waiting::probeHit) {
        const auto mm = [](double v) { return fmt::format("{:.4f}", v); };
        reply(answered(options_.controller.probed,
                       {{"x", mm(at_.x)}, {"y", mm(at_.y)}, {"z", mm(at_.z)}}));
    }
    if (done == Waiting::probeMiss) {
        alarm(nothingProbed);
    } else if (done == Waiting::pause) {
        waiting_ = Waiting::pause;
        state_ = State::hold;
        acknowledge();
    } else if (done != Waiting::nothing) {
        acknowledge();
    }
}

/// Toward the speed that is asked for, as its ramp allows.
void MachineSim::turnSpindle(double seconds) {
    const double wanted = spindle_ ? reader_.speed() * spindlePercent_ / 100 : 0;
    const double most = options_.spindleRamp * seconds;
    rpm_ += std::clamp(wanted - rpm_, -most, most);
}

void MachineSim::advance(double seconds) {
    silent_ = std::max(0.0, silent_ - seconds);
    turnSpindle(seconds);
    if (runaway_ >= 0 && state_ == State::run) {
        runaway_ += seconds;
    }
    // Overridden, its moves take their time the quicker or the slower.
    seconds *= feedPercent_ / 100;
    while (state_ == State::run) {
        if (!current_) {
            if (queue_.empty() && waiting_ != Waiting::nothing) {
                // Nothing to move before the answer: an empty move lets it through.
                queue_.push_back(straightMove(Motion::rapid, at_, at_, 0));
            }
            if (queue_.empty()) {
                pull();
                if (queue_.empty() && waiting_ == Waiting::nothing) {
                    state_ = state_ == State::run ? State::idle : state_;
                    return;
                }
                continue;
            }
            startNext();
        }
        const double left = profile_.seconds() - elapsed_;
        if (left > seconds) {
            elapsed_ += seconds;
            clock_ += seconds;
            return;
        }
        elapsed_ += left;
        clock_ += left;
        seconds -= left;
        finishMove();
        pull();
    }
}

} // namespace wren
