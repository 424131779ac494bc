#include "state/step_back.h"

#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

#include <tbb/task_scheduler_observer.h>

namespace wren::app {
namespace {

constexpr int niceness = 10;

class Observer : public tbb::task_scheduler_observer {
public:
    Observer() { observe(true); }
    ~Observer() override { observe(false); }
    void on_scheduler_entry(bool isWorker) override {
        if (isWorker) {
            stepBack();
        }
    }
};

} // namespace

void stepBack() {
    // On Linux the priority belongs to the thread. Should it be refused, only courtesy is lost.
    const auto thread = static_cast<id_t>(::syscall(SYS_gettid));
    ::setpriority(PRIO_PROCESS, thread, niceness);
}

void makeLoopsStepBack() {
    static Observer observer;
}

} // namespace wren::app
