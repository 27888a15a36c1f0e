// How finely a hand places things on a drawing.
#pragma once

#include "core/edit/fit.h"

namespace rm::app {

/// The steps of a hand where a pixel is so long: no finer than it can see, and on marks of the tape that the
/// project is read with.
edit::Steps handSteps(double metresPerPixel, bool feet);

}  // namespace rm::app
