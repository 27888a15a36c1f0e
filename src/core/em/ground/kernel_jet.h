// The kernels of the ground with their derivatives, as fields need them.
#pragma once

#include <array>

#include "core/em/ground/across_table.h"

namespace rm::em {

/// The kernels and their derivatives at a distance rho and at the distances a of the observer and b of the
/// source from the surface, times R exp(j k R), R^2 = rho^2 + (a + b)^2: value, rho, a, b, rho rho, rho a,
/// rho b, a b (docs/theory.md, "Near field").
struct KernelJet {
    std::array<GroundLanes, 8> lanes;

    /// Both points in air or both in the soil, as the table is for.
    static KernelJet together(const GroundTable& table, double rhoM, double aM, double bM) {
        std::array<GroundLanes, 6> d;
        table.derivatives(rhoM, aM + bM, d);
        return {{d[0], d[1], d[2], d[2], d[3], d[4], d[4], d[5]}};
    }
    static KernelJet across(const AcrossTable& table, double rhoM, double aM, double bM, bool sourceInAir,
                            AcrossTable::Lines& lines) {
        KernelJet k;
        table.derivatives(rhoM, sourceInAir ? bM : aM, sourceInAir ? aM : bM, lines, k.lanes);
        if (sourceInAir) {
            std::swap(k.lanes[2], k.lanes[3]);
            std::swap(k.lanes[5], k.lanes[6]);
        }
        return k;
    }
};

/// A jet without the factor R exp(j k R): the kernels themselves with their derivatives.
class KernelSlopes {
  public:
    enum Derivative : std::size_t { Value, Rho, A, B, RhoRho, RhoA, RhoB, AB };

    /// In the wavenumber of air, rad/m, which the tables take out everywhere.
    KernelSlopes(const KernelJet& jet, double k, double rhoM, double zetaM);

    Complex value(GroundKernel kernel) const { return lane(Value, kernel) * wave_[Value]; }
    Complex first(Derivative d, GroundKernel kernel) const {
        return lane(d, kernel) * wave_[Value] + lane(Value, kernel) * wave_[d];
    }
    /// Derivative `d`, by the variables of the first derivatives `p` and `q`.
    Complex second(Derivative d, Derivative p, Derivative q, GroundKernel kernel) const {
        return lane(d, kernel) * wave_[Value] + lane(p, kernel) * wave_[q] + lane(q, kernel) * wave_[p] +
               lane(Value, kernel) * wave_[d];
    }

  private:
    Complex lane(std::size_t derivative, GroundKernel kernel) const {
        const std::size_t c = 2 * static_cast<std::size_t>(kernel);
        return {lanes_[derivative][c], lanes_[derivative][c + 1]};
    }

    std::array<GroundLanes, 8> lanes_;
    std::array<Complex, 8> wave_;
};

}  // namespace rm::em
