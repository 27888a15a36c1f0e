#include "core/em/ground/complex_bessel.h"

#include <cmath>
#include <numbers>

namespace rm::em {

namespace {

constexpr int kN = ComplexLanes::kCount;
constexpr double kPi = std::numbers::pi;
constexpr double kSeriesReach = 12.0;
constexpr double kHankelSeriesReach = 9.0;

void multiply(ComplexLanes& a, const ComplexLanes& b) {
    for (int i = 0; i < kN; ++i) {
        const double re = a.re[i] * b.re[i] - a.im[i] * b.im[i];
        a.im[i] = a.re[i] * b.im[i] + a.im[i] * b.re[i];
        a.re[i] = re;
    }
}

/// Least and largest magnitude of the lanes.
void magnitudes(const ComplexLanes& z, double& least, double& most) {
    least = 1e300;
    most = 0.0;
    for (int i = 0; i < kN; ++i) {
        const double size = std::sqrt(z.re[i] * z.re[i] + z.im[i] * z.im[i]);
        least = size < least ? size : least;
        most = size > most ? size : most;
    }
}

/// exp(j sign z).
void turn(const ComplexLanes& z, double sign, ComplexLanes& out) {
    double scale[kN];
    for (int i = 0; i < kN; ++i) scale[i] = std::exp(-sign * z.im[i]);
    for (int i = 0; i < kN; ++i) out.re[i] = std::cos(z.re[i]);
    for (int i = 0; i < kN; ++i) out.im[i] = std::sin(z.re[i]);
    for (int i = 0; i < kN; ++i) {
        out.re[i] *= scale[i];
        out.im[i] *= sign * scale[i];
    }
}

/// J0 by its power series, and the sum that Y0 needs besides, where it is wanted: rest = -sum of h_n
/// (-z^2/4)^n/(n!)^2 with the harmonic numbers h_n.
template <bool WithRest>
void series(const ComplexLanes& z, double most, ComplexLanes& j0, ComplexLanes& rest) {
    ComplexLanes y;
    ComplexLanes term;
    // Local sums, which stay in registers.
    ComplexLanes sum;
    ComplexLanes other;
    for (int i = 0; i < kN; ++i) {
        y.re[i] = -0.25 * (z.re[i] * z.re[i] - z.im[i] * z.im[i]);
        y.im[i] = -0.5 * z.re[i] * z.im[i];
        term.re[i] = sum.re[i] = 1.0;
        term.im[i] = sum.im[i] = other.re[i] = other.im[i] = 0.0;
    }
    const int terms = 10 + static_cast<int>(1.5 * most);
    double harmonic = 0.0;
    for (int n = 1; n <= terms; ++n) {
        const double scale = 1.0 / (static_cast<double>(n) * n);
        if constexpr (WithRest) harmonic += 1.0 / n;
        for (int i = 0; i < kN; ++i) {
            const double re = scale * (term.re[i] * y.re[i] - term.im[i] * y.im[i]);
            term.im[i] = scale * (term.re[i] * y.im[i] + term.im[i] * y.re[i]);
            term.re[i] = re;
            sum.re[i] += term.re[i];
            sum.im[i] += term.im[i];
            if constexpr (WithRest) {
                other.re[i] -= harmonic * term.re[i];
                other.im[i] -= harmonic * term.im[i];
            }
        }
    }
    j0 = sum;
    if constexpr (WithRest) rest = other;
}

/// sqrt(pi z/2) exp(-+ j (z - pi/4)) H0^(1,2)(z): `sign` is 1 for the first and -1 for the second kind. Good
/// where |z| >= least.
void hankelExpansion(const ComplexLanes& z, double sign, double least, ComplexLanes& sum) {
    ComplexLanes step;
    ComplexLanes term;
    for (int i = 0; i < kN; ++i) {
        const double size = 1.0 / (8.0 * (z.re[i] * z.re[i] + z.im[i] * z.im[i] + 1e-300));
        // sign j/(8 z)
        step.re[i] = sign * z.im[i] * size;
        step.im[i] = sign * z.re[i] * size;
        term.re[i] = sum.re[i] = 1.0;
        term.im[i] = sum.im[i] = 0.0;
    }
    double last = 1.0;
    for (int n = 1; n < 40; ++n) {
        const double odd = 2.0 * n - 1.0;
        const double size = last * odd * odd / (8.0 * n * least);
        if (size > last) break;
        last = size;
        for (int i = 0; i < kN; ++i) {
            const double re = -odd * odd / n * (term.re[i] * step.re[i] - term.im[i] * step.im[i]);
            term.im[i] = -odd * odd / n * (term.re[i] * step.im[i] + term.im[i] * step.re[i]);
            term.re[i] = re;
            sum.re[i] += term.re[i];
            sum.im[i] += term.im[i];
        }
        if (size < 1e-13) break;
    }
}

/// sqrt(scale/z) in the right half plane.
void rootOfInverse(const ComplexLanes& z, double scale, ComplexLanes& out) {
    for (int i = 0; i < kN; ++i) {
        const double norm = z.re[i] * z.re[i] + z.im[i] * z.im[i] + 1e-300;
        const double re = scale * z.re[i] / norm;
        const double im = -scale * z.im[i] / norm;
        const double size = std::sqrt(re * re + im * im);
        const double root = std::sqrt(0.5 * (size + re));
        out.re[i] = root;
        out.im[i] = 0.5 * im / root;
    }
}

void choose(const ComplexLanes& z, double reach, const ComplexLanes& beyond, ComplexLanes& out) {
    for (int i = 0; i < kN; ++i) {
        const bool outside = z.re[i] * z.re[i] + z.im[i] * z.im[i] > reach * reach;
        out.re[i] = outside ? beyond.re[i] : out.re[i];
        out.im[i] = outside ? beyond.im[i] : out.im[i];
    }
}

}  // namespace

void besselJ0(const ComplexLanes& z, ComplexLanes& out) {
    double least = 0.0;
    double most = 0.0;
    magnitudes(z, least, most);
    if (least <= kSeriesReach) {
        ComplexLanes none;
        series<false>(z, most < kSeriesReach ? most : kSeriesReach, out, none);
    }
    if (most <= kSeriesReach) return;
    ComplexLanes first;
    ComplexLanes second;
    ComplexLanes phase;
    const double from = least > kSeriesReach ? least : kSeriesReach;
    // exp(-+ j pi/4)
    const double quarter = std::numbers::sqrt2 / 2.0;
    hankelExpansion(z, 1.0, from, first);
    turn(z, 1.0, phase);
    multiply(first, phase);
    hankelExpansion(z, -1.0, from, second);
    turn(z, -1.0, phase);
    multiply(second, phase);
    for (int i = 0; i < kN; ++i) {
        const double re = quarter * (first.re[i] + first.im[i] + second.re[i] - second.im[i]);
        first.im[i] = quarter * (first.im[i] - first.re[i] + second.im[i] + second.re[i]);
        first.re[i] = re;
    }
    rootOfInverse(z, 0.5 / kPi, phase);
    multiply(first, phase);
    choose(z, least > kSeriesReach ? -1.0 : kSeriesReach, first, out);
}

void hankelScaled(const ComplexLanes& z, ComplexLanes& out) {
    double least = 0.0;
    double most = 0.0;
    magnitudes(z, least, most);
    if (least <= kHankelSeriesReach) {
        ComplexLanes rest;
        series<true>(z, most < kHankelSeriesReach ? most : kHankelSeriesReach, out, rest);
        ComplexLanes log;
        for (int i = 0; i < kN; ++i) {
            const double norm = z.re[i] * z.re[i] + z.im[i] * z.im[i];
            log.re[i] = 0.5 * std::log(0.25 * norm) + std::numbers::egamma;
        }
        for (int i = 0; i < kN; ++i) log.im[i] = std::atan2(z.im[i], z.re[i]);
        multiply(log, out);
        // J0 - j Y0
        for (int i = 0; i < kN; ++i) {
            out.re[i] += 2.0 / kPi * (log.im[i] + rest.im[i]);
            out.im[i] -= 2.0 / kPi * (log.re[i] + rest.re[i]);
        }
        ComplexLanes phase;
        turn(z, 1.0, phase);
        multiply(out, phase);
    }
    if (most <= kHankelSeriesReach) return;
    ComplexLanes beyond;
    hankelExpansion(z, -1.0, least > kHankelSeriesReach ? least : kHankelSeriesReach, beyond);
    ComplexLanes root;
    rootOfInverse(z, 2.0 / kPi, root);
    multiply(beyond, root);
    const double quarter = std::numbers::sqrt2 / 2.0;
    for (int i = 0; i < kN; ++i) {
        const double re = quarter * (beyond.re[i] - beyond.im[i]);
        beyond.im[i] = quarter * (beyond.im[i] + beyond.re[i]);
        beyond.re[i] = re;
    }
    choose(z, least > kHankelSeriesReach ? -1.0 : kHankelSeriesReach, beyond, out);
}

}  // namespace rm::em
