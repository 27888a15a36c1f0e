// A design without one of its parts, for comparing.
#pragma once

#include <string>

#include "core/model/design.h"

namespace rm::model {

/// The design with a part switched off and without what stands on it: its loads, lines that end there, its
/// feeds with what drives them. The part itself stays, so that names that mean it still do.
[[nodiscard]] Design withoutPart(Design design, const std::string& part);

}  // namespace rm::model
