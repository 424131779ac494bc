#pragma once

#include "cut/move.h"

#include <fstream>
#include <optional>
#include <string>

namespace wren {

/// What the simulated machine really did, written down as G-code in the work zero it then had; mm.
class WayFile {
public:
    explicit WayFile(const std::string& file); ///< throws Error when it cannot be written
    void add(const Move& gone, Vec3 zero);
    void flush() { out_.flush(); }

private:
    void turn(const Move& gone);

    std::ofstream out_;
    std::optional<Vec3> zero_;
    bool turning_ = false;
    double rpm_ = 0;
};

} // namespace wren
