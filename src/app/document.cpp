#include "document.h"

#include "job/keys.h"
#include "job/store.h"

namespace wren::app {

Document::Document(QObject* parent) : QObject(parent), history_(Project{}) {}

void Document::set(const QString& path, const QString& text) {
    const std::string key = path.toStdString();
    Project next = withKey(project(), key, text.toStdString(), unit_);
    if (!(next == project())) {
        history_.change(std::move(next), keyAt(project(), key).meaning);
        Q_EMIT changed();
    }
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

void Document::open(const QString& file) {
    Project loaded = loadProject(file.toStdString());
    saved_ = loaded;
    history_ = History(std::move(loaded));
    file_ = file;
    Q_EMIT changed();
}

void Document::save(const QString& file) {
    saveProject(project(), file.toStdString());
    saved_ = project();
    file_ = file;
    Q_EMIT changed();
}

} // namespace wren::app
