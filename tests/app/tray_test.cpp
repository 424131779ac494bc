// Taking things in hand: in the tray, in the drawing, by keys.

#include "opened.h"

#include "findings_band.h"
#include "job/nearby.h"
#include "ledger.h"
#include "ruler_band.h"
#include "tray_band.h"
#include "value_field.h"

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
