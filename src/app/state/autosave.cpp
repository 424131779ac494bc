#include "state/autosave.h"

#include "base/error.h"
#include "base/files.h"
#include "job/store.h"
#include "state/background.h"

#include <QDir>
#include <QFileInfo>
#include <QLockFile>
#include <QStandardPaths>
#include <QUuid>

#include <nlohmann/json.hpp>

namespace wren::app {
namespace {

constexpr int pause = 800; ///< ms after the last change

const QString ending = QStringLiteral(".unsaved");

QString lockOf(const QString& kept) {
    return kept + QStringLiteral(".lock");
}

/// What lies in the file: the project's own text, and the name of the file it belongs to.
std::string wrapped(const Project& project, const QString& file) {
    return nlohmann::json{{"file", file.toStdString()}, {"project", projectToText(project)}}.dump();
}

std::optional<Autosave::Left> unwrapped(const QString& kept) {
    try {
        const auto doc = nlohmann::json::parse(readFile(kept.toStdString()));
        Autosave::Left left;
        left.keptIn = kept;
        left.file = QString::fromStdString(doc.at("file").get<std::string>());
        left.work = projectFromText(doc.at("project").get<std::string>(), kept.toStdString());
        return left;
    } catch (const std::exception&) {
        return std::nullopt; // not ours, or of a later version: it is left where it is
    }
}

bool ownerLives(const QString& kept) {
    QLockFile lock(lockOf(kept));
    lock.setStaleLockTime(0);
    return !lock.tryLock(0); // a dead process's lock is taken over, and given back at once
}

} // namespace

Autosave::Autosave(Document& document, QObject* parent) : QObject(parent), document_(document) {
    keptIn_ =
        folder() + QLatin1Char('/') + QUuid::createUuid().toString(QUuid::WithoutBraces) + ending;
    timer_.setSingleShot(true);
    timer_.setInterval(pause);
    connect(&timer_, &QTimer::timeout, this, &Autosave::keep);
    connect(&document_, &Document::changed, this, [this] {
        if (document_.changedSinceSave()) {
            timer_.start();
        } else {
            letGo();
        }
    });
}

Autosave::~Autosave() = default;

QString Autosave::folder() {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) +
           QStringLiteral("/unsaved");
}

void Autosave::keep() {
    if (writing_) {
        timer_.start();
        return;
    }
    if (!lock_) {
        QDir().mkpath(folder());
        lock_ = std::make_unique<QLockFile>(lockOf(keptIn_));
        lock_->setStaleLockTime(0);
        lock_->tryLock(0);
    }
    writing_ = true;
    wanted_ = true;
    const auto write = [project = document_.project(), file = document_.file(), kept = keptIn_] {
        try {
            writeFileSafely(kept.toStdString(), wrapped(project, file));
            return QString();
        } catch (const Error& e) {
            return QString::fromUtf8(e.what());
        }
    };
    inBackground(this, write, [this, kept = keptIn_](const QString& trouble) {
        writing_ = false;
        if (!trouble.isEmpty()) {
            Q_EMIT failed(tr("Unsaved work could not be kept: %1").arg(trouble));
        }
        if (kept != keptIn_) {
            QFile::remove(kept); // other work has taken its place
        } else if (!wanted_) {
            takeAway();
        }
    });
}

void Autosave::letGo() {
    timer_.stop();
    wanted_ = false;
    if (!writing_) { // else as soon as it is written
        takeAway();
    }
}

void Autosave::takeAway() {
    if (lock_) {
        QFile::remove(keptIn_);
        lock_.reset();
    }
}

void Autosave::takeOver(const Left& left) {
    if (lock_ && left.keptIn != keptIn_) {
        letGo();
    }
    keptIn_ = left.keptIn;
    wanted_ = true;
    lock_ = std::make_unique<QLockFile>(lockOf(keptIn_));
    lock_->setStaleLockTime(0);
    lock_->tryLock(0);
}

namespace {

/// The latest of what dead windows left that is wanted.
template <typename Wanted>
std::optional<Autosave::Left> latest(Wanted wanted) {
    for (const QFileInfo& info :
         QDir(Autosave::folder())
             .entryInfoList({QLatin1Char('*') + ending}, QDir::Files, QDir::Time)) {
        if (ownerLives(info.absoluteFilePath())) {
            continue;
        }
        auto left = unwrapped(info.absoluteFilePath());
        if (left && wanted(left->file)) {
            return left;
        }
    }
    return std::nullopt;
}

QString whole(const QString& file) {
    return file.isEmpty() ? QString() : QFileInfo(file).absoluteFilePath();
}

} // namespace

std::optional<Autosave::Left> Autosave::find(const QString& file) {
    return latest([wanted = whole(file)](const QString& f) { return whole(f) == wanted; });
}

std::optional<Autosave::Left> Autosave::findAny() {
    return latest([](const QString&) { return true; });
}

} // namespace wren::app
