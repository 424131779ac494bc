#include "pictures.h"

#include "machine_panel.h"
#include "window.h"

#include <QDir>
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
    sheet.setStation(Station::machine);
    take(QStringLiteral("machine"));
    sheet.setStation(Station::book);
    take(QStringLiteral("book"));
    window.startNew();
    take(QStringLiteral("new"));
    return files;
}

} // namespace wren::app
