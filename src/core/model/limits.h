// How much the program takes on. Beyond these it says so in a sentence instead of taking the machine's memory
// and the evening; docs/formats.md lists them.
#pragma once

#include <cstddef>

namespace rm::model {

/// Frequencies that the program works at, in Hz: below, no antenna radiates; above, no wire is thin.
inline constexpr double kLowestHz = 1e3;
inline constexpr double kHighestHz = 1e11;
/// The thinnest conductor: thinner than any wire that is drawn, and than the skin depth at the highest
/// frequency.
inline constexpr double kThinnestRadiusM = 0.5e-6;

/// Items of one kind in a list of the project file: parts, dimensions, designs.
inline constexpr std::size_t kMostItems = 3000;
/// Supports that one wire is tied to.
inline constexpr std::size_t kMostHangPoints = 40;
/// Straight pieces of wire of one design, copies included.
inline constexpr std::size_t kMostWires = 3000;
/// Unknowns of one field solution: the matrix takes 16 bytes for each pair, 400 MB at the most.
inline constexpr std::size_t kMostUnknowns = 5000;

/// Directions times spans that the mean gain is summed over, and the phase in radians across an antenna.
inline constexpr double kMostFieldTerms = 1e9;
inline constexpr double kMostPhase = 1e5;

}  // namespace rm::model
