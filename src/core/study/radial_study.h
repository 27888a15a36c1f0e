// What radials are worth: an antenna on a radial system with other numbers and lengths of radials.
#pragma once

#include <array>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/quantity/format.h"
#include "core/study/site_study.h"

namespace rm::study {

/// The antenna on so many radials.
struct RadialPoint {
    int count = 0;
    double wireM = 0.0;  ///< of all radials together
    Complex ohm;         ///< of the antenna
    double swr = 1.0;
    std::array<double, 4> watchGainDbi{};  ///< at the elevations of the look
    double efficiency = 1.0;
    double skyShare = 1.0;   ///< of the input power
    double soilShare = 0.0;  ///< of the input power, in the soil round the wires
};

/// One length and every number of radials.
struct RadialCurve {
    double lengthM = 0.0;
    std::vector<RadialPoint> points;  ///< ascending in number; without those that cannot be worked out
};

/// How many radials a design has, and how long the longest are.
struct Radials {
    int count = 0;
    double lengthM = 0.0;
};

struct RadialStudy {
    std::string part;
    Look look;
    double frequencyHz = 0.0;
    Radials now;
    std::array<RadialCurve, 3> curves;  ///< half, the same and twice the length now
    bool complete = false;

    /// Where more wire stops paying, and what twice as many as now would bring: in gain at the second watch
    /// angle; lengths in metres, or in feet. Empty where there is nothing to say.
    std::string advice(quantity::LengthStyle lengths = quantity::LengthStyle::Metric) const;
};

/// The numbers of radials that are tried, 2 to 120.
const std::vector<int>& radialCounts();

/// The name of the first radial system of the design that is in use; empty where there is none.
std::string radialSystemOf(const model::Design& design);

/// Nothing where there are none, or where their number or length cannot be worked out.
std::optional<Radials> radialsOf(const model::Design& design);

/// Throws rm::Error for a design with errors or without a radial system. Radials of several lengths count by
/// the longest.
RadialStudy studyRadials(const model::Design& design, double frequencyHz, const Look& look,
                         std::stop_token stop = {}, const Progress& progress = {});

/// The design with so many radials of this length in m.
[[nodiscard]] model::Design withRadials(model::Design design, const std::string& part, int count,
                                        double lengthM);

}  // namespace rm::study
