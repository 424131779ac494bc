#pragma once

#include <functional>
#include <stop_token>

namespace wren {

/// How someone follows a long computation from another thread: asks it to stop, and hears how far
/// it has come (0 to 1). Both may be left empty.
struct Watch {
    std::stop_token stop;
    std::function<void(double)> progress;
};

} // namespace wren
