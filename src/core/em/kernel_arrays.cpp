#include "core/em/kernel_arrays.h"

#include <cmath>

namespace rm::em {

namespace {

/// Arrays are worked through in chunks that stay in the first-level cache.
constexpr int kChunk = 256;
constexpr int kBesselTerms = 6;
/// Steps of the arithmetic-geometric mean: five give 1e-8 down to distances of a hundredth of the radius.
constexpr int kMeanSteps = 5;

/// Sine and cosine in loops of their own: written together the compiler would fuse them into a scalar call.
void sines(const double* x, int n, double* out) {
    for (int i = 0; i < n; ++i) out[i] = std::sin(x[i]);
}
void cosines(const double* x, int n, double* out) {
    for (int i = 0; i < n; ++i) out[i] = std::cos(x[i]);
}

}  // namespace

void filamentKernel(const double* rSquared, int n, double k, double* re, double* im) {
    double phase[kChunk];
    double inverse[kChunk];
    for (int start = 0; start < n; start += kChunk) {
        const int m = n - start < kChunk ? n - start : kChunk;
        for (int i = 0; i < m; ++i) {
            const double r = std::sqrt(rSquared[start + i]);
            inverse[i] = 1.0 / r;
            phase[i] = k * r;
        }
        cosines(phase, m, re + start);
        sines(phase, m, im + start);
        for (int i = 0; i < m; ++i) {
            re[start + i] *= inverse[i];
            im[start + i] *= -inverse[i];
        }
    }
}

void coaxialKernel(const double* zeta, int n, double k, double a, double b, double* re, double* im) {
    const double sum2 = (a + b) * (a + b);
    const double difference2 = (a - b) * (a - b);
    const double mean2 = a * a + b * b;
    double half[kChunk];
    double inverse[kChunk];
    double s[kChunk];
    double c[kChunk];
    for (int start = 0; start < n; start += kChunk) {
        const int m = n - start < kChunk ? n - start : kChunk;
        for (int i = 0; i < m; ++i) {
            const double z2 = zeta[start + i] * zeta[start + i];
            double x = std::sqrt(z2 + sum2);
            double y = std::sqrt(z2 + difference2);
            for (int step = 0; step < kMeanSteps; ++step) {
                const double mean = 0.5 * (x + y);
                y = std::sqrt(x * y);
                x = mean;
            }
            const double r = std::sqrt(z2 + mean2);
            inverse[i] = 1.0 / r;
            half[i] = 0.5 * k * r;
            re[start + i] = 1.0 / x;
        }
        sines(half, m, s);
        cosines(half, m, c);
        for (int i = 0; i < m; ++i) {
            re[start + i] -= 2.0 * s[i] * s[i] * inverse[i];
            im[start + i] = -2.0 * s[i] * c[i] * inverse[i];
        }
    }
}

void sinCos(const double* x, int n, double* cosine, double* sine) {
    cosines(x, n, cosine);
    sines(x, n, sine);
}

void spanIntegrals(const SpanArrays& spans, double kx, double ky, double kz, double* re, double* im) {
    const int n = spans.count;
    double phase[kChunk];
    double c[kChunk];
    double s[kChunk];
    double sumRe[kChunk];
    double sumIm[kChunk];
    double q[kChunk];
    double lead[kChunk];
    const double k2 = kx * kx + ky * ky + kz * kz;
    for (int start = 0; start < n; start += kChunk) {
        const int m = n - start < kChunk ? n - start : kChunk;
        for (int i = 0; i < m; ++i) {
            const int g = start + i;
            phase[i] = kx * spans.cx[g] + ky * spans.cy[g] + kz * spans.cz[g];
            const double along = kx * spans.ux[g] + ky * spans.uy[g] + kz * spans.uz[g];
            q[i] = along * spans.half[g];
            lead[i] = 1.0 - 0.25 * spans.radius2[g] * (k2 - along * along);
            sumRe[i] = 0.0;
            sumIm[i] = 0.0;
        }
        // j_n(q) = q^n/(2n+1)!! [1 + y/(2n+3) (1 + y/(2 (2n+5)) (1 + y/(3 (2n+7)) ...))], y = -q^2/2
        for (int order = 0; order < spans.orders; ++order) {
            const double d = 2.0 * order + 1.0;
            double f[kBesselTerms];
            for (int term = 0; term < kBesselTerms; ++term)
                f[term] = -0.5 / ((term + 1) * (d + 2.0 * (term + 1)));
            const double next = 1.0 / (d + 2.0);
            const double* seriesRe = spans.seriesRe[order] + start;
            const double* seriesIm = spans.seriesIm[order] + start;
            for (int i = 0; i < m; ++i) {
                const double y = q[i] * q[i];
                const double bessel =
                    lead[i] *
                    (1.0 +
                     f[0] * y *
                         (1.0 +
                          f[1] * y *
                              (1.0 + f[2] * y * (1.0 + f[3] * y * (1.0 + f[4] * y * (1.0 + f[5] * y))))));
                sumRe[i] += bessel * seriesRe[i];
                sumIm[i] += bessel * seriesIm[i];
                lead[i] *= q[i] * next;
            }
        }
        cosines(phase, m, c);
        sines(phase, m, s);
        for (int i = 0; i < m; ++i) {
            re[start + i] = sumRe[i] * c[i] - sumIm[i] * s[i];
            im[start + i] = sumRe[i] * s[i] + sumIm[i] * c[i];
        }
    }
}

}  // namespace rm::em
