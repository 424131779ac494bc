#pragma once

#include "job/run_program.h"
#include "state/deriver.h"

#include <QObject>

#include <filesystem>
#include <thread>

namespace wren::app {

/// Sends a program from a thread of its own and tells how it goes.
class Runner : public QObject {
    Q_OBJECT
public:
    explicit Runner(QObject* parent = nullptr);
    ~Runner() override;

    void start(DerivedPtr derived, int order, const QString& address,
               const std::filesystem::path& book, RunHow how);
    bool running() const { return running_; }
    bool onHold() const { return control_ && control_->hold; }
    void hold(bool on);
    void stop();

Q_SIGNALS:
    void progressed(wren::SendProgress progress);
    void ended(wren::RunRecord record);
    void failed(QString sentence);

private:
    std::shared_ptr<SendControl> control_;
    bool running_ = false;
    std::jthread thread_;
};

} // namespace wren::app
