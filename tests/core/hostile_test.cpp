// Machines that lie, stall, garble and vanish: every one ends in a sentence, held and reset.

#include "run/sender.h"

#include "base/files.h"

#include "job/run_program.h"
#include "support.h"

#include <arpa/inet.h>
#include <chrono>
#include <functional>
#include <netinet/in.h>
#include <sys/socket.h>
#include <thread>

using namespace wren;
using test::plainWith;

namespace {

const std::string idle = "state:idle x:0 y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:1";

/// Answers what a function says to each line; keeps what it was sent.
class Scripted : public Link {
public:
    using Answer = std::function<std::string(const std::string&)>;
    explicit Scripted(Answer answer) : answer_(std::move(answer)) {}

    void send(std::string_view bytes) override {
        for (char c : bytes) {
            if (c != '\n') {
                line_ += c;
                continue;
            }
            sent.push_back(line_);
            out_ += answer_(line_);
            line_.clear();
        }
    }
    std::string receive(int milliseconds) override {
        if (out_.empty()) {
            std::this_thread::sleep_for(std::chrono::milliseconds(std::min(milliseconds, 20)));
        }
        return std::exchange(out_, {});
    }

    bool halted() const {
        return sent.size() >= 2 && sent[sent.size() - 2] == "hold" && sent.back() == "reset";
    }

    std::vector<std::string> sent;

private:
    Answer answer_;
    std::string line_;
    std::string out_;
};

/// A machine without faults, to be spoiled.
std::string good(const std::string& line) {
    if (line == "?") {
        return idle + "\n";
    }
    if (line.rfind("probe", 0) == 0) {
        return "probe:4.0000,4.0000,-60.0000\nok\n";
    }
    return "ok\n";
}

Setup setupAt(Vec2 zero, ZZero z = ZZero::top) {
    Setup s;
    s.part = Role::board;
    s.zeroOnMachine = zero;
    s.zZero = z;
    s.blank.length = 500;
    s.blank.width = 75;
    s.blank.thickness = 8;
    return s;
}

constexpr SendPatience little{300, 500};

std::string readied(Scripted& link, SendControl& control) {
    return test::sentenceOf([&] {
        Sender sender(link, control, little);
        sender.ready(setupAt({0, 0}), Machine());
    });
}

SendResult sent(Scripted& link, const std::string& program = "G21\nG1 X1 F100\nG1 X2\nM2\n",
                const Controller& controller = {}) {
    SendControl control;
    Sender sender(link, control, little, controller);
    return sender.send(program);
}

} // namespace

TEST_CASE("A probe's answer must be a place the setup allows", "[hostile]") {
    const std::string digits(300, '9');
    for (const std::string& answer :
         {std::string("ok"), std::string("probe:\nok"), std::string("probe:nan,nan,nan\nok"),
          std::string("probe:4,4,inf\nok"), std::string("probe:4,4\nok"),
          "probe:4,4,-" + digits + "\nok", std::string("probe:4,4,-60x\nok"),
          std::string("probe:4,4,30\nok"),       // above the travel
          std::string("probe:4,4,-109\nok"),     // the blank would lie below it
          std::string("probe:104,4,-60\nok")}) { // not where it was sent
        INFO(answer.substr(0, 40));
        Scripted link([&](const std::string& line) {
            return line.rfind("probe", 0) == 0 ? answer + "\n" : good(line);
        });
        SendControl control;
        const std::string sentence = readied(link, control);
        CHECK((sentence.find("probe") != std::string::npos ||
               sentence.find("Z") != std::string::npos));
        CHECK(link.halted());
        // No zero was set from it.
        CHECK(std::none_of(link.sent.begin(), link.sent.end(),
                           [](const std::string& l) { return l.rfind("G10", 0) == 0; }));
    }
    Scripted link(good);
    SendControl control;
    Sender sender(link, control, little);
    sender.ready(setupAt({0, 0}), Machine());
    CHECK(std::count(link.sent.begin(), link.sent.end(), "G10 L2 P1 X0.0000 Y0.0000 Z-72.0000") ==
          1);
    // A word only a stand-in knows goes to none that has not said it is one.
    CHECK(std::none_of(link.sent.begin(), link.sent.end(),
                       [](const std::string& l) {
                           return l.rfind("lies", 0) == 0 || l.rfind("bare", 0) == 0;
                       }));
}

TEST_CASE("A status that cannot be true ends the talk", "[hostile]") {
    for (const char* lie :
         {"state:idle x:0 y:0 z:0 wx:0 wy:0 wz:0 free:-5 feed:100 spindle:100 rpm:0 clock:0", "state:idle x:0 y:0 z:0 wx:0 wy:0 wz:0 free:lots feed:100 spindle:100 rpm:0 clock:0",
          "state:idle x:nan y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:0",
          "state:idle x:1e300 y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:0",
          "state:sleepy x:0 y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:0", "state:idle x:0 y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:x"}) {
        INFO(lie);
        Scripted link([&](const std::string& line) {
            return line == "?" ? lie + std::string("\n") : good(line);
        });
        SendControl control;
        CHECK_FALSE(test::sentenceOf([&] { Sender s(link, control, little); }).empty());
    }
    bool first = true;
    Scripted grows([&](const std::string& line) {
        if (line == "?" && !std::exchange(first, false)) {
            return std::string("state:idle x:0 y:0 z:0 wx:0 wy:0 wz:0 free:4096 feed:100 spindle:100 rpm:0 clock:0\n");
        }
        return good(line);
    });
    const SendResult r = sent(grows);
    CHECK(r.outcome == SendOutcome::lost);
    CHECK(r.remark.find("4096 bytes") != std::string::npos);
}

