// How much the program takes on. Beyond these it says so in a sentence instead of taking the machine's memory
// and the evening; docs/formats.md lists them.
#pragma once

#include <cstddef>

namespace rm::model {

/// Straight pieces of wire of one design, copies included.
inline constexpr std::size_t kMostWires = 3000;
/// Unknowns of one field solution: the matrix takes 16 bytes for each pair, 400 MB at the most.
inline constexpr std::size_t kMostUnknowns = 5000;

/// Directions times spans that the mean gain is summed over, and the phase in radians across an antenna.
inline constexpr double kMostFieldTerms = 1e9;
inline constexpr double kMostPhase = 1e5;

}  // namespace rm::model
