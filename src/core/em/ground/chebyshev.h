// Chebyshev series of eight terms, with which the tables of the ground interpolate.
#pragma once

#include <cmath>

#include "core/common.h"

namespace rm::em {

inline constexpr int kSeriesTerms = 8;
/// A piece is halved no more often than this, whatever its error.
inline constexpr int kDeepestSplit = 14;

struct Interval {
    double from = 0.0;
    double to = 0.0;
    double middle() const { return 0.5 * (from + to); }
    double half() const { return 0.5 * (to - from); }
    /// From -1 to 1 over the interval.
    double scaled(double x) const { return (x - middle()) / half(); }
};

/// T_0(x) .. T_7(x).
inline void chebyshevRow(double x, double* t) {
    t[0] = 1.0;
    t[1] = x;
    for (int n = 2; n < kSeriesTerms; ++n) t[n] = 2.0 * x * t[n - 1] - t[n - 2];
}

/// Their values, first and second derivatives.
inline void chebyshevSlopes(double x, double (*rows)[kSeriesTerms]) {
    double* t = rows[0];
    double* first = rows[1];
    double* second = rows[2];
    chebyshevRow(x, t);
    first[0] = second[0] = second[1] = 0.0;
    first[1] = 1.0;
    for (int n = 2; n < kSeriesTerms; ++n) {
        first[n] = 2.0 * t[n - 1] + 2.0 * x * first[n - 1] - first[n - 2];
        second[n] = 4.0 * first[n - 1] + 2.0 * x * second[n - 1] - second[n - 2];
    }
}

/// Node i of the series on an interval.
inline double chebyshevNode(const Interval& interval, int i) {
    return interval.middle() + interval.half() * std::cos(kPi * (i + 0.5) / kSeriesTerms);
}

/// Coefficients from the values at the nodes: coefficient n is the sum of weight[n][i] value[i].
struct ChebyshevTransform {
    double weight[kSeriesTerms][kSeriesTerms];
    ChebyshevTransform() {
        for (int n = 0; n < kSeriesTerms; ++n)
            for (int i = 0; i < kSeriesTerms; ++i)
                weight[n][i] =
                    (n == 0 ? 1.0 : 2.0) / kSeriesTerms * std::cos(kPi * n * (i + 0.5) / kSeriesTerms);
    }
};

inline const ChebyshevTransform& chebyshevTransform() {
    static const ChebyshevTransform transform;
    return transform;
}

}  // namespace rm::em
