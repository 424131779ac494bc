// Before the first cut, by hand: clamps, air pass and trace.
#include "job/clamps.h"
#include "pages/machine_panel.h"

#include "opened.h"

using namespace wren;
using namespace wren::app;

TEST_CASE("Clamps are found, moved and taken away at the blank", "[app][hold]") {
    Opened w;
    w.sheet().setStation(Station::blank);
    w.sheet().setLeaf(1);
    QTest::qWait(30);
    w.click(QStringLiteral("Find places for straps"));
    const auto& project = [&]() -> const Project& { return w.window.document().project(); };
    REQUIRE(QTest::qWaitFor([&] { return !project().clamps.empty(); }, 30000));
    w.settle();
    const std::size_t found = project().clamps.size();
    CHECK(found >= 2);
    CHECK_FALSE(hasStop(w.derived().findings));
    // One set into the board's way stops it, and says where.
    w.type("clamps.0.at.x", "250");
    w.type("clamps.0.at.y", "38");
    CHECK(hasStop(w.derived().findings));
    CHECK(w.finding().contains(QLatin1String("clamp 1")));
    w.window.document().undo();
    w.window.document().undo();
    w.settle();
    CHECK_FALSE(hasStop(w.derived().findings));
    w.sheet().setLeaf(1);
    QTest::qWait(30);
    w.click(QStringLiteral("Take it away"));
    CHECK(project().clamps.size() == found - 1);
    w.click(QStringLiteral("Add one, face up"));
    CHECK(project().clamps.size() == found);
    CHECK(project().clamps.back().part == "fretboard");
}

TEST_CASE("An air pass and a trace run, and the program is still to be sent", "[app][run][hold]") {
    Opened w;
    QTest::keyClick(&w.window, Qt::Key_9, Qt::AltModifier);
    MachinePanel& machine = w.window.machine();
    const test::ControllerProcess controller("--tcp 0 --speed 2000");
    machine.setAddress(QString::fromStdString(controller.address()));
    for (const Qt::Key key : {Qt::Key_A, Qt::Key_T}) {
        machine.setFocus();
        QTest::keyClick(&machine, key);
        REQUIRE(machine.running());
        REQUIRE(QTest::qWaitFor([&] { return !machine.running(); }, 60000));
        w.settle();
        CHECK(w.button(QStringLiteral("Send program 1")).isEnabled());
    }
    const auto runs = ShopBook(w.folder / "book.sqlite").runs();
    REQUIRE(runs.size() == 2);
    CHECK(runs[0].outcome == "done");
    CHECK(runs[0].program.find("-trace.nc") != std::string::npos);
    CHECK(runs[1].outcome == "done");
    CHECK(runs[1].program.find("-air.nc") != std::string::npos);
}
