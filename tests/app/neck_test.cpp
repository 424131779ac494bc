// The neck in the real window.

#include "ledger.h"
#include "machine_panel.h"
#include "opened.h"
#include "ruler_band.h"
#include "trace_desk.h"

#include <QPainter>

#include <functional>
#include <map>
#include <set>

using namespace wren;
using namespace wren::app;

namespace {

/// The plain board with a neck and a drawer that can cut it, as a file.
QString withNeck(const Folder& folder) {
    Project p = test::plainWith({{"neck.joint", "bolt-on"}});
    p.bits = starterDrawer();
    const std::filesystem::path file = folder / "neck.wren";
    saveProject(p, file);
    return QString::fromStdString(file.string());
}

} // namespace

TEST_CASE("A neck is begun from its station, seen, proved and scrubbed across the turn-over",
          "[app][neck]") {
    {
        Opened plain;
        QTest::keyClick(&plain.window, Qt::Key_2, Qt::AltModifier);
        plain.settle();
        CHECK_FALSE(plain.sheet().showsNeck());
        plain.window.document().set(QStringLiteral("neck.joint"), QStringLiteral("bolt-on"));
        plain.settle();
        CHECK(plain.sheet().showsNeck());
    }
    const Folder folder;
    Opened w(withNeck(folder));
    w.sheet().setStation(Station::neck);
    w.settle();
    REQUIRE(w.sheet().showsNeck());
    REQUIRE(w.derived().neck->proof);
    CHECK(w.derived().neck->proof->passed());
    CHECK(w.window.findChild<Ledger*>()->leafNames().size() == 5);
    w.sheet().setStation(Station::proof);
    w.settle();
    CHECK(w.sheet().neckDeviation(1) != nullptr);
    // The tape runs from the board over the face to the back.
    const double day = w.derived().seconds();
    std::set<int> sides;
    for (double share : {0.1, 0.5, 0.6, 0.7, 0.95}) {
        w.sheet().setMoment(day * share);
        w.settle();
        REQUIRE(w.sheet().stock());
        const int side = w.sheet().stock()->side;
        sides.insert(side);
        CHECK(w.sheet().part() == (side < 0 ? Part::board : Part::neck));
    }
    CHECK(sides == std::set<int>{-1, 0, 1});
    w.sheet().endScrub();
    w.settle();
    CHECK(w.sheet().stock()->side == 1); // the neck is in hand, finished
    w.sheet().setStation(Station::board);
    w.settle();
    CHECK(w.sheet().stock()->side == -1);
}

TEST_CASE("The neck's drawing is its editor", "[app][neck][handles]") {
    const Folder folder;
    Opened w(withNeck(folder));
    w.sheet().setStation(Station::neck);
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    const auto drag = [&](const QString& what, QPoint by) {
        for (const Handle& h : ruler->handles()) {
            if (h.what == what) {
                const QPoint at = h.at.toPoint();
                QTest::mousePress(ruler, Qt::LeftButton, Qt::NoModifier, at);
                QTest::mouseMove(ruler, at + by / 2);
                QTest::mouseMove(ruler, at + by);
                QTest::mouseRelease(ruler, Qt::LeftButton, Qt::NoModifier, at + by);
                w.settle();
                return;
            }
        }
        FAIL("no handle: " << what.toStdString());
    };
    const auto neck = [&] { return w.window.document().project().neck; };
    const Neck before = neck();
    drag(QStringLiteral("depth of the heel"), {0, 6});
    CHECK(neck().heelDepth > before.heelDepth);
    drag(QStringLiteral("where the head's transition begins"), {8, 0});
    CHECK(neck().head.transitionFrom > before.head.transitionFrom);
    drag(QStringLiteral("this station: thickness, and fret along the neck"), {0, 5});
    CHECK(neckStations(neck().stations)[0].thickness > neckStations(before.stations)[0].thickness);
    drag(QStringLiteral("this tuner"), {-3, 0});
    CHECK_FALSE(neck().tuners.places.empty());
    drag(QStringLiteral("this node of the headstock"), {-4, 0});
    CHECK(neck().head.nodes != before.head.nodes);
    for (int i = 0; i < 5; ++i) {
        w.window.document().undo();
    }
    CHECK(neck() == before); // each drag is one step of the past
}

