// The body in the real window.

#include "base/files.h"
#include "numbers/ledger.h"
#include "opened.h"
#include "ruler/body_strips.h"
#include "ruler/ruler_band.h"
#include "ruler/shaded_band.h"
#include "tracing/import_desk.h"
#include "tracing/outline_desk.h"

#include "core/body_support.h"

#include <set>

#include <fmt/format.h>

using namespace wren;
using namespace wren::app;

namespace {

QString withBody(const Folder& folder, const test::Changes& changes = {}) {
    const std::filesystem::path file = folder / "body.wren";
    saveProject(test::bodyWith(changes), file);
    return QString::fromStdString(file.string());
}

Handle handleNamed(RulerBand& ruler, const QString& what) {
    for (const Handle& h : ruler.handles()) {
        if (h.what == what) {
            return h;
        }
    }
    FAIL("no handle " << what.toStdString());
    return {};
}

void dragHandle(Opened& w, RulerBand& ruler, const QString& what, QPoint by) {
    const QPoint at = handleNamed(ruler, what).at.toPoint();
    QTest::mousePress(&ruler, Qt::LeftButton, {}, at);
    QTest::mouseMove(&ruler, at + by);
    QTest::mouseRelease(&ruler, Qt::LeftButton, {}, at + by);
    w.settle();
}

} // namespace

TEST_CASE("A body is begun from its station, its pieces stepped through and proved",
          "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder, {{"body.build", "none"}}));
    QTest::keyClick(&w.window, Qt::Key_3, Qt::AltModifier);
    w.settle();
    CHECK(w.sheet().station() == Station::body);
    CHECK_FALSE(w.sheet().showsBody());
    w.window.document().set(QStringLiteral("body.build"), QStringLiteral("topped"));
    w.settle();
    REQUIRE(w.sheet().showsBody());
    CHECK(w.derived().pieces().size() == 4);
    CHECK(w.window.findChild<Ledger*>()->leafNames().size() == 6);
    // ] and [ step through the stack; a click on a layer takes it in hand.
    CHECK(w.sheet().pieceInHand()->id == Role::core);
    QTest::keyClick(&w.window, Qt::Key_BracketRight);
    CHECK(w.sheet().pieceInHand()->id == Role::top);
    QTest::keyClick(&w.window, Qt::Key_BracketLeft);
    CHECK(w.sheet().pieceInHand()->id == Role::core);
    auto* ruler = w.window.findChild<RulerBand*>();
    const QRectF section(ruler->width() - 210, 8, 194, ruler->height() - 16);
    std::set<int> found;
    for (int y = 0; y < 120; ++y) {
        found.insert(pieceAt(section, w.sheet(), QPointF(section.center().x(), 8 + y)));
    }
    CHECK(found == std::set<int>{-1, 0, 1, 2, 3});
    for (const PartJob* piece : w.derived().pieces()) {
        const PartJob& job = *piece;
        REQUIRE(job.proof);
        INFO(test::stopsOf(*job.proof));
        CHECK(job.proof->passed());
    }
    w.sheet().setStation(Station::proof);
    w.settle();
    for (int i = 0; i < 4; ++i) {
        w.sheet().setPiece(i);
        CHECK(w.sheet().deviation(w.sheet().pieceInHand()->id) != nullptr);
    }
}

TEST_CASE("The worst places of the piece in hand are told and gone to", "[app][body][proof]") {
    const Folder folder;
    Opened w(withBody(folder));
    w.sheet().setStation(Station::proof);
    w.sheet().setPart(Part::body);
    w.settle();
    REQUIRE(QTest::qWaitFor([&] { return w.stepsToWorst().size() == 4; }, 10000)); // front and back
    const std::array<ProofReport, 2> sides = w.sheet().pieceInHand()->proof->sides;
    w.sheet().setCursor(sides[1].excessAt.x - 30);
    QTest::mouseClick(w.stepsToWorst()[2], Qt::LeftButton);
    CHECK(w.sheet().cursor() == Approx(sides[1].excessAt.x).margin(0.6));
    QTest::mouseClick(w.stepsToWorst()[1], Qt::LeftButton);
    CHECK(w.sheet().cursor() == Approx(sides[0].gougeAt.x).margin(0.6));
}

