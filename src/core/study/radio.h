// What the radio sees of the first feed, through the feed path of the design.
#pragma once

#include <vector>

#include "core/circuit/chain.h"
#include "core/model/expand.h"

namespace rm::study {

/// Joints of the feed path from the first feed to the radio; without a path the feed alone.
std::vector<circuit::Joint> feedPathJoints(const model::Expansion& design, Complex feedOhm,
                                           double frequencyHz);

/// Impedance at the radio end in ohm.
Complex atRadio(const model::Expansion& design, Complex feedOhm, double frequencyHz);

}  // namespace rm::study
