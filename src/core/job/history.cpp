#include "job/history.h"

namespace wren {
namespace {

constexpr std::size_t mostSteps = 500;

} // namespace

void History::change(Project next, std::string what) {
    if (next == now_) {
        return;
    }
    past_.push_back({std::move(now_), std::move(what)});
    now_ = std::move(next);
    future_.clear();
    if (past_.size() > mostSteps) {
        past_.erase(past_.begin());
    }
}

void History::amend(Project next) {
    now_ = std::move(next);
    future_.clear();
}

void History::undo() {
    if (!past_.empty()) {
        future_.push_back({std::move(now_), past_.back().what});
        now_ = std::move(past_.back().project);
        past_.pop_back();
    }
}

void History::redo() {
    if (!future_.empty()) {
        past_.push_back({std::move(now_), future_.back().what});
        now_ = std::move(future_.back().project);
        future_.pop_back();
    }
}

} // namespace wren
