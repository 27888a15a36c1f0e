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

/// A value in m, degrees or plain as a dimension of this kind has it, to the last digit.
std::string exactText(DimensionKind kind, double value);

}  // namespace rm::model
