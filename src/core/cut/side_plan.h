#pragma once

#include "cut/cut.h"
#include "hold/setup.h"

namespace wren {

/// What is cut in one setup of a part that is turned over, in running order.
struct SidePlan {
    Setup setup;
    std::vector<Cut> cuts;

    const Cut* cutNamed(const std::string& what) const { return wren::cutNamed(cuts, what); }
};

} // namespace wren
