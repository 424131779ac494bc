#include "state/document.h"

#include "job/keys.h"
#include "job/setup_report.h"
#include "job/store.h"

namespace wren::app {

Document::Document(QObject* parent) : QObject(parent), history_(Project{}) {}

void Document::set(const QString& path, const QString& text) {
    const std::string key = path.toStdString();
    change(withKey(project(), key, text.toStdString(), unit_),
           QString::fromStdString(keyAt(project(), key).meaning));
}

void Document::change(Project next, const QString& what) {
    if (next == project()) {
        return;
    }
    next = settledAfter(project(), std::move(next));
    if (dragged_ > 0) {
        history_.amend(std::move(next));
    } else {
        history_.change(std::move(next), what.toStdString());
    }
    dragged_ += dragged_ >= 0 ? 1 : 0;
    Q_EMIT changed();
}

void Document::setUnit(LengthUnit unit) {
    if (unit != unit_) {
        unit_ = unit;
        Q_EMIT unitChanged();
    }
}

void Document::undo() {
    if (history_.canUndo()) {
        history_.undo();
        Q_EMIT changed();
    }
}

void Document::redo() {
    if (history_.canRedo()) {
        history_.redo();
        Q_EMIT changed();
    }
}

void Document::startNew(Project project) {
    saved_ = Project{}; // what is in no file is not saved
    history_ = History(std::move(project));
    file_.clear();
    Q_EMIT changed();
}

void Document::open(const QString& file) {
    Project loaded = loadProject(file.toStdString());
    startNew(std::move(loaded));
    markSaved(project(), file);
}

void Document::recover(Project inFile, Project work, const QString& file) {
    saved_ = inFile;
    history_ = History(std::move(inFile));
    history_.change(std::move(work), tr("work that had not been saved").toStdString());
    file_ = file;
    Q_EMIT changed();
}

void Document::markSaved(const Project& kept, const QString& file) {
    saved_ = kept;
    file_ = file;
    Q_EMIT changed();
}

} // namespace wren::app
