#pragma once

#include "job/project.h"

#include <string>
#include <vector>

namespace wren {

/// A size of a finished part, or of a blank, that later cuts follow once it is measured.
struct MeasuredSize {
    const char* name;    ///< "neck.heel_width"
    const char* key;     ///< of the project, that is given the value; the drawn one stays
    const char* follows; ///< what follows from it, in words
};
const std::vector<MeasuredSize>& measuredSizes();

/// What a reading changes: the project with it, and what was drawn for that size.
struct Measured {
    Project project;
    double value = 0;            ///< mm
    std::optional<double> drawn; ///< mm; none where nothing can be drawn
};

/// `reading`: as read off the caliper, with its unit. Throws Error: a size that none is, a unit left
/// out, or a reading that cannot be: more than a seventh, and more than 2 mm, off what was drawn.
Measured measured(const Project& project, const std::string& size, const std::string& reading);

} // namespace wren
