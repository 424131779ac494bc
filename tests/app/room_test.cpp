// Standing at the machine: the steps of a board by keys alone, in two manners, with mishaps.
#include "pages/machine_room.h"
#include "run/machine_sim.h"

#include "as_gone.h"
#include "opened.h"

#include <QPushButton>

using namespace wren;
using namespace wren::app;
using Kind = RoomStep::Kind;

namespace {

/// Stands at the machine.
MachineRoom& roomOf(Opened& w) {
    QTest::keyClick(&w.window, Qt::Key_9, Qt::AltModifier);
    w.settle();
    return w.window.machine();
}

/// Return, until the step in hand is behind; false when it does not get there.
bool doStep(Opened& w, MachineRoom& room) {
    const std::size_t at = room.stepInHand();
    room.setFocus();
    QTest::keyClick(&room, Qt::Key_Return);
    const bool through = QTest::qWaitFor(
        [&] { return !room.busy() && room.stepInHand() > at; }, 60000);
    w.settle();
    return through;
}

bool doUntil(Opened& w, MachineRoom& room, Kind kind) {
    while (room.stepInHand() < room.steps().size() &&
           room.steps()[room.stepInHand()].kind != kind) {
        if (!doStep(w, room)) {
            return false;
        }
    }
    return room.stepInHand() < room.steps().size();
}

} // namespace

TEST_CASE("A board is made from the first mark to the last tab by one key",
          "[app][room][run][long]") {
    for (const char* manner : {"stand-in", "signals"}) {
        INFO(manner);
        Opened w;
        Project p = w.window.document().project();
        for (const Controller& c : shippedControllers()) {
            p.machine.talk = c.name == manner ? c : p.machine.talk;
        }
        if (!(p == w.window.document().project())) {
            w.window.document().change(p, QStringLiteral("another controller"));
            w.settle();
        }
        MachineRoom& room = roomOf(w);
        const std::string wayFile = (w.folder / "way.nc").string();
        const test::ControllerProcess controller(std::string("--tcp 0 --speed 3000 --manner ") +
                                                 manner + " --way " + wayFile);
        test::WayRead ways;
        ways.follow(wayFile);
        std::map<int, Path> gone;
        room.setAddress(QString::fromStdString(controller.address()));
        const std::size_t all = room.steps().size();
        REQUIRE(all > 10);
        CHECK(room.stepInHand() == 0);
        for (std::size_t i = 0; i < all; ++i) {
            INFO(i << " " << room.steps()[i].title);
            const int program = room.steps()[i].program;
            REQUIRE(doStep(w, room));
            CHECK(room.stepInHand() == i + 1);
            append(gone[program], ways.since());
        }
        const auto runs = ShopBook(w.folder / "book.sqlite").runs();
        std::size_t cut = 0;
        for (const RunRecord& r : runs) {
            INFO(r.program << ": " << r.remark);
            CHECK(r.outcome == "done");
            cut += r.program.find("-air.nc") == std::string::npos ? 1 : 0;
        }
        CHECK(cut == w.derived().programs.size());
        // What the machine really did, air passes included, leaves the wood that was proved.
        CHECK(test::woodOff(w.derived(), *w.derived().job(Role::board), gone, 0.3) < 0.01);
        // What was ticked is kept: opened anew nothing is left to do.
        CHECK(ShopBook(w.folder / "book.sqlite").ticks(p.name).size() >= 6);
    }
}

TEST_CASE("A stopped program is taken up again, after it was said what will happen",
          "[app][room][run][long]") {
    Opened w;
    MachineRoom& room = roomOf(w);
    const test::ControllerProcess controller("--tcp 0 --speed 400");
    room.setAddress(QString::fromStdString(controller.address()));
    // Past the air pass by Return; what is not run is not done.
    REQUIRE(doUntil(w, room, Kind::air));
    const std::size_t air = room.stepInHand();
    REQUIRE(doStep(w, room));
    CHECK(room.stepInHand() == air + 1);
    REQUIRE(room.steps()[room.stepInHand()].kind == Kind::cut);
    room.setFocus();
    QTest::keyClick(&room, Qt::Key_Return);
    QTest::qWait(700);
    REQUIRE(room.running());
    QTest::keyClick(&room, Qt::Key_Minus); // the feed is turned down meanwhile
    QTest::qWait(200);
    QTest::keyClick(&room, Qt::Key_Escape);
    REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 5000));
    w.settle();
    CHECK(room.steps()[room.stepInHand()].kind == Kind::cut); // still in hand
    auto stopped = ShopBook(w.folder / "book.sqlite").runs().front();
    CHECK(stopped.outcome == "stopped");
    CHECK(stopped.line > 0);
    CHECK(stopped.feedPercent == 90);
    CHECK(stopped.bit == w.derived().programs[0].program.bit.name);
    // R says what will happen, and only then does it.
    QTest::keyClick(&room, Qt::Key_R);
    CHECK_FALSE(room.running());
    QTest::keyClick(&room, Qt::Key_R);
    REQUIRE(room.running());
    REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 60000));
    w.settle();
    const auto runs = ShopBook(w.folder / "book.sqlite").runs();
    CHECK(runs.front().program.find("from line") != std::string::npos);
    INFO(runs.front().remark);
    CHECK(runs.front().outcome == "done");
}