TEST_CASE("A section is traced from a picture and a station takes it", "[app][neck][trace]") {
    const Folder folder;
    Opened w(withNeck(folder));
    w.sheet().setStation(Station::neck);
    w.settle();
    // Half an ellipse 42 by 14 mm at 20 pixels to the millimetre, and a rule of 40 mm under it.
    QImage picture(1000, 560, QImage::Format_RGB32);
    picture.fill(Qt::white);
    QPainter painter(&picture);
    painter.drawChord(QRectF(80, 200 - 280, 840, 560), 180 * 16, 180 * 16);
    painter.end();
    const QString file = QString::fromStdString((folder / "section.png").string());
    REQUIRE(picture.save(file));

    const auto buttons = w.window.findChildren<QPushButton*>();
    const auto wanted = std::find_if(buttons.begin(), buttons.end(), [](QPushButton* b) {
        return b->text() == QLatin1String("Trace a section");
    });
    REQUIRE(wanted != buttons.end());
    QTest::mouseClick(*wanted, Qt::LeftButton);
    auto* desk = w.window.findChild<TraceDesk*>();
    REQUIRE(desk->isVisible());
    auto* points = desk->findChild<QLineEdit*>(QStringLiteral("trace.points"));
    QSignalSpy refused(desk, &TraceDesk::refused);
    desk->open(QString::fromStdString((folder / "none.png").string()));
    REQUIRE(QTest::qWaitFor([&] { return !refused.isEmpty(); }, 5000));
    CHECK(refused.front().front().toString().contains(QStringLiteral("PNG or JPEG")));
    desk->open(file);
    REQUIRE(QTest::qWaitFor([&] { return std::abs(desk->onScreen({1000, 0}).x()) < 1e6; }, 5000));
    const auto at = [&](double x, double y) { return desk->onScreen({x, y}).toPoint(); };
    const auto drag = [&](QPoint from, QPoint to) {
        QTest::mousePress(desk, Qt::LeftButton, Qt::NoModifier, from);
        QTest::mouseMove(desk, to);
        QTest::mouseRelease(desk, Qt::LeftButton, Qt::NoModifier, to);
    };
    drag(at(200, 504), at(100, 520)); // A, and B 40 mm from it
    drag(at(800, 504), at(900, 520));
    for (double a : {-90.0, -60.0, -35.0, 0.0, 35.0, 60.0, 90.0}) {
        const double r = a * 3.14159265358979 / 180;
        QTest::mouseClick(desk, Qt::LeftButton, Qt::NoModifier,
                          at(500 + 420 * std::sin(r), 200 + 280 * std::cos(r)));
    }
    CHECK(points->text().isEmpty()); // its size is not known yet
    auto* distance = desk->findChild<QLineEdit*>(QStringLiteral("trace.distance"));
    QTest::keyClicks(distance, QStringLiteral("40"));
    const std::vector<NeckTrace> read = neckTraces("t: " + points->text().toStdString());
    REQUIRE(read.front().points.size() == 7);
    for (Vec2 q : read.front().points) { // as exact as a click on a screen is
        CHECK(std::hypot(q.x / 21, q.y / 14) == Approx(1).margin(0.03));
    }
    // The chosen point is nudged by a key and taken away by another.
    const QString before = points->text();
    desk->setFocus();
    QTest::keyClick(desk, Qt::Key_Down);
    CHECK(points->text() != before);
    QTest::keyClick(desk, Qt::Key_Up);
    CHECK(points->text() == before);
    auto* name = desk->findChild<QLineEdit*>(QStringLiteral("trace.name"));
    name->selectAll();
    QTest::keyClicks(name, QStringLiteral("old-neck"));
    QTest::keyClick(name, Qt::Key_Return);
    CHECK_FALSE(desk->isVisible());
    w.window.document().set(QStringLiteral("neck.stations"),
                            QStringLiteral("1 20.5 @old-neck, 12 22.5 C"));
    w.settle();
    REQUIRE(w.derived().neck);
    // Half an ellipse is what a C is.
    const NeckBack& back = w.derived().neck->part.back();
    const NeckBack::Slice s = back.slice(back.stationX(0));
    const double shoulder = w.window.document().project().neck.shoulder;
    CHECK(s.depth(s.centre() + 0.5 * s.halfWidth()) - shoulder ==
          Approx(std::sqrt(0.75) * (s.spine() - shoulder)).margin(0.4));
    w.window.document().undo();
    w.window.document().undo();
    CHECK(w.window.document().project().neck.traces.empty());
}

