// Before the first cut, by hand: clamps, air pass and trace.
#include "base/files.h"
#include "job/clamps.h"
#include "pages/machine_room.h"
#include "pages/program_desk.h"
#include "ruler/bed_band.h"

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
    MachineRoom& machine = w.window.machine();
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

TEST_CASE("A clamp is taken hold of on the bed", "[app][hold]") {
    Opened w;
    Clamp strap;
    strap.at = {60, -30};
    strap.turn = 90;
    Project with = w.window.document().project();
    with.clamps = {strap, strap};
    with.clamps[1].at = {400, -30};
    w.window.document().change(with, QStringLiteral("two straps"));
    w.sheet().setStation(Station::blank);
    w.sheet().setLeaf(Sheet::bedLeaf);
    w.settle();
    auto* bed = w.window.findChild<BedBand*>();
    REQUIRE(bed->isVisible());
    const auto at = [&](std::size_t i) { return w.window.document().project().clamps.at(i).at; };
    // Dragged: one step, to whole millimetres, the other stays.
    const QPoint from = bed->placeOf(0).toPoint();
    QTest::mousePress(bed, Qt::LeftButton, Qt::NoModifier, from);
    for (int i = 1; i <= 20; ++i) {
        QTest::mouseMove(bed, from + QPoint(i * 2, 0));
    }
    QTest::mouseRelease(bed, Qt::LeftButton, Qt::NoModifier, from + QPoint(40, 0));
    CHECK(bed->chosen() == std::optional<std::size_t>(0));
    CHECK(at(0).x > 90);
    CHECK(at(0).x == Approx(std::round(at(0).x)));
    CHECK(at(0).y == Approx(-30).margin(1.01));
    CHECK(at(1) == Vec2{400, -30});
    w.window.document().undo();
    CHECK(at(0) == Vec2{60, -30});
    // By keys: the next one, nudged, turned, taken away.
    w.settle();
    bed->setFocus();
    QTest::keyClick(bed, Qt::Key_C);
    CHECK(bed->chosen() == std::optional<std::size_t>(1));
    QTest::keyClick(bed, Qt::Key_Left);
    QTest::keyClick(bed, Qt::Key_Up, Qt::ShiftModifier);
    CHECK(at(1) == Vec2{399, -20});
    CHECK(bed->accessValue().contains(QLatin1String("clamp 2 in hand")));
    QTest::keyClick(bed, Qt::Key_R);
    CHECK(w.window.document().project().clamps[1].turn == Approx(180));
    QTest::keyClick(bed, Qt::Key_Delete);
    CHECK(w.window.document().project().clamps.size() == 1);
    w.window.document().undo();
    CHECK(w.window.document().project().clamps.size() == 2);
    // A drag that does not move leaves no step.
    w.settle();
    QTest::mouseClick(bed, Qt::LeftButton, Qt::NoModifier, bed->placeOf(1).toPoint());
    CHECK(at(1) == Vec2{399, -20});
}

TEST_CASE("The bed's programs and a batch are written from the window", "[app][hold]") {
    Opened w;
    const QString folder = QString::fromStdString((w.folder / "bench").string());
    const auto done = [&](const std::function<void()>& start) {
        QSignalSpy spy(&w.window, &Window::exported);
        start();
        REQUIRE(QTest::qWaitFor([&] { return spy.count() > 0; }, 120000));
        return spy.front().front().toBool();
    };
    CHECK(done([&] { w.window.bedProgramTo(folder, true); }));
    CHECK(done([&] { w.window.bedProgramTo(folder, false); }));
    CHECK(QFile::exists(folder + QStringLiteral("/bed-surface.nc")));
    CHECK(QFile::exists(folder + QStringLiteral("/bed-lines.nc")));
    w.sheet().setStation(Station::blank);
    w.sheet().setLeaf(2);
    QTest::qWait(30);
    w.click(QStringLiteral("One more instrument"));
    QTest::qWait(30);
    w.click(QStringLiteral("One more instrument"));
    REQUIRE(w.window.document().project().batch.size() == 2);
    QTest::qWait(30);
    w.type("batch.1.board_thickness", "7.6");
    const bool posted = done([&] { w.window.batchTo(folder + QStringLiteral("/batch")); });
    INFO(w.finding().toStdString());
    CHECK(posted);
    CHECK(QFile::exists(folder + QStringLiteral("/batch/everything-in-order.pdf")));
    // A name used twice is refused in a sentence, and nothing is written.
    Project twice = w.window.document().project();
    twice.batch[1].name = twice.batch[0].name;
    w.window.document().change(twice, QStringLiteral("one name"));
    CHECK_FALSE(done([&] { w.window.batchTo(folder + QStringLiteral("/again")); }));
    CHECK(w.finding().contains(QLatin1String("a name of its own was expected")));
    CHECK_FALSE(QFile::exists(folder + QStringLiteral("/again")));
}

TEST_CASE("Any program is held against a part, and the line that strays is named",
          "[app][hold][failure]") {
    Opened w;
    auto* page = w.window.findChild<ProgramDesk*>();
    REQUIRE(page);
    const auto run = [&](const std::string& text) {
        const auto file = w.folder / "foreign.nc";
        writeFileSafely(file, text);
        QSignalSpy spy(page, &ProgramDesk::ready);
        w.window.openProgram(QString::fromStdString(file.string()));
        REQUIRE(QTest::qWaitFor([&] { return spy.count() > 0; }, 60000));
        return page->told();
    };
    // One of its own programs, under another name.
    const QString own = run(w.derived().programs.back().program.text);
    CHECK(page->isVisible());
    CHECK(own.contains(QLatin1String("It takes nothing off the part")));
    // Right across the board.
    const QString across = run("G21 G90 G17\nM3 S12000\nG0 X100 Y-10 Z15\nG1 Z2 F300\n"
                               "G1 Y90 F900\nG0 Z20\nM5\nM30\n");
    CHECK(across.contains(QLatin1String("line 5: here it first takes wood off the fretboard")));
    // A word that is none.
    const QString odd = run("G21 G90\nG1 Q@ X5\n");
    CHECK(odd.contains(QLatin1String("line 2")));
    QTest::keyClick(page, Qt::Key_Escape);
    CHECK_FALSE(page->isVisible());
}

TEST_CASE("A part is tried in another sheet from the window", "[app][hold]") {
    Opened w;
    const QString folder = QString::fromStdString((w.folder / "trial").string());
    QSignalSpy spy(&w.window, &Window::exported);
    w.window.trialTo(folder, Role::board, QStringLiteral("mdf"), 9);
    REQUIRE(QTest::qWaitFor([&] { return spy.count() > 0; }, 120000));
    CHECK(spy.front().front().toBool());
    CHECK(QFile::exists(folder + QStringLiteral("/report.json")));
    spy.clear();
    w.window.trialTo(folder, Role::board, QStringLiteral("mdf"), 2);
    REQUIRE(QTest::qWaitFor([&] { return spy.count() > 0; }, 120000));
    CHECK_FALSE(spy.front().front().toBool());
    CHECK(w.finding().contains(QLatin1String("thick")));
}
