// Fields of a design brought to wanted values: a number is rewritten, a formula is followed to the dimensions
// that stand behind it, and these move.
//
// Of the dimensions that could move, those move that are needed and no more: one after the other in the order
// of how little else hangs on them, as long as each reaches what those before it do not. Their values follow
// by Gauss-Newton steps on the formulas (J. Nocedal and S. Wright, Numerical Optimization, 2006, section
// 10.3).
#pragma once

#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/quantity/formula.h"

namespace rm::edit {

struct FieldTarget {
    std::string* text = nullptr;  ///< in the design
    quantity::Kind kind = quantity::Kind::Length;
    double wanted = 0.0;  ///< m, degrees or plain
    std::string name;     ///< "end, up"
};

/// How fine hands are: what is written is rounded to this. 0: exact, as for ends that meet.
struct Steps {
    double lengthM = 0.01;
    double angleDeg = 1.0;
};

struct Fit {
    std::vector<std::string> moved;  ///< names of the dimensions that moved
    std::vector<std::string> held;   ///< "end, up is held by its formula \"lambda/4\""
};

/// Changes what `targets` say, as far as it goes; the rest is held and stays as it is. Fields that have their
/// value already are not touched. Nothing where a field cannot be read.
Fit fitFields(model::Design& design, const std::vector<FieldTarget>& targets, const Steps& steps);

}  // namespace rm::edit
