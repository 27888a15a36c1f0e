#include "core/em/kernel_arrays.h"

#include <cmath>
#include <initializer_list>

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

/// exp(-x), and exp(-x) - 1 where x may be small.
void decays(const double* x, int n, double* out) {
    for (int i = 0; i < n; ++i) out[i] = std::exp(-x[i]);
}
double lostBy(double x) {
    return x < 0.01 ? -x * (1.0 - x * (0.5 - x * (1.0 / 6.0 - x / 24.0))) : std::exp(-x) - 1.0;
}

}  // namespace

void filamentKernel(const double* rSquared, int n, Wavenumber k, double* re, double* im) {
    double phase[kChunk];
    double inverse[kChunk];
    for (int start = 0; start < n; start += kChunk) {
        const int m = n - start < kChunk ? n - start : kChunk;
        for (int i = 0; i < m; ++i) {
            const double r = std::sqrt(rSquared[start + i]);
            inverse[i] = 1.0 / r;
            phase[i] = k.phase * r;
        }
        cosines(phase, m, re + start);
        sines(phase, m, im + start);
        if (k.attenuation > 0.0) {
            for (int i = 0; i < m; ++i) phase[i] = k.attenuation * std::sqrt(rSquared[start + i]);
            double decay[kChunk];
            decays(phase, m, decay);
            for (int i = 0; i < m; ++i) inverse[i] *= decay[i];
        }
        for (int i = 0; i < m; ++i) {
            re[start + i] *= inverse[i];
            im[start + i] *= -inverse[i];
        }
    }
}

