// What the radio sees of the antenna, through the feed path of the design.
#pragma once

#include <vector>

#include "core/circuit/chain.h"
#include "core/model/expand.h"

namespace rm::study {

/// Joints of the feed path from where it begins (circuit::Drive::antennaOhm) to the radio; without a path
/// that place alone. What a harness loses before it is part of the total loss.
std::vector<circuit::Joint> feedPathJoints(const model::Expansion& design, Complex antennaOhm,
                                           double frequencyHz, double harnessLossDb = 0.0);

/// Impedance at the radio end in ohm.
Complex atRadio(const model::Expansion& design, Complex antennaOhm, double frequencyHz);

/// Watts that leave a feed path, whose joints these are, towards the antenna while the radio puts `radioW`
/// into it.
double arrivingW(const std::vector<circuit::Joint>& joints, double radioW);

}  // namespace rm::study
