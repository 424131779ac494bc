#include "job/run_program.h"
#include "run/machine_sim.h"

#include "support.h"

#include <chrono>
#include <thread>

#include <SQLiteCpp/SQLiteCpp.h>

using namespace wren;
using test::ControllerProcess;
using test::Folder;
using test::plainWith;
using test::sentenceOf;

namespace {

using Replies = std::vector<std::string>;

/// Sends a line and lets the machine work until it stands.
Replies say(MachineSim& m, const std::string& line, double seconds = 1000) {
    m.receive(line);
    m.advance(seconds);
    return m.takeReplies();
}

} // namespace

TEST_CASE("The machine moves, keeps its position and tells it", "[machine]") {
    MachineSim m{{}};
    CHECK(say(m, "G21 G90") == Replies{"ok"});
    CHECK(say(m, "G53 G0 X100 Y50 Z-10") == Replies{"ok"});
    CHECK(m.position() == Vec3{100, 50, -10});
    CHECK(say(m, "jog X5 Y-2 F1000") == Replies{"ok"});
    CHECK(m.position() == Vec3{105, 48, -10});
    CHECK(say(m, "G91") == Replies{"ok"}); // the jog left the modes alone
    const auto status = Speech(Controller()).state(say(m, "?").at(0));
    REQUIRE(status);
    CHECK(status->state == "idle");
    CHECK(status->position.x == Approx(105));
    CHECK(status->freeBytes == 512);
    CHECK(say(m, "home") == Replies{"ok"});
    CHECK(m.position() == Vec3{0, 0, 0});
}

TEST_CASE("A move takes its trapezoid's time", "[machine]") {
    MachineSim m{{}};
    m.receive("G53 G0 X500");
    // 5000 mm/min and 400 mm/s2: 83.33 mm/s, 0.208 s up and down, 500 / 83.33 + 0.208 s in all.
    const double whole = 500 / (5000 / 60.0) + (5000 / 60.0) / 400;
    m.advance(whole / 2);
    CHECK(m.position().x == Approx(250).margin(0.01));
    CHECK(m.state() == MachineSim::State::run);
    m.advance(whole / 2 - 0.01);
    CHECK(m.state() == MachineSim::State::run);
    m.advance(0.02);
    CHECK(m.state() == MachineSim::State::idle);
    CHECK(m.clock() == Approx(whole).margin(1e-6));
}

TEST_CASE("Hold stands, resume goes on to the same place", "[machine]") {
    MachineSim m{{}};
    m.receive("G53 G1 X500 F3000");
    m.receive("G53 G1 Y100");
    m.advance(3);
    CHECK(say(m, "hold", 100).back() == "ok");
    const Vec3 stood = m.position();
    CHECK(stood.x > 50);
    CHECK(stood.x < 200);
    m.advance(50);
    CHECK(m.position() == stood);
    CHECK(m.state() == MachineSim::State::hold);
    say(m, "resume");
    CHECK(m.position() == Vec3{500, 100, 0});
    CHECK(say(m, "resume") == Replies{"error:6"});
}

TEST_CASE("Reset drops what was planned and keeps the position", "[machine]") {
    MachineSim m{{}};
    m.receive("G53 G1 X500 F3000");
    m.advance(2);
    const Vec3 at = m.position();
    m.takeReplies();
    CHECK(say(m, "reset") == Replies{"ok"});
    CHECK(m.state() == MachineSim::State::idle);
    CHECK(m.position() == at);
    CHECK(say(m, "G91 G0 X1") == Replies{"ok"});
    CHECK(m.position().x == Approx(at.x + 1));
}

TEST_CASE("A move beyond the limits is an alarm until reset", "[machine][failure]") {
    MachineSim m{{}};
    for (const char* line : {"G53 G0 X901", "G53 G0 Y-1", "G53 G0 Z-111", "G53 G0 Z1",
                             "jog X-5 F100", "G17 G53 G0 X100 Y5"}) {
        say(m, "reset");
        say(m, "home");
        const Replies r = say(m, line);
        if (std::string(line).find("G17") == 0) {
            CHECK(r == Replies{"ok"}); // inside
            continue;
        }
        CHECK(r == Replies{"error:2"});
        CHECK(m.state() == MachineSim::State::alarm);
        CHECK(say(m, "G53 G0 X5") == Replies{"error:3"});
        CHECK(m.position() == Vec3{0, 0, 0});
    }
    say(m, "reset");
    say(m, "G53 G0 X5 Y5");
    CHECK(say(m, "G54 G2 X-95 Y-95 I-105 J0 F500").at(0) == "error:2"); // its belly leaves the bed
}

