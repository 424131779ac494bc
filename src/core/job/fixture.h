#pragma once

#include "job/derive.h"

#include <filesystem>

namespace wren {

/// The neck's fixture board alone, derived and proved, as DIR/fixture-pins.nc: what is run before
/// any other program of the neck. Throws Error saying what is in the way: no pins to drill for, no
/// bit that makes their holes, a stop of its proof.
PostedProgram postFixture(const Project& project, const std::filesystem::path& dir);

} // namespace wren
