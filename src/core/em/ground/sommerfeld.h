// The ground kernels as integrals over the spectrum, for whole grids of points at once. Nothing here is fast
// enough to be called per pair of points: em/ground/ground_table.h interpolates what this computes.
#pragma once

#include <vector>

#include "core/em/ground/half_space.h"

namespace rm::em {

/// Points (rho, zeta) of a grid in metres: distance along the ground, and sum of the two heights.
struct GroundGrid {
    std::vector<double> rhoM;
    std::vector<double> zetaM;
};

/// integral over l from 0 to infinity of spectrum(l) J0(l rho) exp(-u zeta) l dl, times R exp(j k R) with
/// R^2 = rho^2 + zeta^2, which leaves slowly varying numbers of order one. One entry per point, zeta running
/// fastest. rho or zeta may be zero, not both. Relative error of the order of 1e-6.
///
/// Where zeta >= rho/2 the path is a ray in the first quadrant, on which the distance to every branch point
/// and to the pole grows with |l|, so that equal steps in log |l| serve every ground. Elsewhere H0^(2) over
/// the whole axis is folded down along cuts from k and from the wavenumber of the ground. Far away (k R > 50)
/// and not near grazing, the plane-wave expansion: Fresnel's coefficient and two terms more.
std::vector<KernelValues> groundKernels(const HalfSpace& halfSpace, const GroundGrid& grid);

}  // namespace rm::em