TEST_CASE("What it cannot read is an error and nothing moves", "[machine][failure]") {
    MachineSim m{{}};
    for (const char* line : {"G99", "hello", "X", "G1 X5", "jog", "jog W4", "probe", "G2 X5"}) {
        INFO(line);
        CHECK(say(m, line) == Replies{"error:1"});
    }
    CHECK(m.position() == Vec3{0, 0, 0});
    CHECK(m.state() == MachineSim::State::idle);
    CHECK(say(m, "G53 G0 X5") == Replies{"ok"});
}

TEST_CASE("The buffer is bounded; overrunning it is an alarm", "[machine][failure]") {
    MachineSimOptions o;
    o.bufferBytes = 100;
    o.queueMoves = 2;
    MachineSim m{o};
    m.receive("G91 G1 X0.1 F60");
    m.receive("X0.1");
    m.takeReplies();
    int taken = 0; // lines of 5 bytes with their line end, while the queue is full
    while (m.state() != MachineSim::State::alarm && taken < 100) {
        m.receive("X0.1");
        ++taken;
    }
    CHECK(taken == 21);
    CHECK(m.takeReplies().back() == "error:4");
}

TEST_CASE("Lines are acknowledged in order, each once", "[machine]") {
    MachineSimOptions o;
    o.queueMoves = 3;
    MachineSim m{o};
    m.receive("G91 G1 F600");
    for (int i = 0; i < 20; ++i) {
        m.receive("X1");
    }
    std::size_t answers = m.takeReplies().size();
    CHECK(answers == 4); // the modes, and as many moves as are planned ahead
    m.advance(1000);
    answers += m.takeReplies().size();
    CHECK(answers == 21);
    CHECK(m.position().x == Approx(20));
}

TEST_CASE("The probe stops on the plate, or is an alarm", "[machine]") {
    MachineSimOptions o;
    o.bedZ = -95;
    o.plateOn = 4;
    MachineSim m{o};
    const Replies r = say(m, "probe Z-109 F300");
    REQUIRE(r.size() == 2);
    CHECK(r[0] == "probe:0.0000,0.0000,-79.0000"); // bed, what it lies on, a plate of 12
    CHECK(r[1] == "ok");
    CHECK(m.position().z == Approx(-79));
    say(m, "G53 G0 Z0");
    CHECK(say(m, "probe Z-20 F300") == Replies{"error:5"});
    CHECK(m.state() == MachineSim::State::alarm);
    CHECK(m.position().z == Approx(-20));
}

TEST_CASE("The plate lies on the highest thing that is there", "[machine]") {
    MachineSimOptions o;
    o.bedZ = -95;
    MachineSim m{o};
    say(m, "lies 40 30 240 130 18");   // a fixture board,
    say(m, "lies 60 40 220 120 38.5"); // and a blank on it
    const auto touched = [&](const char* place) {
        say(m, "G53 G0 Z0");
        say(m, std::string("G53 G0 ") + place);
        return say(m, "probe Z-109 F300").front();
    };
    CHECK(touched("X100 Y80") == "probe:100.0000,80.0000,-44.5000");
    CHECK(touched("X50 Y80") == "probe:50.0000,80.0000,-65.0000");
    CHECK(touched("X30 Y80") == "probe:30.0000,80.0000,-83.0000");
    say(m, "bare");
    CHECK(touched("X100 Y80") == "probe:100.0000,80.0000,-83.0000");
    // Half a word is no thing.
    CHECK(say(m, "lies 40 30 240 130") == Replies{"error:1"});
}

TEST_CASE("A way is told as it was really gone", "[machine]") {
    Path gone;
    MachineSimOptions o;
    o.gone = [&](const Move& move, Vec3) { gone.push_back(move); };
    o.faults = {faultFrom("runaway@3")};
    MachineSim m{o};
    m.receive("G53 G1 Z-10 F600");
    m.receive("G91 G1 X10 F600"); // 10 mm/s
    m.advance(30);
    REQUIRE(gone.size() == 2);
    CHECK(gone[1].to.x == Approx(10));
    m.receive("X10"); // here it runs off, at 20 mm/s
    m.advance(0.5);
    m.feed("hold\n");
    REQUIRE(gone.size() == 3);
    CHECK(gone[2].from.x == Approx(10));
    CHECK(gone[2].to.x == Approx(m.position().x));
    CHECK(gone[2].to.x > 20);
    CHECK(gone[2].to.x < 26);
}

