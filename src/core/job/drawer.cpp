#include "job/drawer.h"

#include "base/error.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

const Bit& bitIn(const Drawer& drawer, const std::string& name) {
    const Bit* bit = findBit(drawer, name);
    if (!bit) {
        std::string known;
        for (const Bit& b : drawer) {
            known += (known.empty() ? "" : ", ") + b.name;
        }
        throw Error(fmt::format("There is no bit \"{}\" in the drawer; it holds {}.", name,
                                known.empty() ? "none" : known));
    }
    return *bit;
}

} // namespace

Project withBit(const Project& project, const std::string& name, const std::string& like) {
    Bit bit = bitIn(project.bits, like);
    if (name.empty() || name.size() > 80) {
        throw Error("A bit's name of 1 to 80 characters was expected.");
    }
    if (findBit(project.bits, name)) {
        throw Error(fmt::format("There is a bit \"{}\" already; another name was expected.", name));
    }
    bit.name = name;
    Project more = project;
    more.bits.push_back(bit);
    return more;
}

Project withoutBit(const Project& project, const std::string& name) {
    bitIn(project.bits, name);
    Project fewer = project;
    std::erase_if(fewer.bits, [&](const Bit& b) { return b.name == name; });
    return fewer;
}

std::string freeBitName(const Drawer& drawer, const std::string& name) {
    std::string free = name;
    for (char c = 'b'; findBit(drawer, free) && c <= 'z'; ++c) {
        free = fmt::format("{} {}", name, c);
    }
    return free;
}

} // namespace wren
