// How a controller is spoken to is data: patterns, files, and two manners of a stand-in.
#include "run/machine_sim.h"
#include "run/sender.h"

#include "sim_link.h"
#include "support.h"

#include "job/keys.h"
#include "job/store.h"

#include <random>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

MachineSimOptions optionsOf(const Controller& controller, std::size_t buffer = 512) {
    MachineSimOptions o;
    o.controller = controller;
    o.bufferBytes = controller.buffer > 0 ? std::size_t(controller.buffer) : buffer;
    return o;
}

const SendPatience little{400, 1500, 1500, 1};

std::string zigzag(int moves) {
    std::string text = "(a way to and fro)\nG21\nG90 G17 G94 G54\nS9000 M3\nG0 X10 Y10\n";
    for (int i = 0; i < moves; ++i) {
        text += "G1 X" + std::to_string(10 + (i % 2) * 20) + " Y" + std::to_string(10 + i % 200) +
                (i == 0 ? " F3000" : "") + "\n";
    }
    return text + "G0 X0 Y0\nM5\nM2\n";
}

} // namespace

TEST_CASE("Patterns put words in and take them out", "[controller]") {
    CHECK(said("jog X{x} F{feed}", {{"x", -2.5}, {"feed", 600}}) == "jog X-2.5000 F600.0000");
    CHECK(said("\\x18") == "\x18");
    CHECK(said("P{offset} {percent}", {{"offset", 2}, {"percent", 110}}) == "P2 110");
    const auto f = heard("IS {state} AT {x} {y} {}", "IS BUSY AT 1.5 -2 whatever follows");
    REQUIRE(f);
    CHECK(f->at("state") == "BUSY");
    CHECK(f->at("x") == "1.5");
    CHECK(f->at("y") == "-2");
    CHECK_FALSE(heard("IS {state} AT {x}", "IS BUSY"));
    CHECK_FALSE(heard("ok", "okay"));
    CHECK_FALSE(heard("", "")); // no word is no answer
    CHECK(heard("ok", "ok"));
    CHECK(answered("NO {number}", {{"number", "7"}}) == "NO 7");
}

TEST_CASE("A description goes out to a file and comes back the same", "[controller]") {
    for (const Controller& c : shippedControllers()) {
        CHECK(controllerFromJson(controllerToJson(c), "it") == c);
    }
    // In the project too, key by key.
    Project p = plainWith();
    p.machine.talk = signalController();
    CHECK(projectFromText(projectToText(p), "it").machine.talk == signalController());
    CHECK(designHash(p) == designHash(plainWith())); // how it is sent is not what is sent
    const auto refusal = [](const std::string& json) {
        return sentenceOf([&] { controllerFromJson(json, "c.json"); });
    };
    CHECK_THAT(refusal("not json"), Contains("object of JSON"));
    CHECK_THAT(refusal("{\"hime\": \"x\"}"), Contains("no \"hime\""));
    CHECK_THAT(refusal("{\"home\": 4}"), Contains("no text"));
    CHECK_THAT(refusal("{\"flow\": \"fast\"}"), Contains("one-by-one"));
    CHECK_THAT(refusal("{\"buffer\": -2}"), Contains("0 to 65536"));
    CHECK_THAT(refusal("{\"jog\": \"J{w}\"}"), Contains("{w} is not known"));
    CHECK_THAT(refusal("{\"jog\": \"J{x\"}"), Contains("left open"));
    CHECK_THAT(refusal("{\"acknowledged\": \"\"}"), Contains("acknowledged"));
    CHECK_THAT(sentenceOf([&] { withKey(p, "controller.home", "go {x}"); }),
               Contains("nothing to put in"));
}

