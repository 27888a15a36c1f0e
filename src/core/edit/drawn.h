// Wires drawn by hand, and lengths that get names.
#pragma once

#include <vector>

#include "core/edit/items.h"

namespace rm::edit {

/// A bent wire through these points of the site (a straight one of two), made of what the last part for the
/// antenna is made of. The first part of a design that can be fed gets a feed. Throws rm::Error for fewer
/// than two points.
[[nodiscard]] Added addDrawn(model::Project project, const std::vector<Vec3>& pointsM, bool closed);

/// Puts dimensions in the place of the lengths of a straight or bent wire in numbers: one for each length,
/// the same for lengths that are equal; directions stay as they are. Throws rm::Error where the part has no
/// such lengths.
[[nodiscard]] model::Project nameLengths(model::Project project, model::Id part);

}  // namespace rm::edit
