#pragma once

#include <QFileDialog>

namespace wren::app {

/// Asks for a folder, and makes one of a new name that is typed. Empty when it was left.
QString askFolder(QWidget* parent, const QString& title);

} // namespace wren::app
