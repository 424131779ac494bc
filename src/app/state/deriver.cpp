#include "state/deriver.h"

#include "base/error.h"
#include "state/step_back.h"

#include <exception>

namespace wren::app {

Deriver::Deriver(QObject* parent) : QObject(parent) {
    qRegisterMetaType<DerivedPtr>();
    makeLoopsStepBack();
    thread_ = std::jthread([this](const std::stop_token& quit) { work(quit); });
}

Deriver::~Deriver() {
    thread_.request_stop();
    const std::lock_guard lock(mutex_);
    current_.request_stop();
}

void Deriver::request(const Project& project, const Overrides& overrides) {
    const std::lock_guard lock(mutex_);
    next_ = Request{project, overrides, ++newest_};
    current_.request_stop();
    wake_.notify_one();
}

void Deriver::work(const std::stop_token& quit) {
    stepBack();
    while (!quit.stop_requested()) {
        Request request;
        std::stop_token stop;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, quit, [this] { return next_.has_value(); })) {
                return;
            }
            request = std::move(*next_);
            next_.reset();
            current_ = std::stop_source();
            stop = current_.get_token();
        }
        serve(request, stop);
    }
}

void Deriver::serve(const Request& request, const std::stop_token& stop) {
    try {
        Derived d = deriveDrawing(request.project, drawn_.get());
        d.remembers = true;
        drawn_ = std::make_shared<const Derived>(d);
        deliver(d, 1, request.number);
        derivePrograms(d, stop, whole_.get());
        deliver(d, 2, request.number);
        deriveProof(d, stop, whole_.get());
        giveReasons(d, request.overrides, stop);
        whole_ = std::make_shared<const Derived>(d);
        deliver(d, 3, request.number);
    } catch (const Cancelled&) {
        // a newer request is waiting
    } catch (const std::exception& e) {
        const QString sentence = QString::fromUtf8(e.what());
        QMetaObject::invokeMethod(this, [this, sentence] { Q_EMIT failed(sentence); });
    }
}

void Deriver::deliver(const Derived& derived, int step, int number) {
    auto shared = std::make_shared<const Derived>(derived);
    QMetaObject::invokeMethod(this, [this, shared, step, number] {
        if (number == newest_) {
            Q_EMIT ready(shared, step);
        }
    });
}

} // namespace wren::app
