// The ground as the engine sees it at one frequency: a half space with a complex permittivity, and what it
// does to each plane or cylindrical wave.
#pragma once

#include <array>

#include "core/common.h"
#include "core/model/wire_model.h"

namespace rm::em {

/// The four scalar kernels that the ground adds to the mixed potentials of wires in air.
enum class GroundKernel : std::size_t { Horizontal, Vertical, Mixed, Scalar };
inline constexpr std::size_t kGroundKernels = 4;
using KernelValues = std::array<Complex, kGroundKernels>;

/// Air above, ground with eps = eps_r - j sigma/(w eps0) below, no magnetic contrast.
class HalfSpace {
  public:
    HalfSpace(const model::Ground& ground, double frequencyHz);

    double k() const { return k_; }          ///< wavenumber in air, rad/m
    Complex kGround() const { return kg_; }  ///< in the ground, Im <= 0
    Complex permittivity() const { return eps_; }

    /// Spectra of the four kernels for u = sqrt(l^2 - k^2), uGround = sqrt(l^2 - kGround^2): with
    /// R_TM = (eps u - ug)/(eps u + ug), R_TE = (u - ug)/(u + ug) and D = (R_TM + R_TE)/l^2
    ///   horizontal = R_TE/u, vertical = R_TM/u - u D, mixed = k D, scalar = -R_TM/u + k^2 D/u,
    /// in a form that does not cancel. docs/theory.md, "Real ground", derives them.
    KernelValues spectra(Complex u, Complex uGround) const;

  private:
    double k_;
    Complex eps_;
    Complex kg_;
};

}  // namespace rm::em
