// What stands in a maker's way, or does not: keys that work wherever the caret is, a tape that can
// be left, a list that scrolls, grey keys that say why.

#include "frame/tape_band.h"
#include "book/book_page.h"
#include "pages/machine_room.h"

#include "opened.h"

#include <QLabel>

using namespace wren;
using namespace wren::app;

TEST_CASE("Undo is the document's, wherever the caret is", "[app][hands]") {
    Opened w;
    w.type("board.frets", "20");
    QLineEdit& field = w.line("board.scale");
    field.setFocus();
    CHECK(w.window.document().project().board.frets == 20);
    QTest::keyClick(&field, Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    CHECK(w.window.document().project().board.frets == 22);
    // Typing that was not taken yet is the field's own.
    field.setFocus();
    field.selectAll();
    QTest::keyClicks(&field, QStringLiteral("7"));
    QTest::keyClick(&field, Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.window.document().project().board.frets == 22);
    CHECK(w.window.windowTitle().contains(QStringLiteral("Upland Wren")));
}

TEST_CASE("The title names the project and whether it is saved", "[app]") {
    Opened w;
    const QString name = QString::fromStdString(w.window.document().project().name);
    CHECK(w.window.windowTitle().startsWith(name + QStringLiteral(", saved")));
    w.type("board.frets", "21");
    CHECK(w.window.windowTitle().startsWith(name + QStringLiteral(", not saved")));
}

TEST_CASE("The tape goes to a typed minute and is left by Escape", "[app][tape]") {
    Opened w;
    w.sheet().setStation(Station::cuts);
    auto* tape = w.window.findChild<TapeBand*>();
    REQUIRE(tape);
    tape->setFocus();
    QTest::keyClicks(tape, QStringLiteral("2.5"));
    QTest::keyClick(tape, Qt::Key_Return);
    CHECK(w.sheet().scrubbing());
    CHECK(w.sheet().moment() == Approx(150));
    QTest::keyClick(tape, Qt::Key_Escape);
    CHECK_FALSE(w.sheet().scrubbing());
    // The word at its left does the same by hand.
    w.sheet().setMoment(60);
    QTest::mouseClick(tape, Qt::LeftButton, {}, QPoint(30, 58));
    CHECK_FALSE(w.sheet().scrubbing());
    w.settle();
}

TEST_CASE("A grey key says why, and a reason lifts that finding alone", "[app][machine]") {
    Opened w;
    w.sheet().setStation(Station::cuts);
    w.settle();
    w.type("cut.tabs_per_side", "0"); // nothing holds the board
    w.sheet().setStation(Station::machine);
    w.settle();
    auto* panel = w.window.findChild<MachineRoom*>();
    REQUIRE(panel);
    auto* why = panel->findChild<QLabel*>(QStringLiteral("why"));
    REQUIRE(why);
    CHECK(why->text().contains(QStringLiteral("stop finding")));
    Finding stop;
    for (const Finding& f : w.derived().findings) {
        if (f.weight == Weight::stop) {
            stop = f;
        }
    }
    // Blanks are no reason.
    w.sheet().giveReason(stop, QStringLiteral("   "));
    w.settle();
    CHECK(w.sheet().overrides().empty());
    w.sheet().giveReason(stop, QStringLiteral("vacuum bed"));
    w.settle();
    CHECK(why->text().contains(QStringLiteral("address")));
    panel->setAddress(QStringLiteral("tcp:127.0.0.1:9"));
    CHECK(why->text().isEmpty());
}

TEST_CASE("Nothing at the machine lies over anything else, at any size", "[app][machine][look]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    w.sheet().setStation(Station::machine);
    auto* panel = w.window.findChild<MachineRoom*>();
    REQUIRE(panel);
    for (const QSize& size : {QSize(1024, 700), QSize(1280, 800), QSize(1920, 1080)}) {
        w.window.resize(size);
        QTest::qWait(50);
        INFO(size.width() << " x " << size.height());
        CHECK(w.window.size() == size);
        std::vector<QRect> places;
        for (const QWidget* child :
             panel->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly)) {
            if (child->isVisible() && !child->geometry().isEmpty()) {
                CHECK(panel->rect().contains(child->geometry()));
                places.push_back(child->geometry());
            }
        }
        for (std::size_t i = 0; i < places.size(); ++i) {
            for (std::size_t k = 0; k < i; ++k) {
                CHECK_FALSE(places[i].intersects(places[k]));
            }
        }
    }
}
