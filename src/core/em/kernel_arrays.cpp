#include "core/em/kernel_arrays.h"

#include <cmath>

namespace rm::em {

void filamentKernel(const double* rSquared, int n, double k, double* re, double* im) {
    for (int i = 0; i < n; ++i) {
        const double inverse = 1.0 / std::sqrt(rSquared[i]);
        const double phase = k * rSquared[i] * inverse;
        re[i] = std::cos(phase) * inverse;
        im[i] = -std::sin(phase) * inverse;
    }
}

void coaxialKernel(const double* zeta, int n, double k, double a, double b, double* re, double* im) {
    const double sum2 = (a + b) * (a + b);
    const double difference2 = (a - b) * (a - b);
    const double mean2 = a * a + b * b;
    for (int i = 0; i < n; ++i) {
        const double z2 = zeta[i] * zeta[i];
        double x = std::sqrt(z2 + sum2);
        double y = std::sqrt(z2 + difference2);
        for (int step = 0; step < 6; ++step) {
            const double mean = 0.5 * (x + y);
            y = std::sqrt(x * y);
            x = mean;
        }
        const double inverse = 1.0 / std::sqrt(z2 + mean2);
        const double half = 0.5 * k * (z2 + mean2) * inverse;
        const double s = std::sin(half);
        const double c = std::cos(half);
        re[i] = 1.0 / x - 2.0 * s * s * inverse;
        im[i] = -2.0 * s * c * inverse;
    }
}

void sinCos(const double* x, int n, double* cosine, double* sine) {
    for (int i = 0; i < n; ++i) {
        cosine[i] = std::cos(x[i]);
        sine[i] = std::sin(x[i]);
    }
}

}  // namespace rm::em
