// A design with one of its numbers changed.
#pragma once

#include <string>

#include "core/model/design.h"

namespace rm::study {

/// Throws rm::Error where there is none of that name.
const model::Dimension& dimensionOf(const model::Design& design, const std::string& name);

/// The design with a dimension set to a value in m, degrees or plain. Throws rm::Error where there is none of
/// that name.
model::Design withDimension(const model::Design& design, const std::string& name, double value);

}  // namespace rm::study