TEST_CASE("The tape runs on through every piece of the body", "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder));
    w.settle();
    const double day = w.derived().seconds();
    std::set<std::string> seen;
    for (double share = 0.5; share < 1; share += 0.04) {
        w.sheet().setMoment(day * share);
        w.settle();
        REQUIRE(w.sheet().stock());
        if (w.sheet().stock()->part == Part::body) {
            CHECK(w.sheet().part() == Part::body);
            seen.insert(w.sheet().stock()->setup.part.name() + ", " +
                        w.sheet().stock()->setup.name);
        }
    }
    CHECK(seen.count("body, face up") == 1);
    CHECK(seen.count("body, back up") == 1);
    w.sheet().endScrub();
    w.settle();
    // Each look of the wood can be drawn.
    w.sheet().setShaded(true);
    for (auto look :
         {ShadedBand::Look::wood, ShadedBand::Look::designed, ShadedBand::Look::missed}) {
        w.window.findChild<ShadedBand*>()->setLook(look);
        w.settle();
    }
}

TEST_CASE("Nodes, pickups and controls are dragged in the plan", "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder));
    w.sheet().setStation(Station::body);
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    const auto drag = [&](const QString& what, QPoint by) { dragHandle(w, *ruler, what, by); };
    const double pickup = w.derived().project.body.pickups[1].fromBridge;
    drag(QStringLiteral("pickup 2"), {-8, 0});
    CHECK(w.derived().project.body.pickups[1].fromBridge > pickup + 4);
    const auto nodes = w.derived().project.body.nodes;
    drag(QStringLiteral("node 3 of the outline"), {-3, 2});
    CHECK(w.derived().project.body.nodes != nodes);
    const auto controls = w.derived().project.body.controls;
    drag(QStringLiteral("pot 1"), {3, 2});
    CHECK(w.derived().project.body.controls != controls);
    w.window.document().undo();
    w.settle();
    CHECK(w.derived().project.body.controls == controls); // a drag is one step
}

TEST_CASE("The piece in hand is exported from the window", "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder));
    w.sheet().setStation(Station::body);
    w.settle();
    for (const auto& [format, holds] :
         {std::pair{"dxf", "$INSUNITS"}, {"csv", "piece,what"}, {"pdf", "%PDF"}}) {
        const QString file =
            QString::fromStdString((folder / (std::string("x.") + format)).string());
        QSignalSpy done(&w.window, &Window::exported);
        w.window.exportTo(file, QLatin1String(format), QStringLiteral("a4"));
        REQUIRE((done.count() > 0 || done.wait(120000)));
        REQUIRE(done.front().front().toBool());
        QFile written(file);
        REQUIRE(written.open(QIODevice::ReadOnly));
        INFO(format);
        CHECK(written.readAll().contains(holds));
    }
    QSignalSpy done(&w.window, &Window::exported);
    const QString stl = QString::fromStdString((folder / "x.stl").string());
    w.window.exportTo(stl, QStringLiteral("stl"), QStringLiteral("a4"));
    REQUIRE(done.wait(120000));
    CHECK(QFile(stl).size() > 80 + 50 * 500);
}

