#pragma once

#include <deque>
#include <functional>
#include <mutex>

namespace wren {

/// Does one piece of work at a time without anyone waiting: who comes while another is at it leaves
/// the work to that one. Whoever owns it waits for those who came, and then all is done. Work must
/// not throw.
class InTurn {
public:
    void run(std::function<void()> work) {
        std::unique_lock lock(mutex_);
        left_.push_back(std::move(work));
        if (busy_) {
            return;
        }
        busy_ = true;
        while (!left_.empty()) {
            const std::function<void()> next = std::move(left_.front());
            left_.pop_front();
            lock.unlock();
            next();
            lock.lock();
        }
        busy_ = false;
    }

private:
    std::mutex mutex_;
    std::deque<std::function<void()>> left_;
    bool busy_ = false;
};

} // namespace wren
