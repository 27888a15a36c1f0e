// The holes of a boom at their true size, in strips to be joined: laid along the boom they are marked through
// the paper.
#pragma once

#include <vector>

#include "core/export/build_drawing.h"

namespace rm::io {

/// For every boom of the design, from one end to the other. Throws rm::Error for a design with errors or
/// without elements on a boom, and for a boom that is longer than kLongestTemplateM.
std::vector<Sheet> boomTemplate(const model::Design& design, const DrawingOptions& options);

inline constexpr double kLongestTemplateM = 20.0;

}  // namespace rm::io