TEST_CASE("An outline is brought in from a drawing, seen before it is taken", "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder));
    w.sheet().setStation(Station::body);
    w.settle();
    // A body of another shape, drawn as some three hundred short lines.
    const Contour other = shapeOutline(Body::bodyShape("tarn"));
    std::string d;
    for (Vec2 p : pointsOf(other, 0.02)) {
        d += fmt::format("{}{:.4f} {:.4f}", d.empty() ? "M" : "L", p.x + 400, 300 - p.y);
    }
    const std::string file = (folder / "tarn.svg").string();
    writeFileSafely(file, "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"800mm\" "
                          "viewBox=\"0 0 800 600\"><path d=\"" +
                              d + "Z\"/><text>name</text></svg>");
    const QList<QPushButton*> buttons = w.window.findChild<Ledger*>()->findChildren<QPushButton*>();
    for (QPushButton* b : buttons) {
        if (b->text() == QStringLiteral("A drawing")) {
            QTest::mouseClick(b, Qt::LeftButton);
        }
    }
    auto* page = w.window.findChild<ImportDesk*>();
    REQUIRE(page->isVisible());
    CHECK_FALSE(page->canTake());
    QSignalSpy ready(page, &ImportDesk::ready);
    page->open(QString::fromStdString(file));
    REQUIRE(ready.wait(120000));
    REQUIRE(page->canTake());
    const auto before = w.derived().project.body.nodes;
    CHECK(w.window.document().project().body.nodes == before); // nothing is taken yet
    QTest::keyClick(page, Qt::Key_Return);
    w.settle();
    CHECK_FALSE(page->isVisible());
    CHECK(w.derived().project.body.nodes != before);
    REQUIRE(w.derived().body);
    CHECK(areaOf(w.derived().body->part.outline()) == Approx(areaOf(other)).epsilon(1e-3));
    // And it is a whole instrument: every part proved and posted, without leaving the window.
    for (const Finding& f : w.derived().findings) {
        INFO(f.message);
        CHECK(f.weight != Weight::stop);
    }
    for (const PartJob* piece : w.derived().pieces()) {
        const PartJob& job = *piece;
        INFO(job.name());
        REQUIRE(job.proof);
        CHECK(job.proof->passed());
    }
    const QString out = QString::fromStdString((folder / "job").string());
    CHECK(w.post(out));
    const QStringList programs = QDir(out + QStringLiteral("/programs")).entryList(QDir::Files);
    for (const char* part : {"-fretboard-", "-neck-", "-body-", "-body-lid-"}) {
        INFO(part);
        CHECK(programs.filter(QString::fromLatin1(part)).size() > 0);
    }
    w.window.document().undo();
    w.settle();
    CHECK(w.derived().project.body.nodes == before);
    // What cannot be used says why, and stays on the desk.
    writeFileSafely(file, "<svg><path d=\"M0 0L1 1\"/></svg>");
    page->open(QString::fromStdString(file));
    REQUIRE(ready.wait(120000));
    CHECK_FALSE(page->canTake());
}

TEST_CASE("Edges and contours are set on their leaf and an arm's line is dragged", "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder, {{"body.front_edge", "round"}}));
    w.sheet().setStation(Station::body);
    w.settle();
    w.type("body.front_edge_size", "3");
    w.window.document().set("body.front_slopes", "40 -60 116 20 12 40");
    w.settle();
    REQUIRE(w.derived().body);
    const BodyPart& part = w.derived().body->part;
    CHECK(part.fallAt(part.outline().front().from) >= 3 - 1e-9);
    const FaceSlope before = w.derived().project.body.faces.contours.at(0);
    auto* ruler = w.window.findChild<RulerBand*>();
    w.sheet().take("body.contours.0");
    dragHandle(w, *ruler, QStringLiteral("this end of contour 1"), {4, -3});
    const FaceSlope moved = w.derived().project.body.faces.contours.at(0);
    CHECK(moved.from != before.from);
    CHECK(moved.to == before.to);
    // What cannot be is refused with a sentence and changes nothing.
    w.type("body.contours.0.angle", "80");
    CHECK(w.derived().project.body.faces.contours.at(0) == moved);
}

TEST_CASE("A drawing without a true size is scaled by two points that are clicked", "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder));
    const std::string file = (folder / "small.svg").string();
    // A box of 60 by 40 units that is really 300 mm long.
    writeFileSafely(file, "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 80 60\"><path "
                          "d=\"M10 10H70V50H10Z\"/></svg>");
    auto* page = w.window.findChild<ImportDesk*>();
    Q_EMIT w.window.findChild<Ledger*>()->importWanted();
    REQUIRE(page->isVisible());
    QSignalSpy ready(page, &ImportDesk::ready);
    page->open(QString::fromStdString(file));
    REQUIRE(ready.wait(120000));
    page->scaleByPoints();
    const QPoint low = page->pageAt({10, -50}).toPoint();
    const QPoint right = page->pageAt({70, -50}).toPoint();
    QTest::mouseClick(page, Qt::LeftButton, {}, low + QPoint(3, -2)); // snaps to the corner
    QTest::mouseClick(page, Qt::LeftButton, {}, right + QPoint(-2, 3));
    CHECK_FALSE(page->canTake());
    auto* apart = page->findChild<QLineEdit*>(QStringLiteral("import.apart"));
    apart->setFocus();
    QTest::keyClicks(apart, QStringLiteral("300 mm"));
    QTest::keyClick(apart, Qt::Key_Return);
    REQUIRE(ready.wait(120000));
    REQUIRE(page->canTake());
    page->setFocus();
    QTest::keyClick(page, Qt::Key_Return);
    w.settle();
    CHECK(areaOf(shapeOutline(w.window.document().project().body.nodes)) ==
          Approx(300 * 200).epsilon(1e-6));
}

