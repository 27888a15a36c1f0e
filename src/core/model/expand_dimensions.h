// The named values of a design, worked out in the order that their formulas need.
#pragma once

#include <vector>

#include "core/model/design.h"
#include "core/model/field_values.h"

namespace rm::model {

/// Puts the value of every dimension that can be worked out into the scope; the others become findings.
void evaluateDimensions(FieldValues& values, const std::vector<Dimension>& dimensions);

}  // namespace rm::model
