#pragma once

#include "job/derive.h"

#include <QObject>

#include <condition_variable>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>

namespace wren::app {

using DerivedPtr = std::shared_ptr<const Derived>;

/// Derives in a thread of its own and hands out each step as it is done. A new request cancels the
/// one under way; only results of the newest are delivered.
class Deriver : public QObject {
    Q_OBJECT
public:
    explicit Deriver(QObject* parent = nullptr);
    ~Deriver() override;

    void request(const Project& project, const Overrides& overrides = {});

Q_SIGNALS:
    /// step: 1 drawing, 2 programs, 3 proof.
    void ready(wren::app::DerivedPtr derived, int step);
    void failed(QString sentence);

private:
    struct Request {
        Project project;
        Overrides overrides;
        int number = 0;
    };

    void work(const std::stop_token& quit);
    void serve(const Request& request, const std::stop_token& stop);
    void deliver(const Derived& derived, int step, int number);

    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Request> next_;
    std::stop_source current_;
    int newest_ = 0;      ///< of the interface thread
    DerivedPtr drawn_;    ///< the last drawing, for what has not changed since; the worker's own
    DerivedPtr whole_;    ///< the last that was proved, whose parts may stand
    std::jthread thread_; // last: it uses all of the above
};

} // namespace wren::app
