#pragma once

#include <string>
#include <string_view>

namespace wren {

/// The unit a maker reads and types in. The core itself always holds millimetres.
enum class LengthUnit { mm, inch };

/// 1 in = 25.4 mm exactly (International Yard and Pound Agreement, 1959).
inline constexpr double mmPerInch = 25.4;

/// Reads a length as makers write it and returns millimetres.
///
/// Units: mm, cm, m, in, inch, ", ft, '. Numbers: 44.5, .58, 3/16, 25 1/2 (a whole number followed
/// by a fraction). Arithmetic: + - * / and brackets, e.g. `1/8in+0.5mm`, `(648-6)/2`. A number
/// without any unit is taken in `bare`; a product needs one plain number among its factors. Throws
/// Error naming the text and the place that could not be read.
double parseLength(std::string_view text, LengthUnit bare = LengthUnit::mm);

/// Reads a plain number with the same arithmetic; a unit in it is an Error.
double parseNumber(std::string_view text);

/// "620.00 mm" or "24.409 in"; `decimals` counts millimetre decimals, inches get one more.
std::string formatLength(double mm, LengthUnit unit, int decimals = 2);

/// The same without the unit.
std::string formatLengthValue(double mm, LengthUnit unit, int decimals = 2);

} // namespace wren
