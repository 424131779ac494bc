#pragma once

#include <QHash>
#include <QImage>
#include <QObject>
#include <QSet>

namespace wren::app {

/// Pictures of wood, read off the interface thread and made no larger than is drawn.
class PictureStore : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    /// Null while it is being read, and where it cannot be.
    QImage picture(const QString& file);
    bool settled() const { return reading_.isEmpty(); }

Q_SIGNALS:
    void arrived();

private:
    QHash<QString, QImage> kept_;
    QSet<QString> reading_;
};

} // namespace wren::app
