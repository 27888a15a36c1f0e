// One part of a design worked out into plain wires.
#pragma once

#include <string>
#include <vector>

#include "core/model/expand_copies.h"
#include "core/model/expand_row.h"

namespace rm::model {

/// The wires of a part, without the height of the site; none where it is switched off or has problems.
/// `sizes` is filled for an element row, with what its boom asks for at `lambdaM`.
Unit expandPart(FieldValues& values, const Part& part, double lambdaM, RowSizes& sizes);

/// The texts of lengths that are taken in turn, separated by semicolons; the list may end with one.
std::vector<std::string> lengthsInTurn(const std::string& texts);

}  // namespace rm::model
