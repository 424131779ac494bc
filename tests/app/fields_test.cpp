// Fields, folders and files as a maker meets them in the window.

#include "opened.h"

#include "numbers/ledger.h"
#include "pages/new_board.h"

#include "base/files.h"
#include "job/store.h"

#include <QFileDialog>
#include <QScrollArea>
#include <QTimer>

using namespace wren;
using namespace wren::app;

TEST_CASE("What is typed into a field that shows a word replaces the word", "[app][fields]") {
    Opened w;
    w.sheet().setStation(Station::cuts);
    // "auto" keys show the recipe's own figure or a word; the blank's length follows the part.
    w.sheet().setStation(Station::board);
    QLineEdit& edit = w.line("board.treble_scale");
    const QString word = edit.text();
    REQUIRE_FALSE(word.contains(QLatin1Char('6')));
    QTest::mouseClick(&edit, Qt::LeftButton, {}, QPoint(4, edit.height() / 2));
    QTest::qWait(30);
    QTest::keyClicks(&edit, QStringLiteral("61"));
    // Something is worked out while the maker is still typing.
    Q_EMIT w.window.document().changed();
    CHECK(edit.text() == QLatin1String("61"));
    QTest::keyClicks(&edit, QStringLiteral("0"));
    CHECK(edit.text() == QLatin1String("610"));
    QTest::keyClick(&edit, Qt::Key_Return);
    CHECK(w.window.document().project().board.trebleScale == 610);
    w.settle();
}

TEST_CASE("Return makes the new board from every field of its page", "[app][fields]") {
    Opened w;
    w.window.startNew();
    auto* page = w.window.findChild<NewBoard*>();
    REQUIRE(page);
    w.line("new.name").setText(QStringLiteral("By Return"));
    for (QPushButton* b : page->findChildren<QPushButton*>(QStringLiteral("choice"))) {
        b->setFocus();
        QTest::keyClick(b, Qt::Key_Return);
    }
    w.settle();
    CHECK(w.window.document().project().name == "By Return");
}

TEST_CASE("Posting into a folder that is not there makes it", "[app][fields]") {
    Opened w;
    const QString fresh = QString::fromStdString((w.folder / "new" / "programs here").string());
    QTimer::singleShot(200, [&] {
        auto* dialog = w.window.findChild<QFileDialog*>(QStringLiteral("folder"));
        REQUIRE(dialog);
        auto* line = dialog->findChild<QLineEdit*>();
        REQUIRE(line);
        line->setText(fresh);
        QTest::keyClick(line, Qt::Key_Return);
    });
    QSignalSpy posted(&w.window, &Window::posted);
    QTest::keyClick(&w.window, Qt::Key_P, Qt::ControlModifier);
    REQUIRE((!posted.isEmpty() || posted.wait(60000)));
    CHECK(posted.at(0).at(0).toBool());
    CHECK(std::filesystem::exists(w.folder / "new" / "programs here" / "report.json"));
}

TEST_CASE("Programs of an older design beside the file are said to be old", "[app][fields]") {
    const Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(test::plainWith(), file);
    {
        Opened w(QString::fromStdString(file));
        REQUIRE(w.post(QString::fromStdString((folder / "out").string())));
        w.sheet().setStation(Station::machine);
        QTest::qWait(300);
        CHECK_FALSE(w.finding().contains(QLatin1String("older design")));
        w.sheet().setStation(Station::board);
        w.type("board.scale", "633");
        w.sheet().setStation(Station::proof);
        CHECK(QTest::qWaitFor([&] { return w.finding().contains(QLatin1String("older design")); },
                              5000));
        REQUIRE(w.save(QString::fromStdString(file)));
    }
    Opened again(QString::fromStdString(file));
    CHECK(QTest::qWaitFor([&] { return again.finding().contains(QLatin1String("older design")); },
                          5000));
}

TEST_CASE("Unsaved work on a file comes back when a window opens without one", "[app][autosave]") {
    const Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(test::plainWith(), file);
    QDir().mkpath(Autosave::folder());
    {
        Opened w(QString::fromStdString(file));
        w.window.document().set(QStringLiteral("board.scale"), QStringLiteral("633"));
        keepAsOfAKilledWindow();
        w.window.document().undo();
    }
    Opened again{QString()};
    REQUIRE(again.window.recover());
    CHECK(again.window.document().project().board.scaleLength == 633);
    CHECK(again.window.document().file() == QString::fromStdString(file));
    again.window.document().undo();
    CHECK(again.window.document().project().board.scaleLength == 620);
}

TEST_CASE("The worst place of a proof is told and gone to; the programs scroll", "[app][proof]") {
    Opened w;
    w.sheet().setStation(Station::proof);
    w.sheet().setLeaf(0);
    QTest::qWait(30);
    REQUIRE(w.derived().proofOf(Role::board));
    const double x = w.derived().proofOf(Role::board)->excessAt.x;
    w.sheet().setCursor(x > 200 ? 50 : 400);
    REQUIRE(QTest::qWaitFor([&] { return w.stepsToWorst().size() == 2; }, 10000));
    QTest::mouseClick(w.stepsToWorst()[1], Qt::LeftButton);
    CHECK(w.sheet().cursor() == Approx(x).margin(0.6));
    w.sheet().setLeaf(1);
    const auto scrolled = [&] {
        return w.window.findChild<QScrollArea*>(QStringLiteral("programs"));
    };
    REQUIRE(QTest::qWaitFor([&] { return scrolled() != nullptr; }, 10000));
    QTest::qWait(30);
    auto* list = scrolled();
    CHECK(list->height() <= w.window.height() / 2);
    CHECK(list->findChild<QLabel*>()->text().contains(
        QString::fromStdString(w.derived().programs.back().program.file)));
}
