#include "run/machine_sim.h"

#include "base/error.h"
#include "base/length.h"

#include <algorithm>
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
    : options_(std::move(options)), reader_("controller") {
    // Parked at home; work zero somewhere useful until it is set.
    reader_.setOffset(1, {100, 100, options_.bedZ});
}

std::size_t MachineSim::freeBytes() const {
    return options_.bufferBytes - bufferedBytes_;
}

Vec3 MachineSim::position() const {
    if (!current_ || profile_.length <= 0) {
        return at_;
    }
    return current_->at(profile_.distanceAt(elapsed_) / profile_.length);
}

std::string MachineSim::status() const {
    const Vec3 p = position();
    const Vec3 w = p - reader_.offset();
    return fmt::format("state:{} x:{:.3f} y:{:.3f} z:{:.3f} wx:{:.3f} wy:{:.3f} wz:{:.3f} free:{} "
                       "spindle:{} clock:{:.3f} stand-in",
                       nameOf(state_), p.x, p.y, p.z, w.x, w.y, w.z, freeBytes(),
                       spindle_ ? "on" : "off", clock_);
}

std::vector<std::string> MachineSim::takeReplies() {
    return std::exchange(replies_, {});
}

void MachineSim::dropBuffer() {
    buffer_.clear();
    bufferedBytes_ = 0;
}

void MachineSim::stopMotion() {
    at_ = position();
    current_.reset();
    queue_.clear();
    exitSpeed_ = 0;
    waiting_ = Waiting::nothing;
    reader_.setPosition(at_);
    reader_.stopSpindle(); // and it stays off until the next M3
    spindle_ = false;
    dropBuffer();
}

void MachineSim::alarm(ErrorNumber number) {
    stopMotion();
    state_ = State::alarm;
    refuse(number);
}

void MachineSim::receive(std::string_view raw) {
    const std::string line = trimmed(raw);
    if (line == "?") {
        reply(status());
    } else if (line == "reset") {
        stopMotion();
        state_ = State::idle;
        reply("ok");
    } else if (line == "hold") {
        hold();
        reply("ok");
    } else if (line == "resume") {
        if (state_ != State::hold) {
            refuse(needsStandstill);
            return;
        }
        waiting_ = waiting_ == Waiting::pause ? Waiting::nothing : waiting_;
        state_ = State::run;
        reply("ok");
        advance(0);
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

/// False when the line ended in an alarm.
bool MachineSim::takeLine(const std::string& line) {
    try {
        if (line == "home") {
            home();
        } else if (startsWith(line, "jog ")) {
            jog(line.substr(4));
        } else if (startsWith(line, "plate ")) {
            options_.plateOn = parseLength(line.substr(6), LengthUnit::mm);
            reply("ok");
        } else if (startsWith(line, "probe ")) {
            Rs274Reader before = reader_;
            const LineEffect effect = reader_.read("G91 G38.2 " + line.substr(6));
            reader_ = std::move(before); // its modes are not the program's
            takeEffect(effect);
        } else {
            takeEffect(reader_.read(line));
            spindle_ = reader_.spindleOn();
        }
    } catch (const Error&) {
        refuse(unreadable);
    }
    return state_ != State::alarm;
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
        reply("ok");
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
    current_.reset();
    if (!queue_.empty()) {
        return;
    }
    exitSpeed_ = 0;
    const Waiting done = std::exchange(waiting_, Waiting::nothing);
    if (done == Waiting::probeHit) {
        reply(fmt::format("probe:{:.4f},{:.4f},{:.4f}", at_.x, at_.y, at_.z));
    }
    if (done == Waiting::probeMiss) {
        alarm(nothingProbed);
    } else if (done == Waiting::pause) {
        waiting_ = Waiting::pause;
        state_ = State::hold;
        reply("ok");
    } else if (done != Waiting::nothing) {
        reply("ok");
    }
}

void MachineSim::advance(double seconds) {
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
