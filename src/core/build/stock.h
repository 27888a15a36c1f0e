// Which pieces come out of which stock lengths, with as little left as can be.
#pragma once

#include <string>
#include <vector>

#include "core/build/pieces.h"

namespace rm::build {

/// One stock length and what is cut from it.
struct StockBar {
    std::vector<std::size_t> pieces;  ///< indices into the lengths asked for, longest first
    double leftM = 0.0;
};

struct StockPlan {
    std::vector<StockBar> bars;
    std::vector<std::size_t> tooLong;  ///< lengths that no bar holds
    double leftM() const;
};

/// Lays the lengths (m) on bars of `stockM`, each cut taking `kerfM`: best fit, longest first, then bars with
/// much left are emptied into others and pairs exchanged where that makes a bar superfluous. S. Martello and
/// P. Toth, Knapsack Problems (1990), chapter 8: never more than 11/9 of the least number of bars, and one,
/// and as a rule none too many.
StockPlan layOut(const std::vector<double>& lengthsM, double stockM, double kerfM = 0.002);

/// No plan needs fewer bars than this: the sum of the lengths, and those that cannot share a bar.
std::size_t fewestBars(const std::vector<double>& lengthsM, double stockM, double kerfM = 0.002);

}  // namespace rm::build
