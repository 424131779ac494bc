#include "frame/choice.h"

#include "frame/theme.h"

#include <QMenu>
#include <QVariant>

namespace wren::app {
namespace {

const QString mark = QStringLiteral(" \u25BE"); ///< of a button that offers words

} // namespace

QPushButton* choiceButton(const QString& path, const QString& tip, int width) {
    auto* button = new QPushButton;
    button->setObjectName(QStringLiteral("choice"));
    button->setProperty("path", path);
    button->setFont(figures(14));
    button->setFixedWidth(width);
    button->setToolTip(tip);
    return button;
}

QString wordOn(const QPushButton* button) {
    return button->text().chopped(mark.size());
}

void putOn(QPushButton* button, const QString& word) {
    button->setText(word + mark);
}

void offer(QPushButton* button, const QStringList& all, const std::function<void()>& then) {
    QMenu menu(button);
    menu.setFont(words(14));
    for (const QString& word : all) {
        menu.addAction(word, button, [button, word, &then] {
            putOn(button, word);
            then();
        });
    }
    menu.exec(button->mapToGlobal(QPoint(0, button->height())));
}

} // namespace wren::app
