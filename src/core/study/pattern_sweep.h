// Gain, front-to-back and takeoff angle against frequency.
#pragma once

#include <stop_token>
#include <vector>

#include "core/study/figures.h"

namespace rm::study {

struct PatternPoint {
    double frequencyHz = 0.0;
    double gainDbi = 0.0;
    double takeoffDeg = 0.0;
    double frontToBackDb = 0.0;
    double efficiency = 1.0;
};

/// Figures of the pattern from low to high, both ends included, ascending: at the frequencies that `fields`
/// has solved for a sweep of the same range, and at more where two neighbours lie further apart than a
/// `count`-th (at least 2) of the range. A pattern changes slowly over a band, so that a dozen are enough.
/// Stops early when asked and returns what it has. Throws rm::Error for a design with errors.
std::vector<PatternPoint> patternSweep(const model::Expansion& design, double lowHz, double highHz, int count,
                                       std::stop_token stop = {}, FieldStore* fields = nullptr);

}  // namespace rm::study
