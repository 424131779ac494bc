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
    /// Makes this the present, with what gives way to it (job/setup_report.h); `what` names the
    /// step for undoing it.
    void change(Project next, const QString& what);
    /// A drag is one step, however often it moves: the first change after beginDrag() is a step,
    /// the others until endDrag() replace it.
    void beginDrag() { dragged_ = 0; }
    void endDrag() { dragged_ = -1; }
    void setUnit(LengthUnit unit);
    void undo();
    void redo();

    /// A project without a file and without a past.
    void startNew(Project project);
    void open(const QString& file); ///< throws Error; the present project stays
    /// A project as the file holds it, with work on top that had not been saved; undoing it goes
    /// back to the file. An empty `file`: the work never had one.
    void recover(Project inFile, Project work, const QString& file);
    /// `kept` is in `file` now; the present may have moved on since.
    void markSaved(const Project& kept, const QString& file);

Q_SIGNALS:
    void changed();
    void unitChanged();

private:
    History history_;
    Project saved_;
    QString file_;
    LengthUnit unit_ = LengthUnit::mm;
    int dragged_ = -1; ///< changes in the drag under way; -1: none
};

} // namespace wren::app