TEST_CASE("One program is run in every manner of speaking", "[controller][sender]") {
    std::vector<Vec3> ends;
    for (const Controller& c : shippedControllers()) {
        INFO(c.name);
        SimLink link(optionsOf(c));
        SendControl control;
        Sender sender(link, control, little, c);
        if (missingWords(c).empty()) {
            Setup setup;
            setup.blank.length = 100;
            setup.blank.width = 80;
            setup.blank.thickness = 10;
            setup.zeroOnMachine = {100, 100};
            sender.ready(setup, Machine(), 0, Vec2{200, 90});
        }
        sender.talk().waitForIdle(); // as it is before a program is sent
        Corridor way(readProgram(zigzag(40), "zigzag", sender.status().work).path);
        const SendResult r = sender.send(zigzag(40), {}, &way);
        INFO(r.remark);
        CHECK(r.outcome == SendOutcome::done);
        link.sim.advance(1000);
        ends.push_back(link.sim.position());
        // Not a word that is not in the description: but for G-code, every line said is one of its.
        if (c.name == "plain") {
            CHECK_THAT(link.said, !Contains("home") && !Contains("?") && !Contains("hold"));
        }
        if (c.name == "signals") {
            CHECK_THAT(link.said, Contains("GO HOME") && Contains("FEEL ") && Contains("\x05"));
            CHECK_THAT(link.said, !Contains("?"));
        }
    }
    CHECK(length(ends[0].xy() - ends[2].xy()) < 1e-6); // both were homed and zeroed
}

TEST_CASE("No word is said that a machine does not have", "[controller]") {
    SimLink link(optionsOf(plainController()));
    SendControl control;
    Talk talk(link, plainController(), control, little);
    CHECK(link.said.empty());
    CHECK_THAT(sentenceOf([&] { home(talk); }), Contains("no word for \"home\""));
    CHECK_THAT(sentenceOf([&] { jog(talk, {1, 0, 0}, 100); }), Contains("no word for \"jog\""));
    talk.halt();
    CHECK(link.said.empty());
    CHECK(missingWords(plainController()).size() == 5);
    CHECK(missingWords(signalController()).empty());
}

TEST_CASE("An answer that is none of a plain machine's ends the run", "[controller]") {
    SimLink link(optionsOf(plainController()));
    SendControl control;
    Sender sender(link, control, little, plainController());
    const SendResult r = sender.send("G21\nG90\nG99\nG1 X5 F100\nM2\n");
    CHECK(r.outcome == SendOutcome::refused);
    CHECK_THAT(r.remark, Contains("line 3") && Contains("instead of \"ok\""));
    CHECK(r.line == 3);
    CHECK_THAT(link.said, !Contains("X5"));
}

TEST_CASE("Overrides and holds are passed on in its own words", "[controller]") {
    for (const Controller& c : {Controller(), signalController()}) {
        INFO(c.name);
        SimLink link(optionsOf(c));
        link.stepSeconds = 0.01;
        SendControl control;
        Sender sender(link, control, little, c);
        sender.talk().line("G53 G0 Z-1");
        bool turned = false, held = false;
        const SendResult r = sender.send(zigzag(60), [&](const SendProgress& p) {
            if (p.acknowledged == 10) {
                control.feedPercent = 60;
            }
            if (p.acknowledged == 20) {
                control.hold = true;
            }
            turned = turned || p.status.feedPercent == 60;
            held = held || p.status.state == "hold";
            if (held) {
                control.hold = false;
            }
        });
        INFO(r.remark);
        CHECK(r.outcome == SendOutcome::done);
        // "signals" has no word for the feed that acts at once: none is squeezed in.
        CHECK(turned == (c.name == "stand-in"));
        CHECK(r.feedPercent == (turned ? 60 : 100));
        CHECK(held);
    }
}

