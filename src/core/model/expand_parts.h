// One part of a design worked out into plain wires.
#pragma once

#include <string>
#include <vector>

#include "core/model/expand_copies.h"
#include "core/model/expand_hung.h"
#include "core/model/expand_row.h"

namespace rm::model {

/// What a part is worked out among.
struct PartScene {
    double lambdaM = 0.0;
    std::vector<PlainSupport> supports;
    double heightM = 0.0;  ///< of the site: what hangs from supports is not lifted by it
};

/// Sizes that its wires do not tell.
struct PartSizes {
    RowSizes row;    ///< of an element row, with what its boom asks for
    HungSizes hung;  ///< of a hung wire
    PlainWire run;   ///< what a cable run is made of, which is laid once its feed has its place
};

/// The wires of a part, without the height of the site; none where it is switched off or has problems.
Unit expandPart(FieldValues& values, const Part& part, const PartScene& scene, PartSizes& sizes);

/// The texts of lengths that are taken in turn, separated by semicolons; the list may end with one.
std::vector<std::string> lengthsInTurn(const std::string& texts);

}  // namespace rm::model