TEST_CASE("Whatever keeps arriving, no progress has an end", "[hostile]") {
    int asked = 0;
    const std::vector<std::pair<const char*, Scripted::Answer>> machines{
        {"lost ok", [](const std::string& l) { return l == "?" ? good(l) : std::string(); }},
        {"half an ok", [](const std::string& l) { return l == "?" ? good(l) : std::string("o"); }},
        {"runs for ever",
         [](const std::string& l) {
             return l == "?" ? std::string("state:run x:0 y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:1\n")
                             : std::string("ok\n");
         }},
        {"holds by itself",
         [](const std::string& l) {
             return l == "?" ? std::string("state:hold x:0 y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:1\n")
                             : std::string();
         }},
        {"babbles",
         [&](const std::string& l) {
             std::string out = ++asked == 1 ? good("?") : std::string();
             for (int i = 0; i < 50; ++i) {
                 out += "hello\n";
             }
             return l == "?" || asked > 1 ? out : std::string();
         }},
        {"never ends a line",
         [](const std::string& l) { return l == "?" ? good(l) : std::string(9000, 'x'); }},
        {"is silent after the first answer", [asked2 = 0](const std::string&) mutable {
             return ++asked2 == 1 ? idle + "\n" : std::string();
         }}};
    for (const auto& [name, answer] : machines) {
        INFO(name);
        Scripted link(answer);
        const SendResult r = sent(link);
        CHECK(r.outcome == SendOutcome::lost);
        CHECK_FALSE(r.remark.empty());
        CHECK(link.halted());
    }
}

TEST_CASE("A machine in alarm is not sent another line", "[hostile]") {
    for (const char* word : {"ALARM:1\n", "state:alarm x:0 y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:1\n"}) {
        int lines = 0;
        Scripted link([&](const std::string& l) {
            return l == "?" ? good(l) : ++lines == 2 ? std::string(word) : std::string("ok\n");
        });
        Controller alarming;
        alarming.alarm = "ALARM:{number}";
        const SendResult r = sent(link, "G21\nG1 X1 F100\nG1 X2\nM2\n", alarming);
        CHECK(r.outcome == SendOutcome::lost);
        CHECK_FALSE(r.remark.empty());
        CHECK(link.halted());
    }
}

TEST_CASE("A refused line stops the machine, and nothing behind it is sent", "[hostile]") {
    std::string program = "G21\n";
    for (int i = 0; i < 400; ++i) {
        program += "G1 X" + std::to_string(i) + " F100\n";
    }
    int lines = 0;
    Scripted link([&](const std::string& l) {
        return l == "?" ? good(l) : ++lines == 5 ? std::string("error:2\n") : std::string("ok\n");
    });
    const SendResult r = sent(link, program + "M2\n");
    CHECK(r.outcome == SendOutcome::refused);
    CHECK(r.remark.find("line 5") != std::string::npos);
    CHECK(link.halted());
    CHECK(link.sent.size() < 200);
}

TEST_CASE("What a machine says is written down without its control characters", "[hostile]") {
    Scripted link([](const std::string& l) {
        return l == "?" ? good(l)
                        : std::string("error:\x1b[2J\x07"
                                      "9\n");
    });
    const SendResult r = sent(link);
    CHECK(
        std::all_of(r.remark.begin(), r.remark.end(), [](char c) { return c >= ' ' && c <= '~'; }));
}

TEST_CASE("A line that no buffer holds is not begun", "[hostile]") {
    Scripted link(good);
    const SendResult r = sent(link, "G21\nG1 X1" + std::string(600, '0') + " F100\nM2\n");
    CHECK(r.outcome == SendOutcome::refused);
    CHECK(r.remark.find("Line 2") != std::string::npos);
    CHECK(std::count(link.sent.begin(), link.sent.end(), "G21") == 0);
}

