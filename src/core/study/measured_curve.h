// A measurement moved to the plane of a modelled curve, and how far the two are apart.
#pragma once

#include <optional>
#include <vector>

#include "core/model/expand.h"
#include "core/study/sweep.h"

namespace rm::study {

enum class Plane { Radio, Antenna };

/// The points of measurement `index` of the design as an analyser at `plane` would have read them: its lead
/// is taken away, then it is moved through the feed path where it was taken at the other end. Points that
/// know the SWR only stay where no move is needed, and are left out otherwise. SWR is to the reference of the
/// design where the impedance is known.
std::vector<model::MeasuredPoint> measuredAt(const model::Design& design, const model::Expansion& expansion,
                                             std::size_t index, Plane plane);

/// A measurement seen from both ends of the feed path.
struct MeasuredPlanes {
    std::vector<model::MeasuredPoint> radio;
    std::vector<model::MeasuredPoint> antenna;
};

/// Measured and modelled at one frequency.
struct Difference {
    double frequencyHz = 0.0;
    std::optional<Complex> measuredOhm;
    Complex modelledOhm;
    double measuredSwr = 1.0;
    double modelledSwr = 1.0;
    std::optional<double> reflection;  ///< size of the difference of the reflection coefficients
};

/// At each of `frequenciesHz` (Hz) that both the points and the sweep cover, between their points
/// interpolated.
std::vector<Difference> differences(const std::vector<model::MeasuredPoint>& points, const Sweep& sweep,
                                    Plane plane, const std::vector<double>& frequenciesHz);

}  // namespace rm::study
