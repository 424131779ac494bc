// A photograph of the blank under the part, and what is marked in it.
#include "numbers/ledger.h"
#include "ruler/ruler_band.h"

#include "opened.h"

using namespace wren;
using namespace wren::app;

namespace {

/// Half red, half blue, so that it is seen which way it lies.
QString picture(const test::Folder& folder) {
    QImage image(400, 100, QImage::Format_RGB32);
    image.fill(QColor(200, 30, 30));
    QPainter p(&image);
    p.fillRect(200, 0, 200, 100, QColor(30, 30, 200));
    const QString file = QString::fromStdString((folder / "maple.png").string());
    REQUIRE(image.save(file));
    return file;
}

int pixelsLike(const QImage& shot, int red, int blue) {
    int n = 0;
    for (int y = 0; y < shot.height(); ++y) {
        for (int x = 0; x < shot.width(); ++x) {
            const QColor c = shot.pixelColor(x, y);
            n += (c.red() > c.blue() + 60 ? red : 0) || (c.blue() > c.red() + 60 ? blue : 0);
        }
    }
    return n;
}

} // namespace

TEST_CASE("A photograph lies under the part, as large as two of its places say", "[app][wood-seen]") {
    Opened w;
    w.sheet().setStation(Station::blank);
    w.settle();
    auto& ruler = *w.window.findChild<RulerBand*>();
    const QImage before = ruler.grab().toImage();
    Project p = w.window.document().project();
    const std::string hash = w.derived().designHash;
    WoodPhoto photo;
    photo.file = picture(w.folder).toStdString();
    photo.b = {p.blank.length, 0};
    p.woodPhotos = {photo};
    p.woodMarks = {{"fretboard", WoodMarkKind::knot, {100, 40}, {100, 40}, 12, {}}};
    w.window.document().change(p, QStringLiteral("a photograph"));
    w.settle();
    QTest::qWait(100);
    const QImage shot = ruler.grab().toImage();
    const int red = pixelsLike(shot, 1, 0) - pixelsLike(before, 1, 0);
    const int blue = pixelsLike(shot, 0, 1) - pixelsLike(before, 0, 1);
    CHECK(red > 1000);
    CHECK(blue > 1000);
    CHECK(w.derived().designHash == hash); // no program goes stale
    // Its second place dragged nearer, it is smaller.
    p.woodPhotos[0].b = {p.blank.length / 2, 0};
    w.window.document().change(p, QStringLiteral("a photograph"));
    w.settle();
    QTest::qWait(50);
    const QImage half = ruler.grab().toImage();
    CHECK(pixelsLike(half, 1, 0) - pixelsLike(before, 1, 0) < red * 0.6);
    // A file that is gone is no trouble.
    p.woodPhotos[0].file = "nowhere.png";
    w.window.document().change(p, QStringLiteral("a photograph"));
    w.settle();
    CHECK(w.window.isVisible());
}

TEST_CASE("Seams, knots and nails are added, dragged and taken away", "[app][wood-seen]") {
    Opened w;
    w.sheet().setStation(Station::blank);
    w.settle();
    w.sheet().setLeaf(3);
    w.settle();
    QTest::qWait(50);
    w.button(QStringLiteral("Add a knot")).click();
    w.settle();
    QTest::qWait(50);
    REQUIRE(w.window.document().project().woodMarks.size() == 1);
    CHECK(w.window.document().project().woodMarks[0].part == "fretboard");
    w.type("wood_marks.0.from.x", "60");
    w.settle();
    CHECK(w.window.document().project().woodMarks[0].from.x == Approx(60));
    // In the plan there is something to take it by.
    auto& ruler = *w.window.findChild<RulerBand*>();
    const auto handles = ruler.handles();
    const auto knot = std::find_if(handles.begin(), handles.end(), [](const Handle& h) {
        return h.what.contains(QLatin1String("knot"));
    });
    REQUIRE(knot != handles.end());
    const Project moved = knot->moved(knot->at + QPointF(0, -10));
    CHECK(moved.woodMarks[0].from.y > w.window.document().project().woodMarks[0].from.y);
    CHECK(moved.woodMarks[0].from.x == Approx(60).margin(0.2));
    w.button(QStringLiteral("Take it away")).click();
    w.settle();
    CHECK(w.window.document().project().woodMarks.empty());
}
