// The station of the whole instrument, by hand: what is dragged, what follows, what it weighs.

#include "job/setup_report.h"
#include "numbers/ledger.h"
#include "ruler/whole_band.h"

#include "opened.h"

#include <QScrollArea>

using namespace wren;
using namespace wren::app;

namespace {

const QString demo = QString::fromStdString(std::string(WREN_SOURCE) + "/demo/whinchat.wren");

double saddleOf(Opened& w) {
    return setupOf(deriveDrawing(w.window.document().project())).middleSaddle;
}

void dragTo(Opened& w, const QString& what, QPoint by) {
    auto* band = w.window.findChild<WholeBand*>();
    for (const Handle& h : band->handles()) {
        if (h.what == what) {
            const QPoint from = h.at.toPoint();
            QTest::mouseMove(band, from);
            QTest::mousePress(band, Qt::LeftButton, {}, from);
            QTest::mouseMove(band, from + by / 2);
            QTest::mouseMove(band, from + by);
            QTest::mouseRelease(band, Qt::LeftButton, {}, from + by);
            w.settle();
            return;
        }
    }
    FAIL("nothing to drag: " << what.toStdString());
}

} // namespace

TEST_CASE("At the instrument's station strings, neck and bridge are dragged", "[app][whole]") {
    Opened w(demo);
    QTest::keyClick(&w.window, Qt::Key_4, Qt::AltModifier);
    w.settle();
    CHECK(w.sheet().station() == Station::whole);
    auto* band = w.window.findChild<WholeBand*>();
    REQUIRE(band->isVisible());
    CHECK(band->accessValue().contains(QStringLiteral("neck angle 0.00 degrees")));
    const Project before = w.window.document().project();
    dragTo(w, QStringLiteral("the neck angle"), {0, 12});
    const Project leaning = w.window.document().project();
    CHECK(leaning.body.pocket.angle > 0.3);
    CHECK(leaning.body.pocket.depth == before.body.pocket.depth);
    dragTo(w, QStringLiteral("the pocket's depth"), {0, -2});
    CHECK(w.window.document().project().body.pocket.depth < leaning.body.pocket.depth);
    dragTo(w, QStringLiteral("the bass string's action"), {0, -8});
    CHECK(w.window.document().project().body.aims.action > before.body.aims.action);
    const double low = saddleOf(w);
    dragTo(w, QStringLiteral("the strings' height over the bridge"), {0, -4});
    CHECK(saddleOf(w) > low);
    // Each drag is one step.
    for (int i = 0; i < 4; ++i) {
        w.window.document().undo();
    }
    CHECK(w.window.document().project() == before);
    // Where no angle serves the drag is refused with a sentence, and nothing is lost.
    QSignalSpy refused(band, &WholeBand::refused);
    dragTo(w, QStringLiteral("the strings' height over the bridge"), {0, -160});
    CHECK(refused.count() > 0);
    QTest::keyClick(band, Qt::Key_Plus);
    QTest::keyClick(band, Qt::Key_0);
}

TEST_CASE("A real bridge and heel move the angle in the same step", "[app][whole]") {
    Opened w(demo);
    w.sheet().setStation(Station::whole);
    w.settle();
    w.window.document().set(QStringLiteral("setup.gives_way"), QStringLiteral("angle"));
    w.settle();
    w.type("bridge.saddle_high", "22");
    w.type("bridge.saddle_low", "16");
    const Project tall = w.window.document().project();
    CHECK(tall.body.pocket.angle > 2);
    CHECK(saddleOf(w) == Approx(19).margin(0.01));
    w.type("neck_pocket.measured_depth", "17.6");
    CHECK(w.window.document().project().body.pocket.angle > tall.body.pocket.angle);
    CHECK(saddleOf(w) == Approx(19).margin(0.01));
    w.window.document().undo();
    CHECK(w.window.document().project() == tall);
    // Dragged, the height is what is wanted, and the angle goes on following.
    dragTo(w, QStringLiteral("the strings' height over the bridge"), {0, -2});
    const Project dragged = w.window.document().project();
    CHECK(dragged.body.givesWay == GivesWay::angle);
    CHECK(dragged.body.saddleAim > 19);
    CHECK(dragged.body.pocket.angle > tall.body.pocket.angle);
}

TEST_CASE("Strings and weights stand in the ledger", "[app][whole]") {
    Opened w(demo);
    w.sheet().setStation(Station::whole);
    w.settle();
    auto* ledger = w.window.findChild<Ledger*>();
    REQUIRE(ledger->leafNames().size() == 6);
    w.sheet().setLeaf(1);
    w.settle();
    w.click(QStringLiteral("A set to begin with"));
    w.settle();
    REQUIRE(w.window.document().project().board.gauges.size() == 6);
    CHECK(w.window.document().project().board.gauges.front().note == "E2");
    CHECK(w.line("board.gauges.5.note").text() == QStringLiteral("E4"));
    w.sheet().setLeaf(2);
    w.settle();
    CHECK(w.foot().contains(QStringLiteral("the head stays up")));
}

