#include "pictures.h"

#include "machine_panel.h"
#include "window.h"

#include <QDir>

#include <functional>

#include <QElapsedTimer>
#include <QEventLoop>
#include <QPixmap>
#include <QTimer>

namespace wren::app {
namespace {

constexpr int patience = 20000; ///< ms

void wait(int milliseconds) {
    QEventLoop loop;
    QTimer::singleShot(milliseconds, &loop, &QEventLoop::quit);
    loop.exec();
}

void settle(Window& window) {
    QElapsedTimer timer;
    timer.start();
    do {
        wait(30);
    } while (!window.settled() && timer.elapsed() < patience);
    wait(60);
}

/// The neck's leaves, its cuts, a moment on each side, its proof; and the board in hand again.
void takeNeck(Sheet& sheet, const std::function<void(const QString&)>& take) {
    sheet.setStation(Station::neck);
    take(QStringLiteral("neck"));
    int leaf = 0;
    for (const char* name : {"neck", "head", "tuners", "rod", "joint"}) {
        sheet.setLeaf(leaf++);
        if (leaf > 1) {
            take(QString::fromLatin1(name));
        }
    }
    sheet.setLeaf(0);
    sheet.setStation(Station::blank);
    take(QStringLiteral("neck-blank"));
    sheet.setStation(Station::cuts);
    take(QStringLiteral("neck-cuts"));
    sheet.setLeaf(2);
    take(QStringLiteral("neck-bits"));
    sheet.setLeaf(0);
    const double day = sheet.derived()->seconds();
    sheet.setMoment(day * 0.52);
    take(QStringLiteral("neck-face"));
    sheet.setMoment(day * 0.85);
    take(QStringLiteral("neck-back"));
    sheet.setShaded(true);
    take(QStringLiteral("neck-wood"));
    sheet.setShaded(false);
    sheet.endScrub();
    sheet.setStation(Station::proof);
    take(QStringLiteral("neck-proof"));
    sheet.setStation(Station::board);
}

} // namespace

QStringList takePictures(Window& window, const QString& folder) {
    QDir().mkpath(folder);
    QStringList files;
    const auto take = [&](const QString& name) {
        settle(window);
        const QString file = folder + QLatin1Char('/') + name + QStringLiteral(".png");
        window.grab().save(file);
        files << file;
    };
    Sheet& sheet = window.sheet();
    settle(window);
    sheet.setCursor(229.4);
    sheet.setStation(Station::board);
    take(QStringLiteral("board"));
    sheet.setLeaf(1);
    take(QStringLiteral("slots"));
    sheet.setLeaf(2);
    take(QStringLiteral("markers"));
    sheet.setLeaf(0);
    sheet.setStation(Station::blank);
    take(QStringLiteral("blank"));
    sheet.setStation(Station::tools);
    sheet.setBitInHand(9);
    take(QStringLiteral("tools"));
    sheet.setLeaf(1);
    take(QStringLiteral("router"));
    sheet.setStation(Station::cuts);
    take(QStringLiteral("cuts"));
    sheet.setLeaf(1);
    take(QStringLiteral("other-cuts"));
    sheet.setLeaf(2);
    take(QStringLiteral("choices"));
    sheet.setLeaf(0);
    const double day = sheet.derived() ? sheet.derived()->seconds() : 0;
    sheet.setMoment(day * 0.62);
    take(QStringLiteral("scrubbing"));
    sheet.setShaded(true);
    take(QStringLiteral("wood"));
    sheet.setShaded(false);
    sheet.endScrub();
    sheet.setStation(Station::proof);
    take(QStringLiteral("proof"));
    if (sheet.derived() && sheet.derived()->neck) {
        takeNeck(sheet, take);
    }
    sheet.setStation(Station::machine);
    take(QStringLiteral("machine"));
    sheet.setStation(Station::book);
    take(QStringLiteral("book"));
    window.startNew();
    take(QStringLiteral("new"));
    return files;
}

} // namespace wren::app
