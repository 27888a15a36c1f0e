// Mirror symmetry: an upright plane that brings the antenna upon itself takes the matrix apart into one for
// the currents that are their own mirror image and one for those that are against it, each of half the size:
// a quarter of the factorisation.
//
// A block-circulant matrix of two blocks: P. J. Davis, Circulant Matrices (1979); of coupled lines it is
// called even and odd excitation.
#pragma once

#include <optional>
#include <stop_token>
#include <vector>

#include "core/em/solver.h"

namespace rm::em {

/// What the plane does to the basis functions.
struct Mirror {
    std::vector<std::size_t> image;  ///< of every function
    std::vector<double> sign;  ///< 1 where a function becomes its image, -1 where it becomes the reverse
    std::size_t pairs = 0;     ///< functions whose image is another one, over two
};

/// The plane across x, across y, or across an axis of inertia of the plan, through its middle, that brings
/// every span upon a span alike and every function upon a function, some of them upon others; nothing where
/// none does.
std::optional<Mirror> findMirror(const Mesh& mesh);

/// Coefficients of the basis functions (N x P) for the right sides `rhs` (N x P), from the interactions of
/// the local functions (localMoments). As solveLinear on joinedMoments, to rounding. Throws rm::Error where
/// the matrix is singular, and rm::Stopped.
MatrixXc solveMirrored(const Mesh& mesh, const Mirror& mirror, const MatrixXc& local, const MatrixXc& rhs,
                       const std::stop_token& stop = {});

}  // namespace rm::em
