// Fields of elementary dipoles from the mixed potentials, for tests.
#pragma once

#include <array>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/em/ground/kernel_jet.h"
#include "json_number.h"

namespace rm::test {

struct DipoleField {
    Complex rho;
    Complex phi;
    Complex z;
    double norm() const { return std::sqrt(std::norm(rho) + std::norm(phi) + std::norm(z)); }
};

using em::KernelJet;

/// Fields of dipoles of unit moment from the mixed potentials. With C = 1/(4 pi j w eps0), s = dz/da
/// at the observer and t = dz/db at the source, and the kernels A, B, k W and K of docs/theory.md:
///   vertical:   E_rho = -C [k^2 W_rho + t K_rho,b], E_z = C [k^2 (B - s W_a - t W_b) - s t K_a,b]
///   horizontal: E_rho = C cos(phi) [k^2 A + K_rho,rho], E_phi = -C sin(phi) [k^2 A + K_rho/rho],
///               E_z = C cos(phi) [k^2 W_rho + s K_rho,a]
class PotentialFields {
  public:
    PotentialFields(const KernelJet& kernels, double k, double rho, double zeta, double s, double t)
        : kernels_(kernels, k, rho, zeta),
          k_(k),
          rho_(rho),
          s_(s),
          t_(t),
          c_(1.0 / (4.0 * kPi * Complex(0.0, k * kSpeedOfLight * kEps0))) {}

    DipoleField vertical() const {
        const Complex scalar = kernels_.second(Jet::RhoB, Jet::Rho, Jet::B, Kernel::Scalar);
        const Complex mixed =
            s_ * kernels_.first(Jet::A, Kernel::Mixed) + t_ * kernels_.first(Jet::B, Kernel::Mixed);
        return {-c_ * (k_ * kernels_.first(Jet::Rho, Kernel::Mixed) + t_ * scalar), 0.0,
                c_ * (k_ * k_ * kernels_.value(Kernel::Vertical) - k_ * mixed -
                      s_ * t_ * kernels_.second(Jet::AB, Jet::A, Jet::B, Kernel::Scalar))};
    }
    DipoleField horizontal(double phi) const {
        const Complex current = k_ * k_ * kernels_.value(Kernel::Horizontal);
        const Complex bend = kernels_.second(Jet::RhoRho, Jet::Rho, Jet::Rho, Kernel::Scalar);
        return {c_ * std::cos(phi) * (current + bend),
                -c_ * std::sin(phi) *
                    (current + (rho_ > 0.0 ? kernels_.first(Jet::Rho, Kernel::Scalar) / rho_ : bend)),
                c_ * std::cos(phi) *
                    (k_ * kernels_.first(Jet::Rho, Kernel::Mixed) +
                     s_ * kernels_.second(Jet::RhoA, Jet::Rho, Jet::A, Kernel::Scalar))};
    }

  private:
    using Jet = em::KernelSlopes;
    using Kernel = em::GroundKernel;

    em::KernelSlopes kernels_;
    double k_;
    double rho_;
    double s_;
    double t_;
    Complex c_;
};

inline DipoleField dipoleFieldOf(const nlohmann::json& j) {
    return {number(j["E_rho"]), number(j["E_phi"]), number(j["E_z"])};
}

}  // namespace rm::test