TEST_CASE("The instrument's station tells what it shows, in the unit shown, and what it lacks",
          "[app][whole]") {
    Opened bare;
    bare.sheet().setStation(Station::whole);
    bare.settle();
    auto* empty = bare.window.findChild<WholeBand*>();
    REQUIRE(empty->isVisible());
    CHECK(empty->handles().empty());
    CHECK(empty->accessValue().contains(QStringLiteral("without a body")));
    QTest::mouseClick(empty, Qt::LeftButton, {}, {300, 100}); // nothing there to take hold of
    Opened w(demo);
    w.sheet().setStation(Station::whole);
    w.settle();
    auto* band = w.window.findChild<WholeBand*>();
    CHECK(band->accessibleName() == QStringLiteral("The whole instrument"));
    CHECK(band->accessValue().contains(QStringLiteral("16.0 mm deep")));
    w.window.document().setUnit(LengthUnit::inch);
    CHECK(band->accessValue().contains(QStringLiteral("in deep")));
    w.window.document().setUnit(LengthUnit::mm);
    // The drawing follows what is typed, and the wheel and the right button move it.
    const std::vector<Handle> before = band->handles();
    REQUIRE(before.size() == 4);
    w.type("neck_pocket.angle", "2");
    CHECK(band->accessValue().contains(QStringLiteral("neck angle 2.00 degrees")));
    CHECK(band->handles()[2].at.y() != before[2].at.y());
    const double wide = band->handles()[3].at.x() - band->handles()[0].at.x();
    QTest::keyClick(band, Qt::Key_Plus);
    CHECK(band->handles()[3].at.x() - band->handles()[0].at.x() > wide * 1.2);
    const double left = band->handles()[0].at.x();
    QTest::mousePress(band, Qt::RightButton, {}, {400, 150});
    QMouseEvent move(QEvent::MouseMove, QPointF(430, 150), QPointF(430, 150), Qt::NoButton,
                     Qt::RightButton, {});
    QApplication::sendEvent(band, &move);
    QTest::mouseRelease(band, Qt::RightButton, {}, {430, 150});
    CHECK(band->handles()[0].at.x() == Approx(left + 30));
    QTest::keyClick(band, Qt::Key_0);
    CHECK(band->handles()[3].at.x() - band->handles()[0].at.x() == Approx(wide));
}

namespace {

void press(Opened& w, const QString& words) {
    for (QPushButton* button : w.window.findChild<Ledger*>()->findChildren<QPushButton*>()) {
        if (button->text() == words && button->isVisible()) {
            QTest::mouseClick(button, Qt::LeftButton);
            w.settle();
            return;
        }
    }
    FAIL("no button " << words.toStdString());
}

QString numbersIn(Opened& w, const QString& area) {
    auto* scroll = w.window.findChild<QScrollArea*>(area);
    return scroll ? qobject_cast<QLabel*>(scroll->widget())->text() : QString();
}

} // namespace

TEST_CASE("Pages for the bench are read and written from the window", "[app][whole]") {
    Opened w(demo);
    w.sheet().setStation(Station::whole);
    w.sheet().setLeaf(3);
    w.settle();
    CHECK(numbersIn(w, "handNumbers").contains(QStringLiteral("First facet")));
    press(w, QStringLiteral("Slots of the nut"));
    CHECK(numbersIn(w, "handNumbers").contains(QStringLiteral("equal middles")));
    w.window.document().setUnit(LengthUnit::inch);
    w.settle();
    CHECK(numbersIn(w, "handNumbers").contains(QStringLiteral("0.118"))); // 3.00 mm of overhang
    QSignalSpy exported(&w.window, &Window::exported);
    const QString file = QString::fromStdString((w.folder / "nut.pdf").string());
    w.window.handSheetTo(file, QStringLiteral("nut"), QStringLiteral("a4"));
    REQUIRE(exported.wait(20000));
    CHECK(exported.back().front().toBool());
    CHECK(QFileInfo(file).size() > 5000);
    const QString whole = QString::fromStdString((w.folder / "whole.dxf").string());
    w.window.exportWholeTo(whole, QStringLiteral("dxf"), QStringLiteral("a4"));
    REQUIRE(exported.wait(20000));
    CHECK(QFileInfo(whole).size() > 5000);
}

