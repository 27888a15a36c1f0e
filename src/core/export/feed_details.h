// What a feed looks like from close by: a detail of each for the drawing to take outside.
#pragma once

#include <vector>

#include "core/export/build_drawing.h"

namespace rm::io {

/// The conductors round every feed of a design, each to a scale of its own, with their diameters, what the
/// feed sits between and where it leads. No page for a design without feeds, at most kMostDetails of them.
std::vector<Page> feedDetails(const model::Design& design, const model::Expansion& expansion,
                              const DrawingOptions& options);

inline constexpr std::size_t kMostDetails = 12;

}  // namespace rm::io