TEST_CASE("The spindle is jogged by keys, and the crossing taken where it stands",
          "[app][room]") {
    Opened w;
    MachineRoom& room = roomOf(w);
    const test::ControllerProcess controller("--tcp 0 --speed 500");
    room.setAddress(QString::fromStdString(controller.address()));
    room.setFocus();
    const auto press = [&](Qt::Key key) {
        QTest::keyClick(&room, key);
        REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 5000));
        QTest::qWait(30);
    };
    press(Qt::Key_J);
    press(Qt::Key_4); // 50 mm
    press(Qt::Key_Right);
    press(Qt::Key_Right);
    press(Qt::Key_Up);
    press(Qt::Key_3); // 10 mm
    press(Qt::Key_Left);
    press(Qt::Key_C);
    w.settle();
    const Vec2 crossing = w.window.document().project().machine.crossing;
    CHECK(crossing.x == Approx(90));
    CHECK(crossing.y == Approx(50));
    press(Qt::Key_N);
    w.settle();
    CHECK(w.window.document().project().neckHold.zeroX == Approx(90));
    press(Qt::Key_J); // and left
    press(Qt::Key_Right);
    CHECK(w.window.document().project().machine.crossing.x == Approx(90));
}

TEST_CASE("A machine that goes wrong is held, told and written down", "[app][room][failure]") {
    for (const char* fault : {"runaway@60", "alarm@60", "power@60", "link@60", "garble@60"}) {
        INFO(fault);
        Opened w;
        MachineRoom& room = roomOf(w);
        const bool runsOff = std::string(fault).rfind("runaway", 0) == 0;
        const test::ControllerProcess controller(std::string("--tcp 0 --speed ") +
                                                 (runsOff ? "300" : "2000") + " --fault " + fault);
        room.setAddress(QString::fromStdString(controller.address()));
        room.send();
        REQUIRE(room.running());
        REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 60000));
        w.settle();
        const RunRecord r = ShopBook(w.folder / "book.sqlite").runs().front();
        INFO(r.outcome << ": " << r.remark);
        CHECK(r.outcome != "done");
        CHECK(r.outcome != "running");
        CHECK_FALSE(r.remark.empty());
        if (runsOff) {
            CHECK(r.outcome == "strayed");
        }
        CHECK(w.window.isVisible());
    }
}

TEST_CASE("No program runs on a zero that the machine may have forgotten", "[app][room][run]") {
    Opened w;
    MachineRoom& room = roomOf(w);
    auto controller = std::make_unique<test::ControllerProcess>("--tcp 0 --speed 3000");
    room.setAddress(QString::fromStdString(controller->address()));
    REQUIRE(doUntil(w, room, Kind::air)); // zeroed on the way
    // Another machine, or the same switched on again: what is ticked says nothing of it.
    controller = std::make_unique<test::ControllerProcess>("--tcp 0 --speed 3000");
    room.setAddress(QString::fromStdString(controller->address()));
    room.setFocus();
    QTest::keyClick(&room, Qt::Key_Return);
    CHECK_FALSE(room.busy());
    CHECK(room.steps()[room.stepInHand()].kind == Kind::home);
    CHECK(w.finding().contains(QLatin1String("homed")));
    CHECK(ShopBook(w.folder / "book.sqlite").runs().empty());
    // Homed and probed again it runs.
    REQUIRE(doUntil(w, room, Kind::air));
    CHECK(doStep(w, room));
    CHECK(ShopBook(w.folder / "book.sqlite").runs().front().outcome == "done");
}

TEST_CASE("A bit that stands beside the plate is not probed with", "[app][room][run]") {
    Opened w;
    MachineRoom& room = roomOf(w);
    const test::ControllerProcess controller("--tcp 0 --speed 3000");
    room.setAddress(QString::fromStdString(controller.address()));
    REQUIRE(doUntil(w, room, Kind::probe));
    const std::size_t probe = room.stepInHand();
    room.setFocus();
    const auto jog = [&](Qt::Key step, Qt::Key way) {
        QTest::keyClick(&room, Qt::Key_J);
        QTest::keyClick(&room, step);
        QTest::keyClick(&room, way);
        REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 5000));
        QTest::qWait(50);
        QTest::keyClick(&room, Qt::Key_J);
    };
    jog(Qt::Key_4, Qt::Key_Right); // 50 mm
    QTest::keyClick(&room, Qt::Key_Return);
    CHECK_FALSE(room.busy());
    CHECK(room.steps()[room.stepInHand()].kind == Kind::travel);
    CHECK(w.finding().contains(QLatin1String("plate")));
    // Back over it, and a little beside its middle: that is still the plate.
    REQUIRE(doUntil(w, room, Kind::probe));
    CHECK(room.stepInHand() == probe);
    jog(Qt::Key_3, Qt::Key_Right); // 10 mm
    CHECK(doStep(w, room));
}

