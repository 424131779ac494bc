#pragma once

#include <QString>
#include <QStringList>

namespace wren::app {

class Window;

/// Walks through the main views and saves a PNG of each in `folder`. Returns the files written.
QStringList takePictures(Window& window, const QString& folder);

} // namespace wren::app
