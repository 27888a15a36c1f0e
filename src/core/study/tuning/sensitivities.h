// What matters: how much each dimension changes the figures.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/study/sweep.h"

namespace rm::study {

/// The step of a length; angles step by one degree and plain numbers by one percent, whatever it is.
enum class SensitivityStep { Millimetre, Centimetre, Percent };

/// Change of the figures when one dimension grows by `step`.
struct Sensitivity {
    std::string dimension;
    model::DimensionKind kind = model::DimensionKind::Length;
    double step = 0.0;  ///< in m, degrees or plain
    double swr = 0.0;
    double resonanceHz =
        0.0;  ///< of the frequency where X = 0, nearest to the working one; 0 where there is none
    double gainDb = 0.0;
    double frontToRearDb = 0.0;
};

/// One row per dimension that has a plain number, the one that moves the SWR most first. Throws rm::Error for
/// a design with errors.
std::vector<Sensitivity> studySensitivity(const model::Design& design, double frequencyHz,
                                          SensitivityStep step = SensitivityStep::Millimetre,
                                          std::stop_token stop = {});

}  // namespace rm::study