TEST_CASE("An outline is traced over a picture that two places on the centreline size",
          "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder));
    w.sheet().setStation(Station::body);
    w.settle();
    for (QPushButton* b : w.window.findChild<Ledger*>()->findChildren<QPushButton*>()) {
        if (b->text() == QStringLiteral("A picture")) {
            QTest::mouseClick(b, Qt::LeftButton);
        }
    }
    auto* page = w.window.findChild<OutlineDesk*>();
    REQUIRE(page->isVisible());
    page->show(QImage(1400, 900, QImage::Format_RGB32));
    const auto at = [&](double x, double y) { return page->onScreen({x, y}).toPoint(); };
    const auto drag = [&](QPoint from, QPoint to) {
        QTest::mousePress(page, Qt::LeftButton, Qt::NoModifier, from);
        QTest::mouseMove(page, to);
        QTest::mouseRelease(page, Qt::LeftButton, Qt::NoModifier, to);
    };
    drag(at(0.72 * 1400, 450), at(1000, 460)); // A at the bridge line
    drag(at(0.25 * 1400, 450), at(400, 460));  // B 300 mm toward the nut: 2 pixels a mm
    // A box from -250 to 100 along and 140 to each side, its corners told by C.
    for (const auto& [x, y] : {std::pair{500, 180}, {1200, 180}, {1200, 740}, {500, 740}}) {
        QTest::mouseClick(page, Qt::LeftButton, {}, at(x, y));
        QTest::keyClick(page, Qt::Key_C);
    }
    CHECK(page->nodes().empty()); // its size is not known yet
    auto* distance = page->findChild<QLineEdit*>(QStringLiteral("outline.distance"));
    QTest::keyClicks(distance, QStringLiteral("300"));
    const auto read = [&] { return page->nodes(); };
    REQUIRE(read().size() == 4);
    CHECK(length(read()[0].at - Vec2{-250, 140}) < 2); // as exact as a click on a screen is
    CHECK_FALSE(read()[0].smooth);
    // With Shift a node goes in between its neighbours, smooth until it is told.
    QTest::mouseClick(page, Qt::LeftButton, Qt::ShiftModifier, at(1202, 460));
    REQUIRE(read().size() == 5);
    CHECK(length(read()[2].at - Vec2{101, 0}) < 2);
    CHECK(read()[2].smooth);
    // The other hand: what was above is below.
    for (QPushButton* b : page->findChildren<QPushButton*>()) {
        if (b->property("path") == QStringLiteral("outline.bass")) {
            QTest::mouseClick(b, Qt::LeftButton);
        }
    }
    CHECK(read()[0].at.y < -138);
    const auto before = w.window.document().project().body.nodes;
    page->setFocus();
    QTest::keyClick(page, Qt::Key_Return);
    w.settle();
    CHECK_FALSE(page->isVisible());
    CHECK(areaOf(shapeOutline(w.window.document().project().body.nodes)) ==
          Approx(350 * 280).epsilon(0.03));
    w.window.document().undo();
    CHECK(w.window.document().project().body.nodes == before);
}

TEST_CASE("Words for the back are added, typed and dragged in the plan", "[app][body]") {
    const Folder folder;
    Opened w(withBody(folder));
    w.sheet().setStation(Station::body);
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    const std::vector<NewThing> all = newThings(Role::body);
    ruler->add(*std::find_if(all.begin(), all.end(),
                             [](const NewThing& t) { return t.name == "lettering"; }));
    w.settle();
    REQUIRE(w.sheet().taken() == "body.engravings.0");
    w.window.document().set("body.engravings.0.side", "back");
    w.settle();
    w.type("body.engravings.0.words", "No. 3");
    REQUIRE(w.derived().body);
    CHECK(w.derived().body->part.panel(Role::body)->engraved.size() >= 4);
    const Vec2 before = w.derived().project.body.engravings[0].middle;
    dragHandle(w, *ruler, QStringLiteral("\"No. 3\""), {6, 4});
    CHECK(w.derived().project.body.engravings[0].middle != before);
}
