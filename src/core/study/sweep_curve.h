// What lies between the points that a sweep was asked for, from the model that it rests on.
#pragma once

#include <functional>
#include <stop_token>
#include <vector>

#include "core/study/sweep.h"

namespace rm::study {

/// `asked` (in order of frequency) with points between them, from `at`, which gives the point at a frequency
/// in Hz: never more than 0.2 % of the frequency apart, and so close that the reflection coefficients at the
/// radio and at the antenna, to `referenceOhm`, move by 0.01 or so from one to the next near a match, by 0.1
/// elsewhere. Read off in straight lines an SWR is then right to 0.01 where it is good. At most 4000 points
/// are added. Empty where nothing has to be added; where it is stopped, too.
std::vector<SweepPoint> withBetween(const std::vector<SweepPoint>& asked, double referenceOhm,
                                    const std::function<SweepPoint(double)>& at, const std::stop_token& stop);

}  // namespace rm::study
