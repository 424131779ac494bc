#pragma once

#include <optional>

namespace wren {

/// How a blank lies in its tree: the rings flat in its face, or upright through it. Across the grain
/// a flat-sawn one moves with moisture as wood does along its rings, a quarter-sawn one as it does
/// through them. Wood Handbook FPL-GTR-282, chapter 4.
enum class Sawn { flat, quarter };

/// What is known of a part's wood today.
struct WoodState {
    std::optional<double> moisture; ///< per cent, by the maker's meter
    Sawn sawn = Sawn::flat;

    friend bool operator==(const WoodState&, const WoodState&) = default;
};

/// Per cent, of wood indoors in most places. Wood Handbook FPL-GTR-282, chapter 13, from memory.
inline constexpr double indoorMoisture = 8;

} // namespace wren