TEST_CASE("Turned down it takes longer by its own clock", "[machine]") {
    const auto clockAt = [](const char* word) {
        MachineSim m{{}};
        say(m, word);
        m.receive("G91 G1 X100 F600"); // 10 mm/s
        m.advance(100);
        return m.clock();
    };
    CHECK(clockAt("feed 100") == Approx(10).margin(0.2));
    CHECK(clockAt("feed 50") == Approx(2 * clockAt("feed 100")).epsilon(1e-6));
    CHECK(clockAt("feed 200") == Approx(clockAt("feed 100") / 2).epsilon(1e-6));
}

TEST_CASE("The end of a program is acknowledged when the machine stands", "[machine]") {
    MachineSim m{{}};
    m.receive("G53 G1 X100 F600");
    m.receive("M2");
    m.advance(5);
    CHECK(m.takeReplies() == Replies{"ok"});
    m.advance(100);
    CHECK(m.takeReplies() == Replies{"ok"});
    CHECK(m.state() == MachineSim::State::idle);
    m.receive("G53 G1 X0");
    m.receive("M0");
    m.receive("G53 G1 X7");
    m.advance(100);
    CHECK(m.state() == MachineSim::State::hold); // M0 waits for the maker
    CHECK(m.position().x == Approx(0));
    say(m, "resume");
    CHECK(m.position().x == Approx(7));
}

TEST_CASE("A program sent over each kind of wire is run and logged", "[sender]") {
    const Derived d = derive(plainWith());
    for (const char* arguments : {"--tcp 0 --speed 3000", "--speed 3000 --buffer 64"}) {
        INFO(arguments);
        const ControllerProcess controller(arguments);
        const Folder folder;
        ShopBook book(folder / "book.sqlite");
        SendControl control;
        int last = 0;
        const RunRecord r =
            runProgram(d, {3}, controller.address(), book, control, [&](const SendProgress& p) {
                CHECK(p.acknowledged >= last);
                last = p.acknowledged;
            });
        CHECK(r.outcome == "done");
        CHECK(r.remark.empty());
        CHECK(last > 50);
        CHECK(r.takenSeconds == Approx(r.plannedSeconds).epsilon(0.1));
        const auto runs = book.runs();
        REQUIRE(runs.size() == 1);
        CHECK(runs[0].program == "03-fretboard-outline-flat-6.nc");
        CHECK(runs[0].sha256 == d.programs[2].sha256);
        CHECK(runs[0].motion == d.programs[2].motion);
        CHECK(runs[0].designHash == d.designHash);
        CHECK(runs[0].outcome == "done");
        CHECK(runs[0].end >= runs[0].start);
        CHECK(runs[0].takenSeconds == r.takenSeconds);
    }
}

TEST_CASE("The whole job leaves the machine where the programs say", "[sender]") {
    const Derived d = derive(plainWith());
    const ControllerProcess controller("--tcp 0 --speed 20000");
    const auto link = openLink(controller.address());
    SendControl control;
    Sender sender(*link, control);
    sender.ready(*d.lies(Role::board), d.project.machine);
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const SendResult r = sender.send(d.programs[i].program.text);
        CHECK(r.outcome == SendOutcome::done);
        const Vec3 end = d.read(Role::board)[i].path.back().to;
        CHECK(length(sender.status().work - end) < 0.002);
        // The probe found the bed, so the zero is where the setup says.
        const Vec3 zero = sender.status().position - sender.status().work;
        CHECK(zero.x == Approx(d.lies(Role::board)->zeroOnMachine.x).margin(0.002));
        CHECK(zero.z == Approx(-100).margin(0.002));
    }
}

TEST_CASE("A controller that vanishes mid-run is told and logged", "[sender][failure]") {
    const Derived d = derive(plainWith());
    for (const char* arguments : {"--tcp 0 --speed 50", "--speed 50"}) {
        auto controller = std::make_unique<ControllerProcess>(arguments);
        const Folder folder;
        ShopBook book(folder / "book.sqlite");
        SendControl control;
        std::thread killer([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(1500));
            controller->end();
        });
        const RunRecord r = runProgram(d, {2}, controller->address(), book, control);
        killer.join();
        CHECK(r.outcome == "lost");
        CHECK(r.remark.find("lines had been acknowledged") != std::string::npos);
        CHECK(book.runs().at(0).outcome == "lost");
        CHECK(book.runs().at(0).remark == r.remark);
    }
}