void coaxialKernel(const double* zeta, int n, Wavenumber k, double a, double b, double* re, double* im) {
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
            half[i] = 0.5 * k.phase * r;
            re[start + i] = 1.0 / x;
        }
        sines(half, m, s);
        cosines(half, m, c);
        for (int i = 0; i < m; ++i) {
            re[start + i] -= 2.0 * s[i] * s[i] * inverse[i];
            im[start + i] = -2.0 * s[i] * c[i] * inverse[i];
        }
        if (k.attenuation == 0.0) continue;
        // exp(-j p - q) - 1 = [exp(-j p) - 1] + exp(-j p) [exp(-q) - 1], of which the first stands.
        for (int i = 0; i < m; ++i) {
            const double lost = lostBy(k.attenuation / inverse[i]);
            const double cosine = 1.0 - 2.0 * s[i] * s[i];
            re[start + i] += lost * cosine * inverse[i];
            im[start + i] += lost * im[start + i];
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

namespace {

constexpr int kBlock = 64;

/// int I exp(j q t) over a span g for a block of m directions with q along it, without the phase of its
/// centre; `across2` is k^2 - (k.u)^2.
void spanSeries(const SpanArrays& spans, int g, int terms, const double* q, const double* across2, int m,
                double* re, double* im) {
    double y[kBlock];
    double lead[kBlock];
    double bessel[kBlock];
    for (int i = 0; i < m; ++i) {
        y[i] = q[i] * q[i];
        lead[i] = 1.0 - 0.25 * spans.radius2[g] * across2[i];
        re[i] = 0.0;
        im[i] = 0.0;
    }
    // j_n(q) = q^n/(2n+1)!! [1 + y/(2n+3) (1 + y/(2 (2n+5)) (1 + y/(3 (2n+7)) ...))], y = -q^2/2
    for (int order = 0; order < spans.orders[g]; ++order) {
        const double d = 2.0 * order + 1.0;
        const double next = 1.0 / (d + 2.0);
        const double seriesRe = spans.seriesRe[order][g];
        const double seriesIm = spans.seriesIm[order][g];
        for (int i = 0; i < m; ++i) bessel[i] = 1.0;
        for (int term = terms - 1; term >= 0; --term) {
            const double f = -0.5 / ((term + 1) * (d + 2.0 * (term + 1)));
            for (int i = 0; i < m; ++i) bessel[i] = 1.0 + f * y[i] * bessel[i];
        }
        for (int i = 0; i < m; ++i) {
            const double value = lead[i] * bessel[i];
            re[i] += value * seriesRe;
            im[i] += value * seriesIm;
            lead[i] *= q[i] * next;
        }
    }
}

/// Adds u (re + j im) exp(j phase) of span g to the sums of a block.
void addSpan(const SpanArrays& spans, int g, const double* phase, const double* re, const double* im, int m,
             double* const* sum, int start) {
    double c[kBlock];
    double s[kBlock];
    cosines(phase, m, c);
    sines(phase, m, s);
    for (int i = 0; i < m; ++i) {
        const double real = re[i] * c[i] - im[i] * s[i];
        const double imaginary = re[i] * s[i] + im[i] * c[i];
        c[i] = real;
        s[i] = imaginary;
    }
    const double u[3] = {spans.ux[g], spans.uy[g], spans.uz[g]};
    for (int axis = 0; axis < 3; ++axis) {
        if (u[axis] == 0.0) continue;
        double* real = sum[2 * axis] + start;
        double* imaginary = sum[2 * axis + 1] + start;
        for (int i = 0; i < m; ++i) {
            real[i] += u[axis] * c[i];
            imaginary[i] += u[axis] * s[i];
        }
    }
}

}  // namespace

void radiationSums(const SpanArrays& spans, const double* kx, const double* ky, const double* kz, int n,
                   double* const* sum, double* const* mirrored) {
    double level[kBlock];
    double upright[kBlock];
    double phase[kBlock];
    double q[kBlock];
    double across2[kBlock];
    double re[kBlock];
    double im[kBlock];
    const double k2 = n > 0 ? kx[0] * kx[0] + ky[0] * ky[0] + kz[0] * kz[0] : 0.0;
    for (int start = 0; start < n; start += kBlock) {
        const int m = n - start < kBlock ? n - start : kBlock;
        for (int part = 0; part < 6; ++part)
            for (int i = 0; i < m; ++i) sum[part][start + i] = 0.0;
        if (mirrored != nullptr)
            for (int part = 0; part < 6; ++part)
                for (int i = 0; i < m; ++i) mirrored[part][start + i] = 0.0;
        for (int g = 0; g < spans.count; ++g) {
            const int terms = besselTerms(k2 * spans.half[g] * spans.half[g]);
            for (const double side : {1.0, -1.0}) {
                if (side < 0.0 && mirrored == nullptr) continue;
                // Of a level span the two sides differ in the phase of the centre alone.
                if (side > 0.0 || spans.uz[g] != 0.0) {
                    for (int i = 0; i < m; ++i) {
                        const double along = kx[start + i] * spans.ux[g] + ky[start + i] * spans.uy[g] +
                                             side * kz[start + i] * spans.uz[g];
                        q[i] = along * spans.half[g];
                        across2[i] = k2 - along * along;
                    }
                    spanSeries(spans, g, terms, q, across2, m, re, im);
                }
                if (side > 0.0)
                    for (int i = 0; i < m; ++i) {
                        level[i] = kx[start + i] * spans.cx[g] + ky[start + i] * spans.cy[g];
                        upright[i] = kz[start + i] * spans.cz[g];
                    }
                for (int i = 0; i < m; ++i) phase[i] = level[i] + side * upright[i];
                addSpan(spans, g, phase, re, im, m, side > 0.0 ? sum : mirrored, start);
            }
        }
    }
}

void fieldSums(const CurrentNodes& nodes, double x, double y, double z, Wavenumber k, FieldSums& sums) {
    double r2[kChunk];
    double re[kChunk];
    double im[kChunk];
    double v[6] = {};
    double g[6] = {};
    double c[6] = {};
    for (int start = 0; start < nodes.count; start += kChunk) {
        const int m = nodes.count - start < kChunk ? nodes.count - start : kChunk;
        for (int i = 0; i < m; ++i) {
            const double dx = x - nodes.x[start + i];
            const double dy = y - nodes.y[start + i];
            const double dz = z - nodes.z[start + i];
            r2[i] = dx * dx + dy * dy + dz * dz + nodes.more2[start + i];
        }
        filamentKernel(r2, m, k, re, im);
        for (int i = 0; i < m; ++i) {
            const int n = start + i;
            const double dx = x - nodes.x[n];
            const double dy = y - nodes.y[n];
            const double dz = z - nodes.z[n];
            // grad G = -(j k + 1/R) G d/R, with k = phase - j attenuation
            const double inverse = 1.0 / std::sqrt(r2[i]);
            const double ar = -(k.attenuation + inverse) * inverse;
            const double ai = -k.phase * inverse;
            const double sr = ar * re[i] - ai * im[i];
            const double si = ar * im[i] + ai * re[i];
            const double ur = nodes.currentRe[n] * re[i] - nodes.currentIm[n] * im[i];
            const double ui = nodes.currentRe[n] * im[i] + nodes.currentIm[n] * re[i];
            v[0] += ur * nodes.ux[n];
            v[1] += ui * nodes.ux[n];
            v[2] += ur * nodes.uy[n];
            v[3] += ui * nodes.uy[n];
            v[4] += ur * nodes.uz[n];
            v[5] += ui * nodes.uz[n];
            const double qr = nodes.chargeRe[n] * sr - nodes.chargeIm[n] * si;
            const double qi = nodes.chargeRe[n] * si + nodes.chargeIm[n] * sr;
            g[0] += qr * dx;
            g[1] += qi * dx;
            g[2] += qr * dy;
            g[3] += qi * dy;
            g[4] += qr * dz;
            g[5] += qi * dz;
            const double hr = nodes.currentRe[n] * sr - nodes.currentIm[n] * si;
            const double hi = nodes.currentRe[n] * si + nodes.currentIm[n] * sr;
            const double cx = dy * nodes.uz[n] - dz * nodes.uy[n];
            const double cy = dz * nodes.ux[n] - dx * nodes.uz[n];
            const double cz = dx * nodes.uy[n] - dy * nodes.ux[n];
            c[0] += hr * cx;
            c[1] += hi * cx;
            c[2] += hr * cy;
            c[3] += hi * cy;
            c[4] += hr * cz;
            c[5] += hi * cz;
        }
    }
    for (int i = 0; i < 6; ++i) {
        sums.vector[i] = v[i];
        sums.gradient[i] = g[i];
        sums.curl[i] = c[i];
    }
}

}  // namespace rm::em
