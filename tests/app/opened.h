#pragma once

// The real window on a real (virtual) display, and what tests do with it.

#include "frame/findings_band.h"
#include "frame/theme.h"
#include "frame/window.h"
#include "numbers/value_field.h"
#include "state/autosave.h"

#include "support.h"

#include <QApplication>
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QTest>
#include <QThreadPool>
#include <QTimer>

#include <algorithm>
#include <ctime>
#include <fstream>
#include <sstream>
#include <string>
#include <unistd.h>
#include <vector>

namespace wren::app {

using test::Folder;

inline QApplication& application() {
    static int argc = 1;
    static char name[] = "app-tests";
    static char* argv[] = {name, nullptr};
    static QApplication* app = [] {
        QStandardPaths::setTestModeEnabled(true);
        auto* a = new QApplication(argc, argv);       // lives as long as the tests
        QDir(Autosave::folder()).removeRecursively(); // what an earlier run left behind
        dress();
        return a;
    }();
    return *app;
}

/// Waits for the only window's unsaved copy and keeps it as one that was killed leaves it.
inline void keepAsOfAKilledWindow() {
    const auto names = [] {
        return QDir(Autosave::folder()).entryList({QStringLiteral("*.unsaved")});
    };
    REQUIRE(QTest::qWaitFor([&] { return names().size() == 1; }, 5000));
    REQUIRE(QFile::copy(Autosave::folder() + QLatin1Char('/') + names().constFirst(),
                        Autosave::folder() + QStringLiteral("/killed.unsaved")));
}

/// ms this thread has computed, and ms it was ready to but had no processor.
struct ThreadTime {
    double computed = 0;
    double queued = 0;

    static ThreadTime now() {
        timespec t{};
        ::clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
        double onProcessor = 0;
        double queued = 0; // stays 0 where the system does not tell
        std::ifstream("/proc/thread-self/schedstat") >> onProcessor >> queued;
        return {static_cast<double>(t.tv_sec) * 1e3 + static_cast<double>(t.tv_nsec) / 1e6,
                queued / 1e6};
    }
};

/// ms for which the host of a virtual machine has kept each processor for its other guests
/// (proc(5), /proc/stat, "steal"); nothing on a machine of its own.
inline std::vector<double> keptByTheHost() {
    const double tick = 1e3 / static_cast<double>(::sysconf(_SC_CLK_TCK));
    std::vector<double> kept;
    std::ifstream stat("/proc/stat");
    for (std::string line; std::getline(stat, line) && line.rfind("cpu", 0) == 0;) {
        std::istringstream words(line);
        std::string name;
        double value = 0; // user, nice, system, idle, iowait, irq, softirq, steal
        words >> name;
        for (int i = 0; i < 8; ++i) {
            words >> value;
        }
        if (name != "cpu") {
            kept.push_back(words ? value * tick : 0);
        }
    }
    return kept;
}

/// The most any one processor was kept between two moments.
inline double keptBetween(const std::vector<double>& before, const std::vector<double>& after) {
    double most = 0;
    for (std::size_t i = 0; i < std::min(before.size(), after.size()); ++i) {
        most = std::max(most, after[i] - before[i]);
    }
    return most;
}

/// Measures how long the interface thread is ever kept from answering: in its own computing time,
/// which the threads it shares the processor with cannot lengthen, and by the clock, less the time
/// in which those, or the host's other guests, had the processor: what it waited for by its own
/// choice.
class Stopwatch : public QObject {
public:
    Stopwatch() {
        timer_.setInterval(0);
        timer_.setTimerType(Qt::PreciseTimer);
        connect(&timer_, &QTimer::timeout, this, [this] {
            const ThreadTime now = ThreadTime::now();
            if (gap_.isValid()) {
                longest_ = std::max(longest_, now.computed - last_.computed);
                const double gap = gap_.nsecsElapsed() / 1e6 - (now.queued - last_.queued);
                if (gap > 20) { // the host tells in ticks of 10 ms: no use to ask for less
                    away_ = std::max(away_, gap - keptBetween(kept_, keptByTheHost()));
                } else {
                    away_ = std::max(away_, gap);
                }
            }
            last_ = now;
            kept_ = keptByTheHost();
            gap_.start();
        });
        timer_.start();
    }
    void restart() {
        longest_ = 0;
        away_ = 0;
    }
    double longest() const { return longest_; } ///< ms of computing between two answers
    double away() const { return away_; }       ///< ms by the clock, less what others took

private:
    QTimer timer_;
    QElapsedTimer gap_;
    ThreadTime last_;
    std::vector<double> kept_;
    double longest_ = 0;
    double away_ = 0;
};

/// How much slower this machine draws text than the one on which the promised times are kept, at
/// least 1: a slow machine is no fault of the window's.
inline double slownessHere() {
    constexpr double there = 9.7; // ms, measured on two cores of 2.5 GHz with nothing else to do
    double best = 1e9;
    for (int round = 0; round < 7; ++round) {
        QImage paper(800, 600, QImage::Format_ARGB32_Premultiplied);
        const double before = ThreadTime::now().computed;
        QPainter p(&paper);
        paper.fill(Qt::white);
        for (int i = 0; i < 300; ++i) {
            p.drawText(QPoint(i % 7 * 100, 12 + 2 * i), QStringLiteral("fret %1 at 628.65").arg(i));
            p.drawEllipse(QPointF(i, i), 20, 20);
        }
        best = std::min(best, ThreadTime::now().computed - before);
    }
    return std::max(1.0, best / there);
}

/// An open window with the demo, settled.
struct Opened {
    Folder folder;
    Window window;

