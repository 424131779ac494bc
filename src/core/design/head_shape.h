#pragma once

#include "design/neck.h"

#include <string>
#include <vector>

namespace wren {

/// The starting shapes' names, which differ in how the head ends: "paddle" round, "keel" in a
/// point, "chisel" blunt.
const std::vector<std::string>& headShapeNames();

/// The nodes of a starting shape drawn round this neck's tuners, as Headstock::nodes holds them:
/// wood about every bushing, whatever the number of strings and their split. Empty for another
/// word.
std::vector<HeadNode> headRound(const std::string& name, const Neck& neck, const Fretboard& board);

} // namespace wren
