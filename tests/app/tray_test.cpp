// Taking things in hand: in the tray, in the drawing, by keys.

#include "opened.h"

#include "frame/findings_band.h"
#include "frame/tray_band.h"
#include "job/feature_edits.h"
#include "job/nearby.h"
#include "numbers/ledger.h"
#include "numbers/value_field.h"
#include "ruler/ruler_band.h"

#include <QTest>

using namespace wren;
using namespace wren::app;

namespace {

TrayThing* tile(Opened& w, const QString& name) {
    for (TrayThing* t : w.window.findChildren<TrayThing*>()) {
        if (t->text() == name && t->isVisible()) {
            return t;
        }
    }
    FAIL("no " << name.toStdString() << " in the tray");
    return nullptr;
}

QPointF handleAt(RulerBand& ruler, const QString& what) {
    for (const Handle& h : ruler.handles()) {
        if (h.what == what) {
            return h.at;
        }
    }
    FAIL("no handle " << what.toStdString());
    return {};
}

} // namespace

TEST_CASE("A thing is taken in hand, moved, doubled, mirrored and removed by keys", "[app][tray]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::body);
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    QTest::mouseClick(tile(w, QStringLiteral("pot 2")), Qt::LeftButton);
    CHECK(w.sheet().taken() == "body.controls.1");
    CHECK(w.line("body.controls.1.at.x").isVisible());
    ruler->setFocus();
    const auto pot = [&] { return w.window.document().project().body.controls.at(1).at; };
    const Vec2 before = pot();
    QTest::keyClick(ruler, Qt::Key_Right);
    QTest::keyClick(ruler, Qt::Key_Up, Qt::ShiftModifier);
    CHECK(pot().x == Approx(before.x + 1));
    CHECK(pot().y == Approx(before.y + 0.1));
    const auto controls = [&] { return w.window.document().project().body.controls; };
    QTest::keyClick(ruler, Qt::Key_D, Qt::ControlModifier);
    REQUIRE(controls().size() == 4);
    CHECK(w.sheet().taken() == "body.controls.2");
    const double y = controls()[2].at.y;
    QTest::keyClick(ruler, Qt::Key_M);
    CHECK(controls()[2].at.y == Approx(-y));
    QTest::keyClick(ruler, Qt::Key_Delete);
    CHECK(controls().size() == 3);
    CHECK(w.sheet().taken().empty());
    for (int i = 0; i < 5; ++i) {
        w.window.document().undo();
    }
    CHECK(pot() == before);
    // The tray by keys: arrows step, a letter jumps.
    TrayThing* first = tile(w, QStringLiteral("outline"));
    first->setFocus();
    QTest::keyClick(first, Qt::Key_Right);
    CHECK(w.sheet().taken() == "neck_pocket");
    QTest::keyClick(tile(w, QStringLiteral("neck pocket")), Qt::Key_T);
    CHECK(w.sheet().taken() == "body.controls.2"); // the toggle
    QTest::keyClick(ruler, Qt::Key_Escape);
    CHECK(w.sheet().taken().empty());
}

TEST_CASE("Markers are things of the board: in the tray, in the plan, by keys", "[app][tray]") {
    Opened w;
    w.window.document().set(QStringLiteral("markers.frets"), QStringLiteral("5 12"));
    w.sheet().setLeaf(2); // their numbers, and with them the tray
    w.settle();
    const auto frets = [&] {
        std::vector<int> out;
        for (const FretMark& m : w.window.document().project().board.markers.face) {
            out.push_back(m.fret);
        }
        return out;
    };
    auto* ruler = w.window.findChild<RulerBand*>();
    QTest::mouseClick(tile(w, QStringLiteral("marker 5")), Qt::LeftButton);
    CHECK(w.sheet().taken() == "markers.face.0");
    w.settle();
    CHECK(w.line("markers.face.0.fret").isVisible());
    ruler->setFocus();
    QTest::keyClick(ruler, Qt::Key_Right);
    CHECK(frets() == std::vector<int>{6, 12});
    QTest::keyClick(ruler, Qt::Key_Left);
    QTest::keyClick(ruler, Qt::Key_Left);
    CHECK(frets() == std::vector<int>{4, 12});
    w.settle();
    // Dragged in the plan it goes from fret to fret.
    const QPoint from = handleAt(*ruler, QStringLiteral("the marker at fret 4")).toPoint();
    const double mm =
        w.derived().board->slots()[4].middle() - w.derived().board->slots()[3].middle();
    QTest::mousePress(ruler, Qt::LeftButton, {}, from);
    QTest::mouseMove(ruler, from + QPoint(static_cast<int>(2.2 * mm), 0));
    QTest::mouseRelease(ruler, Qt::LeftButton, {}, from + QPoint(static_cast<int>(2.2 * mm), 0));
    CHECK(frets()[0] > 4);
    w.window.document().undo();
    w.settle();
    // A new one stands where the cursor is.
    w.sheet().take({});
    QTest::mouseMove(ruler, QPoint(2, 2)); // the pointer lies on no strip
    w.sheet().setCursor(w.derived().board->slots()[8].middle() - 3);
    ruler->add(newThings(Role::board)[0]);
    CHECK(frets() == std::vector<int>{4, 12, 9});
    CHECK(w.sheet().taken() == "markers.face.2");
    QTest::keyClick(ruler, Qt::Key_Delete);
    CHECK(frets() == std::vector<int>{4, 12});
}

