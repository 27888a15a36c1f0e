// The typed fields that say where a part is and how large: what moving, turning and scaling change.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/model/field_values.h"
#include "core/quantity/formula.h"

namespace rm::edit {

enum class FieldRole {
    Forward,  ///< the three of a point follow each other
    Left,
    Up,
    Size,   ///< a length that grows with the part
    Turn,   ///< an angle about the vertical, to the right
    Other,  ///< an angle or a number that stays
};

struct ShapeField {
    std::string* text = nullptr;
    quantity::Kind kind = quantity::Kind::Length;
    FieldRole role = FieldRole::Other;
    std::string name;  ///< "end, up"
};

/// All of a part, points first.
std::vector<ShapeField> fieldsOf(model::Part& part);

/// Wavelength in m at the design frequency; 0 where that cannot be read.
double lambdaOf(const model::Design& design);

/// Values of the dimensions, ready to read fields with.
model::FieldValues fieldValues(const model::Design& design);

}  // namespace rm::edit
