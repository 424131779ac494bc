#pragma once

#include "job/project.h"

#include <string>
#include <vector>

namespace wren {

/// The document's past and future as whole values: undo cannot forget a detail.
class History {
public:
    explicit History(Project start) : now_(std::move(start)) {}

    const Project& now() const { return now_; }

    /// Makes `next` the present; `what` names the change. Equal values are no change.
    void change(Project next, std::string what);

    /// Replaces the present without a step of its own: the later moments of one drag.
    void amend(Project next);

    bool canUndo() const { return !past_.empty(); }
    bool canRedo() const { return !future_.empty(); }
    std::string undoName() const { return canUndo() ? past_.back().what : std::string(); }
    std::string redoName() const { return canRedo() ? future_.back().what : std::string(); }
    void undo(); ///< does nothing without a past
    void redo();

private:
    struct Step {
        Project project;
        std::string what;
    };

    Project now_;
    std::vector<Step> past_;
    std::vector<Step> future_;
};

} // namespace wren
