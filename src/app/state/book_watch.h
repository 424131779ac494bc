#pragma once

#include <QFileSystemWatcher>
#include <QObject>
#include <QTimer>

#include <filesystem>

namespace wren::app {

/// Says when another window or a command has written in the shop's book, once it has come to rest.
class BookWatch : public QObject {
    Q_OBJECT
public:
    BookWatch(const std::filesystem::path& book, QObject* parent);
    /// Looks from now on; to be called whenever the book was read: one that was not there, or was put
    /// in another's place, is known then.
    void look();

Q_SIGNALS:
    void written();

private:
    QString file_;
    QFileSystemWatcher watcher_;
    QTimer rest_;
};

} // namespace wren::app
