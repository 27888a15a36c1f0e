// Moving, turning and scaling parts, one or several together.
#pragma once

#include <vector>

#include "core/edit/fit.h"

namespace rm::edit {

/// Moves parts of the design by `byM`.
Fit shiftParts(model::Design& design, const std::vector<model::Id>& parts, const Vec3& byM,
               const Steps& steps);

/// Turns them to the right, as seen from above, about the upright line through `axisM` (coordinates of the
/// design).
Fit turnParts(model::Design& design, const std::vector<model::Id>& parts, const Vec3& axisM, double degrees,
              const Steps& steps);

/// Scales them about `centreM` (coordinates of the design): points, lengths and positions, not what they are
/// made of.
Fit scaleParts(model::Design& design, const std::vector<model::Id>& parts, const Vec3& centreM, double factor,
               const Steps& steps);

}  // namespace rm::edit
