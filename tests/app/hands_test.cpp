// From nothing to proven programs by hand: new boards, handles, leaves, tools, files.

#include "base/files.h"
#include "frame/tools_band.h"
#include "job/keys.h"
#include "numbers/ledger.h"
#include "pages/new_board.h"
#include "ruler/ruler_band.h"
#include "state/autosave.h"

#include "opened.h"

#include <QFile>
#include <QProcess>

#include <optional>
#include <set>

#include <signal.h>
#include <unistd.h>

using namespace wren;
using namespace wren::app;

namespace {

void typeInto(Opened& w, const char* name, const QString& text) {
    QLineEdit& line = w.line(name);
    line.setFocus();
    line.selectAll();
    QTest::keyClick(&line, Qt::Key_Delete);
    QTest::keyClicks(&line, text);
}

/// Keys only: Ctrl+N, the entries by Tab, Return.
void makeByKeyboard(Opened& w, const QStringList& entries, bool left) {
    QTest::keyClick(&w.window, Qt::Key_N, Qt::ControlModifier);
    auto* page = w.window.findChild<NewBoard*>();
    REQUIRE(QTest::qWaitFor([&] { return page->isVisible(); }, 2000));
    for (const QString& text : entries) {
        QWidget* here = QApplication::focusWidget();
        REQUIRE(qobject_cast<QLineEdit*>(here));
        qobject_cast<QLineEdit*>(here)->selectAll();
        if (text.isEmpty()) {
            QTest::keyClick(here, Qt::Key_Delete);
        } else {
            QTest::keyClicks(here, text);
        }
        QTest::keyClick(here, Qt::Key_Tab);
    }
    if (left) {
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Space);
    }
    QTest::keyClick(&w.line("new.frets"), Qt::Key_Return);
    w.settle();
    CHECK_FALSE(page->isVisible());
}

void dragHandle(Opened& w, const QString& what, QPoint by) {
    auto* ruler = w.window.findChild<RulerBand*>();
    std::optional<QPoint> at; // of several the topmost
    for (const Handle& h : ruler->handles()) {
        if (h.what == what && (!at || h.at.y() < at->y())) {
            at = h.at.toPoint();
        }
    }
    INFO(what.toStdString());
    REQUIRE(at);
    QTest::mousePress(ruler, Qt::LeftButton, Qt::NoModifier, *at);
    for (int i = 1; i <= 4; ++i) {
        QTest::mouseMove(ruler, *at + by * i / 4);
        QTest::qWait(15);
    }
    QTest::mouseRelease(ruler, Qt::LeftButton, Qt::NoModifier, *at + by);
    w.settle();
}

} // namespace

TEST_CASE("Three boards from nothing to posted programs, by keyboard", "[app][new]") {
    struct Wanted {
        QStringList entries; ///< name, strings, scale, treble scale, square at, frets
        bool left;
        std::size_t slots;
        double bassScale;
    };
    const std::vector<Wanted> boards{
        {{"Siskin", "6", "25 1/2 in", "", "7", "22"}, false, 22, 647.7},
        {{"Twite", "7", "686", "648", "8", "24"}, true, 24, 686},
        {{"Dunlin", "4", "864", "", "nut", "0"}, false, 0, 864}};
    Opened w{QString()};
    for (const Wanted& b : boards) {
        INFO(b.entries[0].toStdString());
        QElapsedTimer time;
        time.start();
        makeByKeyboard(w, b.entries, b.left);
        const Derived& d = w.derived();
        CHECK(d.project.name == b.entries[0].toStdString());
        CHECK(d.project.board.scaleLength == Approx(b.bassScale));
        CHECK(d.project.board.fanned() == !b.entries[3].isEmpty());
        CHECK((d.project.board.hand == Hand::left) == b.left);
        CHECK(d.board->slots().size() == b.slots);
        REQUIRE(d.proofOf(Role::board));
        CHECK(d.proofOf(Role::board)->passed);
        CHECK_FALSE(hasStop(d.findings));
        const std::string out = b.entries[0].toStdString();
        CHECK(w.post(QString::fromStdString((w.folder / out).string())));
        CHECK(std::filesystem::exists(w.folder / out / "sheets/01-fretboard-face-up.pdf"));
        CHECK(std::filesystem::exists(w.folder / out / "models/fretboard.step"));
        CHECK(time.elapsed() < 60000); // proved and posted in under a minute
        const QString file = QString::fromStdString((w.folder / (out + ".wren")).string());
        CHECK(w.save(file)); // else the next new board would ask
    }
}

