#include "frame/pictures.h"

#include "base/files.h"
#include "exchange/body_drawing.h"
#include "exchange/dxf.h"
#include "frame/window.h"
#include "book/book_page.h"
#include "book/measure_form.h"
#include "numbers/ledger.h"
#include "pages/machine_room.h"
#include "pages/program_desk.h"
#include "ruler/shaded_band.h"
#include "tracing/import_desk.h"
#include "tracing/outline_desk.h"
#include "tracing/trace_desk.h"

#include <QApplication>
#include <QDir>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>

#include <cmath>
#include <functional>
#include <numbers>

#include <QElapsedTimer>
#include <QEventLoop>
#include <QPixmap>
#include <QTemporaryDir>
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

/// Presses at one place of a desk's picture and lets go at another.
void dragOn(PictureDesk* desk, QPointF from, QPointF to) {
    const auto send = [desk](QEvent::Type type, QPointF where) {
        QMouseEvent e(type, where, desk->mapToGlobal(where), Qt::LeftButton, Qt::LeftButton,
                      Qt::NoModifier);
        QApplication::sendEvent(desk, &e);
    };
    send(QEvent::MouseButtonPress, desk->onScreen(from));
    send(QEvent::MouseMove, desk->onScreen(to));
    send(QEvent::MouseButtonRelease, desk->onScreen(to));
}

/// A section as a photograph would show it, laid on the tracing page and traced.
void takeTracing(Window& window, const std::function<void(const QString&)>& take) {
    QImage photo(1500, 800, QImage::Format_RGB32);
    photo.fill(QColor(0x8D, 0x93, 0x8C));
    QPainter p(&photo);
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(QColor(0xC9, 0xA9, 0x74));
    p.setPen(Qt::NoPen);
    p.drawChord(QRectF(330, 210 - 280, 840, 560), 180 * 16, 180 * 16);
    p.setPen(QPen(QColor(0x30, 0x30, 0x30), 2));
    for (int mm = 0; mm <= 50; ++mm) {
        const int x = 250 + mm * 20;
        p.drawLine(x, 720, x, mm % 10 == 0 ? 660 : 690);
    }
    p.end();
    Q_EMIT window.findChild<Ledger*>()->traceWanted();
    auto* tracing = window.findChild<TraceDesk*>();
    tracing->show(photo);
    wait(60);
    dragOn(tracing, {300, 720}, {350, 660});
    dragOn(tracing, {1200, 720}, {1150, 660});
    for (double a : {-90.0, -68.0, -45.0, -15.0, 15.0, 45.0, 68.0, 90.0}) {
        const double r = a * std::numbers::pi / 180;
        const QPointF at(750 + 420 * std::sin(r), 210 + 280 * std::cos(r));
        dragOn(tracing, at, at);
    }
    auto* distance = tracing->findChild<QLineEdit*>(QStringLiteral("trace.distance"));
    distance->setText(QStringLiteral("40"));
    Q_EMIT distance->textEdited(distance->text());
    take(QStringLiteral("trace"));
    Q_EMIT tracing->left();
}

/// The neck's leaves, its cuts, a moment on each side, its proof; and the board in hand again.
void takeNeck(Window& window, const std::function<void(const QString&)>& take) {
    Sheet& sheet = window.sheet();
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
    takeTracing(window, take);
    sheet.setStation(Station::blank);
    take(QStringLiteral("neck-blank"));
    sheet.setLeaf(1);
    take(QStringLiteral("clamps"));
    sheet.setLeaf(2);
    take(QStringLiteral("batch"));
    sheet.setLeaf(0);
    sheet.setStation(Station::cuts);
    take(QStringLiteral("neck-cuts"));
    sheet.setLeaf(2);
    take(QStringLiteral("neck-bits"));
    sheet.setLeaf(3);
    take(QStringLiteral("neck-back-bits"));
    sheet.setLeaf(0);
    const double day = sheet.derived()->seconds();
    sheet.setMoment(day * 0.52);
    take(QStringLiteral("neck-face"));
    sheet.setMoment(day * 0.85);
    take(QStringLiteral("neck-back"));
    sheet.setShaded(true);
    take(QStringLiteral("neck-wood"));
    sheet.endScrub();
    auto* shaded = window.findChild<ShadedBand*>();
    shaded->setLook(ShadedBand::Look::designed);
    take(QStringLiteral("neck-designed"));
    shaded->setLook(ShadedBand::Look::missed);
    take(QStringLiteral("neck-missed"));
    shaded->setLook(ShadedBand::Look::wood);
    sheet.setShaded(false);
    sheet.setStation(Station::neck); // a moment of the day takes its own part in hand
    sheet.setStation(Station::proof);
    take(QStringLiteral("neck-proof"));
    sheet.setStation(Station::board);
}

