// The sender against a machine made of paper: every byte is counted on the other side.

#include "run/sender.h"

#include "support.h"

#include <deque>

using namespace wren;
using test::plainWith;

namespace {

/// Counts unanswered bytes as a controller would, answers late and unevenly, and can misbehave.
class PaperMachine : public Link {
public:
    explicit PaperMachine(std::size_t buffer) : buffer_(buffer) {}

    void send(std::string_view bytes) override {
        for (char c : bytes) {
            line_ += c;
            if (c == '\n') {
                take(line_);
                line_.clear();
            }
        }
        worst = std::max(worst, held_);
    }

    std::string receive(int) override {
        if (goneAfter >= 0 && answered >= goneAfter) {
            throw Error("The machine at paper is gone (hung up).");
        }
        // A few answers at a time, now and then none, sometimes torn in the middle of a word.
        seed_ = seed_ * 1103515245 + 12345;
        const unsigned many = (seed_ >> 16) % 4;
        for (unsigned i = 0; i < many && !waiting_.empty(); ++i) {
            held_ -= waiting_.front();
            waiting_.pop_front();
            out_ += ++answered == refuseAt ? "error:2\n" : "ok\r\n";
        }
        const std::size_t n = std::min<std::size_t>(out_.size(), 1 + (seed_ >> 8) % 30);
        const std::string part = out_.substr(0, n);
        out_.erase(0, n);
        return part;
    }

    std::size_t worst = 0; ///< most bytes ever unanswered
    int answered = 0;
    int refuseAt = -1;
    int goneAfter = -1;
    std::vector<std::string> lines; ///< in the order they came

private:
    void take(const std::string& line) {
        if (line == "?\n") {
            out_ += "state:idle x:1.000 y:2.000 z:-3.000 wx:4.5 wy:0 wz:0 free:" +
                    std::to_string(buffer_ - held_) + " feed:100 spindle:100 rpm:0 clock:12.500\n";
        } else if (line == "hold\n" || line == "resume\n" || line == "reset\n") {
            words.push_back(line);
            out_ += "ok\n";
        } else {
            held_ += line.size();
            waiting_.push_back(line.size());
            lines.push_back(line);
        }
    }

    std::size_t buffer_;
    std::size_t held_ = 0;
    std::deque<std::size_t> waiting_;
    std::string line_;
    std::string out_;
    unsigned seed_ = 1;

public:
    std::vector<std::string> words;
};

std::string programOf(int moves) {
    std::string text = "(a comment that is not sent)\nG21\n\nG90\n";
    for (int i = 0; i < moves; ++i) {
        text += "G1 X" + std::to_string(i) + (i % 3 ? "" : " Y-12.3456 Z-0.125 F1500") + "\n";
    }
    return text + "M2\n";
}

} // namespace

TEST_CASE("The buffer is never overrun, whatever its size", "[sender]") {
    for (std::size_t buffer :
         {std::size_t{40}, std::size_t{64}, std::size_t{127}, std::size_t{512}}) {
        INFO(buffer);
        PaperMachine machine(buffer);
        SendControl control;
        Sender sender(machine, control);
        const SendResult r = sender.send(programOf(400));
        CHECK(r.outcome == SendOutcome::done);
        CHECK(machine.worst <= buffer);
        CHECK(machine.worst > buffer / 2); // and it is made use of
        CHECK(machine.lines.size() == 403);
        CHECK(machine.lines.front() == "G21\n");
        CHECK(machine.lines.back() == "M2\n");
    }
}

TEST_CASE("Every line of the demo arrives once and in order", "[sender]") {
    const Derived d = derive(plainWith());
    PaperMachine machine(256);
    SendControl control;
    Sender sender(machine, control);
    const std::string& text = d.programs[0].program.text;
    int last = -1;
    const SendResult r = sender.send(text, [&](const SendProgress& p) {
        CHECK(p.acknowledged >= last);
        CHECK(p.lines > 100);
        last = p.acknowledged;
    });
    CHECK(r.outcome == SendOutcome::done);
    std::string sent;
    for (const std::string& l : machine.lines) {
        sent += l;
    }
    // What is left of the text without its comments.
    std::string wanted;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = text.find('\n', at) + 1;
        if (text[at] != '(') {
            wanted += text.substr(at, end - at);
        }
        at = end;
    }
    CHECK(sent == wanted);
}

TEST_CASE("A refusal names the line of the file, comments counted", "[sender][failure]") {
    PaperMachine machine(200);
    machine.refuseAt = 3; // G21, G90, then the first G1, which stands on line 5
    SendControl control;
    Sender sender(machine, control);
    const SendResult r = sender.send(programOf(50));
    CHECK(r.outcome == SendOutcome::refused);
    CHECK(r.remark.find("line 5: the move would leave its travel") != std::string::npos);
}

TEST_CASE("A machine that hangs up is an outcome", "[sender][failure]") {
    PaperMachine machine(200);
    SendControl control;
    Sender sender(machine, control);
    machine.goneAfter = 20;
    const SendResult r = sender.send(programOf(200));
    CHECK(r.outcome == SendOutcome::lost);
    CHECK(r.remark.find("hung up") != std::string::npos);
    CHECK(r.remark.find("20 of 203 lines") != std::string::npos);
}

TEST_CASE("Stopping tells the machine before anything else", "[sender]") {
    PaperMachine machine(200);
    SendControl control;
    Sender sender(machine, control);
    const SendResult r = sender.send(
        programOf(500), [&](const SendProgress& p) { control.stop = p.acknowledged > 30; });
    CHECK(r.outcome == SendOutcome::stopped);
    CHECK(machine.words == std::vector<std::string>{"hold\n", "reset\n"});
    CHECK(machine.lines.size() < 100);
}

TEST_CASE("Hold and resume do not upset the count", "[sender]") {
    PaperMachine machine(64);
    SendControl control;
    Sender sender(machine, control);
    int calls = 0;
    const SendResult r = sender.send(
        programOf(300), [&](const SendProgress&) { control.hold = ++calls / 10 % 2 == 1; });
    CHECK(r.outcome == SendOutcome::done);
    CHECK(machine.worst <= 64);
    CHECK(machine.words.size() > 10);
    CHECK(machine.lines.size() == 303);
}

TEST_CASE("A busy machine is not sent to", "[sender][failure]") {
    PaperMachine machine(8);
    SendControl control;
    CHECK(test::sentenceOf([&] { Sender s(machine, control); }).find("busy") != std::string::npos);
}

TEST_CASE("Answers to ? are read, other lines are not taken for them", "[sender]") {
    const auto s =
        Speech(Controller()).state("state:run x:1.5 y:-2 z:0 wx:7.25 wy:8 wz:-9 free:77 feed:100 spindle:100 rpm:0 clock:3.5");
    REQUIRE(s);
    CHECK(s->state == "run");
    CHECK(s->position == Vec3{1.5, -2, 0});
    CHECK(s->work == Vec3{7.25, 8, -9});
    CHECK(s->freeBytes == 77);
    CHECK(s->clock == 3.5);
    CHECK_FALSE(Speech(Controller()).state("ok"));
    CHECK_FALSE(Speech(Controller()).state("error:3"));
    CHECK_THROWS_AS(Speech(Controller()).state("state:idle"), Error); // not all of it
    CHECK_FALSE(s->standIn);
    CHECK(Speech(Controller()).state("state:idle x:0 y:0 z:0 wx:0 wy:0 wz:0 free:9 feed:100 spindle:100 rpm:0 clock:0 stand-in")->standIn);
}
