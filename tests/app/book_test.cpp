// The book's page: the rack, sizes that are measured, what is written down, and what of it is said
// before a cut.
#include "book/book_page.h"
#include "book/measure_form.h"
#include "book/record_form.h"
#include "pages/machine_room.h"

#include "opened.h"

#include "part/body_shapes.h"

#include <QTableView>
#include <QTreeWidget>

#include <fmt/format.h>

using namespace wren;
using namespace wren::app;
using Leaf = BookPage::Leaf;

namespace {

const std::string demo = WREN_SOURCE "/demo/whinchat.wren";

BookPage& bookOf(Opened& w) {
    QTest::keyClick(&w.window, Qt::Key_0, Qt::AltModifier);
    w.settle();
    return *w.window.findChild<BookPage*>();
}

/// A run of a program's like on a real machine, that ended well.
RunRecord likeOf(const Derived& d, std::size_t i, int feed, double times) {
    const PostedProgram& p = d.programs[i];
    RunRecord r;
    r.project = "One before";
    r.part = p.program.part.name();
    r.program = p.program.file;
    r.bit = p.program.bit.name;
    r.wood = d.placeOf(i).setup().blank.wood;
    r.cuts = fmt::format("{}", fmt::join(p.program.what, " + "));
    r.start = r.end = "2026-09-01T10:00:00Z";
    r.plannedSeconds = p.time.seconds;
    r.takenSeconds = p.time.seconds * times;
    r.feedPercent = feed;
    r.outcome = "done";
    return r;
}

} // namespace

TEST_CASE("Blanks stand on the rack, are found, and are taken for a part", "[app][book]") {
    Opened w;
    {
        ShopBook book(w.folder / "book.sqlite");
        book.add(recordFrom("blank", {"name=maple 1", "wood=hard-maple", "length=520mm",
                                      "width=80mm", "thickness=7.2mm", "since=2026-01-01"}));
        book.add(recordFrom("blank", {"name=ash 1", "wood=white-ash", "length=480mm"}));
        book.add(recordFrom("blank", {"name=burnt", "wood=cherry", "gone=yes"}));
    }
    BookPage& page = bookOf(w);
    auto& rack = *page.findChild<RackView*>();
    REQUIRE(rack.isVisible());
    REQUIRE(rack.inHand());
    CHECK(rack.inHand()->name == "maple 1");
    CHECK(*rack.inHand()->restDays > 300);
    rack.setFocus();
    QTest::keyClick(&rack, Qt::Key_Right);
    CHECK(rack.inHand()->name == "ash 1");
    QTest::keyClick(&rack, Qt::Key_Right); // what is gone stands on no rack
    CHECK(rack.inHand()->name == "ash 1");
    // It has no width: it cannot be taken, and that is said.
    CHECK_THROWS_AS(page.takeBlank(Role::board, *rack.inHand()), Error);
    QTest::keyClick(&rack, Qt::Key_Left);
    page.takeBlank(Role::board, *rack.inHand());
    w.settle();
    CHECK(w.window.document().project().blank.thickness == Approx(7.2));
    CHECK(w.window.document().project().blank.length == Approx(520));
    CHECK(w.window.document().project().blank.wood == "hard-maple");
    REQUIRE(QTest::qWaitFor([&] { return rack.inHand() && !rack.inHand()->reserved.empty(); }, 5000));
    CHECK(rack.inHand()->reserved == w.window.document().project().name);
    QTest::keyClick(&w.window, Qt::Key_Z, Qt::ControlModifier); // the design's part of it
    w.settle();
    CHECK(w.window.document().project().blank.thickness != Approx(7.2));
}

TEST_CASE("Sizes are entered as they are read, and what follows does", "[app][book]") {
    Opened w(QString::fromStdString(demo));
    BookPage& page = bookOf(w);
    MeasureForm* form = page.measureForm(Role::neck, &w.window);
    REQUIRE(form);
    form->open();
    auto& heel = *form->findChild<QLineEdit*>(QStringLiteral("neck.heel_width"));
    const auto trouble = [&] {
        for (QLabel* label : form->findChildren<QLabel*>()) {
            if (label->objectName() == QLatin1String("trouble")) {
                return label->text();
            }
        }
        return QString();
    };
    form->take();
    CHECK(trouble().contains(QLatin1String("Nothing is read")));
    heel.setText(QStringLiteral("56.7"));
    form->take();
    CHECK(trouble().contains(QLatin1String("no unit")));
    heel.setText(QStringLiteral("5.67 mm"));
    form->take();
    CHECK(trouble().contains(QLatin1String("cannot be")));
    const Project before = w.window.document().project();
    CHECK(ShopBook(w.folder / "book.sqlite").records("measurement").empty());
    heel.setText(QStringLiteral("56.60 mm"));
    form->findChild<QLineEdit*>(QStringLiteral("moisture"))->setText(QStringLiteral("8"));
    form->take();
    REQUIRE(QTest::qWaitFor(
        [&] { return w.window.document().project().body.pocket.measuredWidth.has_value(); }, 5000));
    w.settle();
    CHECK(*w.window.document().project().body.pocket.measuredWidth == Approx(56.6));
    CHECK(w.window.document().project().neck == before.neck); // drawn is never overwritten
    const auto kept = ShopBook(w.folder / "book.sqlite").records("measurement");
    REQUIRE(kept.size() == 1);
    CHECK(kept[0].field("moisture") == "8");
    CHECK(kept[0].field("drawn") != kept[0].field("value"));
}

