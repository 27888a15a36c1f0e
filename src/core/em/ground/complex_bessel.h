// Bessel functions of order zero of a complex argument in the right half plane, as far as the integrals over
// the spectrum of the ground need them: eight arguments at a time, for the vector units.
#pragma once

namespace rm::em {

/// Eight complex numbers.
struct ComplexLanes {
    static constexpr int kCount = 8;
    alignas(64) double re[kCount];
    alignas(64) double im[kCount];
};

/// J0(z) for Re z >= 0. Power series up to |z| = 12, Hankel's expansion beyond; relative error below 1e-9 for
/// arguments up to 30 degrees off the real axis. Source: Abramowitz and Stegun 9.1.10, 9.2.5.
void besselJ0(const ComplexLanes& z, ComplexLanes& out);

/// H0^(2)(z) exp(j z) for Re z >= 0, Im z <= 0, z not zero; relative error below 1e-7. Source: Abramowitz and
/// Stegun 9.1.13, 9.2.8.
void hankelScaled(const ComplexLanes& z, ComplexLanes& out);

}  // namespace rm::em