TEST_CASE("A new board that cannot be is told, and made only when it can", "[app][new][failure]") {
    Opened w;
    const Project before = w.window.document().project();
    QTest::keyClick(&w.window, Qt::Key_N, Qt::ControlModifier);
    auto* page = w.window.findChild<NewBoard*>();
    REQUIRE(page->isVisible());
    typeInto(w, "new.scale", "12 parsecs");
    QTest::keyClick(&w.line("new.scale"), Qt::Key_Return);
    CHECK(page->isVisible());
    CHECK_FALSE(w.button(QStringLiteral("Make it (Return)")).isEnabled());
    CHECK(w.foot().contains(QLatin1String("parsecs")));
    typeInto(w, "new.scale", "628");
    CHECK(w.button(QStringLiteral("Make it (Return)")).isEnabled());
    QTest::keyClick(page, Qt::Key_Escape);
    CHECK_FALSE(page->isVisible());
    CHECK(w.window.document().project() == before);
}

TEST_CASE("Every number of a project has its place in the ledger", "[app][ledger]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    std::set<std::string> seen;
    for (Station s : {Station::board, Station::blank, Station::tools, Station::cuts, Station::neck,
                      Station::whole, Station::blank, Station::cuts, Station::body, Station::blank,
                      Station::cuts}) { // the parts' own once they are in hand
        w.sheet().setStation(s);
        const auto leaves = w.window.findChild<Ledger*>()->leafNames().size();
        for (int leaf = 0; leaf < leaves; ++leaf) {
            w.sheet().setLeaf(leaf);
            QTest::qWait(20);
            for (ValueField* f : w.window.findChildren<ValueField*>()) {
                seen.insert(f->path().toStdString());
            }
        }
    }
    const auto take = [&](Station s, const std::string& path) {
        w.sheet().setStation(s);
        w.sheet().take(path);
        QTest::qWait(20);
        for (ValueField* f : w.window.findChildren<ValueField*>()) {
            seen.insert(f->path().toStdString());
        }
    };
    take(Station::body, "body.outline.0");
    take(Station::neck, "head.outline.0");
    for (const Feature& f : featuresOf(w.window.document().project())) {
        take(f.part == Role::board  ? Station::board
             : f.part == Role::neck ? Station::neck
                                    : Station::body,
             f.path);
    }
    // A clamp's part and setup are those it was added in; it stands where that part is in hand.
    const auto ofOther = [&](const std::string& path) {
        if (path.rfind("clamps.", 0) != 0) {
            return false;
        }
        const Clamp& c = w.window.document().project().clamps.at(std::stoul(path.substr(7)));
        const bool inHand =
            c.part == "fretboard" || c.part == "neck" || c.part == w.sheet().pieceInHand()->name();
        return !inHand || path.find(".part") != std::string::npos ||
               path.find(".side") != std::string::npos;
    };
    for (const Key& key : keysOf(w.window.document().project())) {
        const bool otherBit = key.path.rfind("bits.", 0) == 0 && key.path.rfind("bits.0.", 0) != 0;
        const bool otherNode = key.path.find("outline.") != std::string::npos &&
                               key.path.rfind("body.outline.0.", 0) != 0 &&
                               key.path.rfind("head.outline.0.", 0) != 0;
        // A place is typed as its two numbers; a traced section is taken from its picture.
        const bool told = key.kind == KeyKind::place || key.beforeLists ||
                          key.path == "neck.traces" || key.path.rfind("cavity.outline", 0) == 0;
        if (!otherBit && !otherNode && !told && !ofOther(key.path) &&
            key.path != "board.overhang") { // said by its two sides
            INFO(key.path);
            CHECK(seen.count(key.path) == 1);
        }
    }
}