TEST_CASE("A station is added at the cursor, and one of two is not taken away unsaid",
          "[app][tray]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::neck);
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    const auto stations = [&] { return w.window.document().project().neck.stations; };
    const std::size_t had = stations().size();
    QTest::mouseMove(ruler, QPoint(2, 2)); // the pointer lies on no strip
    w.sheet().setCursor(w.derived().board->slots()[6].middle());
    ruler->add(newThings(Role::neck).front());
    REQUIRE(stations().size() == had + 1);
    CHECK(w.sheet().taken() == "neck.stations.1");
    CHECK(stations()[1].fret == 7);
    w.settle();
    CHECK(w.derived().neck);
    CHECK(w.line("neck.stations.1.thickness").isVisible());
    QTest::mouseClick(tile(w, QStringLiteral("station at fret 7")), Qt::LeftButton);
    ruler->setFocus();
    QTest::keyClick(ruler, Qt::Key_Right);
    CHECK(stations()[1].fret == 7.5);
    QTest::keyClick(ruler, Qt::Key_Delete);
    CHECK(stations().size() == had);
    w.window.document().undo();
    CHECK(stations().size() == had + 1);
}

TEST_CASE("A string tree is added behind the nut, moved by keys, and bends its strings",
          "[app][tray][tree]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::neck);
    w.settle();
    const auto bends = [&](int string) { // 1 is the treble one, listed last
        const auto& tuners = w.sheet().derived()->neck->part.tuners();
        return tuners.at(tuners.size() - static_cast<std::size_t>(string)).breakAngle;
    };
    const double before = bends(1);
    std::string path;
    for (const NewThing& thing : w.sheet().addable()) {
        if (thing.list == "tuners.trees") {
            w.window.document().change(
                withNew(w.window.document().project(), thing, {-45, 12}, path),
                QStringLiteral("a string tree"));
        }
    }
    w.settle();
    REQUIRE(path == "tuners.trees.0");
    QTest::mouseClick(tile(w, QStringLiteral("string tree 1")), Qt::LeftButton);
    CHECK(w.sheet().taken() == path);
    w.type("tuners.trees.0.height", "1");
    CHECK(bends(1) > before);
    auto* ruler = w.window.findChild<RulerBand*>();
    ruler->setFocus();
    const auto tree = [&] { return w.window.document().project().neck.tuners.trees.at(0); };
    const double x = tree().at.x;
    QTest::keyClick(ruler, Qt::Key_Right);
    CHECK(tree().at.x == Approx(x + 1));
    QTest::keyClick(ruler, Qt::Key_Delete);
    CHECK(w.window.document().project().neck.tuners.trees.empty());
    w.settle();
    CHECK(bends(1) == Approx(before));
}

TEST_CASE("Gauges have a field each, come by one click and go by another", "[app][ledger]") {
    Opened w;
    w.sheet().setLeaf(3);
    w.settle();
    w.click(QStringLiteral("One for every string"));
    w.settle();
    const auto gauges = [&] { return w.window.document().project().board.gauges; };
    REQUIRE(gauges().size() == 6);
    for (std::size_t i = 1; i < gauges().size(); ++i) {
        CHECK(gauges()[i].thickness < gauges()[i - 1].thickness); // bass to treble
    }
    QTest::qWait(30); // the leaf is built anew, in a turn of its own
    w.type("board.gauges.5.thickness", "0.010in");
    CHECK(gauges()[5].thickness == Approx(0.254));
    w.click(QStringLiteral("Forget them"));
    CHECK(gauges().empty());
    w.window.document().undo();
    CHECK(gauges().size() == 6);
}

TEST_CASE("A tab added by hand keeps the recipe's own", "[app][tray]") {
    Opened w;
    w.sheet().setStation(Station::cuts);
    w.settle();
    const std::size_t own = w.derived().boardPlan()->tabs.size();
    REQUIRE(own > 0);
    w.sheet().setCursor(200);
    const std::vector<NewThing> things = w.sheet().addable();
    REQUIRE(things.size() == 1);
    w.window.findChild<RulerBand*>()->add(things[0]);
    CHECK(w.window.document().project().cut.tabPlaces.size() == own + 1);
    w.settle();
    CHECK(w.derived().boardPlan()->tabs.size() == own + 1);
}

