#include "base/heap.h"
#include "book/shop_book.h"
#include "frame/pictures.h"
#include "frame/theme.h"
#include "frame/window.h"

#include <QApplication>
#include <QCommandLineParser>

#include <csignal>
#include <cstdio>

int main(int argc, char** argv) {
    wren::keepFreedPages();
    std::signal(SIGPIPE, SIG_IGN); // a machine that hangs up is an error, not the end
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("upland-wren"));
    QApplication::setOrganizationName(QStringLiteral("upland-wren"));
    QApplication::setApplicationVersion(QStringLiteral(WREN_VERSION));
    QCommandLineParser parser;
    parser.setApplicationDescription(
        QStringLiteral("From a fretboard's numbers to proven programs and a logged run."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("FILE"), QStringLiteral("project file (.wren)"));
    const QCommandLineOption book(QStringLiteral("book"), QStringLiteral("the shop book"),
                                  QStringLiteral("FILE"));
    const QCommandLineOption pictures(QStringLiteral("pictures"),
                                      QStringLiteral("save a picture of each main view and leave"),
                                      QStringLiteral("FOLDER"));
    const QCommandLineOption size(QStringLiteral("size"), QStringLiteral("of the pictures' window"),
                                  QStringLiteral("WIDTHxHEIGHT"), QStringLiteral("1280x800"));
    parser.addOption(book);
    parser.addOption(pictures);
    parser.addOption(size);
    parser.process(app);

    wren::app::dress();
    const std::filesystem::path bookFile =
        parser.isSet(book) ? std::filesystem::path(parser.value(book).toStdString())
                           : wren::ShopBook::usualPlace();
    wren::app::Window window(bookFile);
    if (!parser.positionalArguments().isEmpty()) {
        window.open(parser.positionalArguments().constFirst());
    } else {
        window.recover();
    }
    window.show();
    if (parser.isSet(pictures)) {
        const QStringList sides = parser.value(size).split(QLatin1Char('x'));
        window.resize(sides.first().toInt(), sides.last().toInt());
        for (const QString& file : wren::app::takePictures(window, parser.value(pictures))) {
            std::printf("%s\n", qPrintable(file));
        }
        return 0;
    }
    return QApplication::exec();
}