TEST_CASE("Leaves are turned by key, and each station remembers its own", "[app][ledger]") {
    Opened w;
    QTest::keyClick(&w.window, Qt::Key_Right, Qt::AltModifier);
    CHECK(w.sheet().leaf() == 1);
    w.settle();
    CHECK(w.line("wire.measured_slot").isVisible());
    w.sheet().setStation(Station::cuts);
    CHECK(w.sheet().leaf() == 0);
    w.sheet().setStation(Station::board);
    CHECK(w.sheet().leaf() == 1);
    w.type("wire.measured_slot", "(0.59+0.60+0.61)/3");
    CHECK(*w.window.document().project().board.wire.measuredSlot == Approx(0.60));
    QTest::keyClick(&w.window, Qt::Key_Left, Qt::AltModifier);
    QTest::keyClick(&w.window, Qt::Key_Left, Qt::AltModifier);
    CHECK(w.sheet().leaf() == 3); // round and round
}

TEST_CASE("The drawing is the editor: handles change what they stand for", "[app][handles]") {
    Opened w;
    w.window.document().set(QStringLiteral("markers.frets"), QStringLiteral("3 12"));
    w.settle();
    struct Pull {
        const char* what;
        QPoint by;
        const char* key;
        int grows; ///< +1 the number grows, -1 it shrinks
    };
    const std::vector<Pull> pulls{
        {"width at the nut", {0, -4}, "board.nut_width", 1},
        {"width at the last fret", {0, 5}, "board.last_fret_width", -1},
        {"length past the last fret", {8, 0}, "board.past_last_fret", 1},
        {"scale length", {-12, 0}, "board.scale", -1},
        {"how far apart the markers at the octave are", {0, -6}, "markers.spread", 1},
        {"thickness on the centreline", {0, -3}, "board.thickness", 1},
        {"radius of the face", {0, -3}, "board.radius", 1}};
    for (const Pull& pull : pulls) {
        INFO(pull.what);
        const Key key = keyAt(w.window.document().project(), pull.key);
        const Project start = w.window.document().project();
        const double before = std::get<double>(key.get(start));
        dragHandle(w, QString::fromUtf8(pull.what), pull.by);
        const double after = std::get<double>(key.get(w.window.document().project()));
        CHECK((after - before) * pull.grows > 0.05);
        // However often it moved, it is one step.
        w.window.document().undo();
        CHECK(w.window.document().project() == start);
        w.settle();
    }
}

TEST_CASE("Both scales of a fan are dragged by their own strings", "[app][handles]") {
    Opened w;
    w.window.document().set(QStringLiteral("board.end"), QStringLiteral("slanted"));
    w.window.document().set(QStringLiteral("board.treble_scale"), QStringLiteral("600"));
    w.settle();
    const Fretboard before = w.window.document().project().board;
    dragHandle(w, QStringLiteral("scale of the treble string"), {10, 0});
    const Fretboard after = w.window.document().project().board;
    CHECK(*after.trebleScale > *before.trebleScale + 2);
    CHECK(after.scaleLength == before.scaleLength);
}

TEST_CASE("A tab is dragged along its edge and to the other one", "[app][handles]") {
    Opened w;
    w.sheet().setStation(Station::cuts);
    w.settle();
    const std::vector<Tab> before = w.derived().boardPlan()->tabs;
    REQUIRE(before.size() == 6);
    dragHandle(w, QStringLiteral("this tab"), {30, 0});
    const std::vector<Tab> after = w.derived().boardPlan()->tabs;
    REQUIRE(after.size() == 6);
    int moved = 0;
    for (std::size_t i = 0; i < after.size(); ++i) {
        moved += std::abs(after[i].x - before[i].x) > 5 ? 1 : 0;
    }
    CHECK(moved == 1);
    CHECK_FALSE(w.window.document().project().cut.tabPlaces.empty());
    CHECK(w.derived().proofOf(Role::board)->passed);
    w.window.document().undo();
    w.settle();
    CHECK(w.window.document().project().cut.tabPlaces.empty());
}

TEST_CASE("A drag beyond what can be is told, and the last good number holds", "[app][handles]") {
    Opened w;
    dragHandle(w, QStringLiteral("length past the last fret"), {-60, 0});
    CHECK(w.finding().contains(QLatin1String("board.past_last_fret")));
    CHECK(w.window.document().project().board.pastLastFret >= 2);
}