TEST_CASE("Designs are kept, compared, frozen, taken and dropped in the window", "[app][whole]") {
    Opened w(demo);
    w.sheet().setStation(Station::whole);
    w.sheet().setLeaf(5);
    w.settle();
    auto* name = w.window.findChild<QLineEdit*>(QStringLiteral("variantName"));
    REQUIRE(name);
    press(w, QStringLiteral("Keep it under this name")); // without one it is refused
    CHECK(w.window.document().project().variants.empty());
    name->setFocus();
    QTest::keyClicks(name, QStringLiteral("as drawn"));
    QTest::keyClick(name, Qt::Key_Return);
    w.settle();
    REQUIRE(w.window.document().project().variants.size() == 1);
    const double thick = w.window.document().project().body.thickness;
    w.window.document().set(QStringLiteral("body.thickness"), QStringLiteral("44mm"));
    w.settle();
    press(w, QStringLiteral("Freeze it"));
    CHECK(w.window.document().project().variants[0].frozen);
    press(w, QStringLiteral("Compare with it"));
    REQUIRE(QTest::qWaitFor([&] { return !numbersIn(w, "comparison").isEmpty(); }, 120000));
    CHECK(numbersIn(w, "comparison").contains(QStringLiteral("body.thickness")));
    press(w, QStringLiteral("Take it"));
    CHECK(w.window.document().project().body.thickness == thick);
    w.window.document().undo();
    w.settle();
    CHECK(w.window.document().project().body.thickness == 44);
    press(w, QStringLiteral("Thaw it"));
    press(w, QStringLiteral("Drop it"));
    CHECK(w.window.document().project().variants.empty());
}

TEST_CASE("Boards of the shop are added, sized and taken away in the window", "[app][whole]") {
    Opened w(demo);
    w.sheet().setStation(Station::whole);
    w.sheet().setLeaf(4);
    w.settle();
    const std::size_t before = w.window.document().project().sawing.boards.size();
    press(w, QStringLiteral("Add a board"));
    REQUIRE(w.window.document().project().sawing.boards.size() == before + 1);
    w.type(("sawing.boards." + std::to_string(before) + ".length").c_str(), "2100");
    CHECK(w.window.document().project().sawing.boards.back().length == 2100);
    for (std::size_t i = 0; i <= before; ++i) {
        press(w, QStringLiteral("Take it away"));
    }
    CHECK(w.window.document().project().sawing.boards.empty());
    w.window.document().undo();
    CHECK(w.window.document().project().sawing.boards.size() == 1);
}

TEST_CASE("Woods of one's own are added and named in the window", "[app][whole]") {
    Opened w(demo);
    w.sheet().setStation(Station::whole);
    w.sheet().setLeaf(4);
    w.settle();
    press(w, QStringLiteral("Add a wood of your own"));
    REQUIRE(w.window.document().project().woods.size() == 1);
    w.type("woods.0.name", "black-locust");
    w.type("woods.0.density", "0.77");
    CHECK(w.window.document().project().woods[0].density == 0.77);
    w.window.document().set(QStringLiteral("body.wood"), QStringLiteral("black-locust"));
    w.settle();
    // While something is made of it, it stays, and the reason is told.
    const auto* ledger = w.window.findChild<Ledger*>();
    QSignalSpy refused(ledger, &Ledger::refused);
    press(w, QStringLiteral("Take it out"));
    CHECK(w.window.document().project().woods.size() == 1);
    REQUIRE(refused.count() == 1);
    CHECK(refused[0][0].toString().contains(QStringLiteral("black-locust is used")));
    w.window.document().set(QStringLiteral("body.wood"), QStringLiteral("alder"));
    w.settle();
    press(w, QStringLiteral("Take it out"));
    CHECK(w.window.document().project().woods.empty());
}

TEST_CASE("A neck that goes through is shown with its wings, and dragged", "[app][whole]") {
    Opened w(QString::fromStdString(std::string(WREN_SOURCE) + "/demo/dotterel.wren"));
    w.sheet().setStation(Station::whole);
    w.settle();
    auto* band = w.window.findChild<WholeBand*>();
    CHECK(band->accessValue().contains(QStringLiteral("neck 0.0 mm over the face")));
    w.type("neck_pocket.proud", "2");
    CHECK(w.window.document().project().body.pocket.proud == 2);
    const double before = saddleOf(w);
    w.window.document().set(QStringLiteral("setup.gives_way"), QStringLiteral("saddles"));
    w.settle();
    CHECK(saddleOf(w) == Approx(before).margin(1e-6));
    dragTo(w, QStringLiteral("how far the neck stands over the face"), {0, -4});
    CHECK(w.window.document().project().body.pocket.proud > 2.5);
    CHECK(saddleOf(w) > before);
    // Its wings are pieces like any other.
    w.sheet().setStation(Station::body);
    w.sheet().setStation(Station::cuts);
    w.settle();
    QStringList pieces;
    for (const PartJob* job : w.sheet().derived()->pieces()) {
        pieces << QString::fromStdString(job->name());
    }
    CHECK(pieces.contains(QStringLiteral("body wing 1")));
    CHECK(pieces.contains(QStringLiteral("body wing 2")));
    CHECK(pieces.contains(QStringLiteral("body"))); // gone over once they are glued on
}