TEST_CASE("A piece's plan and its sides stand under rulers of their own", "[app][ruler]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setPart(Part::body);
    w.sheet().setStation(Station::cuts);
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    const auto cursorAt = [&](double share) {
        QTest::mouseClick(ruler, Qt::LeftButton, {},
                          QPoint(static_cast<int>(share * ruler->width()), ruler->height() / 2));
        return w.sheet().cursor();
    };
    // Each column spans the blank: a place in the right one is no place far behind the body.
    const double left = cursorAt(0.2);
    const double right = cursorAt(0.6);
    const auto box = w.derived().body->part.panel(Role::body)->box();
    CHECK(left > box[0].x - 60);
    CHECK(left < box[1].x);
    CHECK(right > box[0].x - 60);
    CHECK(right < box[1].x);
}

TEST_CASE("A click in the drawing takes what lies there, a drag moves it whole", "[app][tray]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::body);
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    const QPoint middle = handleAt(*ruler, QStringLiteral("chamber 2")).toPoint();
    const auto nodes = w.window.document().project().body.chambers[1].nodes;
    // Beside its middle it is the chamber's own area that is hit.
    QTest::mousePress(ruler, Qt::LeftButton, {}, middle + QPoint(18, 0));
    CHECK(w.sheet().taken() == "body.chambers.1");
    QTest::mouseMove(ruler, middle + QPoint(26, 5));
    QTest::mouseRelease(ruler, Qt::LeftButton, {}, middle + QPoint(26, 5));
    const auto moved = w.window.document().project().body.chambers[1].nodes;
    const Vec2 by = moved[0].at - nodes[0].at;
    CHECK(by.x > 4);
    for (std::size_t i = 1; i < nodes.size(); ++i) {
        CHECK(length(moved[i].at - nodes[i].at - by) < 1e-6);
    }
    w.window.document().undo();
    CHECK(w.window.document().project().body.chambers[1].nodes == nodes); // one step
    w.settle();
    // A double click on its edge adds a node, Delete takes it away.
    const QPoint a = handleAt(*ruler, QStringLiteral("node 1 of chamber 2")).toPoint();
    const QPoint b = handleAt(*ruler, QStringLiteral("node 2 of chamber 2")).toPoint();
    QTest::mouseDClick(ruler, Qt::LeftButton, {}, (a + b) / 2);
    CHECK(w.window.document().project().body.chambers[1].nodes.size() == nodes.size() + 1);
    CHECK(w.sheet().taken() == "body.chambers.1.outline.1");
    w.settle();
    CHECK(w.line("body.chambers.1.outline.1.at.x").isVisible());
    ruler->setFocus();
    QTest::keyClick(ruler, Qt::Key_Delete);
    CHECK(w.window.document().project().body.chambers[1].nodes.size() == nodes.size());
}

TEST_CASE("Every node of the outline stands clear of the next", "[app][tray][look]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::body);
    w.settle();
    std::vector<QPointF> nodes;
    for (const Handle& h : w.window.findChild<RulerBand*>()->handles()) {
        if (h.path.rfind("body.outline.", 0) == 0) {
            nodes.push_back(h.at);
        }
    }
    REQUIRE(nodes.size() > 10);
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const QPointF d = nodes[(i + 1) % nodes.size()] - nodes[i];
        CHECK(std::hypot(d.x(), d.y()) >= 12);
    }
}

TEST_CASE("A finding takes its thing in hand, and its cure is one step", "[app][tray][findings]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::body);
    w.window.document().set("body.controls.1.at", "44, 20");
    w.settle();
    auto* band = w.window.findChild<FindingsBand*>();
    const auto& findings = w.derived().findings;
    const auto at = std::find_if(findings.begin(), findings.end(),
                                 [](const Finding& f) { return f.code == "control-outside"; });
    REQUIRE(at != findings.end());
    band->step(static_cast<int>(at - findings.begin()));
    w.click(QStringLiteral("show its place"));
    CHECK(w.sheet().taken() == "body.controls.1");
    const std::vector<Cure> cures = curesFor(w.derived(), *at);
    REQUIRE(cures.size() == 2);
    Q_EMIT band->cureWanted(cures.front());
    w.settle();
    for (const Finding& f : w.derived().findings) {
        CHECK(f.code != "control-outside");
    }
    w.window.document().undo();
    CHECK(w.window.document().project().body.controls[1].at == Vec2{44, 20});
}

TEST_CASE("Numbers and tape fold away by a key, and come back with what is taken", "[app][tray]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::body);
    w.settle();
    auto* ledger = w.window.findChild<Ledger*>();
    auto* ruler = w.window.findChild<RulerBand*>();
    const int low = ruler->height();
    ruler->setFocus();
    QTest::keyClick(ruler, Qt::Key_N);
    QTest::qWait(20);
    CHECK_FALSE(ledger->isVisible());
    CHECK(ruler->height() > low + 150);
    w.sheet().take("body.controls.0");
    QTest::qWait(20);
    CHECK(ledger->isVisible());
    QTest::keyClick(ruler, Qt::Key_Escape);
    QTest::qWait(20);
    CHECK_FALSE(ledger->isVisible());
    QTest::keyClick(ruler, Qt::Key_N);
}
