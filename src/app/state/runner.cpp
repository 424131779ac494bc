#include "state/runner.h"

#include "base/error.h"

#include <chrono>
#include <optional>

namespace wren::app {
namespace {

using Clock = std::chrono::steady_clock;
constexpr auto tellEvery = std::chrono::milliseconds(60);
constexpr auto askEvery = std::chrono::milliseconds(250);

} // namespace

struct Runner::Line {
    QString address;
    Controller controller;
    std::unique_ptr<Link> link;
    std::optional<Talk> talk;

    void close() {
        talk.reset();
        link.reset();
    }
    /// Throws Error when it cannot be had.
    Talk& open(SendControl& control) {
        if (!talk) {
            link = openLink(address.toStdString());
            talk.emplace(*link, controller, control);
        }
        return *talk;
    }
};

Runner::Runner(QObject* parent) : QObject(parent) {
    qRegisterMetaType<SendProgress>();
    qRegisterMetaType<RunRecord>();
    qRegisterMetaType<MachineStatus>();
    thread_ = std::jthread([this](const std::stop_token& ended) { work(ended); });
}

Runner::~Runner() {
    stop();
    thread_.request_stop();
    wakes_.notify_all();
    thread_.join();
}

void Runner::setMachine(const QString& address, const Controller& controller) {
    const std::lock_guard lock(guard_);
    address_ = address;
    controller_ = controller;
}

void Runner::give(Job job) {
    control_->stop = false;
    control_->hold = false;
    {
        const std::lock_guard lock(guard_);
        jobs_.push_back(std::move(job));
    }
    wakes_.notify_all();
}

/// One job after the other; while none comes, where the machine stands.
void Runner::work(const std::stop_token& ended) {
    Line line;
    while (!ended.stop_requested()) {
        Job job;
        {
            std::unique_lock lock(guard_);
            wakes_.wait_for(lock, ended, askEvery, [this] { return !jobs_.empty(); });
            if (line.address != address_ || !(line.controller == controller_)) {
                line.close();
                line.address = address_;
                line.controller = controller_;
            }
            if (!jobs_.empty()) {
                job = std::move(jobs_.front());
                jobs_.pop_front();
            }
        }
        try {
            if (job) {
                job(line);
            } else if (line.talk && line.talk->canAsk() && !control_->stop) {
                line.talk->ask();
                QMetaObject::invokeMethod(this, [this, s = line.talk->status()] { Q_EMIT stands(s); });
            }
        } catch (const std::exception&) {
            line.close(); // said when it is needed next
        }
    }
}

void Runner::start(DerivedPtr derived, const RunAsk& ask, const std::filesystem::path& book) {
    if (busy()) {
        return;
    }
    running_ = true;
    give([this, derived, ask, book, control = control_](Line& line) {
        // Posted to this object, so that nothing of the window is touched from here.
        const auto post = [this](auto f) { QMetaObject::invokeMethod(this, f); };
        try {
            ShopBook shopBook(book);
            auto told = Clock::now() - tellEvery;
            Talk& talk = line.open(*control);
            const RunRecord record =
                runOn(talk, *derived, ask, line.address.toStdString(), shopBook,
                      [&](const SendProgress& p) {
                          if (Clock::now() - told >= tellEvery || p.acknowledged == p.lines) {
                              told = Clock::now();
                              post([this, p] { Q_EMIT progressed(p); });
                          }
                      });
            if (record.outcome != "done") {
                line.close(); // answers still under way belong to what was stopped
            }
            post([this, record] {
                running_ = false;
                Q_EMIT ended(record);
            });
        } catch (const std::exception& e) {
            line.close();
            const QString sentence = QString::fromUtf8(e.what());
            post([this, sentence] {
                running_ = false;
                Q_EMIT failed(sentence);
            });
        }
    });
}

void Runner::act(const QString& what, std::function<void(Talk&)> deed) {
    if (busy()) {
        return;
    }
    acting_ = true;
    give([this, what, deed = std::move(deed), control = control_](Line& line) {
        QString sentence;
        MachineStatus status;
        try {
            Talk& talk = line.open(*control);
            deed(talk);
            talk.waitForIdle(); // so that it stands where it is said to
            status = talk.status();
        } catch (const Cancelled&) {
            line.close();
            sentence = tr("%1: stopped by hand.").arg(what);
        } catch (const std::exception& e) {
            line.close();
            sentence = QString::fromUtf8(e.what());
        }
        QMetaObject::invokeMethod(this, [this, what, sentence, status] {
            acting_ = false;
            if (sentence.isEmpty()) {
                Q_EMIT stands(status);
                Q_EMIT acted(what);
            } else {
                Q_EMIT failed(sentence);
            }
        });
    });
}

void Runner::hold(bool on) {
    control_->hold = on;
}

void Runner::turnTo(int feed, int spindle) {
    control_->feedPercent = feed;
    control_->spindlePercent = spindle;
}

void Runner::stop() {
    control_->stop = true;
}

} // namespace wren::app
