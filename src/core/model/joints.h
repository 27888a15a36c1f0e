// Where the wires of a model meet.
#pragma once

#include <vector>

#include "core/model/expand.h"

namespace rm::model {

/// All places where two or more wire ends, or an end and a wire, meet, with the groups of wires (parts, one
/// copy each) that do, in the order of the wires.
std::vector<Joint> findJoints(const WireModel& model);

}  // namespace rm::model
