#include "state/book_watch.h"

#include <QFileInfo>

namespace wren::app {

BookWatch::BookWatch(const std::filesystem::path& book, QObject* parent)
    : QObject(parent), file_(QString::fromStdString(book.string())) {
    rest_.setSingleShot(true);
    rest_.setInterval(250); // one entry writes more than once
    connect(&watcher_, &QFileSystemWatcher::fileChanged, &rest_, qOverload<>(&QTimer::start));
    connect(&rest_, &QTimer::timeout, this, &BookWatch::written);
}

void BookWatch::look() {
    if (!watcher_.files().contains(file_) && QFileInfo::exists(file_)) {
        watcher_.addPath(file_);
    }
}

} // namespace wren::app
