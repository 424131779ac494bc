// The window's parts by themselves.

#include "frame/theme.h"
#include "ruler/relief.h"
#include "ruler/ruler_scale.h"
#include "ruler/strips.h"
#include "state/document.h"

#include "support.h"

#include <set>

using namespace wren;
using namespace wren::app;

TEST_CASE("The ruler maps to and fro and keeps the pointed place when zooming", "[app][ruler]") {
    RulerScale s = RulerScale::fit(-10, 470, 100, 960);
    CHECK(s.px(-10) == Approx(100));
    CHECK(s.px(470) == Approx(1060));
    CHECK(s.perMm == Approx(2));
    for (double mm : {-10.0, 0.0, 33.3, 470.0}) {
        CHECK(s.mm(s.px(mm)) == Approx(mm).margin(1e-9));
    }
    const double pointed = 640;
    const double there = s.mm(pointed);
    for (double factor : {1.5, 2.0, 0.3, 4.0}) {
        s = s.zoomed(factor, pointed);
        CHECK(s.mm(pointed) == Approx(there));
    }
    CHECK(s.zoomed(1e9, pointed).perMm == 200); // not for ever
    CHECK(s.zoomed(1e-9, pointed).perMm == Approx(0.2));
    CHECK(RulerScale::fit(5, 5, 0, 100).perMm > 0); // nothing to show is no division by nothing
}

TEST_CASE("The document tells of changes once, and not of what is no change", "[app][document]") {
    Document d;
    int changes = 0;
    int units = 0;
    QObject::connect(&d, &Document::changed, [&] { ++changes; });
    QObject::connect(&d, &Document::unitChanged, [&] { ++units; });
    d.set(QStringLiteral("board.frets"), QStringLiteral("20"));
    CHECK(changes == 1);
    d.set(QStringLiteral("board.frets"), QStringLiteral("2*10"));
    CHECK(changes == 1);
    CHECK_THROWS_AS(d.set(QStringLiteral("board.frets"), QStringLiteral("99")), Error);
    CHECK_THROWS_AS(d.set(QStringLiteral("board.nonsense"), QStringLiteral("1")), Error);
    CHECK(changes == 1);
    CHECK(d.changedSinceSave());
    d.undo();
    d.undo(); // nothing left
    CHECK(changes == 2);
    CHECK_FALSE(d.changedSinceSave());
    d.redo();
    CHECK(d.project().board.frets == 20);
    d.setUnit(LengthUnit::inch);
    d.setUnit(LengthUnit::inch);
    CHECK(units == 1);
    d.set(QStringLiteral("board.nut_width"), QStringLiteral("1 3/4"));
    CHECK(d.project().board.nutSpread + 6 == Approx(44.45));
}

TEST_CASE("Opening forgets the past, saving keeps it", "[app][document]") {
    const test::Folder folder;
    Document d;
    d.open(QString::fromStdString(test::plainFile));
    CHECK(d.project().name == "Whinchat");
    CHECK_FALSE(d.history().canUndo());
    d.set(QStringLiteral("board.frets"), QStringLiteral("24"));
    const QString file = QString::fromStdString((folder / "p.wren").string());
    d.markSaved(d.project(), file);
    CHECK(d.file() == file);
    CHECK(d.history().canUndo());
    CHECK_FALSE(d.changedSinceSave());
    d.undo();
    CHECK(d.changedSinceSave());
    CHECK_THROWS_AS(d.open(QStringLiteral("/nowhere/p.wren")), Error);
    CHECK(d.project().board.frets == 22);
    CHECK(d.file() == file);
}

TEST_CASE("The deviation picture shows gouges and wood left as different colours", "[app][look]") {
    const Derived d = derive(test::plainWith());
    ProofReport proof = *d.proofOf(Role::board);
    DeviationField& f = proof.deviation;
    const int row = f.rows / 2;
    int column = f.columns / 2;
    while (std::isnan(f.at(column, row))) {
        ++column;
    }
    const auto put = [&](float v) {
        f.value[static_cast<std::size_t>(row) * static_cast<std::size_t>(f.columns) +
                static_cast<std::size_t>(column)] = v;
        return QColor(DeviationView(proof).picture.pixel(column, f.rows - 1 - row));
    };
    proof.excessMax = 0.03;
    proof.gougeMax = 0.03;
    const QColor left = put(0.03F);
    const QColor gouged = put(-0.009F);
    const QColor clean = put(0.0F);
    CHECK(left.blue() > left.red());
    CHECK(gouged.red() > gouged.blue());
    CHECK(clean.lightness() > left.lightness());
    CHECK(clean.lightness() > gouged.lightness());
    CHECK(DeviationView(proof).picture.pixelColor(0, 0).alpha() == 0); // the waste is not judged
}

TEST_CASE("Kinds of cut differ in line as well as in colour", "[app][look]") {
    std::set<int> styles;
    std::set<QRgb> colours;
    for (CutKind kind : {CutKind::radius, CutKind::slots, CutKind::outline}) {
        const QPen pen = penOf(kind);
        styles.insert(static_cast<int>(pen.style()));
        colours.insert(pen.color().rgb());
    }
    CHECK(styles.size() == 3);
    CHECK(colours.size() == 3);
}

TEST_CASE("The relief hides what is behind and fills what is before", "[app][look]") {
    const Blank blank{100, 60, 10, "walnut"};
    Stock stock(blank, 0, 1);
    ReliefView above;
    above.roll = 0;
    above.yaw = 0;
    const QImage plain = drawRelief(stock, above, {400, 300});
    const QRgb face = plain.pixel(200, 150);
    CHECK(qAlpha(face) == 255);
    CHECK(qAlpha(plain.pixel(3, 3)) == 0);
    // A hole right through shows the ground behind it.
    Move down = test::straight({50, 30, 12}, {50, 30, -1}, 100);
    sweep(stock, {12, 0, 0, 12}, down, 0, stock.rows());
    CHECK(qAlpha(drawRelief(stock, above, {400, 300}).pixel(200, 150)) == 0);
    // Looked at flat along the board, the near rim stands before the hole.
    ReliefView side = above;
    side.roll = M_PI / 2 - 0.05;
    CHECK(qAlpha(drawRelief(stock, side, {400, 300}).pixel(200, 150)) == 255);
    // A pocket's floor is seen, in the light its slope deserves.
    Stock pocket(blank, 0, 1);
    sweep(pocket, {12, 0, 0, 12}, test::straight({50, 30, 12}, {50, 30, 4}, 100), 0, pocket.rows());
    const QImage seen = drawRelief(pocket, above, {400, 300});
    CHECK(seen.pixel(200, 150) == face); // level, like the face
    std::set<QRgb> tones;
    for (int x = 100; x < 300; ++x) {
        tones.insert(seen.pixel(x, 150));
    }
    CHECK(tones.size() > 1); // but its walls are not
}