TEST_CASE("The drawer is edited in the window", "[app][tools]") {
    Opened w;
    w.sheet().setStation(Station::tools);
    auto* tools = w.window.findChild<ToolsBand*>();
    REQUIRE(tools->isVisible());
    tools->setFocus();
    QTest::keyClick(tools, Qt::Key_Right);
    CHECK(w.sheet().bitInHand() == 1);
    QTest::mouseClick(tools, Qt::LeftButton, Qt::NoModifier, tools->placeOf(4).center().toPoint());
    CHECK(w.sheet().bitInHand() == 4);
    const std::size_t before = w.window.document().project().bits.size();
    w.settle();
    w.click(QStringLiteral("Another like this"));
    w.settle();
    REQUIRE(w.window.document().project().bits.size() == before + 1);
    CHECK(w.sheet().bitInHand() == static_cast<int>(before));
    const std::string key = "bits." + std::to_string(before) + ".diameter";
    w.type(key.c_str(), "8");
    CHECK(w.window.document().project().bits.back().diameter == 8);
    w.click(QStringLiteral("Take it out"));
    w.settle();
    CHECK(w.window.document().project().bits.size() == before);
    CHECK(w.sheet().bitInHand() == static_cast<int>(before) - 1);
    w.sheet().setLeaf(1);
    w.type("machine.travel_x", "300");
    CHECK(w.window.document().project().machine.travel.x == 300);
}

TEST_CASE("Exports and test slots are written from the window", "[app][export]") {
    Opened w;
    const auto out = [&](const char* name) {
        return QString::fromStdString((w.folder / name).string());
    };
    QSignalSpy spy(&w.window, &Window::exported);
    for (const char* format : {"csv", "pdf", "svg", "dxf", "step", "stl"}) {
        INFO(format);
        const QString file = out("board.") + QLatin1String(format);
        w.window.exportTo(file, QLatin1String(format), QStringLiteral("a3"));
        REQUIRE(spy.wait(30000));
        CHECK(spy.takeFirst().at(0).toBool());
        CHECK(QFile(file).size() > 500);
    }
    w.window.testSlotsTo(out("test"));
    REQUIRE(spy.wait(30000));
    CHECK(spy.takeFirst().at(0).toBool());
    CHECK(QFile::exists(out("test/test-slots.nc")));
    w.window.exportTo(QStringLiteral("/proc/nowhere/x.svg"), QStringLiteral("svg"),
                      QStringLiteral("a4"));
    REQUIRE(spy.wait(30000));
    CHECK_FALSE(spy.takeFirst().at(0).toBool());
    CHECK(w.finding().contains(QLatin1String("could not be written")));
}

TEST_CASE("A long deed shows its progress and can be stopped", "[app][export]") {
    Opened w;
    w.window.document().set(QStringLiteral("board.far_radius"), QStringLiteral("400"));
    w.settle();
    QSignalSpy spy(&w.window, &Window::exported);
    const QString file = QString::fromStdString((w.folder / "cone.step").string());
    w.window.exportTo(file, QStringLiteral("step"), QStringLiteral("a4"));
    QPushButton& stop = w.button(QStringLiteral("stop it"));
    CHECK(stop.isVisible());
    // A second one has to wait.
    w.window.exportTo(file, QStringLiteral("stl"), QStringLiteral("a4"));
    REQUIRE(spy.size() == 1);
    CHECK_FALSE(spy.takeFirst().at(0).toBool());
    // At once: how far it would be a moment later is the computer's affair.
    QTest::mouseClick(&stop, Qt::LeftButton);
    REQUIRE(spy.wait(30000));
    CHECK_FALSE(spy.takeFirst().at(0).toBool());
    CHECK_FALSE(QFile::exists(file));
    CHECK_FALSE(stop.isVisible());
}

