// A neck that carries its frets itself, in the real window.

#include "numbers/ledger.h"
#include "opened.h"

#include <set>

using namespace wren;
using namespace wren::app;

namespace {

QString carvedFile(const Folder& folder) {
    Project p = test::plainWith({{"neck.joint", "bolt-on"},
                                 {"neck.fret_face", "carved"},
                                 {"rod.from", "back"},
                                 {"rod.cover", "1.5"}});
    p.bits = starterDrawer();
    const std::filesystem::path file = folder / "carved.wren";
    saveProject(p, file);
    return QString::fromStdString(file.string());
}

} // namespace

TEST_CASE("A glued board becomes a carved face and back from the ledger", "[app][neck][carved]") {
    const Folder folder;
    Opened w(carvedFile(folder));
    w.sheet().setStation(Station::neck);
    w.settle();
    REQUIRE(w.sheet().showsNeck());
    CHECK(w.derived().neck->part.carved());
    CHECK(w.derived().job(Role::neck)->proof->passed());
    CHECK(w.derived().wanted() == std::vector<PartId>{Role::neck});
    // Blank, cuts and proof are the neck's, also when one comes to them from the board.
    w.sheet().setStation(Station::board);
    CHECK(w.sheet().part() == Part::board);
    for (Station s : {Station::blank, Station::cuts, Station::proof}) {
        w.sheet().setStation(s);
        CHECK(w.sheet().part() == Part::neck);
    }
    w.sheet().setStation(Station::cuts);
    auto* ledger = w.window.findChild<Ledger*>();
    const qsizetype leaves = ledger->leafNames().size();
    CHECK(ledger->leafNames().contains(QStringLiteral("The carved face")));
    // A board glued on again has its own programs before the neck's.
    w.window.document().set(QStringLiteral("neck.fret_face"), QStringLiteral("glued"));
    w.settle();
    CHECK(w.derived().wanted() == std::vector<PartId>{Role::board, Role::neck});
    CHECK(w.derived().programs.front().program.part == Role::board);
    w.sheet().setStation(Station::blank);
    w.sheet().setStation(Station::cuts);
    w.settle();
    CHECK(ledger->leafNames().size() == leaves - 1);
    w.window.document().undo();
    w.settle();
    CHECK(w.derived().neck->part.carved());
    CHECK(w.derived().programs.front().program.part == Role::neck);
}

TEST_CASE("The carved face's own bits are chosen in the neck's ledger", "[app][neck][carved]") {
    const Folder folder;
    Opened w(carvedFile(folder));
    w.sheet().setStation(Station::neck);
    w.sheet().setStation(Station::cuts);
    w.settle();
    w.sheet().setLeaf(2);
    w.settle();
    const auto field = [&](const QString& path) -> ValueField* {
        for (auto* f : w.window.findChildren<ValueField*>()) {
            if (f->path() == path && f->isVisible()) {
                return f;
            }
        }
        return nullptr;
    };
    for (const char* path : {"cut.radius.bit", "cut.slots.feed", "cut.markers.bit", "cut.school"}) {
        INFO(path);
        // A leaf is built in a turn of the event loop of its own.
        CHECK(QTest::qWaitFor([&] { return field(QString::fromLatin1(path)) != nullptr; }));
    }
    const Cut* radius = w.derived().job(Role::neck)->neckPlan().sides[0].cutOf(CutKind::radius);
    REQUIRE(radius);
    const std::string other = radius->bit.name == "ball-6" ? "ball-12" : "ball-6";
    w.window.document().set(QStringLiteral("cut.radius.bit"), QString::fromStdString(other));
    w.settle();
    CHECK(w.derived().job(Role::neck)->neckPlan().sides[0].cutOf(CutKind::radius)->bit.name ==
          other);
    CHECK(w.derived().job(Role::neck)->proof->passed());
}

TEST_CASE("The tape of a carved neck shows its face slotted, then the back",
          "[app][neck][carved]") {
    const Folder folder;
    Opened w(carvedFile(folder));
    w.sheet().setStation(Station::neck);
    w.settle();
    std::set<std::size_t> sides;
    const double day = w.derived().seconds();
    double before = 1e18;
    for (double share : {0.05, 0.3, 0.55, 0.8, 1.0}) {
        w.sheet().setMoment(day * share);
        w.settle();
        REQUIRE(w.sheet().stock());
        sides.insert(w.sheet().stock()->side);
        const double wood = w.sheet().stock()->stock->volume();
        CHECK(wood < before + 7000); // the strip over the rod puts a little back
        before = wood;
    }
    CHECK(sides == std::set<std::size_t>{0, 1});
}

TEST_CASE("A rod from the top has to go before the face can be carved", "[app][neck][carved]") {
    const Folder folder;
    Opened w(carvedFile(folder));
    w.sheet().setStation(Station::neck);
    w.window.document().set(QStringLiteral("rod.from"), QStringLiteral("top"));
    w.settle();
    CHECK_FALSE(w.sheet().showsNeck());
    bool said = false;
    for (const Finding& f : w.derived().findings) {
        said = said || (f.code == "carved-face" && f.weight == Weight::stop);
    }
    CHECK(said);
    CHECK(w.derived().programs.empty());
    w.window.document().set(QStringLiteral("rod.from"), QStringLiteral("none"));
    w.settle();
    CHECK(w.sheet().showsNeck());
    CHECK(w.derived().job(Role::neck)->proof->passed());
}
