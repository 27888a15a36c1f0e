// The one reader of plain numbers: whatever the locale, all of the text or nothing, finite, of a size that a
// quantity of this field can have.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace rm::quantity {

/// Sizes of numbers that are read, zero beside them: from the charge of an electron to light years, squared.
inline constexpr double kSmallestNumber = 1e-40;
inline constexpr double kLargestNumber = 1e40;

/// The number that `text` is: digits with a decimal point, sign and power of ten, nothing before or behind.
/// Nothing where it is none, is not finite, or lies outside the sizes above.
std::optional<double> readNumber(std::string_view text);

/// Whether a value lies within the sizes above, zero included.
bool isOfThisWorld(double value);

/// `text` without what a terminal, a text file or a list would take for more than a letter: control
/// characters become blanks, and what is no UTF-8 is read as Latin-1.
std::string plainText(std::string_view text);

}  // namespace rm::quantity
