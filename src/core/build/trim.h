// From a measured curve to the saw: how much to cut off or add, by what the built antenna differs from the
// drawn one in as far as the curve can tell (build/cause_fit.h).
#pragma once

#include <functional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/build/causes.h"

namespace rm::build {

struct TrimRequest {
    std::vector<std::size_t> measured;  ///< of the design's measurements; empty: all that are shown
    std::string dimension;              ///< to be cut; empty: the first that tuning moves, or that scales
    model::Band band;                   ///< to be good on
};

struct TrimCurve {
    std::vector<double> hz;
    std::vector<double> measuredSwr;
    std::vector<double> drawnSwr;   ///< the model as drawn
    std::vector<double> fittedSwr;  ///< the model as built
    std::vector<double> cutSwr;     ///< as built, after the cut
};

struct TrimAnswer {
    std::string dimension;
    std::string called;  ///< with what its note says of it
    std::string band;    ///< that it is to be good on
    std::vector<Found> causes;
    bool explained = true;     ///< the fit lies on the measurement, as far as it is smooth
    double misfit = 0.0;       ///< rms of the difference of the reflection coefficients
    double misfitDrawn = 0.0;  ///< the same of the model as drawn
    double nowM = 0.0;         ///< the dimension as it is
    double changeM = 0.0;      ///< to cut off (below zero) or to add
    double sigmaM = 0.0;
    double beforeHz = 0.0;   ///< of the best SWR as measured
    double afterHz = 0.0;    ///< after the cut
    double beforeSwr = 1.0;  ///< worst over the band, as built
    double afterSwr = 1.0;   ///< after the cut
    TrimCurve curve;
};

/// Throws rm::Error where there is no measurement, no dimension to cut, or a design that cannot be solved;
/// rm::Stopped where it is told to stop.
TrimAnswer trim(const model::Design& design, const TrimRequest& request, const std::stop_token& stop = {},
                const std::function<void(double)>& progress = {});

/// What to do, with its doubt, in one sentence.
std::string trimSentence(const TrimAnswer& answer, bool feetAndInches = false);

/// Lengths that can be cut: plain numbers that scale.
std::vector<std::string> trimDimensions(const model::Design& design);

}  // namespace rm::build