TEST_CASE("Unsaved work outlives the window it was done in", "[app][autosave]") {
    const Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(test::plainWith(), file);
    const auto kept = [] {
        return QDir(Autosave::folder()).entryList({QStringLiteral("*.unsaved")}).size();
    };
    REQUIRE(kept() == 0);
    QString copy;
    {
        Opened w(QString::fromStdString(file));
        w.window.document().set(QStringLiteral("board.scale"), QStringLiteral("633"));
        REQUIRE(QTest::qWaitFor([&] { return kept() == 1; }, 5000));
        CHECK_FALSE(Autosave::find(QString::fromStdString(file))); // its owner lives
        // What a process that is killed leaves: the file, and no one who holds its lock.
        const QString mine =
            Autosave::folder() + QLatin1Char('/') +
            QDir(Autosave::folder()).entryList({QStringLiteral("*.unsaved")}).constFirst();
        copy = Autosave::folder() + QStringLiteral("/killed.unsaved");
        REQUIRE(QFile::copy(mine, copy));
        w.window.document().undo();
        CHECK(QTest::qWaitFor([&] { return kept() == 1; }, 5000)); // nothing unsaved any more
    }
    CHECK(Autosave::find(QString::fromStdString(file)));
    {
        Opened again(QString::fromStdString(file));
        CHECK(again.window.document().project().board.scaleLength == 633);
        CHECK(again.window.document().changedSinceSave());
        CHECK(again.finding().contains(QLatin1String("is back")));
        CHECK(loadProject(file).board.scaleLength == 620); // the file itself was not touched
        again.window.document().undo();
        CHECK(again.window.document().project().board.scaleLength == 620);
        again.window.document().redo();
        again.settle();
        CHECK(again.save(QString::fromStdString(file)));
        CHECK(loadProject(file).board.scaleLength == 633);
    }
    CHECK(kept() == 0);
    CHECK_FALSE(Autosave::find(QString::fromStdString(file)));
}

TEST_CASE("Work let go while it is being kept leaves nothing behind", "[app][autosave]") {
    Opened w;
    auto* keeper = w.window.findChild<Autosave*>();
    for (const char* scale : {"630", "631", "632"}) {
        w.window.document().set(QStringLiteral("board.scale"), QLatin1String(scale));
        // The moment its writing begins: the timer has fired, the file is not yet there.
        bool begun = false;
        while (!begun) {
            QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
            begun = !keeper->waiting();
        }
        keeper->letGo();
        REQUIRE(QTest::qWaitFor([&] { return keeper->idle(); }, 5000));
        CHECK_FALSE(QFile::exists(keeper->keptIn()));
        CHECK_FALSE(QFile::exists(keeper->keptIn() + QStringLiteral(".lock")));
    }
}

// Not a test of its own: what the next one starts as another process.
TEST_CASE("(a window that is killed with work unsaved)", "[.killed]") {
    if (!qEnvironmentVariableIsSet("WREN_KILLED_FILE")) {
        return; // asked for by hand
    }
    Opened w(qEnvironmentVariable("WREN_KILLED_FILE"));
    w.window.document().set(QStringLiteral("board.scale"), QStringLiteral("641"));
    auto* keeper = w.window.findChild<Autosave*>();
    REQUIRE(QTest::qWaitFor([&] { return QFile::exists(keeper->keptIn()); }, 5000));
    ::kill(::getpid(), SIGKILL);
}

TEST_CASE("Work survives a process that is killed", "[app][autosave]") {
    application();
    const Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(test::plainWith(), file);
    QProcess other;
    QProcessEnvironment env = QProcessEnvironment::systemEnvironment();
    env.insert(QStringLiteral("WREN_KILLED_FILE"), QString::fromStdString(file));
    other.setProcessEnvironment(env);
    other.start(QCoreApplication::applicationFilePath(), {QStringLiteral("[.killed]")});
    REQUIRE(other.waitForFinished(30000));
    REQUIRE(other.exitStatus() == QProcess::CrashExit);
    Opened again(QString::fromStdString(file));
    CHECK(again.window.document().project().board.scaleLength == 641);
    CHECK(again.finding().contains(QLatin1String("is back")));
    CHECK(loadProject(file).board.scaleLength == 620);
}

TEST_CASE("Work that never had a file comes back when a window opens without one",
          "[app][autosave]") {
    QDir().mkpath(Autosave::folder());
    {
        Opened w{QString()};
        w.window.document().set(QStringLiteral("board.frets"), QStringLiteral("19"));
        keepAsOfAKilledWindow();
        w.window.document().undo();
    }
    // A damaged one beside it is nobody's work.
    writeFileSafely((Autosave::folder() + QStringLiteral("/torn.unsaved")).toStdString(), "{\"fi");
    Opened again{QString()};
    REQUIRE(again.window.recover());
    CHECK(again.window.document().project().board.frets == 19);
    CHECK_FALSE(again.window.recover());
    again.window.document().undo();
    QFile::remove(Autosave::folder() + QStringLiteral("/torn.unsaved"));
}
