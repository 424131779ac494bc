#pragma once

#include "base/length.h"
#include "job/history.h"

#include <QObject>
#include <QString>

namespace wren::app {

/// The project being worked on: its present, its past, and the file it belongs to.
class Document : public QObject {
    Q_OBJECT
public:
    explicit Document(QObject* parent = nullptr);

    const Project& project() const { return history_.now(); }
    LengthUnit unit() const { return unit_; }
    QString file() const { return file_; }
    bool changedSinceSave() const { return !(history_.now() == saved_); }
    const History& history() const { return history_; }

    /// Sets a key from what was typed. Throws Error and changes nothing when it does not serve.
    void set(const QString& path, const QString& text);
    void setUnit(LengthUnit unit);
    void undo();
    void redo();
    void open(const QString& file); ///< throws Error; the present project stays
    void save(const QString& file); ///< throws Error; the file stays as it was

Q_SIGNALS:
    void changed();
    void unitChanged();

private:
    History history_;
    Project saved_;
    QString file_;
    LengthUnit unit_ = LengthUnit::mm;
};

} // namespace wren::app
