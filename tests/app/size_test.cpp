// The window at the sizes it is used at: as small as a shop's old screen, as large as a new one.

#include "opened.h"

#include "numbers/ledger.h"

#include <QScrollArea>
#include <QScrollBar>

using namespace wren;
using namespace wren::app;

TEST_CASE("Every leaf fits a window of 1024 by 700, and a field that takes the focus shows",
          "[app][look]") {
    Opened w(QStringLiteral(WREN_SOURCE "/demo/whinchat.wren"));
    auto* ledger = w.window.findChild<Ledger*>();
    const auto* leafArea = w.window.findChild<QScrollArea*>(QStringLiteral("leaf"));
    REQUIRE(leafArea);
    for (const QSize& size : {QSize(1024, 700), QSize(1280, 800), QSize(1920, 1080)}) {
        w.window.resize(size);
        for (Station s :
             {Station::board, Station::blank, Station::tools, Station::cuts, Station::proof,
              Station::neck, Station::blank, Station::cuts, Station::proof, Station::body,
              Station::blank, Station::cuts, Station::proof}) {
            w.sheet().setStation(s);
            QTest::qWait(20);
            const auto leaves = ledger->leafNames().size();
            for (int leaf = 0; leaf < leaves; ++leaf) {
                w.sheet().setLeaf(leaf);
                QTest::qWait(20);
                INFO(size.width() << " x " << size.height() << ", station " << int(s) << ", "
                                  << ledger->leafNames()[leaf].toStdString());
                CHECK(w.window.width() == size.width());
                CHECK(w.window.height() == size.height());
                CHECK(ledger->geometry().bottom() < w.window.height());
                // At the size it is drawn for nothing has to be pushed up or down, once the leaf
                // has taken its room.
                const QWidget* page = leafArea->widget();
                if (size.width() >= 1280) {
                    CHECK(QTest::qWaitFor(
                        [&] {
                            return page->minimumSizeHint().height() <=
                                   leafArea->viewport()->height();
                        },
                        5000));
                }
                CHECK(page->width() >= page->minimumSizeHint().width());
                const auto fields = page->findChildren<ValueField*>();
                if (size.width() > 1024 || fields.isEmpty()) {
                    continue;
                }
                // Round with the Tab key: each field is in sight when it has the focus.
                fields.first()->setFocus();
                for (int i = 0; i < fields.size(); ++i) {
                    QWidget* focus = QApplication::focusWidget();
                    REQUIRE(focus);
                    if (page->isAncestorOf(focus)) {
                        const bool inSight = QTest::qWaitFor(
                            [] {
                                const QWidget* now = QApplication::focusWidget();
                                return now && now->visibleRegion().boundingRect().width() >
                                                  now->width() / 2;
                            },
                            5000);
                        const QWidget* now = QApplication::focusWidget();
                        const QScrollBar* bar = leafArea->horizontalScrollBar();
                        INFO("asked " << focus->accessibleName().toStdString() << ", has "
                                      << (now ? now->accessibleName().toStdString() : "none")
                                      << " at " << focus->mapTo(leafArea->viewport(), QPoint()).x()
                                      << " to " << focus->width() << " of "
                                      << leafArea->viewport()->width() << ", pushed "
                                      << bar->value() << " of " << bar->maximum());
                        CHECK(inSight);
                    }
                    QTest::keyClick(focus, Qt::Key_Tab);
                }
            }
        }
    }
}
