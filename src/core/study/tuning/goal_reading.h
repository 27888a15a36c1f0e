// What goals read off an antenna at one frequency.
#pragma once

#include <optional>
#include <vector>

#include "core/em/far_field.h"
#include "core/em/solver.h"
#include "core/model/expand.h"
#include "core/model/goals.h"

namespace rm::study {

/// What one goal wants to know of the pattern.
struct PatternAsk {
    model::GoalKind kind = model::GoalKind::GainAt;
    double lowDeg = 0.0;  ///< elevation; the lower one of a range
    double highDeg = 0.0;
    std::optional<double> azimuthDeg;  ///< in the axes of the design; nothing: the best
};

/// Everything that the goals of a design ask for.
struct GoalAsks {
    bool pattern = false;
    bool side = false;
    std::vector<PatternAsk> asks;
};

/// Directions that a figure was read in; held while derivatives are taken.
struct ReadDirections {
    em::Direction peak;
    double towardsPeakDeg = 0.0;  ///< how far above it a parabola puts the top of the lobe
    std::optional<em::Direction> side;
    std::vector<std::vector<em::Direction>> asked;  ///< of every PatternAsk
};

/// One way of driving the antenna, at one frequency.
struct GoalReading {
    Complex antennaOhm;
    Complex reflection = 1.0;  ///< at the radio
    double swr = 99.0;
    double gainDbi = 0.0;
    double sideDbi = -999.0;
    double efficiency = 1.0;
    double takeoffDeg = 0.0;
    std::vector<double> asked;  ///< of every PatternAsk, dBi or dB
    ReadDirections directions;
};

/// In `held` directions, or where the pattern says. The rear is found to a few hundredths of a degree; held,
/// it moves up and down with the top of the lobe, as small as that is.
GoalReading readForGoals(const model::Expansion& design, const em::PortSolution& solution,
                         const GoalAsks& asks, const ReadDirections* held = nullptr);

}  // namespace rm::study
