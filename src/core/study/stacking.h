// How far apart the antennas of a stack should be.
#pragma once

#include <optional>
#include <stop_token>
#include <vector>

#include "core/study/lobes.h"
#include "core/study/sweep.h"

namespace rm::study {

/// Spacing in metres that makes the first nulls of a pair fall where a single antenna with this -3 dB
/// beamwidth has lost 3 dB: lambda/(2 sin(beamwidth/2)). Source: the half-power rule of stacking; two-element
/// array factor, Balanis, Antenna Theory (2016), chapter 6.
double stackingSpacingM(double beamwidthDeg, double lambdaM);

/// What the half-power rule calls for, from the antenna that a stack multiplies, alone in free space.
struct StackingAdvice {
    double rowBeamwidthDeg = 0.0;     ///< in the upright plane
    double columnBeamwidthDeg = 0.0;  ///< in the level plane
    std::optional<double> rowSpacingM;
    std::optional<double> columnSpacingM;  ///< nothing where that plane has no half-power points
};

/// For copy `copy` of the design, which has to be a stack. Throws rm::Error for a design with errors.
StackingAdvice adviseStacking(const model::Design& design, std::size_t copy, double frequencyHz);

struct StackingPoint {
    double spacingM = 0.0;
    double gainDbi = 0.0;
    std::optional<double> sideLobeDb;  ///< below the main lobe, in the plane of the spacing
};

/// The stack in free space with `count` spacings from `fromM` to `toM` of its rows, or of its columns where
/// it has no rows to space. Stops early when asked and returns what it has.
std::vector<StackingPoint> scanStacking(const model::Design& design, std::size_t copy, double frequencyHz,
                                        double fromM, double toM, int count, std::stop_token stop = {},
                                        const Progress& progress = {});

}  // namespace rm::study
