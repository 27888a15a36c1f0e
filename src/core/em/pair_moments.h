// Legendre moments of the kernel over a pair of spans: the one expensive number of the method of moments.
#pragma once

#include <array>

#include "core/em/kernel_arrays.h"
#include "core/em/mesh.h"
#include "core/em/quadrature.h"

namespace rm::em {

/// moment(m, n) = integral over s in (-1,1) and t in (-1,1) of P_m(s) P_n(t) G(|r_a(s) - r_b(t)|) in 1/m,
/// with G = exp(-j k R)/R averaged round the conductors. Rows m = 0..order of a, columns n = 0..order of b.
struct PairMoments {
    using Rows = std::array<std::array<double, kLanes>, kLanes>;
    alignas(64) Rows re;
    alignas(64) Rows im;

    void clear() {
        for (auto& row : re) row.fill(0.0);
        for (auto& row : im) row.fill(0.0);
    }
    void scale(double factor) {
        for (auto& row : re)
            for (double& value : row) value *= factor;
        for (auto& row : im)
            for (double& value : row) value *= factor;
    }
};

/// Fills `moments` for the spans a and b at wavenumber k, complex in the soil. `accuracy` is the relative
/// error aimed at by the choice of quadrature orders. Same span: exact thin-wire kernel with its logarithm
/// resolved by graded panels. Spans that share an end: Duffy's triangles with a sinh map in the angle.
/// Others: product Gauss rules, subdivided until their distance allows it, or the distance between parallel
/// spans as one variable.
void pairMoments(const Span& a, const Span& b, Wavenumber k, PairMoments& moments, double accuracy = 2e-5);

/// What the average round both conductors does to a wave, J0(k a sin) J0(k b sin) to second order; it keeps
/// the power in the matrix equal to the power in the far field, where the same factor stands. `towards` is
/// the unit vector from one span to the other.
double roundness(const Span& a, const Span& b, const Vec3& towards, Wavenumber k);

}  // namespace rm::em