    explicit Opened(const QString& file = QString::fromStdString(test::plainFile))
        : window((application(), folder / "book.sqlite")) {
        window.resize(1280, 800);
        window.show();
        REQUIRE(QTest::qWaitForWindowActive(&window, 5000));
        if (!file.isEmpty()) {
            REQUIRE(window.open(file));
        }
        settle();
    }

    /// A test's window goes without being closed, as in a crash; what it kept must not come back in
    /// the next test.
    ~Opened() {
        QThreadPool::globalInstance()->waitForDone();
        QFile::remove(window.findChild<Autosave*>()->keptIn());
    }
    Opened(const Opened&) = delete;
    Opened& operator=(const Opened&) = delete;

    void settle() {
        REQUIRE(QTest::qWaitFor([this] { return window.settled(); }, 120000));
        QTest::qWait(20);
    }
    const Derived& derived() { return *window.sheet().derived(); }
    Sheet& sheet() { return window.sheet(); }

    /// The field of a key, on whichever leaf of the station's ledger it is.
    QLineEdit& line(const char* path) {
        for (int leaf = -1; leaf < 3; ++leaf) {
            if (leaf >= 0) {
                sheet().setLeaf(leaf);
            }
            QTest::qWait(20); // a leaf is built in a turn of its own
            if (auto* edit = window.findChild<QLineEdit*>(QString::fromLatin1(path))) {
                return *edit;
            }
        }
        FAIL("no field for " << path);
        return *window.findChild<QLineEdit*>();
    }
    /// Types into the field of a key the way a person does.
    void type(const char* path, const char* text) {
        QLineEdit& edit = line(path);
        edit.setFocus();
        edit.selectAll();
        QTest::keyClick(&edit, Qt::Key_Delete);
        QTest::keyClicks(&edit, QString::fromUtf8(text));
        QTest::keyClick(&edit, Qt::Key_Return);
        settle();
    }
    QPushButton& button(const QString& text) {
        for (QPushButton* b : window.findChildren<QPushButton*>()) {
            if (b->text() == text) {
                return *b;
            }
        }
        FAIL("no button " + text.toStdString());
        return *window.findChild<QPushButton*>();
    }
    void click(const QString& text) { QTest::mouseClick(&button(text), Qt::LeftButton); }
    QString foot() {
        QString all;
        for (QLabel* l : window.findChildren<QLabel*>()) {
            all += l->text() + QLatin1Char('\n');
        }
        return all;
    }
    bool post(const QString& to) {
        QSignalSpy spy(&window, &Window::posted);
        window.postTo(to);
        REQUIRE((!spy.isEmpty() || spy.wait(120000)));
        return spy.at(0).at(0).toBool();
    }
    bool save(const QString& to) {
        QSignalSpy spy(&window, &Window::saved);
        window.saveTo(to);
        REQUIRE((!spy.isEmpty() || spy.wait(5000)));
        return spy.at(0).at(0).toBool();
    }
    /// What goes to the worst places of a proof, as shown.
    QList<QPushButton*> stepsToWorst() {
        QList<QPushButton*> out;
        for (QPushButton* b : window.findChildren<QPushButton*>()) {
            if (b->text() == QLatin1String("at (go there)") && b->isVisible()) {
                out << b;
            }
        }
        return out;
    }
    /// What the findings band says: it also stands in its tool tip.
    QString finding() { return window.findChild<FindingsBand*>()->toolTip(); }
};

} // namespace wren::app
