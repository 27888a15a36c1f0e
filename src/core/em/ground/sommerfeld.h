// The ground kernels as integrals over the spectrum, for whole grids of points at once. Nothing here is fast
// enough to be called per pair of points: em/ground/ground_table.h interpolates what this computes.
#pragma once

#include <vector>

#include "core/em/ground/half_space.h"

namespace rm::em {

/// Points of a grid in metres. Both points of the kernel in air or both in the soil: distances along the
/// ground and sums of the two distances from the surface. Across: distances, heights in air, and depths in
/// the soil.
struct GroundGrid {
    std::vector<double> rhoM;
    std::vector<double> zetaM;
    Region region = Region::Air;
    std::vector<double> depthM = {0.0};  ///< across only
};

/// integral over l from 0 to infinity of spectrum(l) J0(l rho) exp(-u zeta) l dl, times R exp(j k R) with
/// R^2 = rho^2 + zeta^2, which leaves slowly varying numbers of order one. In the soil the exponent is that
/// of the soil, across it is -u zeta - ug depth and R^2 = rho^2 + (zeta + depth)^2. One entry per point,
/// depth running fastest, then zeta. Any of the distances may be zero, not all. Error of the order of 1e-6.
///
/// Where zeta >= rho/2 the path is a ray in the first quadrant, on which the distance to every branch point
/// and to the pole grows with |l|, so that equal steps in log |l| serve every ground. Elsewhere H0^(2) over
/// the whole axis is folded down along cuts from k and from the wavenumber of the ground. Far away in air
/// (k R > 50) and not near grazing, the plane-wave expansion: Fresnel's coefficient and two terms more.
/// Throws rm::Stopped where the StopScope of the thread asks for it.
std::vector<KernelValues> groundKernels(const HalfSpace& halfSpace, const GroundGrid& grid);

}  // namespace rm::em
