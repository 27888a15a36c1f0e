// Judges plain wires before they are solved: what thin-wire theory cannot answer is said by part, not
// computed.
#pragma once

#include <vector>

#include "core/model/expand.h"

namespace rm::model {

/// Findings about geometry and ports at the highest frequency of interest in Hz. A model with an error-level
/// finding must not be solved.
std::vector<Finding> checkWires(const WireModel& model, double frequencyHz);

/// What the thickness of the wires means at this frequency in Hz: errors and warnings, once per part.
std::vector<Finding> checkThickness(const WireModel& model, double frequencyHz);

/// Throws rm::Error with one sentence where the program does not work at this frequency in Hz.
void requireFrequency(double frequencyHz);

/// Throws rm::Error where these wires must not be solved at this frequency in Hz: for whoever solves at
/// another one than the design was checked for.
void requireSolvable(const WireModel& model, double frequencyHz);

}  // namespace rm::model
