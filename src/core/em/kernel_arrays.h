// Free-space kernels evaluated over arrays, so that the compiler can use the vector units.
// Time convention exp(+j w t); the factor 1/(4 pi) is left to the caller.
#pragma once

#include <cmath>

#include "core/common.h"

namespace rm::em {

/// A wavenumber k = phase - j attenuation: rad/m and Np/m. In air there is no attenuation.
struct Wavenumber {
    double phase = 0.0;
    double attenuation = 0.0;

    Wavenumber(double k) : phase(k) {}
    explicit Wavenumber(Complex k) : phase(k.real()), attenuation(-k.imag()) {}

    double size() const { return attenuation == 0.0 ? phase : std::hypot(phase, attenuation); }
    double squaredReal() const { return phase * phase - attenuation * attenuation; }
};

/// exp(-j k R)/R for n values of R^2 (m^2, all above zero). re and im receive n values in 1/m.
void filamentKernel(const double* rSquared, int n, Wavenumber k, double* re, double* im);

/// The exact thin-wire kernel of two coaxial tubes of radii a and b at axial distances zeta (m, any sign, not
/// zero where a = b): the average of exp(-j k R)/R round both circumferences. The static part is exact, by
/// the arithmetic-geometric mean (the complete elliptic integral K(m) = pi / (2 agm(1, sqrt(1 - m)))); the
/// rest, smooth at the scale of the radius, is taken at the mean square distance, an error of order (k a)^2.
/// Source: W. Wang, "The exact kernel for cylindrical antenna", IEEE Trans. AP 39 (1991).
void coaxialKernel(const double* zeta, int n, Wavenumber k, double a, double b, double* re, double* im);

/// cos(x) and sin(x) for n values.
void sinCos(const double* x, int n, double* cosine, double* sine);

/// exp(re + j im) for n values; the arrays receive the real and imaginary parts.
void complexExp(double* re, double* im, int n);

/// Orders of the Legendre series that spanIntegrals takes.
inline constexpr int kSpanOrders = 8;

/// Spans as arrays: centres (m), unit vectors, half lengths (m), squared radii (m^2), and the current as a
/// Legendre series with the factors L j^n included.
struct SpanArrays {
    int count = 0;
    const int* orders = nullptr;  ///< terms of the series in use
    const double* cx = nullptr;
    const double* cy = nullptr;
    const double* cz = nullptr;
    const double* ux = nullptr;
    const double* uy = nullptr;
    const double* uz = nullptr;
    const double* half = nullptr;
    const double* radius2 = nullptr;
    const double* seriesRe[kSpanOrders] = {};
    const double* seriesIm[kSpanOrders] = {};
};

/// For n wave vectors (kx, ky, kz) in rad/m, all of one length, the sums over all spans of u int I exp(j
/// k.r') ds: sum[0], sum[2], sum[4] receive the real parts of the x, y, z components, sum[1], sum[3], sum[5]
/// the imaginary parts, n values each; `mirrored`, where it is not null, the same for (kx, ky, -kz). The
/// integral of each polynomial is a spherical Bessel function, int P_n(t) exp(j q t) dt = 2 j^n j_n(q), taken
/// by its power series: good to 1e-7 for spans up to half a wavelength. The tube radiates J0(k a sin) of what
/// a filament on its axis would.
void radiationSums(const SpanArrays& spans, const double* kx, const double* ky, const double* kz, int n,
                   double* const* sum, double* const* mirrored);

/// Points of current as arrays: places (m), unit vectors along the current, current moments (A m), charge
/// moments, which are the slope of the current times length (A), and what is added to the squared distance of
/// an observer (m^2).
struct CurrentNodes {
    int count = 0;
    const double* x = nullptr;
    const double* y = nullptr;
    const double* z = nullptr;
    const double* ux = nullptr;
    const double* uy = nullptr;
    const double* uz = nullptr;
    const double* currentRe = nullptr;
    const double* currentIm = nullptr;
    const double* chargeRe = nullptr;
    const double* chargeIm = nullptr;
    const double* more2 = nullptr;
};

/// Sums over the nodes with G = exp(-j k R)/R and its gradient at the observer, as x, y, z with real and
/// imaginary part in turn: of u I G, of I' grad G, and of I grad G x u.
struct FieldSums {
    double vector[6];
    double gradient[6];
    double curl[6];
};
void fieldSums(const CurrentNodes& nodes, double x, double y, double z, Wavenumber k, FieldSums& sums);

}  // namespace rm::em
