#pragma once

#include "job/run_program.h"
#include "state/deriver.h"

#include <QObject>

#include <condition_variable>
#include <deque>
#include <filesystem>
#include <mutex>
#include <thread>

namespace wren::app {

/// Holds the line to one machine in a thread of its own: runs programs, does single steps, and asks
/// in between where it stands. Answers come as signals.
class Runner : public QObject {
    Q_OBJECT
public:
    explicit Runner(QObject* parent = nullptr);
    ~Runner() override;

    /// Which machine, and how it is spoken to; the line is opened when it is first needed.
    void setMachine(const QString& address, const Controller& controller);
    /// Sends a program, unless something is under way.
    void start(DerivedPtr derived, const RunAsk& ask, const std::filesystem::path& book);
    /// Does one thing, unless something is under way; `deed` throws Error or Cancelled.
    void act(const QString& what, std::function<void(Talk&)> deed);
    bool running() const { return running_; } ///< a program
    bool busy() const { return running_ || acting_; }
    bool onHold() const { return control_->hold; }
    void hold(bool on);
    void stop();
    /// Overrides while a program runs, %.
    void turnTo(int feed, int spindle);

Q_SIGNALS:
    void progressed(wren::SendProgress progress);
    void ended(wren::RunRecord record);
    void failed(QString sentence);
    void acted(QString what);
    void stands(wren::MachineStatus status);

private:
    struct Line; ///< what is open, the thread's own
    using Job = std::function<void(Line&)>;
    void give(Job job);
    void work(const std::stop_token& ended);

    std::shared_ptr<SendControl> control_ = std::make_shared<SendControl>();
    bool running_ = false, acting_ = false;
    std::mutex guard_;
    std::condition_variable_any wakes_;
    std::deque<Job> jobs_;      ///< guarded
    QString address_;           ///< guarded
    Controller controller_;     ///< guarded
    std::jthread thread_;
};

} // namespace wren::app
