#include "core/em/quadrature.h"

#include <boost/math/special_functions/legendre.hpp>
#include <stdexcept>
#include <vector>

namespace rm::em {

namespace {

GaussRule makeRule(int n) {
    GaussRule rule;
    rule.size = n;
    // The library gives the non-negative zeros, ascending.
    const std::vector<double> zeros = boost::math::legendre_p_zeros<double>(n);
    const auto put = [&](int i, double x) {
        const double slope = boost::math::legendre_p_prime<double>(n, x);
        rule.node[static_cast<std::size_t>(i)] = x;
        rule.weight[static_cast<std::size_t>(i)] = 2.0 / ((1.0 - x * x) * slope * slope);
    };
    const int count = static_cast<int>(zeros.size());
    for (int i = 0; i < count; ++i) {
        put(n - count + i, zeros[static_cast<std::size_t>(i)]);
        put(count - 1 - i, -zeros[static_cast<std::size_t>(i)]);
    }
    return rule;
}

std::vector<GaussRule> makeRules() {
    std::vector<GaussRule> rules(kMaxGauss + 1);
    for (int n = 1; n <= kMaxGauss; ++n) rules[static_cast<std::size_t>(n)] = makeRule(n);
    return rules;
}

}  // namespace

const GaussRule& gaussRule(int n) {
    static const std::vector<GaussRule> rules = makeRules();
    if (n < 1 || n > kMaxGauss) throw std::out_of_range("no Gauss rule of this size");
    return rules[static_cast<std::size_t>(n)];
}

void legendreRows(const double* t, int n, double (*rows)[kLanes]) {
    constexpr double kA[] = {0.0, 0.0, 3.0 / 2, 5.0 / 3, 7.0 / 4, 9.0 / 5, 11.0 / 6, 13.0 / 7};
    constexpr double kB[] = {0.0, 0.0, 1.0 / 2, 2.0 / 3, 3.0 / 4, 4.0 / 5, 5.0 / 6, 6.0 / 7};
    for (int start = 0; start < n; start += kLanes) {
        const int count = n - start < kLanes ? n - start : kLanes;
        alignas(64) double x[kLanes] = {};
        alignas(64) double p[kLanes][kLanes];
        for (int i = 0; i < count; ++i) x[i] = t[start + i];
        for (int i = 0; i < kLanes; ++i) {
            p[0][i] = 1.0;
            p[1][i] = x[i];
        }
        for (int m = 2; m < kLanes; ++m)
            for (int i = 0; i < kLanes; ++i) p[m][i] = kA[m] * x[i] * p[m - 1][i] - kB[m] * p[m - 2][i];
        for (int i = 0; i < count; ++i)
            for (int m = 0; m < kLanes; ++m) rows[start + i][m] = p[m][i];
    }
}

}  // namespace rm::em