TEST_CASE("A whole instrument's programs are run from the window, the neck's last",
          "[app][neck][run]") {
    const Folder folder;
    Opened w(withNeck(folder));
    QTest::keyClick(&w.window, Qt::Key_7, Qt::AltModifier);
    MachinePanel& machine = w.window.machine();
    const test::ControllerProcess controller("--tcp 0 --speed 20000");
    machine.setAddress(QString::fromStdString(controller.address()));
    const int programs = static_cast<int>(w.derived().programs.size());
    for (int program = 1; program <= programs; ++program) {
        const QString send = QStringLiteral("Send program %1").arg(program);
        const auto before = ShopBook(w.folder / "book.sqlite").runs();
        INFO(program << ": "
                     << (before.empty() ? ""
                                        : before.front().program + " " + before.front().outcome +
                                              " " + before.front().remark));
        REQUIRE(QTest::qWaitFor(
            [&] { // the book is read behind the window's back
                const auto all = w.window.findChildren<QPushButton*>();
                return std::any_of(all.begin(), all.end(), [&](QPushButton* b) {
                    return b->text() == send && b->isEnabled();
                });
            },
            5000));
        machine.setFocus();
        QTest::keyClick(&machine, Qt::Key_Return);
        REQUIRE(QTest::qWaitFor([&] { return !machine.running(); }, 60000));
        QTest::qWait(30);
    }
    const auto runs = ShopBook(w.folder / "book.sqlite").runs();
    REQUIRE(static_cast<int>(runs.size()) == programs);
    for (const RunRecord& r : runs) {
        CHECK(r.outcome == "done");
    }
    CHECK(runs.front().part == "neck");
    CHECK(runs.back().part == "fretboard");
}

TEST_CASE("The neck does not keep the window waiting", "[app][neck][speed]") {
    const Folder folder;
    Opened w(withNeck(folder));
    Stopwatch watch;
    // Of each step the best of three rounds: other guests share the processor.
    std::map<std::string, double> longest;
    const auto step = [&](const std::string& name, const std::function<void()>& work) {
        watch.restart();
        work();
        const auto it = longest.try_emplace(name, 1e9).first;
        it->second = std::min(it->second, watch.longest());
    };
    for (int round = 0; round < 3; ++round) {
        for (Station s : {Station::neck, Station::blank, Station::cuts, Station::proof}) {
            step(stationName(s).toStdString(), [&] {
                w.sheet().setStation(s);
                w.settle();
            });
            for (double x : {-100.0, 10.0, 200.0}) {
                step("cursor in " + stationName(s).toStdString(), [&] {
                    w.sheet().setCursor(x);
                    QTest::qWait(15);
                });
            }
        }
        step("edit", [&] {
            w.sheet().setStation(Station::neck);
            w.window.document().set(QStringLiteral("neck.heel_depth"),
                                    QString::number(18.5 + round));
            w.settle();
        });
    }
    for (const auto& [name, ms] : longest) {
        INFO(name << " " << ms);
        CHECK(ms > 0);
        CHECK(ms <= 50);
    }
}
