#pragma once

#include "exchange/drawing.h"
#include "part/neck_part.h"

#include <string>
#include <vector>

namespace wren {

/// The neck from the front at full size, instrument frame: outline, pockets, holes, tuners' bodies,
/// nut's line, strings behind the nut.
Drawing neckDrawing(const NeckPart& part, const std::string& title);

/// Sections square to X, one above the other at full size, each with its edges and a centre line;
/// as templates they are cut out and held against the neck.
Drawing neckSections(const NeckPart& part, const std::vector<double>& at, const std::string& title);

/// The same sections as points: x,y,z in mm, instrument frame, a line each, with a heading.
std::string neckSectionsCsv(const NeckPart& part, const std::vector<double>& at);

/// Throws Error for a place where there is no neck.
void checkSections(const NeckPart& part, const std::vector<double>& at);

} // namespace wren
