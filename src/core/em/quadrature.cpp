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

}  // namespace rm::em
