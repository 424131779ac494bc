#pragma once

#include <optional>
#include <string>

namespace wren {

/// How much a wood shrinks from green to oven-dry, per cent of its green size.
struct Shrinkage {
    double radial = 0;     ///< through the rings: across a quarter-sawn face
    double tangential = 0; ///< along them: across a flat-sawn face
};

/// By the wood's id; none where no figure is known (sheets, cast stock, many imported woods).
/// Wood Handbook FPL-GTR-282, tables 4-3 and 4-4; the figures here are from memory.
std::optional<Shrinkage> shrinkageOf(const std::string& wood);

/// What a size across the grain becomes when the wood goes from one moisture content to another,
/// per cent. Shrinkage to a content M is S (30 - M) / 30 of the green size, none above 30.
/// Source: Wood Handbook FPL-GTR-282, chapter 4.
double sizeAt(double size, double shrinkage, double fromMoisture, double toMoisture);

} // namespace wren