TEST_CASE("A run can be held, resumed and stopped by hand", "[sender]") {
    const Derived d = derive(plainWith());
    const ControllerProcess controller("--tcp 0 --speed 100");
    const Folder folder;
    ShopBook book(folder / "book.sqlite");
    SendControl control;
    std::atomic<bool> held{false};
    bool moved = false;
    Vec3 at;
    int still = 0;
    const RunRecord r =
        runProgram(d, {1}, controller.address(), book, control, [&](const SendProgress& p) {
            if (p.acknowledged > 20 && !held) {
                control.hold = true;
                held = true;
            } else if (held && p.status.state == "hold") {
                moved = moved || (still > 1 && length(p.status.work - at) > 1e-9);
                at = p.status.work;
                if (++still == 8) {
                    control.hold = false;
                }
            } else if (still >= 8 && p.acknowledged > 40) {
                control.stop = true;
            }
        });
    CHECK(held);
    CHECK(still >= 8);
    CHECK_FALSE(moved);
    CHECK(r.outcome == "stopped");
    CHECK(r.remark.find("Stopped by hand after line") == 0);
}

TEST_CASE("A refused line ends the run with the machine's reason", "[sender][failure]") {
    const Derived d = derive(plainWith());
    const ControllerProcess controller("--tcp 0 --speed 5000 --travel 300,600,110");
    const Folder folder;
    ShopBook book(folder / "book.sqlite");
    SendControl control;
    const RunRecord r =
        runProgram(d, {1}, controller.address(), book, control); // too small a machine
    CHECK(r.outcome == "refused");
    CHECK(r.remark.find("would leave its travel") != std::string::npos);
    CHECK(r.remark.find("line ") != std::string::npos);
}

TEST_CASE("What may not be sent is refused before anything moves", "[sender][failure]") {
    const Folder folder;
    ShopBook book(folder / "book.sqlite");
    SendControl control;
    const Derived good = derive(plainWith());
    const Derived bad = derive(plainWith({{"cut.tabs_per_side", "0"}}));
    CHECK(sentenceOf([&] {
              runProgram(bad, {1}, "tcp:127.0.0.1:9", book, control);
          }).find("stop findings") != std::string::npos);
    CHECK(sentenceOf([&] {
              runProgram(good, {4}, "tcp:127.0.0.1:9", book, control);
          }).find("programs 1 to 3") != std::string::npos);
    for (const char* address :
         {"tcp:127.0.0.1:1", "tty:/dev/none", "usb:3", "tcp:here:now", "tty:/dev/null"}) {
        INFO(address);
        CHECK_THROWS_AS(runProgram(good, {1}, address, book, control), Error);
    }
    CHECK(book.runs().empty());
}

TEST_CASE("The command runs a program and the book shows it", "[sender][command]") {
    const ControllerProcess controller("--tcp 0 --speed 5000");
    const Folder folder;
    const std::string book = " --book " + (folder / "b.sqlite").string();
    const test::Ran r =
        test::wren("run " + test::plainFile + " --program 3 --to " + controller.address() + book);
    CHECK(r.code == 0);
    CHECK(r.out.find("done") != std::string::npos);
    CHECK(test::wren("book runs" + book).out.find("03-fretboard-outline-flat-6.nc") !=
          std::string::npos);
    CHECK(test::wren("book runs --json" + book).out.find("\"outcome\": \"done\"") !=
          std::string::npos);
    const test::Ran lost =
        test::wren("run " + test::plainFile + " --program 3 --to tcp:127.0.0.1:1" + book);
    CHECK(lost.code == 1);
    CHECK(lost.err.find("cannot be reached") != std::string::npos);
}

TEST_CASE("Words typed by hand are understood on the wire", "[machine]") {
    const ControllerProcess controller("--tcp 0 --speed 1000");
    const auto link = openLink(controller.address());
    const auto answer = [&](const std::string& text) {
        link->send(text);
        std::string all;
        for (int i = 0; i < 20 && all.find('\n') == std::string::npos; ++i) {
            all += link->receive(100);
        }
        return all;
    };
    CHECK(answer("?").find("state:idle") == 0); // needs no line end
    CHECK(answer("G21\r\n") == "ok\n");
    CHECK(answer("G77\n") == "error:1\n");
}

