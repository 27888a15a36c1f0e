// How the moments of a mesh change where some of its spans are moved, from the pairs that have moved against
// each other alone.
#pragma once

#include "core/em/solver.h"

namespace rm::em {

/// (M' - M) x of the local functions, local functions x columns of x, in ohm times those: M' the moments of
/// `moved`, M those of `mesh`, whose lower triangle is `moments` (localMoments). Both meshes have the same
/// spans of the same orders. The same whatever the threads do.
MatrixXc movedMomentsTimes(const Mesh& moved, const Mesh& mesh, const MatrixXc& moments, double frequencyHz,
                           const MatrixXc& x);

}  // namespace rm::em
