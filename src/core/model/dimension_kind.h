// What a dimension measures, as the kind of number that is typed for it.
#pragma once

#include "core/model/design.h"
#include "core/quantity/formula.h"

namespace rm::model {

inline quantity::Kind kindOf(DimensionKind kind) {
    return kind == DimensionKind::Angle    ? quantity::Kind::Angle
           : kind == DimensionKind::Number ? quantity::Kind::Number
                                           : quantity::Kind::Length;
}

}  // namespace rm::model