TEST_CASE("Whatever goes wrong at any line, the outcome is true", "[controller][faults][long]") {
    std::mt19937 random(7);
    int done = 0, ended = 0;
    for (const Controller& c : {Controller(), signalController()}) {
        for (std::size_t kind = 0; kind < faultNames.size(); ++kind) {
            for (std::size_t buffer : {std::size_t(32), std::size_t(512)}) {
                MachineSimOptions o = optionsOf(c, buffer);
                o.bufferBytes = buffer;
                Controller spoken = c;
                spoken.buffer = c.buffer > 0 ? int(buffer) : 0;
                o.controller = spoken;
                const int line = std::uniform_int_distribution<int>(8, 60)(random);
                o.faults = {{static_cast<FaultKind>(kind), line}};
                INFO(c.name << " " << faultNames[kind] << "@" << line << " buffer " << buffer);
                SimLink link(o);
                SendControl control;
                const std::string program = zigzag(60);
                SendResult r;
                Sender sender(link, control, little, spoken);
                Corridor way(readProgram(program, "it", sender.status().work).path);
                r = sender.send(program, {}, &way);
                // Never more in its buffer than it holds: that would have been an alarm of its own.
                // But for an answer too many, which says that there is room where there is none.
                const auto f = static_cast<FaultKind>(kind);
                CHECK((f == FaultKind::twice || r.remark.find("overrun") == std::string::npos));
                link.sim.advance(1000);
                const bool harmless = f == FaultKind::delay;
                if (r.outcome == SendOutcome::done) {
                    ++done;
                    // Done is only what came to its end where the program ends.
                    CHECK((harmless || f == FaultKind::garble));
                    const Vec3 work = link.sim.position() - Vec3{100, 100, o.bedZ};
                    CHECK(length(work.xy()) < 1e-6);
                } else {
                    ++ended;
                    CHECK_FALSE(r.remark.empty());
                    CHECK(r.remark.back() == '.');
                    CHECK_FALSE((harmless && r.outcome == SendOutcome::refused));
                    if (f == FaultKind::lie || f == FaultKind::runaway) {
                        CHECK(r.outcome == SendOutcome::strayed);
                        CHECK_THAT(r.remark, Contains("since line"));
                    }
                    if (f == FaultKind::power) {
                        CHECK_THAT(r.remark, Contains("begun anew") || Contains("restart") ||
                                                 Contains("alarm") || Contains("refused") ||
                                                 Contains("off the way"));
                    }
                }
            }
        }
    }
    CHECK(ended > 30);
}

TEST_CASE("A controller gets every line once, whatever its buffer", "[controller][long]") {
    const std::string program = zigzag(500);
    for (std::size_t buffer : {16, 17, 24, 31, 64, 100, 333, 1024}) {
        INFO(buffer);
        Controller c;
        c.buffer = int(buffer) + 8; // the longest line has to fit
        MachineSimOptions o = optionsOf(c);
        SimLink link(o);
        link.stepSeconds = 0.2;
        SendControl control;
        Sender sender(link, control, little, c);
        const SendResult r = sender.send(program);
        if (r.outcome == SendOutcome::refused) { // too small for one of its lines: nothing was sent
            CHECK_THAT(r.remark, Contains("nothing was sent"));
            continue;
        }
        INFO(r.remark);
        CHECK(r.outcome == SendOutcome::done);
        // Its lines, in order, are the program's.
        std::string expected;
        std::istringstream lines(program);
        for (std::string line; std::getline(lines, line);) {
            expected += line[0] == '(' ? std::string() : line + "\n";
        }
        std::string said = link.said;
        for (std::size_t at; (at = said.find("?\n")) != std::string::npos;) {
            said.erase(at, 2);
        }
        CHECK(said == expected);
    }
}

TEST_CASE("A corridor is kept to by what was proved, and left by what was not", "[controller]") {
    const Path path = readProgram(zigzag(20), "it").path;
    Corridor way(path);
    const int all = 1000;
    for (const Move& m : path) {
        for (double f : {0.0, 0.3, 0.9}) {
            CHECK_FALSE(way.strays(m.at(f), all));
        }
    }
    Corridor other(path);
    const auto off = other.strays({10, 10, 3}, all);
    REQUIRE(off);
    CHECK(off->by == Approx(3).margin(0.01));
    // What has not been sent yet is no way it may be on.
    Corridor early(path);
    CHECK(early.strays(path.back().from, 6));
    CHECK_FALSE(Corridor(path).strays(path.back().from, all));
}

TEST_CASE("An address that leads nowhere is a sentence", "[controller][failure]") {
    const auto refusal = [](const std::string& address) {
        return sentenceOf([&] { openLink(address); });
    };
    CHECK_THAT(refusal("serial:/dev/no-such-port"), Contains("/dev/no-such-port"));
    CHECK_THAT(refusal("serial:/dev/ttyS0@fast"), Contains("no rate"));
    CHECK_THAT(refusal("serial:/dev/ttyS0@9600/maybe"), Contains("no flow control"));
    CHECK_THAT(refusal("serial:"), Contains("no port"));
    CHECK_THAT(refusal("parallel:1"), Contains("serial:NAME@RATE"));
    const SerialAddress at = serialAddress("/dev/ttyUSB0@250000/hardware");
    CHECK(at.name == "/dev/ttyUSB0");
    CHECK(at.rate == 250000);
    CHECK(at.flow == SerialAddress::Flow::hardware);
    CHECK(serialAddress("/dev/ttyUSB0").rate == 115200);
}
