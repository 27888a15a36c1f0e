// Complex numbers as they are typed.
#pragma once

#include <complex>
#include <optional>
#include <string_view>

namespace rm::quantity {

/// "36", "25 - j10", "25-10j", "j4": real and imaginary part, each once at most, with j or i before or behind
/// the imaginary one. Nothing where the text is anything else.
std::optional<std::complex<double>> readComplex(std::string_view text);

}  // namespace rm::quantity
