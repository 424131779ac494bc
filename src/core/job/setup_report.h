#pragma once

#include "base/length.h"
#include "job/derive.h"
#include "part/setup_geometry.h"

#include <optional>
#include <string>

namespace wren {

/// The strings over the whole instrument of a drawn body. Throws Error with the first stop's
/// sentence where there is none.
SetupGeometry setupOf(const Derived& derived);

/// As JSON: lengths in mm, angles in degrees, tensions in N; null where something is not known.
std::string setupJson(const SetupGeometry& setup);
/// As a table to read.
std::string setupText(const SetupGeometry& setup, LengthUnit unit = LengthUnit::mm);

/// What is asked for: one quantity out of the others. Heights in mm, angle in degrees; what is not
/// given is as the project has it, the saddles' height as it is aimed at.
struct SetupQuestion {
    std::string of; ///< "angle", "pocket", "saddle" or "proud"
    std::optional<double> saddle, angle, proud;
};

struct SetupAnswer {
    Project project;  ///< with the answer in it
    double value = 0; ///< degrees for an angle, else mm
    std::string said; ///< a sentence or two, with what mends a pocket that is cut already
};

/// Throws Error where the question cannot be answered within what can be made, with the numbers and
/// what would serve.
SetupAnswer solveSetup(const Project& project, const SetupQuestion& question);

/// After an edit: what gives way follows it, so that the strings meet the bridge again; where the
/// edit set that very quantity by hand, nothing gives way any more.
Project settledAfter(const Project& before, Project after);

} // namespace wren
