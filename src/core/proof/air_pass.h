#pragma once

#include <string>

namespace wren {

/// The program as it runs through the air: every height of the work's own frame `lift` mm higher,
/// in the unit and with the modes it has; heights told in machine coordinates (G53) and the modes
/// themselves stay. The text is read back and must move as the program does but for the lift.
///
/// Throws Error: a lift of nothing or less, a line that cannot be read, a probe (it would miss its
/// plate), or moves in increments before a height was told, which cannot be lifted.
std::string airPass(const std::string& program, const std::string& name, double lift);

} // namespace wren
