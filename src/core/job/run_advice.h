#pragma once

#include "book/experience.h"
#include "job/posted_program.h"

#include <optional>
#include <string>

namespace wren {

/// What the book says of a program before it is run.
struct RunAdvice {
    int feedPercent = 100;   ///< it had been turned to; lowered by what went wrong since
    double minutes = 0;      ///< the program will take, by what its like took
    std::string says;        ///< a sentence or two, with the runs it is drawn from
};

/// None: nothing of the same bit, wood and cuts has ended well.
std::optional<RunAdvice> adviceFor(const PostedProgram& program, const std::string& wood,
                                   const std::vector<Experience>& experience);

} // namespace wren