TEST_CASE("After everything was sent at once, the next program of the same lying just runs",
          "[app][room][run][long]") {
    Opened w;
    MachineRoom& room = roomOf(w);
    const test::ControllerProcess controller("--tcp 0 --speed 3000");
    room.setAddress(QString::fromStdString(controller.address()));
    room.setFocus();
    QTest::keyClick(&room, Qt::Key_S);
    REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 60000));
    w.settle();
    REQUIRE(ShopBook(w.folder / "book.sqlite").runs().front().outcome == "done");
    const std::size_t after = room.stepInHand();
    REQUIRE(after > 0);
    CHECK(room.steps()[after - 1].kind == Kind::cut);
    // It is homed already: no step sends the maker back there.
    while (room.stepInHand() < room.steps().size() &&
           room.steps()[room.stepInHand()].kind != Kind::cut) {
        const std::size_t at = room.stepInHand();
        const bool through = doStep(w, room);
        INFO(room.steps()[at].title << ": " << w.finding().toStdString());
        REQUIRE(through);
        CHECK(room.stepInHand() == at + 1);
    }
}

TEST_CASE("A step that failed is not done by whatever is done next", "[app][room][failure]") {
    Opened w;
    MachineRoom& room = roomOf(w);
    room.setAddress(QStringLiteral("tcp:127.0.0.1:1")); // nobody is there
    while (room.steps()[room.stepInHand()].kind != Kind::home) {
        REQUIRE(doStep(w, room));
    }
    const std::size_t home = room.stepInHand();
    room.setFocus();
    QTest::keyClick(&room, Qt::Key_Return);
    REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 5000));
    const test::ControllerProcess controller("--tcp 0 --speed 500");
    room.setAddress(QString::fromStdString(controller.address()));
    QTest::keyClick(&room, Qt::Key_J);
    QTest::keyClick(&room, Qt::Key_Right);
    REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 5000));
    QTest::qWait(50);
    CHECK(room.stepInHand() == home); // a jog is no homing
}

// Long: run by name. The whole instrument by keys alone, in either manner, with every fault on the
// way: after each the program is taken up again or begun anew, and the book tells both.
TEST_CASE("A whole instrument is made by one key, whatever goes wrong on the way", "[.][whole-room]") {
    for (const char* manner : {"stand-in", "signals"}) {
        INFO(manner);
        Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
        Project p = w.window.document().project();
        for (const Controller& c : shippedControllers()) {
            p.machine.talk = c.name == manner ? c : p.machine.talk;
        }
        w.window.document().change(p, QStringLiteral("another controller"));
        MachineRoom& room = roomOf(w);
        std::set<std::string> faulted;
        std::size_t kind = 0;
        std::unique_ptr<test::ControllerProcess> controller;
        int controllers = 0;
        test::WayRead ways;
        std::map<int, Path> gone;
        const auto connect = [&](const std::string& fault) {
            const std::string file =
                (w.folder / ("way" + std::to_string(controllers++) + ".nc")).string();
            controller = std::make_unique<test::ControllerProcess>(
                std::string("--tcp 0 --manner ") + manner + fault + " --way " + file);
            ways.follow(file);
            room.setAddress(QString::fromStdString(controller->address()));
        };
        const std::string soon = " --speed 2000";
        connect(soon);
        int tries = 0;
        while (room.stepInHand() < room.steps().size() && ++tries < 2000) {
            const RoomStep step = room.steps()[room.stepInHand()];
            const bool cut = step.kind == Kind::cut && kind < faultNames.size() && step.minutes > 2;
            if (cut && faulted.insert(step.id).second) { // a machine that goes wrong here
                const std::string name = faultNames[kind++];
                // One that runs off does so while the guard can still keep it from the wood.
                connect(" --fault " + name + (name == "runaway" ? "@12 --speed 20" : "@40" + soon));
                // It has forgotten where it is: homed, and its zero taken again, all at once.
                room.send();
            } else if (step.kind == Kind::cut && faulted.count(step.id) > 0) {
                connect(soon);
                room.send();
            } else {
                room.setFocus();
                QTest::keyClick(&room, Qt::Key_Return);
            }
            REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 120000));
            w.settle();
            append(gone[step.program], ways.since());
        }
        CHECK(room.stepInHand() == room.steps().size());
        CHECK(kind == faultNames.size());
        // Every program is done at last, by the book; what went wrong stands there too.
        std::set<std::string> done;
        std::size_t wrong = 0;
        for (const RunRecord& r : ShopBook(w.folder / "book.sqlite").runs()) {
            done.insert(r.outcome == "done" ? r.motion : std::string());
            wrong += r.outcome != "done" ? 1 : 0;
            CHECK((r.outcome == "done" || !r.remark.empty()));
        }
        for (const PostedProgram& program : w.derived().programs) {
            INFO(program.program.file);
            CHECK(done.count(program.motion) == 1);
        }
        CHECK(wrong >= 8);
        // The wood is that of the proved programs, whatever happened on the way.
        for (const PartJob& job : w.derived().parts) {
            INFO(job.name());
            CHECK(test::woodOff(w.derived(), job, gone, 0.5) < 0.01);
        }
    }
}