TEST_CASE("Usage errors of the controller", "[machine][failure]") {
    const std::string controller = WREN_BIN "/wren-controller ";
    CHECK(test::run(controller + "--speed fast").code == 2);
    CHECK(test::run(controller + "--speed nan").code == 2);
    CHECK(test::run(controller + "--tcp 99999").code == 2);
    CHECK(test::run(controller + "--tcp 0 --travel 1,2").code == 1);
    CHECK(test::run(controller + "--help").code == 0);
}

TEST_CASE("A book of an older version is taken over with what it tells", "[book]") {
    const Folder folder;
    const auto file = folder / "book.sqlite";
    RunRecord run;
    run.project = "Whinchat";
    run.program = "01.nc";
    run.sha256 = "abc";
    run.motion = "def";
    run.start = timeNow();
    ShopBook(file).begin(run);
    CHECK(ShopBook(file).runs().at(0).motion == "def");
    {
        SQLite::Database old(file.string(), SQLite::OPEN_READWRITE);
        old.exec("DROP INDEX runs_by_instrument");
        for (const char* later : {"motion", "line", "feed_percent", "spindle_percent", "bit",
                                  "wood", "cuts", "cut_mm", "instrument", "machine", "made_by"}) {
            old.exec(std::string("ALTER TABLE runs DROP COLUMN ") + later);
        }
        old.exec("DROP TABLE ticks; DROP TABLE records; DROP TABLE instruments; "
                 "PRAGMA user_version=2");
    }
    const ShopBook book(file);
    REQUIRE(book.runs().size() == 1);
    CHECK(book.runs()[0].sha256 == "abc");
    CHECK(book.runs()[0].motion.empty());
    // What it belongs to is known by its project's name; the old book lies beside it.
    REQUIRE(book.instruments().size() == 1);
    CHECK(book.instruments()[0].name == "Whinchat");
    CHECK(book.instruments()[0].begun == run.start);
    const std::string copy = file.string() + ".version-2";
    REQUIRE(std::filesystem::exists(copy));
    SQLite::Database kept(copy, SQLite::OPEN_READONLY);
    CHECK(kept.execAndGet("PRAGMA user_version").getInt() == 2);
    CHECK(kept.execAndGet("SELECT COUNT(*) FROM runs").getInt() == 1);
}

TEST_CASE("The book is made, shared and guarded", "[book]") {
    const Folder folder;
    const auto file = folder / "deep" / "book.sqlite";
    RunRecord run;
    run.project = "Whinchat";
    run.program = "01.nc";
    run.start = timeNow();
    {
        ShopBook one(file);
        ShopBook two(file); // another project, the same book
        const auto a = one.begin(run);
        const auto b = two.begin(run);
        CHECK(a != b);
        run.id = a;
        run.takenSeconds = 12.5;
        run.outcome = "done";
        two.finish(run);
        CHECK(one.runs().at(1).takenSeconds == 12.5);
        CHECK(one.runs().at(0).outcome == "running");
        one.recordOverride({0, "Whinchat", "fretboard", timeNow(), "part-free", "vacuum"});
        CHECK(two.overrides().at(0).reason == "vacuum");
    }
    CHECK(ShopBook(file).runs().size() == 2);
    {
        // Reading a known book waits for nobody, not even while another program writes to it.
        SQLite::Database other(file.string(), SQLite::OPEN_READWRITE);
        other.exec("BEGIN IMMEDIATE");
        const auto start = std::chrono::steady_clock::now();
        CHECK(ShopBook(file).runs().size() == 2);
        CHECK(std::chrono::steady_clock::now() - start < std::chrono::seconds(1));
        other.exec("ROLLBACK");
    }
    std::FILE* f = std::fopen((folder / "not.sqlite").c_str(), "w");
    std::fputs(
        "this is no database, whatever its name says, and long enough to be looked at twice over",
        f);
    std::fclose(f);
    CHECK(sentenceOf([&] { ShopBook bad(folder / "not.sqlite"); }).find("not.sqlite") !=
          std::string::npos);
    CHECK_THROWS_AS(ShopBook("/proc/none/book.sqlite"), Error);
}