TEST_CASE("What is written down comes up where it is looked for", "[app][book]") {
    Opened w;
    BookPage& page = bookOf(w);
    RecordForm form(w.folder / "book.sqlite", recordKind("note"), {}, &w.window);
    form.open();
    form.take();
    CHECK(form.isVisible()); // its text is needed
    form.findChild<QLineEdit*>(QStringLiteral("text"))->setText(QStringLiteral("slower at corners"));
    form.take();
    REQUIRE(QTest::qWaitFor([&] { return !form.isVisible(); }, 5000));
    ShopBook(w.folder / "book.sqlite").add(recordFrom("note", {"text=another thing"}));
    w.window.readBook();
    w.settle();
    page.turnTo(Leaf::written);
    auto& model = *page.findChild<RecordModel*>();
    CHECK(model.rowCount() == 2);
    auto& find = *page.findChild<QLineEdit*>(QStringLiteral("find"));
    find.setText(QStringLiteral("CORNERS slower"));
    REQUIRE(model.rowCount() == 1);
    CHECK(model.data(model.index(0, 3), Qt::DisplayRole).toString().contains(
        QLatin1String("slower at corners")));
    find.setText(QStringLiteral("nowhere"));
    CHECK(model.rowCount() == 0);
    // What another window or a command writes shows by itself.
    find.clear();
    ShopBook(w.folder / "book.sqlite").add(recordFrom("note", {"text=from elsewhere"}));
    CHECK(QTest::qWaitFor([&] { return model.rowCount() == 3; }, 10000));
    for (Leaf leaf : {Leaf::rack, Leaf::bits, Leaf::instruments, Leaf::hand, Leaf::runs, Leaf::time}) {
        page.turnTo(leaf); // empty, it says what to do and nothing fails
        QTest::qWait(20);
    }
}

TEST_CASE("Before a cut the room says how its like went, and begins so when told", "[app][book][room]") {
    Opened w;
    {
        ShopBook book(w.folder / "book.sqlite");
        RunRecord r = likeOf(w.derived(), 0, 80, 1.5);
        r.id = book.begin(r);
        book.finish(r);
        book.add(recordFrom("note", {"text=mind the knot", "part=fretboard", "next=yes"}));
    }
    w.window.readBook();
    w.settle();
    QTest::keyClick(&w.window, Qt::Key_9, Qt::AltModifier);
    w.settle();
    MachineRoom& room = w.window.machine();
    CHECK(room.steps()[0].says.find("mind the knot") != std::string::npos);
    CHECK(room.steps()[0].caution.find("fret wire") != std::string::npos);
    const auto cut = std::find_if(room.steps().begin(), room.steps().end(), [](const RoomStep& s) {
        return s.kind == RoomStep::Kind::cut && s.program == 1;
    });
    REQUIRE(cut != room.steps().end());
    REQUIRE(cut->advice);
    CHECK(cut->minutes == Approx(w.derived().programs[0].time.seconds / 60 * 1.5));
    const auto at = std::size_t(cut - room.steps().begin());
    const test::ControllerProcess controller("--tcp 0 --speed 3000");
    room.setAddress(QString::fromStdString(controller.address()));
    for (std::size_t i = 0; i < at; ++i) {
        room.setFocus();
        QTest::keyClick(&room, Qt::Key_Return);
        REQUIRE(QTest::qWaitFor([&] { return !room.busy() && room.stepInHand() > i; }, 60000));
        w.settle();
    }
    QTest::keyClick(&room, Qt::Key_E);
    QTest::keyClick(&room, Qt::Key_Return);
    REQUIRE(QTest::qWaitFor([&] { return !room.busy(); }, 60000));
    w.settle();
    const RunRecord run = ShopBook(w.folder / "book.sqlite").runs().front();
    CHECK(run.outcome == "done");
    CHECK(run.feedPercent == 80);
}

