#include "state/runner.h"

#include <QPointer>

#include <chrono>

namespace wren::app {
namespace {

using Clock = std::chrono::steady_clock;
constexpr auto tellEvery = std::chrono::milliseconds(60);

} // namespace

Runner::Runner(QObject* parent) : QObject(parent) {
    qRegisterMetaType<SendProgress>();
    qRegisterMetaType<RunRecord>();
}

Runner::~Runner() {
    stop();
}

void Runner::start(DerivedPtr derived, int order, const QString& address,
                   const std::filesystem::path& book, RunHow how) {
    if (running_) {
        return;
    }
    running_ = true;
    control_ = std::make_shared<SendControl>();
    auto control = control_;
    thread_ = std::jthread([this, derived, order, address, book, control, how] {
        // Posted to this object, so that nothing of the window is touched from here.
        const auto post = [this](auto f) { QMetaObject::invokeMethod(this, f); };
        try {
            ShopBook shopBook(book);
            auto told = Clock::now() - tellEvery;
            const RunRecord record =
                runProgram(*derived, order, address.toStdString(), shopBook, *control,
                           [&](const SendProgress& p) {
                               if (Clock::now() - told >= tellEvery || p.acknowledged == p.lines) {
                                   told = Clock::now();
                                   post([this, p] { Q_EMIT progressed(p); });
                               }
                           },
                           how);
            post([this, record] {
                running_ = false;
                Q_EMIT ended(record);
            });
        } catch (const std::exception& e) {
            const QString sentence = QString::fromUtf8(e.what());
            post([this, sentence] {
                running_ = false;
                Q_EMIT failed(sentence);
            });
        }
    });
}

void Runner::hold(bool on) {
    if (control_) {
        control_->hold = on;
    }
}

void Runner::stop() {
    if (control_) {
        control_->stop = true;
    }
}

} // namespace wren::app
