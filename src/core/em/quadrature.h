// Gauss-Legendre rules and Legendre polynomials, the two tables that every integral of the engine uses.
#pragma once

#include <array>
#include <span>

namespace rm::em {

/// Highest polynomial order of the current on a span. One row of Legendre values fills a vector register of
/// eight doubles.
inline constexpr int kMaxOrder = 7;
inline constexpr int kLanes = 8;
inline constexpr int kMaxGauss = 24;

/// Nodes in (-1, 1), ascending, and weights that sum to 2.
struct GaussRule {
    int size = 0;
    std::array<double, kMaxGauss> node{};
    std::array<double, kMaxGauss> weight{};
};

/// The rule with n nodes, 1 <= n <= kMaxGauss; exact for polynomials of degree 2n - 1.
const GaussRule& gaussRule(int n);

/// Values P_0(t) .. P_7(t) of the Legendre polynomials.
using LegendreRow = std::array<double, kLanes>;

inline void legendreRow(double t, double* p) {
    p[0] = 1.0;
    p[1] = t;
    constexpr double a[6] = {3.0 / 2, 5.0 / 3, 7.0 / 4, 9.0 / 5, 11.0 / 6, 13.0 / 7};
    constexpr double b[6] = {1.0 / 2, 2.0 / 3, 3.0 / 4, 4.0 / 5, 5.0 / 6, 6.0 / 7};
    for (int n = 2; n < kLanes; ++n) p[n] = a[n - 2] * t * p[n - 1] - b[n - 2] * p[n - 2];
}

/// Rows of the Legendre values at n places, eight at a time: several times faster than one row after the
/// other.
void legendreRows(const double* t, int n, double (*rows)[kLanes]);

}  // namespace rm::em
