#include "frame/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QStyleFactory>

static void loadResources() {
    Q_INIT_RESOURCE(resources);
}

namespace wren::app {
namespace {

QFont sized(const char* family, double size, bool strong, QFont::Weight strongWeight) {
    QFont f(QString::fromLatin1(family));
    f.setPixelSize(static_cast<int>(size + 0.5));
    f.setWeight(strong ? strongWeight : QFont::Normal);
    return f;
}

const char* const sheetStyle = R"(
QWidget { color: #222C2E; }
QToolTip { background: #FCF9F1; color: #222C2E; border: 1px solid #5B6058; padding: 4px; }
QLineEdit, QPushButton#choice {
    background: #FCF9F1; border: 1px solid #B9AD93; border-radius: 2px; padding: 1px 6px;
    selection-background-color: #9A3A1E; selection-color: #FCF9F1;
}
QLineEdit:focus, QPushButton#choice:focus { border: 2px solid #9A3A1E; padding: 0px 5px; }
QLineEdit[recipe="true"], QPushButton#choice[recipe="true"] { color: #2F5071; }
QLabel#label { color: #5B6058; }
QLabel#derived { color: #2F5071; }
QLineEdit[wrong="true"] { border: 2px dashed #9A3A1E; padding: 0px 5px; }
QPushButton#choice { text-align: right; }
QPushButton#choice::menu-indicator { width: 0px; }
QPushButton#word { background: transparent; border: none; padding: 3px 7px; color: #222C2E; }
QPushButton#word:hover, QPushButton#word:focus { color: #9A3A1E; text-decoration: underline; }
QPushButton#word:disabled { color: #8A8676; }
QPushButton#deed {
    background: #FCF9F1; border: 2px solid #222C2E; border-radius: 3px; padding: 8px 18px;
}
QPushButton#smallDeed {
    background: #FCF9F1; border: 1px solid #222C2E; border-radius: 2px; padding: 2px 10px;
}
QPushButton#smallDeed:focus { border: 2px solid #9A3A1E; padding: 1px 9px; }
QPushButton#smallDeed:hover { background: #E8D6B4; }
QPushButton#smallDeed:checked { background: #222C2E; color: #FCF9F1; }
QPushButton#smallDeed:disabled { border-color: #B9AD93; color: #8A8676; }
QPushButton#deed:focus { border-color: #9A3A1E; }
QPushButton#deed:hover { background: #E8D6B4; }
QPushButton#deed:disabled { border-color: #B9AD93; color: #8A8676; }
QMenu { background: #FCF9F1; border: 1px solid #5B6058; padding: 4px; }
QMenu::item { padding: 4px 18px; }
QMenu::item:selected { background: #E8D6B4; color: #222C2E; }
QTableWidget { background: #FCF9F1; border: none; gridline-color: #D8CEB9; }
QHeaderView::section { background: #F1EBDD; border: none; border-bottom: 1px solid #5B6058;
    padding: 4px 8px; color: #5B6058; }
QScrollBar:vertical { background: #F1EBDD; width: 10px; }
QScrollBar::handle:vertical { background: #B9AD93; min-height: 30px; border-radius: 4px; }
QScrollBar:horizontal { background: #F1EBDD; height: 8px; }
QScrollBar::handle:horizontal { background: #B9AD93; min-width: 30px; border-radius: 3px; }
QScrollBar::add-line, QScrollBar::sub-line { height: 0px; width: 0px; }
QAbstractScrollArea::corner { background: transparent; border: none; }
QScrollArea#leaf, QScrollArea#leaf > QWidget > QWidget { background: transparent; }
)";

} // namespace

QFont words(double size, bool strong) {
    return sized("Cabin", size, strong, QFont::DemiBold);
}

QFont figures(double size, bool strong) {
    return sized("JetBrains Mono", size, strong, QFont::Medium);
}

QPen penOf(CutKind cut, double width) {
    if (cut == CutKind::slots) {
        return {colour::ochre, width, Qt::DotLine};
    }
    if (cut == CutKind::outline) {
        return {colour::moss, width, Qt::DashLine};
    }
    return {colour::slate, width, Qt::SolidLine};
}

void dress() {
    loadResources();
    for (const char* file : {"Cabin-Regular.otf", "Cabin-SemiBold.otf", "JetBrainsMono-Regular.ttf",
                             "JetBrainsMono-Medium.ttf"}) {
        QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/") + QLatin1String(file));
    }
    QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    QPalette p;
    p.setColor(QPalette::Window, colour::paper);
    p.setColor(QPalette::Base, colour::sheet);
    p.setColor(QPalette::Text, colour::ink);
    p.setColor(QPalette::WindowText, colour::ink);
    p.setColor(QPalette::ButtonText, colour::ink);
    p.setColor(QPalette::Button, colour::sheet);
    p.setColor(QPalette::Highlight, colour::russet);
    p.setColor(QPalette::HighlightedText, colour::sheet);
    p.setColor(QPalette::PlaceholderText, colour::faded);
    QApplication::setPalette(p);
    QApplication::setFont(words());
    qApp->setStyleSheet(QLatin1String(sheetStyle));
}

} // namespace wren::app
