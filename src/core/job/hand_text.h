#pragma once

#include "base/length.h"
#include "job/project.h"

#include <string>

namespace wren {

/// Sizes as a page tells them.
class HandSizes {
public:
    explicit HandSizes(LengthUnit unit) : unit_(unit) {}
    std::string operator()(double mm, int decimals = 1) const {
        return formatLengthValue(mm, unit_, decimals + (unit_ == LengthUnit::inch ? 1 : 0));
    }

private:
    LengthUnit unit_;
};

/// "bass" or "treble": the side of an instrument's frame at that Y.
inline const char* sideWord(const Project& project, double y) {
    return (y < 0) == (project.board.hand == Hand::right) ? "bass" : "treble";
}

} // namespace wren
