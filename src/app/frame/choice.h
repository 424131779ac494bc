#pragma once

#include <QPushButton>
#include <QStringList>

#include <functional>

namespace wren::app {

// A button on a page that shows a word and offers others.

/// `path`: as tests and the ledger find it.
QPushButton* choiceButton(const QString& path, const QString& tip, int width);
QString wordOn(const QPushButton* button);
void putOn(QPushButton* button, const QString& word);
/// Offers the words under the button; `then` once one of them stands on it.
void offer(QPushButton* button, const QStringList& all, const std::function<void()>& then);

} // namespace wren::app
