// The ground as the engine sees it at one frequency: a half space with a complex permittivity, and what it
// does to each plane or cylindrical wave.
#pragma once

#include <algorithm>
#include <array>
#include <cstdint>

#include "core/common.h"
#include "core/model/wire_model.h"

namespace rm::em {

/// The four scalar kernels of the mixed potentials: of level currents, of upright ones, between current and
/// charge, and of charges.
enum class GroundKernel : std::size_t { Horizontal, Vertical, Mixed, Scalar };
inline constexpr std::size_t kGroundKernels = 4;
using KernelValues = std::array<Complex, kGroundKernels>;

/// Where the two points of a kernel are: both in air, both in the soil, or one in each.
enum class Region : std::uint8_t { Air, Soil, Across };

/// Air above, ground with eps = eps_r - j sigma/(w eps0) below, no magnetic contrast.
class HalfSpace {
  public:
    HalfSpace(const model::Ground& ground, double frequencyHz);

    double k() const { return k_; }          ///< wavenumber in air, rad/m
    Complex kGround() const { return kg_; }  ///< in the ground, Im <= 0
    Complex permittivity() const { return eps_; }
    /// The larger of the two, in rad/m: below its inverse nothing of a wave shows.
    double largestWavenumber() const { return std::max(k_, std::abs(kg_)); }

    /// Spectra of the four kernels for u = sqrt(l^2 - k^2), uGround = sqrt(l^2 - kGround^2). With
    /// R_TM = (eps u - ug)/(eps u + ug), R_TE = (u - ug)/(u + ug) and D = (R_TM + R_TE)/l^2
    ///   air    horizontal = R_TE/u, vertical = R_TM/u - u D, scalar = -R_TM/u + k^2 D/u,
    ///   soil   horizontal = -R_TE/ug, vertical = ug D - R_TM/ug, scalar = (R_TM/eps - k^2 D)/ug,
    ///   across horizontal = 2/(u + ug), vertical = 2 (u + eps ug)/((u + ug)(eps u + ug)),
    ///          scalar = 2/(eps u + ug),
    /// and mixed = k D everywhere, in a form that does not cancel: what the surface adds to 1/u in air, what
    /// it adds to 1/ug (scalar: 1/(eps ug)) in soil, and the whole across. docs/theory.md derives them.
    KernelValues spectra(Region region, Complex u, Complex uGround) const;

    /// Size of the kernels close to the source, of which their errors are fractions.
    double scalarSize(Region region) const;

  private:
    double k_;
    Complex eps_;
    Complex kg_;
};

}  // namespace rm::em
