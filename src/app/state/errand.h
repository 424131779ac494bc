#pragma once

#include "base/error.h"
#include "base/watch.h"
#include "state/background.h"

#include <QString>

#include <atomic>
#include <functional>
#include <memory>

namespace wren::app {

/// How a long deed in the background ended.
struct Outcome {
    QString news;    ///< when it was done
    QString trouble; ///< one sentence when it was not
    bool stopped = false;
    bool done() const { return trouble.isEmpty() && !stopped; }
};

/// Runs `work`, which gets a Watch and returns its news, in a worker thread. `progress` hears whole
/// percents on the interface thread, `done` the outcome; both only as long as `owner` is there.
template <typename Work>
void runErrand(QObject* owner, const std::stop_token& stop, Work work,
               std::function<void(int)> progress, std::function<void(const Outcome&)> done) {
    QPointer<QObject> alive(owner);
    Watch watch;
    watch.stop = stop;
    watch.progress = [alive, progress,
                      last = std::make_shared<std::atomic<int>>(-1)](double share) {
        const int percent = static_cast<int>(100 * share);
        if (last->exchange(percent) != percent) {
            QMetaObject::invokeMethod(qApp, [alive, progress, percent] {
                if (alive) {
                    progress(percent);
                }
            });
        }
    };
    const auto guarded = [work = std::move(work), watch = std::move(watch)] {
        Outcome o;
        try {
            o.news = work(watch);
        } catch (const Cancelled&) {
            o.stopped = true;
        } catch (const std::exception& e) {
            o.trouble = QString::fromUtf8(e.what());
        }
        return o;
    };
    inBackground(owner, guarded, std::move(done));
}

} // namespace wren::app
