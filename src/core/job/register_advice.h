#pragma once

#include "job/derive.h"

namespace wren {

/// Which way of bringing both sides of a part together suits it, and what error each is to be
/// expected to leave.
struct RegisterAdvice {
    Register better = Register::pins;
    double byPins = 0;  ///< mm at the blank's far end
    double byMarks = 0; ///< mm
    std::string why;    ///< a sentence
};

/// None for a part cut from one side.
std::optional<RegisterAdvice> registerAdvice(const Project& project, const PartJob& job);

} // namespace wren
