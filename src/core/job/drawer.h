#pragma once

#include "job/project.h"

namespace wren {

/// A project with one more bit: a copy of `like`, called `name`, at the drawer's end. Throws Error
/// when the name is taken or empty, or there is no such bit.
Project withBit(const Project& project, const std::string& name, const std::string& like);

/// A project without that bit. Throws Error when there is none. A cut set by hand to use it is left
/// as it is: that the bit is missing is then a finding.
Project withoutBit(const Project& project, const std::string& name);

/// A name no bit of the drawer has yet, made from `name`: "flat-6", "flat-6 b", "flat-6 c" ...
std::string freeBitName(const Drawer& drawer, const std::string& name);

} // namespace wren
