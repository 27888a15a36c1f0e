// Fields of elementary dipoles from the mixed potentials, for tests.
#pragma once

#include <array>
#include <cmath>
#include <nlohmann/json.hpp>

#include "core/em/ground/across_table.h"
#include "json_number.h"

namespace rm::test {

struct DipoleField {
    Complex rho;
    Complex phi;
    Complex z;
    double norm() const { return std::sqrt(std::norm(rho) + std::norm(phi) + std::norm(z)); }
};

/// The kernels and their derivatives at a distance and at the distances a of the observer and b of the source
/// from the surface: value, rho, a, b, rho rho, rho a, rho b, a b.
struct KernelJet {
    std::array<em::GroundLanes, 8> lanes{};

    /// Both points in air or both in the soil, as the table is for.
    static KernelJet together(const em::GroundTable& table, double rho, double a, double b) {
        std::array<em::GroundLanes, 6> d{};
        table.derivatives(rho, a + b, d);
        return {{d[0], d[1], d[2], d[2], d[3], d[4], d[4], d[5]}};
    }
    static KernelJet across(const em::AcrossTable& table, double rho, double a, double b, bool sourceInAir) {
        KernelJet k;
        table.derivatives(rho, sourceInAir ? b : a, sourceInAir ? a : b, k.lanes);
        if (sourceInAir) {
            std::swap(k.lanes[2], k.lanes[3]);
            std::swap(k.lanes[5], k.lanes[6]);
        }
        return k;
    }
};

/// Fields of dipoles of unit moment from the mixed potentials. With C = 1/(4 pi j w eps0), s = dz/da
/// at the observer and t = dz/db at the source, and the kernels A, B, k W and K of docs/theory.md:
///   vertical:   E_rho = -C [k^2 W_rho + t K_rho,b], E_z = C [k^2 (B - s W_a - t W_b) - s t K_a,b]
///   horizontal: E_rho = C cos(phi) [k^2 A + K_rho,rho], E_phi = -C sin(phi) [k^2 A + K_rho/rho],
///               E_z = C cos(phi) [k^2 W_rho + s K_rho,a]
class PotentialFields {
  public:
    PotentialFields(const KernelJet& kernels, double k, double rho, double zeta, double s, double t)
        : lanes_(kernels.lanes), k_(k), rho_(rho), s_(s), t_(t) {
        const double r = std::hypot(rho, zeta);
        const Complex jk(0.0, k);
        const Complex g = std::exp(-jk * r) / r;
        const Complex slope = -(jk + 1.0 / r) * g;
        const Complex bend = g / (r * r) - (jk + 1.0 / r) * slope;
        const double x = rho / r;
        const double y = zeta / r;
        const Complex mixed = (bend - slope / r) * x * y;
        wave_ = {g,
                 slope * x,
                 slope * y,
                 slope * y,
                 bend * x * x + slope * y * y / r,
                 mixed,
                 mixed,
                 bend * y * y + slope * x * x / r};
        c_ = 1.0 / (4.0 * kPi * Complex(0.0, k * kSpeedOfLight * kEps0));
    }

    DipoleField vertical() const {
        return {-c_ * (k_ * first(1, kMixed) + t_ * second(6, 1, 3, kScalar)), 0.0,
                c_ * (k_ * k_ * value(kVertical) - k_ * (s_ * first(2, kMixed) + t_ * first(3, kMixed)) -
                      s_ * t_ * second(7, 2, 3, kScalar))};
    }
    DipoleField horizontal(double phi) const {
        const Complex current = k_ * k_ * value(kHorizontal);
        return {c_ * std::cos(phi) * (current + second(4, 1, 1, kScalar)),
                -c_ * std::sin(phi) *
                    (current + (rho_ > 0.0 ? first(1, kScalar) / rho_ : second(4, 1, 1, kScalar))),
                c_ * std::cos(phi) * (k_ * first(1, kMixed) + s_ * second(5, 1, 2, kScalar))};
    }

  private:
    static constexpr int kHorizontal = 0;
    static constexpr int kVertical = 1;
    static constexpr int kMixed = 2;
    static constexpr int kScalar = 3;
    Complex f(std::size_t derivative, int kernel) const {
        return {lanes_[derivative][static_cast<std::size_t>(2 * kernel)],
                lanes_[derivative][static_cast<std::size_t>(2 * kernel + 1)]};
    }
    Complex value(int c) const { return f(0, c) * wave_[0]; }
    Complex first(std::size_t d, int c) const { return f(d, c) * wave_[0] + f(0, c) * wave_[d]; }
    /// Derivative `d`, by the variables of the first derivatives `p` and `q`.
    Complex second(std::size_t d, std::size_t p, std::size_t q, int c) const {
        return f(d, c) * wave_[0] + f(p, c) * wave_[q] + f(q, c) * wave_[p] + f(0, c) * wave_[d];
    }

    std::array<em::GroundLanes, 8> lanes_;
    double k_;
    double rho_;
    double s_;
    double t_;
    Complex c_;
    std::array<Complex, 8> wave_{};
};

inline DipoleField dipoleFieldOf(const nlohmann::json& j) {
    return {number(j["E_rho"]), number(j["E_phi"]), number(j["E_z"])};
}

}  // namespace rm::test
