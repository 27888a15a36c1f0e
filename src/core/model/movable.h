// Numbers of a design that could be dimensions: what tuning may move once they are.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::model {

/// A typed number somewhere in a design.
struct Movable {
    std::string owner;  ///< the part, load, block, feed, copy or drive set: "Stub"
    std::string field;  ///< "length"
    DimensionKind kind = DimensionKind::Length;
    bool ratio = false;  ///< of a transformer: "49:1"
    /// Where it stands in a design; null where what it belongs to is gone or has another shape.
    std::function<std::string*(Design&)> text;
};

/// All plain numbers of a design that are worth moving, in the order of the plan; what is a formula or a
/// dimension already is left out.
std::vector<Movable> movablesOf(const Design& design);

/// A name for a dimension of this owner and field that is free in the design: "stub_length".
std::string dimensionName(const Design& design, const std::string& owner, const std::string& field);

/// Puts a dimension in the place of the number, with a slider of 30 % to both sides, and returns its name.
/// Throws rm::Error where the number cannot be read or is not there any more.
std::string makeDimension(Design& design, const Movable& movable);

/// The same, and lets tuning move it; a transformer over the ratios that are usually wound.
std::string letMove(Design& design, const Movable& movable);

}  // namespace rm::model
