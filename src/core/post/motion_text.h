#pragma once

#include <string>

namespace wren {

/// What a program moves and switches: its text without its comments and without lines that hold
/// nothing else. Two programs of one motion text cut the same.
std::string motionText(const std::string& program);

} // namespace wren
