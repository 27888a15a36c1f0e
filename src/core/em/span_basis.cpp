#include "core/em/span_basis.h"

namespace rm::em {

namespace {

/// Derivative of a Legendre series: P_n' = sum of (2m + 1) P_m over m = n - 1, n - 3, ...
void differentiate(const std::array<double, kLanes>& series, std::array<double, kLanes>& slope) {
    for (std::size_t n = 1; n < kLanes; ++n)
        for (std::size_t m = (n - 1) % 2; m < n; m += 2)
            slope[m] += series[n] * (2.0 * static_cast<double>(m) + 1.0);
}

void turnRows(SpanBasis& basis) {
    for (std::size_t f = 0; f < kLanes; ++f)
        for (std::size_t n = 0; n < kLanes; ++n) {
            basis.currentByDegree[n][f] = basis.current[f][n];
            basis.chargeByDegree[n][f] = basis.charge[f][n];
        }
}

SpanBasis innerBasis(int order) {
    SpanBasis basis;
    basis.count = order + 1;
    basis.degree = order;
    basis.current[0][0] = 0.5;
    basis.current[0][1] = -0.5;
    basis.current[1][0] = 0.5;
    basis.current[1][1] = 0.5;
    for (std::size_t n = 2; n <= static_cast<std::size_t>(order); ++n) {
        const double scale = 1.0 / (2.0 * static_cast<double>(n) - 1.0);
        basis.current[n][n] = scale;
        basis.current[n][n - 2] = -scale;
    }
    for (std::size_t f = 0; f < static_cast<std::size_t>(basis.count); ++f)
        differentiate(basis.current[f], basis.charge[f]);
    turnRows(basis);
    return basis;
}

SpanBasis endBasis(bool openAtStart) {
    SpanBasis basis;
    basis.count = 1;
    basis.degree = kMaxOrder;
    basis.current[0] = kEndFunction;
    // The printed digits leave the ends a hair off 1 and 0: put right in the two lowest terms.
    double atJoint = 0.0;
    double atOpen = 0.0;
    for (std::size_t n = 0; n < kLanes; ++n) {
        atJoint += (n % 2 == 0 ? 1.0 : -1.0) * kEndFunction[n];
        atOpen += kEndFunction[n];
    }
    basis.current[0][0] -= 0.5 * (atJoint - 1.0 + atOpen);
    basis.current[0][1] += 0.5 * (atJoint - 1.0 - atOpen);
    if (openAtStart)
        for (std::size_t n = 1; n < kLanes; n += 2) basis.current[0][n] = -basis.current[0][n];
    differentiate(basis.current[0], basis.charge[0]);
    turnRows(basis);
    return basis;
}

}  // namespace

const SpanBasis& basisOf(const Span& span) {
    static const std::array<SpanBasis, kMaxOrder + 1> inner = [] {
        std::array<SpanBasis, kMaxOrder + 1> all;
        for (int order = 1; order <= kMaxOrder; ++order)
            all[static_cast<std::size_t>(order)] = innerBasis(order);
        return all;
    }();
    static const SpanBasis openStart = endBasis(true);
    static const SpanBasis openEnd = endBasis(false);
    if (span.kind == SpanKind::OpenStart) return openStart;
    if (span.kind == SpanKind::OpenEnd) return openEnd;
    return inner[static_cast<std::size_t>(span.order)];
}

}  // namespace rm::em