/// A program under way on a stand-in.
void takeRun(Window& window, const std::function<void(const QString&)>& take) {
    MachineRoom& room = window.machine();
    room.startSimulated(60);
    wait(1500);
    room.send();
    wait(9000);
    take(QStringLiteral("machine-run"));
    QMetaObject::invokeMethod(&room, [&room] { room.stop(); });
    wait(1500);
}

/// A program that cuts straight across the board, held against it.
void takeForeign(Window& window, const std::function<void(const QString&)>& take) {
    const Derived* d = window.sheet().derived();
    if (!d || !d->lies(Role::board)) {
        return;
    }
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("from-elsewhere.nc"));
    const Blank& blank = d->lies(Role::board)->blank;
    std::string text = "G21 G90 G17\nM3 S14000\nG0 Z20\n";
    for (int i = 1; i < 14; ++i) {
        const double x = blank.length * i / 14;
        text += fmt::format("G0 X{0:.2f} Y-8\nG0 Z8\nG1 Z{1:.2f} F300\nG1 Y{2:.2f} F900\nG0 Z20\n",
                            x, i < 8 ? 5.6 : 2.2, blank.width + 8);
    }
    writeFileSafely(file.toStdString(), text + "M5\nM30\n");
    auto* page = window.findChild<ProgramDesk*>();
    bool ready = false;
    QObject::connect(page, &ProgramDesk::ready, page, [&ready] { ready = true; });
    window.openProgram(file);
    for (int i = 0; i < 300 && !ready; ++i) {
        wait(30);
    }
    page->disconnect(page);
    take(QStringLiteral("foreign"));
    Q_EMIT page->left();
}

/// The body's own drawing brought in again, as a drawing of another's would be.
void takeImport(Window& window, const std::function<void(const QString&)>& take) {
    const QTemporaryDir folder;
    const QString drawing = folder.filePath(QStringLiteral("outline.dxf"));
    const Derived& d = *window.sheet().derived();
    writeFileSafely(drawing.toStdString(), toDxf(bodyDrawing(d.body->part, "body")));
    Q_EMIT window.findChild<Ledger*>()->importWanted();
    auto* page = window.findChild<ImportDesk*>();
    page->open(drawing);
    for (int i = 0; i < 100 && !page->canTake(); ++i) {
        wait(30);
    }
    take(QStringLiteral("import"));
    Q_EMIT page->left();
}

/// A body as a photograph would show it, a little askew, on the tracing page and traced.
void takeOutlineTracing(Window& window, const std::function<void(const QString&)>& take) {
    const std::vector<ShapeNode> nodes = Body::bodyShape("tarn");
    const PicturePlace place({1060, 470}, {440, 430}, -260,
                             true); // bridge line, and toward the nut
    QImage photo(1500, 920, QImage::Format_RGB32);
    photo.fill(QColor(0x8D, 0x93, 0x8C));
    QPainter p(&photo);
    p.setRenderHint(QPainter::Antialiasing);
    QPolygonF wood;
    for (Vec2 q : pointsOf(shapeOutline(nodes), 0.05)) {
        const Vec2 at = place.toPicture(q);
        wood << QPointF(at.x, at.y);
    }
    p.setPen(Qt::NoPen);
    p.setBrush(QColor(0xC9, 0xA9, 0x74));
    p.drawPolygon(wood);
    p.end();
    Q_EMIT window.findChild<Ledger*>()->outlineTraceWanted();
    auto* page = window.findChild<OutlineDesk*>();
    page->show(photo);
    wait(60);
    dragOn(page, {0.72 * 1500, 460}, {1060, 470});
    dragOn(page, {0.25 * 1500, 460}, {440, 430});
    auto* distance = page->findChild<QLineEdit*>(QStringLiteral("outline.distance"));
    distance->setText(QStringLiteral("260"));
    Q_EMIT distance->textEdited(distance->text());
    for (const ShapeNode& n : nodes) {
        const Vec2 at = place.toPicture(n.at);
        dragOn(page, {at.x, at.y}, {at.x, at.y});
        if (!n.smooth) {
            QKeyEvent corner(QEvent::KeyPress, Qt::Key_C, Qt::NoModifier);
            QApplication::sendEvent(page, &corner);
        }
    }
    take(QStringLiteral("outline-trace"));
    Q_EMIT page->left();
}

