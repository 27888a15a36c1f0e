// Takes an antenna apart into plain wires.
#pragma once

#include "core/model/design.h"

namespace rm::model {

/// The design with every part and every copy as wires of its own, in numbers: no element rows, no copies, and
/// no formulas in the parts; feeds, loads and lines on those wires under the names they had. Throws rm::Error
/// for a design with errors.
Design loosened(const Design& design);

}  // namespace rm::model
