// Each page by itself: what it shows, in both units, at twice the density, and with odd
// instruments.

#include "frame/tools_band.h"
#include "numbers/ledger.h"
#include "pages/new_board.h"
#include "ruler/ruler_band.h"
#include "ruler/section.h"
#include "ruler/shaded_band.h"

#include "opened.h"

#include <QImage>
#include <QPainter>

#include <set>

using namespace wren;
using namespace wren::app;

namespace {

int coloursIn(const QImage& image) {
    std::set<QRgb> seen;
    for (int y = 0; y < image.height(); y += 3) {
        for (int x = 0; x < image.width(); x += 3) {
            seen.insert(image.pixel(x, y));
        }
    }
    return static_cast<int>(seen.size());
}

QImage at(QWidget& widget, double density) {
    QImage image(widget.size() * density, QImage::Format_ARGB32);
    image.setDevicePixelRatio(density);
    image.fill(Qt::white);
    widget.render(&image);
    return image;
}

/// An odd instrument: left-handed, nine strings, one fret, fanned, in inches.
Project odd() {
    Project p = newProject("Odd", 9, 700, 1, Hand::left);
    p = withTrebleScale(p, 640, "nut");
    return withKey(p, "machine.like", "Desk router");
}

} // namespace

TEST_CASE("Every page is drawn at once and at twice the density", "[app][look]") {
    Opened w;
    for (const bool strange : {false, true}) {
        if (strange) {
            w.window.document().startNew(odd());
            w.window.document().setUnit(LengthUnit::inch);
            w.settle();
        }
        for (int i = 0; i < stationCount; ++i) {
            w.sheet().setStation(static_cast<Station>(i));
            w.settle();
            INFO(stationName(static_cast<Station>(i)).toStdString());
            const QImage plain = at(w.window, 1);
            const QImage twice = at(w.window, 2);
            CHECK(twice.width() == 2 * plain.width());
            CHECK(coloursIn(plain) > 20);
            CHECK(coloursIn(twice) >= coloursIn(plain) / 2);
        }
    }
}

TEST_CASE("No two handles of a board lie on each other, and all lie on the page",
          "[app][handles]") {
    Opened w;
    w.window.document().set(QStringLiteral("markers.frets"), QStringLiteral("12"));
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    const std::vector<Handle> all = ruler->handles();
    CHECK(all.size() >= 10);
    for (std::size_t i = 0; i < all.size(); ++i) {
        INFO(all[i].what.toStdString());
        CHECK(ruler->rect().contains(all[i].at.toPoint()));
        for (std::size_t k = 0; k < i; ++k) {
            CHECK((all[i].at - all[k].at).manhattanLength() > 6);
        }
        if (!all[i].typed) {
            CHECK(all[i].moved(all[i].at) == w.window.document().project());
            continue;
        }
        // Where it stands it asks for the number there is.
        const Typed typed = all[i].typed(all[i].at);
        const Project& now = w.window.document().project();
        const Key key = keyAt(now, typed.path.toStdString());
        const double there = std::get<double>(readValue(key, typed.text.toStdString()));
        CHECK(there == Approx(std::get<double>(key.get(now))).epsilon(0.01).margin(0.1));
    }
}

TEST_CASE("A drag lands on tenths of a millimetre, or on 64ths of an inch", "[app][handles]") {
    Opened w;
    auto* ruler = w.window.findChild<RulerBand*>();
    for (LengthUnit unit : {LengthUnit::mm, LengthUnit::inch}) {
        w.window.document().setUnit(unit);
        w.settle();
        for (const Handle& h : ruler->handles()) {
            if (h.what != QLatin1String("width at the nut")) {
                continue;
            }
            const double mm = parseLength(h.typed(h.at + QPointF(0, 3.3)).text.toStdString());
            const double step = unit == LengthUnit::mm ? 0.1 : mmPerInch / 64;
            CHECK(std::abs(mm / step - std::round(mm / step)) < 0.01);
        }
    }
}

TEST_CASE("Handles are gone while the tape shows another moment", "[app][handles]") {
    Opened w;
    w.sheet().setStation(Station::cuts);
    w.settle();
    auto* ruler = w.window.findChild<RulerBand*>();
    CHECK(ruler->handles().size() == 6); // the tabs
    w.sheet().setMoment(60);
    w.settle();
    CHECK(ruler->handles().empty());
}

TEST_CASE("A new board is read in the unit on show", "[app][new]") {
    Opened w;
    w.window.document().setUnit(LengthUnit::inch);
    w.window.startNew();
    auto* page = w.window.findChild<NewBoard*>();
    REQUIRE(page->isVisible());
    w.line("new.scale").setText(QStringLiteral("24 3/4"));
    w.line("new.name").setText(QStringLiteral("Inches"));
    QTest::keyClick(&w.line("new.frets"), Qt::Key_Return);
    w.settle();
    CHECK(w.window.document().project().board.scaleLength == Approx(24.75 * 25.4));
    CHECK(w.window.document().file().isEmpty());
    CHECK(w.window.document().changedSinceSave()); // it is in no file yet
    CHECK_FALSE(w.window.document().history().canUndo());
}

TEST_CASE("The section's scale maps to and fro", "[app][section]") {
    Opened w;
    w.sheet().setCursor(200);
    const SectionScale s = sectionScale({0, 0, 200, 300}, w.sheet());
    CHECK(s.x == 200);
    CHECK(s.high - s.low == Approx(w.derived().board->edge(1, 200) * 2));
    for (double z : {0.0, 3.0, 6.0}) {
        CHECK(s.height(s.py(z)) == Approx(z).margin(1e-9));
    }
    CHECK(s.px(s.low) > 0);
    CHECK(s.px(s.high) < 200);
}

TEST_CASE("A long drawer keeps the bit in hand in sight", "[app][tools]") {
    Opened w;
    Project p = w.window.document().project();
    const Bit like = p.bits.front();
    for (int i = 0; i < 30; ++i) {
        Bit more = like;
        more.name = "spare " + std::to_string(i);
        p.bits.push_back(more);
    }
    w.window.document().change(p, QStringLiteral("many bits"));
    w.sheet().setStation(Station::tools);
    w.settle();
    auto* tools = w.window.findChild<ToolsBand*>();
    tools->setFocus();
    for (int i = 0; i < 40; ++i) {
        QTest::keyClick(tools, Qt::Key_Right);
        const QRectF place = tools->placeOf(w.sheet().bitInHand());
        CHECK(place.left() >= 0);
        CHECK(place.right() < tools->width() - 300);
    }
    CHECK(w.sheet().bitInHand() == static_cast<int>(p.bits.size()) - 1);
    w.window.document().undo();
    w.settle();
    CHECK(w.sheet().bitInHand() < static_cast<int>(w.window.document().project().bits.size()));
}

TEST_CASE("An emptied drawer says what to do and is no end of the world", "[app][tools][failure]") {
    Opened w;
    Project p = w.window.document().project();
    p.bits.clear();
    w.window.document().change(p, QStringLiteral("no bits"));
    w.sheet().setStation(Station::tools);
    w.settle();
    CHECK(w.foot().contains(QLatin1String("The drawer is empty")));
    CHECK(w.derived().programs.empty());
    w.sheet().setStation(Station::cuts);
    w.settle();
    w.sheet().setStation(Station::proof);
    w.settle();
    w.window.document().undo();
    w.settle();
    CHECK(w.derived().proofOf(Role::board)->passed);
}
