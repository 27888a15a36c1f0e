// Measurements of a built antenna, kept with the design they belong to.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/common.h"

namespace rm::model {

/// One frequency of a measurement. Analysers that know the SWR only leave the impedance out.
struct MeasuredPoint {
    double frequencyHz = 0.0;
    std::optional<Complex> impedanceOhm;
    double swr = 1.0;  ///< to the reference of the measurement

    bool operator==(const MeasuredPoint&) const = default;
};

/// What an analyser wrote, by rising frequency.
struct MeasuredData {
    std::vector<MeasuredPoint> points;
    double referenceOhm = 50.0;
    std::string note;  ///< the first comment of the file

    bool operator==(const MeasuredData&) const = default;
};

}  // namespace rm::model