TEST_CASE("Work by hand is ticked with who did it and how long it took", "[app][book]") {
    Opened w;
    BookPage& page = bookOf(w);
    page.turnTo(Leaf::hand);
    w.settle();
    auto& view = *page.findChild<HandView*>();
    auto& list = *view.findChild<QTreeWidget*>();
    const auto item = [&](const QString& text) {
        const auto found = list.findItems(text, Qt::MatchContains | Qt::MatchRecursive);
        REQUIRE(found.size() == 1);
        return found.front();
    };
    REQUIRE(list.isVisible());
    const QString levelling = QStringLiteral("level the crowns");
    CHECK(item(levelling)->checkState(0) == Qt::Unchecked);
    auto& who = *view.findChild<QLineEdit*>(QStringLiteral("who"));
    auto& minutes = *view.findChild<QLineEdit*>(QStringLiteral("minutes"));
    who.setText(QStringLiteral("Ansa"));
    minutes.setText(QStringLiteral("long"));
    // What is no number is refused, and nothing is ticked.
    list.setFocus();
    list.setCurrentItem(item(levelling));
    QTest::keyClick(&list, Qt::Key_Space);
    w.settle();
    CHECK(item(levelling)->checkState(0) == Qt::Unchecked);
    CHECK(ShopBook(w.folder / "book.sqlite").records("handwork").empty());
    minutes.setText(QStringLiteral("75"));
    view.findChild<QLineEdit*>(QStringLiteral("note"))->setText(QStringLiteral("1.02 mm high"));
    list.setCurrentItem(item(levelling));
    QTest::keyClick(&list, Qt::Key_Space);
    REQUIRE(QTest::qWaitFor([&] { return !item(levelling)->text(2).isEmpty(); }, 5000));
    CHECK(item(levelling)->checkState(0) == Qt::Checked);
    CHECK(item(levelling)->text(2).endsWith(QStringLiteral(", Ansa, 75 min")));
    CHECK(item(levelling)->text(3) == QStringLiteral("1.02 mm high"));
    CHECK(minutes.text().isEmpty());
    const auto written = ShopBook(w.folder / "book.sqlite").records("handwork");
    REQUIRE(written.size() == 1);
    CHECK(written[0].field("by") == "Ansa");
    CHECK(written[0].field("project") == w.sheet().project().name);
    // Taken back: the entry stays and a newer one says so.
    list.setCurrentItem(item(levelling));
    QTest::keyClick(&list, Qt::Key_Space);
    REQUIRE(QTest::qWaitFor([&] { return item(levelling)->text(2).isEmpty(); }, 5000));
    CHECK(ShopBook(w.folder / "book.sqlite").records("handwork").size() == 2);
    // Whoever works here is known at the machine.
    QTest::keyClick(&w.window, Qt::Key_9, Qt::AltModifier);
    w.settle();
    CHECK(w.window.findChild<MachineRoom*>()->findChild<QLineEdit*>(QStringLiteral("who"))->text() ==
          QStringLiteral("Ansa"));
}

TEST_CASE("However much is written down, the book fits a window of 1024 by 700", "[app][book][look]") {
    Opened w;
    const std::string much(300, 'm');
    {
        ShopBook book(w.folder / "book.sqlite");
        book.add(recordFrom("blank", {"name=" + much, "wood=ash", "length=520mm", "width=80mm",
                                      "thickness=7mm", "note=" + much}));
        book.add(recordFrom("note", {"text=" + much}));
        const auto bench = benchSteps(w.derived(), LengthUnit::mm, {});
        book.add(benchRecord(w.sheet().project().name, bench.at(0), true, much, "5", much));
    }
    w.window.readBook();
    w.window.resize(1024, 700);
    BookPage& page = bookOf(w);
    for (Leaf leaf : {Leaf::rack, Leaf::bits, Leaf::instruments, Leaf::hand, Leaf::runs,
                      Leaf::written, Leaf::time}) {
        page.turnTo(leaf);
        w.settle();
        QTest::qWait(50);
        INFO(int(leaf));
        CHECK(w.window.width() == 1024);
    }
}

TEST_CASE("A heel read after its pocket is cut is told what keeps its size", "[app][book]") {
    Opened w(QString::fromStdString(demo));
    {
        ShopBook book(w.folder / "book.sqlite");
        RunRecord r = likeOf(w.derived(), 0, 100, 1);
        r.project = w.sheet().project().name;
        r.part = "body";
        r.cuts = "neck-pocket + pickups";
        r.id = book.begin(r);
        book.finish(r);
    }
    w.window.readBook();
    w.settle();
    BookPage& page = bookOf(w);
    QSignalSpy told(&page, &BookPage::told);
    MeasureForm* form = page.measureForm(Role::neck, &w.window);
    REQUIRE(form);
    form->open();
    form->findChild<QLineEdit*>(QStringLiteral("neck.heel_width"))->setText(QStringLiteral("57.1 mm"));
    form->take();
    REQUIRE(QTest::qWaitFor([&] { return !told.isEmpty(); }, 5000));
    CHECK(told.front().front().toString().contains(QStringLiteral("keeps that")));
    w.settle();
    const BodyPocket& pocket = w.window.document().project().body.pocket;
    REQUIRE(pocket.cutWidth);
    CHECK(*pocket.cutWidth == Approx(heelWidth(w.derived().neck->part.outline())));
    CHECK(*pocket.measuredWidth == Approx(57.1));
    const Findings& found = w.derived().findings;
    CHECK(std::any_of(found.begin(), found.end(),
                      [](const Finding& f) { return f.code == "heel-too-wide"; }));
}
