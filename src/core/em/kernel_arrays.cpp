#include "core/em/kernel_arrays.h"

#include <cmath>

namespace rm::em {

namespace {

/// Arrays are worked through in chunks that stay in the first-level cache.
constexpr int kChunk = 256;
constexpr int kBesselTerms = 6;

/// Terms of the series of the spherical Bessel functions for 1e-7, by the square of the argument.
int besselTerms(double y) {
    double term = 1.0;
    int count = 0;
    while (count < kBesselTerms && term > 1e-7) {
        ++count;
        term *= 0.5 * y / (count * (2.0 * count + 1.0));
    }
    return count;
}
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

void complexExp(double* re, double* im, int n) {
    double s[kChunk];
    double c[kChunk];
    for (int start = 0; start < n; start += kChunk) {
        const int m = n - start < kChunk ? n - start : kChunk;
        cosines(im + start, m, c);
        sines(im + start, m, s);
        for (int i = 0; i < m; ++i) re[start + i] = std::exp(re[start + i]);
        for (int i = 0; i < m; ++i) {
            im[start + i] = re[start + i] * s[i];
            re[start + i] *= c[i];
        }
    }
}

void radiationSums(const SpanArrays& spans, const double* kx, const double* ky, const double* kz, int n,
                   double* const* sum) {
    constexpr int kBlock = 64;
    double phase[kBlock];
    double c[kBlock];
    double s[kBlock];
    double re[kBlock];
    double im[kBlock];
    double q[kBlock];
    double y[kBlock];
    double lead[kBlock];
    double sum1[kBlock];
    const double k2 = n > 0 ? kx[0] * kx[0] + ky[0] * ky[0] + kz[0] * kz[0] : 0.0;
    for (int start = 0; start < n; start += kBlock) {
        const int m = n - start < kBlock ? n - start : kBlock;
        for (int part = 0; part < 6; ++part)
            for (int i = 0; i < m; ++i) sum[part][start + i] = 0.0;
        for (int g = 0; g < spans.count; ++g) {
            for (int i = 0; i < m; ++i) {
                const double x = kx[start + i];
                const double yy = ky[start + i];
                const double z = kz[start + i];
                phase[i] = x * spans.cx[g] + yy * spans.cy[g] + z * spans.cz[g];
                const double along = x * spans.ux[g] + yy * spans.uy[g] + z * spans.uz[g];
                q[i] = along * spans.half[g];
                y[i] = q[i] * q[i];
                lead[i] = 1.0 - 0.25 * spans.radius2[g] * (x * x + yy * yy + z * z - along * along);
                re[i] = 0.0;
                im[i] = 0.0;
            }
            // j_n(q) = q^n/(2n+1)!! [1 + y/(2n+3) (1 + y/(2 (2n+5)) (1 + y/(3 (2n+7)) ...))], y = -q^2/2
            const double most = k2 * spans.half[g] * spans.half[g];
            const int terms = besselTerms(most);
            for (int order = 0; order < spans.orders[g]; ++order) {
                const double d = 2.0 * order + 1.0;
                const double next = 1.0 / (d + 2.0);
                const double seriesRe = spans.seriesRe[order][g];
                const double seriesIm = spans.seriesIm[order][g];
                for (int i = 0; i < m; ++i) sum1[i] = 1.0;
                for (int term = terms - 1; term >= 0; --term) {
                    const double f = -0.5 / ((term + 1) * (d + 2.0 * (term + 1)));
                    for (int i = 0; i < m; ++i) sum1[i] = 1.0 + f * y[i] * sum1[i];
                }
                for (int i = 0; i < m; ++i) {
                    const double bessel = lead[i] * sum1[i];
                    re[i] += bessel * seriesRe;
                    im[i] += bessel * seriesIm;
                    lead[i] *= q[i] * next;
                }
            }
            cosines(phase, m, c);
            sines(phase, m, s);
            for (int i = 0; i < m; ++i) {
                const double real = re[i] * c[i] - im[i] * s[i];
                const double imaginary = re[i] * s[i] + im[i] * c[i];
                sum[0][start + i] += spans.ux[g] * real;
                sum[1][start + i] += spans.ux[g] * imaginary;
                sum[2][start + i] += spans.uy[g] * real;
                sum[3][start + i] += spans.uy[g] * imaginary;
                sum[4][start + i] += spans.uz[g] * real;
                sum[5][start + i] += spans.uz[g] * imaginary;
            }
        }
    }
}

}  // namespace rm::em