/// The instrument as a whole.
void takeWhole(Sheet& sheet, const std::function<void(const QString&)>& take) {
    sheet.setStation(Station::whole);
    for (const char* name : {"whole", "strings", "balance", "by-hand", "sawing", "variants"}) {
        take(QString::fromLatin1(name));
        sheet.setLeaf(sheet.leaf() + 1);
    }
    sheet.setLeaf(0);
}

/// The body's leaves, a piece among its cuts, a moment of its day, its proof.
void takeBody(Window& window, const std::function<void(const QString&)>& take) {
    Sheet& sheet = window.sheet();
    const double cursor = sheet.cursor();
    sheet.setStation(Station::body);
    sheet.setCursor(574);
    take(QStringLiteral("body"));
    int leaf = 0;
    for (const char* name : {"body", "edges", "pocket", "cavity", "hollows", "came-out"}) {
        sheet.setLeaf(leaf++);
        if (leaf > 1) {
            take(QString::fromLatin1(name));
        }
    }
    sheet.setLeaf(0);
    for (const auto& [path, name] : {std::pair{"body.controls.1", "thing"},
                                     {"body.chambers.1", "chamber"},
                                     {"body.outline.12", "node"}}) {
        sheet.take(path);
        take(QString::fromLatin1(name));
    }
    sheet.take({});
    takeImport(window, take);
    takeOutlineTracing(window, take);
    takeWhole(sheet, take);
    sheet.setStation(Station::blank);
    take(QStringLiteral("body-blank"));
    sheet.setLeaf(Sheet::bedLeaf);
    for (std::size_t i = 0; i < sheet.derived()->pieces().size(); ++i) {
        if (sheet.derived()->pieces()[i]->id == Role::body) {
            sheet.setPiece(static_cast<int>(i));
        }
    }
    take(QStringLiteral("body-bed"));
    sheet.setLeaf(0);
    sheet.setStation(Station::cuts);
    take(QStringLiteral("core-cuts"));
    for (std::size_t i = 0; i < sheet.derived()->pieces().size(); ++i) {
        if (sheet.derived()->pieces()[i]->held.back) {
            sheet.setPiece(static_cast<int>(i));
        }
    }
    take(QStringLiteral("body-cuts"));
    sheet.setLeaf(1);
    take(QStringLiteral("body-carving"));
    sheet.setLeaf(2);
    take(QStringLiteral("body-bits"));
    sheet.setLeaf(0);
    sheet.setMoment(sheet.derived()->seconds() * 0.93);
    take(QStringLiteral("body-back"));
    sheet.setMoment(sheet.derived()->seconds() * 0.85); // the front is carved
    sheet.setShaded(true);
    take(QStringLiteral("body-wood"));
    sheet.setShaded(false);
    sheet.endScrub();
    sheet.setStation(Station::proof);
    take(QStringLiteral("body-proof"));
    sheet.setPiece(0);
    sheet.setCursor(cursor);
    sheet.setStation(Station::board);
}

/// The book's other leaves, and the form that asks for sizes.
void takeBook(Window& window, const QString& folder,
              const std::function<void(const QString&)>& take) {
    auto& page = *window.findChild<BookPage*>();
    using Leaf = BookPage::Leaf;
    for (const auto& [leaf, name] : {std::pair{Leaf::bits, "bits"},
                                     {Leaf::instruments, "instruments"},
                                     {Leaf::hand, "hand"},
                                     {Leaf::runs, "runs"},
                                     {Leaf::written, "written"},
                                     {Leaf::time, "time"}}) {
        page.turnTo(leaf);
        take(QStringLiteral("book-") + QLatin1String(name));
    }
    page.turnTo(Leaf::rack);
    if (MeasureForm* form = page.measureForm(Role::neck, &window)) {
        form->open();
        wait(100);
        form->grab().save(folder + QStringLiteral("/measure.png"));
        form->close();
    }
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
    sheet.setStation(Station::board); // a moment of the day takes its own part in hand
    sheet.setStation(Station::proof);
    take(QStringLiteral("proof"));
    sheet.setLeaf(1);
    take(QStringLiteral("programs"));
    sheet.setLeaf(0);
    takeForeign(window, take);
    if (sheet.derived() && sheet.derived()->neck) {
        takeNeck(window, take);
    }
    if (sheet.derived() && sheet.derived()->body) {
        takeBody(window, take);
    }
    sheet.setStation(Station::machine);
    take(QStringLiteral("machine"));
    takeRun(window, take);
    sheet.setStation(Station::tools);
    sheet.setLeaf(2);
    take(QStringLiteral("controller"));
    sheet.setLeaf(0);
    sheet.setStation(Station::book);
    take(QStringLiteral("book"));
    takeBook(window, folder, take);
    window.startNew();
    take(QStringLiteral("new"));
    return files;
}

} // namespace wren::app
