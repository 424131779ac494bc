#include "state/picture_store.h"

#include "state/background.h"

#include <QImageReader>

namespace wren::app {

QImage PictureStore::picture(const QString& file) {
    const auto known = kept_.constFind(file);
    if (known != kept_.constEnd() || reading_.contains(file)) {
        return known == kept_.constEnd() ? QImage() : *known;
    }
    reading_.insert(file);
    const auto read = [file] {
        constexpr int most = 2400; // pixels a side
        QImageReader reader(file);
        reader.setAutoTransform(true);
        QImage image = reader.read();
        return std::max(image.width(), image.height()) > most
                   ? image.scaled(most, most, Qt::KeepAspectRatio, Qt::SmoothTransformation)
                   : image;
    };
    inBackground(this, read, [this, file](const QImage& image) {
        reading_.remove(file);
        kept_.insert(file, image);
        Q_EMIT arrived();
    });
    return {};
}

} // namespace wren::app
