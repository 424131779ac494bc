// How the simulated machine moves: planner, spindle, homing, probing, time.
#include "run/machine_sim.h"

#include <algorithm>
#include <utility>

#include <fmt/format.h>

namespace wren {

Vec3 MachineSim::position() const {
    if (!current_ || profile_.length <= 0) {
        return at_ + astray();
    }
    return current_->at(profile_.distanceAt(elapsed_) / profile_.length) + astray();
}

/// How far it has gone off by itself.
Vec3 MachineSim::astray() const {
    constexpr double speed = 20; // mm/s
    return {runaway_ > 0 ? speed * runaway_ : 0, 0, 0};
}

/// Of the move under way, as far as it came and where it really went.
void MachineSim::tellWay() {
    if (!current_ || !options_.gone) {
        return;
    }
    Move gone = *current_;
    if (runaway_ > 0 && gone.isArc()) {
        gone.motion = Motion::line;
    }
    gone.from = goneTo_;
    gone.to = at_ + astray();
    goneTo_ = gone.to;
    options_.gone(gone, reader_.offset());
}

/// Its place as far as the move under way has come, and what it went astray by is its place now.
void MachineSim::standHere() {
    const Vec3 off = astray();
    at_ = position() - off;
    tellWay();
    at_ = at_ + off;
    runaway_ = std::min(runaway_, 0.0);
    current_.reset();
}

/// Stands at once: the way a real slide still coasts is a few hundredths of a millimetre here.
void MachineSim::hold() {
    if (state_ != State::run) {
        return;
    }
    std::optional<Move> rest = current_;
    standHere();
    // An arc of no length left would read as a full circle.
    if (rest && (!rest->isArc() || length(rest->to - at_) > 1e-9)) {
        rest->from = at_;
        queue_.push_front(*rest);
    }
    exitSpeed_ = 0;
    state_ = State::hold;
}

void MachineSim::resume() {
    waiting_ = waiting_ == Waiting::pause ? Waiting::nothing : waiting_;
    state_ = State::run;
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

/// Machine Z of the plate's face, lying on the highest thing there.
double MachineSim::plateAt(Vec2 place) const {
    double high = options_.plateOn;
    for (const OnBed& thing : onBed_) {
        high = thing.under(place) ? std::max(high, thing.top) : high;
    }
    return options_.bedZ + high + options_.machine.plate;
}

void MachineSim::probe(Vec3 to, double feed) {
    const Vec3 from = reader_.position();
    const double touches = plateAt(from.xy());
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
    tellWay();
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
    // Overridden, its moves take their time the quicker or the slower; its clock does not.
    const double pace = feedPercent_ / 100;
    seconds *= pace;
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
            clock_ += seconds / pace;
            return;
        }
        elapsed_ += left;
        clock_ += left / pace;
        seconds -= left;
        finishMove();
        pull();
    }
}

} // namespace wren
