// A new value written the way the old one was typed.
#pragma once

#include <string>

#include "core/quantity/formula.h"

namespace rm::quantity {

/// `value` (m, degrees or plain, as `kind` says) in the unit that `like` is written in, rounded to `step` (in
/// the same unit as `value`; 0: as exact as matters to a wire), without zeros that say nothing. Lengths in
/// wavelengths stay so, as `lambdaM` counts them.
std::string typedLike(const std::string& like, Kind kind, double value, double step, double lambdaM);

/// A length as it is typed to the mark of a tape with so many to the inch: "-16' 5 3/8\"", with a plain
/// minus.
std::string typedTape(double metres, int parts);

}  // namespace rm::quantity
