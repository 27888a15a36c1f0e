// From a measured curve to the saw: what about the built antenna differs from the drawn one, as far as the
// curve can tell, and how much to cut off or add.
//
// The reflection coefficients of the model are fitted to those measured by a damped Gauss-Newton method
// (K. Levenberg 1944, D. Marquardt 1963; J. Nocedal and S. Wright, Numerical Optimization, 2006,
// section 10.3) over causes with a usual size each (a ridge: A. Hoerl and R. Kennard, Technometrics 12,
// 1970). A cause is taken in only where it pays for itself by the Bayesian information criterion (G. Schwarz,
// Annals of Statistics 6, 1978); the uncertainty of each follows from the curvature at the end.
#pragma once

#include <functional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::build {

enum class Cause {
    Length,       ///< every length that scales, times 1 + value
    Height,       ///< the whole antenna raised by value, m
    Soil,         ///< conductivity times exp(value), permittivity (above one) times exp(value/2)
    Capacitance,  ///< across the feed, pF
    Loss,         ///< in series with the feed, ohm
    Line,         ///< more cable between analyser and antenna than said, m of 50 ohm
};

struct Found {
    Cause cause = Cause::Length;
    double value = 0.0;
    double sigma = 0.0;
    std::string words;  ///< "everything acts 2.1 % longer than drawn (± 0.2)"
};

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
    std::string sentence;  ///< what to do, with its doubt
};

/// Throws rm::Error where there is no measurement, no dimension to cut, or a design that cannot be solved;
/// rm::Stopped where it is told to stop.
TrimAnswer trim(const model::Design& design, const TrimRequest& request, const std::stop_token& stop = {},
                const std::function<void(double)>& progress = {});

/// Lengths that can be cut: plain numbers that scale.
std::vector<std::string> trimDimensions(const model::Design& design);

}  // namespace rm::build
