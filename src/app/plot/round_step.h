// Steps of an axis that people like to read.
#pragma once

#include <cmath>

namespace rm::app {

/// A round step (1, 2, 2.5 or 5 times a power of ten) that divides the span into about `parts`.
inline double roundStep(double span, int parts) {
    const double raw = span / parts;
    const double power = std::pow(10.0, std::floor(std::log10(raw)));
    for (const double m : {1.0, 2.0, 2.5, 5.0, 10.0})
        if (m * power >= raw * 0.999) return m * power;
    return 10.0 * power;
}

}  // namespace rm::app
