#pragma once

#include "state/document.h"

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

#include <memory>
#include <optional>

class QLockFile;

namespace wren::app {

/// Keeps unsaved work in a file of its own, a moment after each change, so that it survives a
/// crash. The file goes when the work is saved or let go. It is written in a worker thread, beside
/// and renamed.
class Autosave : public QObject {
    Q_OBJECT
public:
    explicit Autosave(Document& document, QObject* parent = nullptr);
    ~Autosave() override;

    /// Work a window left behind that did not end well: of `file`, or, with an empty name, of a
    /// project that had no file yet. Its own file is taken away once the work is in a document.
    struct Left {
        QString keptIn;
        QString file;
        Project work;
    };
    static std::optional<Left> find(const QString& file);
    static std::optional<Left> findAny(); ///< the latest, whatever file it belongs to

    void takeOver(const Left& left); ///< this window looks after it from now on
    void letGo();                    ///< the work is saved or not wanted
    QString keptIn() const { return keptIn_; }
    bool waiting() const { return timer_.isActive(); } ///< for the maker to pause
    bool idle() const { return !timer_.isActive() && !writing_; }

    static QString folder();

Q_SIGNALS:
    void failed(QString sentence);

private:
    void keep();
    void takeAway();

    Document& document_;
    QTimer timer_;
    QString keptIn_;
    std::unique_ptr<QLockFile> lock_; ///< says that the owner lives
    bool writing_ = false;
    bool wanted_ = false; ///< false: what is being written goes as soon as it is there
};

} // namespace wren::app
