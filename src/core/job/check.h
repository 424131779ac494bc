#pragma once

#include "base/finding.h"
#include "base/length.h"
#include "geom/vec.h"

#include <array>
#include <string>

namespace wren {

/// What can be said of a program from anywhere, without knowing its part or its blank.
struct ProgramCheck {
    std::string file;
    int lines = 0;
    LengthUnit unit = LengthUnit::mm;
    std::array<Vec3, 2> extents{}; ///< program coordinates, mm
    double cutLength = 0;
    double rapidLength = 0;
    double secondsPlain = 0;
    Findings findings;
};

/// "900,600,110" in mm; each figure may be a length with unit. Throws Error.
Vec3 parseBed(const std::string& text);

/// Reads the text and judges it against a machine of that travel. Where its zero will stand is not
/// known, so reach is judged by span. Throws Error when a line cannot be read.
ProgramCheck checkProgram(const std::string& text, const std::string& name, Vec3 travel);

std::string checkText(const ProgramCheck& check);
std::string checkJson(const ProgramCheck& check);

} // namespace wren
