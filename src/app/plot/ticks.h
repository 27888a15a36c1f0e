// Steps of an axis that people like to read. Nothing that comes out of a computation, infinite or not a
// number, makes an axis endless.
#pragma once

#include <vector>

namespace rm::app {

/// A round step (1, 2, 2.5 or 5 times a power of ten) that divides the span into about `parts`; 1 where the
/// span is no finite positive number.
double roundStep(double span, int parts);

/// The multiples of a step between both ends, at most kMostTicks; none where that makes no sense.
inline constexpr int kMostTicks = 100;
std::vector<double> ticksBy(double low, double high, double step);

/// Those of a round step.
inline std::vector<double> ticks(double low, double high, int parts) {
    return ticksBy(low, high, roundStep(high - low, parts));
}

struct Range {
    double low = 0.0;
    double high = 1.0;

    bool operator==(const Range&) const = default;
    double span() const { return high - low; }
    /// Takes a value in; infinities and what is no number are left out.
    void include(double value);
    /// Takes in nothing yet.
    static Range nothing() { return {1.0, 0.0}; }
    bool empty() const { return low > high; }
    /// At least `least` wide, widened to multiples of a round step; 0 to `least` where it is empty.
    Range rounded(int parts, double least) const;
};

}  // namespace rm::app
