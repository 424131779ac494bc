#pragma once

#include "state/step_back.h"

#include <QCoreApplication>
#include <QPointer>
#include <QThreadPool>

#include <utility>

namespace wren::app {

/// Runs `work` in a worker thread and then `done` with its result on the interface thread, unless
/// `owner` is gone by then. `work` must not throw and must not touch the window.
template <typename Work, typename Done>
void inBackground(QObject* owner, Work work, Done done) {
    QPointer<QObject> alive(owner);
    QThreadPool::globalInstance()->start(
        [alive, work = std::move(work), done = std::move(done)]() mutable {
            stepBack();
            auto result = work();
            QMetaObject::invokeMethod(
                qApp, [alive, result = std::move(result), done = std::move(done)]() mutable {
                    if (alive) {
                        done(std::move(result));
                    }
                });
        });
}

} // namespace wren::app
