// What changed between two designs, in a few words.
#pragma once

#include <string>

#include "core/model/design.h"

namespace rm::model {

/// "apex 12 m → 9 m", "Lattice mast on", "height 0 m → 3 m, marsh → rock"; the name of the later design where
/// it is another one; empty where nothing changed. At most two changes are named, "and 3 more" stands for the
/// rest.
std::string describeChange(const Design& before, const Design& after);

}  // namespace rm::model
