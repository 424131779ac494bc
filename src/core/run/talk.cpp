#include "run/talk.h"

#include "base/error.h"

#include <algorithm>
#include <chrono>
#include <utility>

#include <fmt/format.h>

namespace wren {
namespace {

using Clock = std::chrono::steady_clock;

constexpr std::size_t longestAnswer = 4096; ///< bytes without a line end

long long now() {
    return std::chrono::duration_cast<std::chrono::milliseconds>(Clock::now().time_since_epoch())
        .count();
}

} // namespace

Talk::Watchdog::Watchdog(const Talk& talk) : talk_(talk), seen_(talk.status_), moved_(now()) {}

void Talk::Watchdog::gotOn() {
    moved_ = now();
}

void Talk::Watchdog::look() {
    const MachineStatus& status = talk_.status_;
    if (!(status.position == seen_.position) || !(status.work == seen_.work) ||
        (status.state == "hold" && talk_.control_.hold)) {
        moved_ = now();
    }
    seen_ = status;
    const int patience = talk_.canAsk() ? talk_.patience_.standing : talk_.patience_.unasked;
    if (now() - moved_ > patience) {
        throw Error(fmt::format("The machine has neither moved nor acknowledged anything for "
                                "{:g} s{}.",
                                patience / 1000.0,
                                status.state.empty()
                                    ? ""
                                    : fmt::format("; it says \"{}\"", status.state)));
    }
}

Talk::Talk(Link& link, const Controller& controller, SendControl& control, SendPatience patience)
    : link_(link), speech_(controller), control_(control), patience_(patience) {
    if (!controller.greet.empty()) {
        greeting_ = true; // it may answer that it is awake
        link_.send(speech_.bytes("greet", controller.greet));
        listen([this](const std::string& line) {
            return speech_.acknowledges(line) || speech_.restarts(line);
        });
    }
    ask();
    greeting_ = false;
    most_ = status_.freeBytes.value_or(0);
}

/// The next whole line, printable signs only, or an empty one when none came in time.
std::string Talk::nextLine(int milliseconds) {
    const auto until = Clock::now() + std::chrono::milliseconds(milliseconds);
    for (;;) {
        const std::size_t end = incoming_.find_first_of("\r\n");
        if (end != std::string::npos) {
            std::string line = incoming_.substr(0, end);
            incoming_.erase(0, end + 1);
            if (line.empty()) {
                continue; // the other half of a line's end
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

void Talk::halt() noexcept {
    if (std::exchange(halted_, true)) {
        return;
    }
    try {
        const Controller& c = speech_.controller();
        for (const auto& [name, word] : {std::pair{"hold", c.hold}, {"reset", c.reset}}) {
            if (!word.empty()) {
                link_.send(speech_.bytes(name, word));
            }
        }
    } catch (const std::exception&) {
        // It is gone; the outcome says so.
    }
}

void Talk::takeStatus(const MachineStatus& status) {
    if (most_ > 0 && status.freeBytes && *status.freeBytes > most_) {
        throw Error(fmt::format("The machine says its buffer has room for {} bytes, and {} when it "
                                "was empty.",
                                *status.freeBytes, most_));
    }
    status_ = status;
}

void Talk::listen(const std::function<bool(const std::string&)>& handle) {
    const auto askEvery = std::chrono::milliseconds(patience_.asking);
    auto heardAt = Clock::now();
    auto asked = Clock::now();
    for (;;) {
        if (control_.stop) {
            throw Cancelled();
        }
        const std::string line = nextLine(static_cast<int>(askEvery.count()));
        if (control_.stop) {
            throw Cancelled();
        }
        const auto time = Clock::now();
        if (!line.empty()) {
            if (const auto status = speech_.state(line)) {
                heardAt = time;
                takeStatus(*status);
                if (handle({})) {
                    return;
                }
            } else {
                if (speech_.restarts(line) && !greeting_) {
                    throw Error("The machine has begun anew and forgotten where it stands: it "
                                "must be homed and zeroed again.");
                }
                if (const auto why = speech_.alarms(line)) {
                    throw Error(fmt::format("The machine stopped by itself: {}.", *why));
                }
                if (speech_.acknowledges(line) || speech_.refuses(line)) {
                    heardAt = time;
                }
                if (handle(line)) {
                    return;
                }
            }
        }
        if (canAsk() && time - asked >= askEvery) {
            asked = time;
            link_.send(speech_.bytes("ask", speech_.controller().ask));
        }
        const int patience = canAsk() ? patience_.silence : patience_.unasked;
        if (time - heardAt > std::chrono::milliseconds(patience)) {
            throw Error("The machine has stopped answering.");
        }
    }
}

void Talk::ask() {
    if (!canAsk()) {
        return;
    }
    halted_ = false;
    link_.send(speech_.bytes("ask", speech_.controller().ask));
    listen([](const std::string& line) { return line.empty(); });
}

void Talk::waitForIdle() {
    Watchdog watchdog(*this);
    do {
        ask();
        watchdog.look();
    } while (status_.state == "run");
    if (status_.state == "alarm") {
        throw Error("The machine is in alarm.");
    }
}

void Talk::command(const char* name, const std::string& word,
                   const std::map<std::string, double>& numbers) {
    if (word.empty()) {
        throw Error(fmt::format("Its description has no word for \"{}\".", name));
    }
    probed_.reset();
    halted_ = false;
    const std::string text = said(word, numbers);
    link_.send(speech_.bytes(name, word, numbers));
    if (!speech_.answers(name)) {
        return;
    }
    Watchdog watchdog(*this);
    listen([&](const std::string& line) {
        watchdog.look();
        if (const auto at = speech_.probed(line)) {
            probed_ = at;
        }
        if (const auto why = speech_.refuses(line)) {
            throw Error(fmt::format("The machine refused \"{}\": {}.", text, *why));
        }
        if (line.empty() && status_.state == "alarm" && text != speech_.controller().unlock) {
            throw Error(fmt::format("The machine went into alarm at \"{}\".", text));
        }
        return speech_.acknowledges(line);
    });
}

} // namespace wren