TEST_CASE("Stop stops in every phase, before any other word", "[hostile][stop]") {
    // Each phase hangs at one word; the stop comes from outside while it does.
    for (const char* hangsAt : {"home", "G21", "G53", "probe", "G10"}) {
        INFO(hangsAt);
        double x = 0;
        bool hung = false;
        Scripted link([&](const std::string& l) {
            if (l == "?") { // it keeps moving, so that nothing else ends the wait
                return "state:run x:" + std::to_string(x += 0.1) + " y:0 z:0 wx:0 wy:0 wz:0 free:512 feed:100 spindle:100 rpm:0 clock:1\n";
            }
            hung = hung || l.rfind(hangsAt, 0) == 0;
            return hung && l != "hold" && l != "reset" ? std::string() : good(l);
        });
        SendControl control;
        Sender sender(link, control, little);
        std::jthread hand([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(150));
            control.stop = true;
        });
        CHECK_THROWS_AS(sender.ready(setupAt({0, 0}), Machine()), Cancelled);
        CHECK(link.halted());
        const auto at = std::find_if(link.sent.begin(), link.sent.end(), [&](const std::string& l) {
            return l.rfind(hangsAt, 0) == 0;
        });
        REQUIRE(at != link.sent.end());
        // After the word it hung at only questions, then hold and reset.
        CHECK(std::all_of(at + 1, link.sent.end() - 2,
                          [](const std::string& l) { return l == "?"; }));
    }
}

TEST_CASE("The plate lies beside the blank for the bed, and always within travel", "[hostile]") {
    const Machine m;
    for (Vec2 zero : {Vec2{100, 100}, Vec2{2, 100}, Vec2{2, 2}, Vec2{390, 520}, Vec2{0, 0}}) {
        const Setup s = setupAt(zero, ZZero::bed);
        for (Vec2 p : probePlaces(s, m)) {
            CHECK((p.x >= 0 && p.y >= 0 && p.x <= m.travel.x && p.y <= m.travel.y));
            const bool onBlank =
                p.x > zero.x - 5 && p.x < zero.x + 505 && p.y > zero.y - 5 && p.y < zero.y + 80;
            CHECK_FALSE(onBlank);
        }
    }
    Setup whole = setupAt({0, 0}, ZZero::bed);
    whole.blank.length = 900;
    whole.blank.width = 600;
    CHECK(test::sentenceOf([&] { probePlaces(whole, m); }).find("beside the blank") !=
          std::string::npos);
    CHECK(test::sentenceOf([&] {
              probePlaces(setupAt({-2000, 0}), m);
          }).find("edges") != std::string::npos);
}

TEST_CASE("A link the other side has closed is a sentence", "[hostile]") {
    const int listener = ::socket(AF_INET, SOCK_STREAM, 0);
    sockaddr_in where{};
    where.sin_family = AF_INET;
    where.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
    socklen_t size = sizeof where;
    REQUIRE(::bind(listener, reinterpret_cast<sockaddr*>(&where), size) == 0);
    REQUIRE(::listen(listener, 1) == 0);
    REQUIRE(::getsockname(listener, reinterpret_cast<sockaddr*>(&where), &size) == 0);
    const auto link = openLink("tcp:127.0.0.1:" + std::to_string(ntohs(where.sin_port)));
    ::close(::accept(listener, nullptr, nullptr));
    ::close(listener);
    CHECK(test::sentenceOf([&] {
              for (int i = 0; i < 50; ++i) { // the first bytes may still go out
                  link->send("?\n");
                  std::this_thread::sleep_for(std::chrono::milliseconds(2));
              }
          }).find("gone") != std::string::npos);
}

TEST_CASE("A run whose program was killed is told as lost when the book is opened", "[hostile]") {
    const test::Folder folder;
    const auto file = folder / "shop.sqlite";
    RunRecord run;
    run.project = "p";
    run.program = "01.nc";
    run.start = timeNow();
    const pid_t child = ::fork();
    if (child == 0) {
        ShopBook book(file);
        book.begin(run);
        ::_exit(0); // without a word
    }
    ::waitpid(child, nullptr, 0);
    ShopBook book(file);
    REQUIRE(book.runs().size() == 1);
    CHECK(book.runs()[0].outcome == "lost");
    CHECK(book.runs()[0].remark.find("ended before") != std::string::npos);
    // One that is really under way is left alone.
    book.begin(run);
    ShopBook again(file);
    CHECK(again.runs()[0].outcome == "running");
}

TEST_CASE("An outcome the book cannot take is kept beside it and entered later", "[hostile]") {
    const test::Folder folder;
    const auto file = folder / "shop.sqlite";
    RunRecord run;
    run.project = "p";
    run.program = "01.nc";
    run.start = timeNow();
    {
        ShopBook book(file);
        run.id = book.begin(run);
        run.end = timeNow();
        run.outcome = "done";
        run.takenSeconds = 12;
        CHECK(std::filesystem::exists(book.keepAside(run)));
    }
    // A run of another start is another book's, a damaged file nobody's: neither shuts the book.
    writeFileSafely(file.string() + ".aside/run-9.json", R"({"id": "x"})");
    writeFileSafely(file.string() + ".aside/run-8.json",
                    R"({"id": 1, "start": "2001-01-01T00:00:00Z", "end": "", "taken_seconds": 1,)"
                    R"( "outcome": "lost", "remark": ""})");
    ShopBook book(file);
    CHECK(book.runs()[0].outcome == "done");
    CHECK(book.runs()[0].takenSeconds == 12);
    CHECK_FALSE(std::filesystem::exists(file.string() + ".aside/run-1.json"));
    CHECK(std::filesystem::exists(file.string() + ".aside/run-9.json"));
}
