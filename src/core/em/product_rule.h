// Product Gauss rules over pairs of spans, and how many points they need.
#pragma once

#include "core/em/mesh.h"
#include "core/em/quadrature.h"

namespace rm::em {

inline constexpr int kMaxPoints = kMaxGauss * kMaxGauss;
inline constexpr int kMaxProductGauss = 12;  ///< above this a pair is subdivided instead

/// Part of a span in its own coordinate, from -1 to 1.
struct Part {
    double from = -1.0;
    double to = 1.0;
    double middle() const { return 0.5 * (from + to); }
    double halfWidth() const { return 0.5 * (to - from); }
};

inline Vec3 pointOn(const Span& span, double t) {
    return span.centreM + t * span.halfM() * span.direction;
}

/// Distance between two parts; where they are far apart, a little less than that.
double distanceOfParts(const Span& a, const Part& pa, const Span& b, const Part& pb);

/// Gauss points for a part of half length `half` whose nearest singularity is `distance` away: Bernstein's
/// ellipse gives the convergence rate; the polynomial of the given order and the phase over the part take
/// their share.
int gaussFor(double halfM, double distanceM, int order, double k, double accuracy);

/// Points and degrees of a rule over a part of a span. Where it is the whole span and the kernel so smooth
/// that its Legendre series may be cut before the degree of the span, as many points as terms will do, and
/// the moments above are left at zero.
struct ProductRule {
    int points = 0;
    int degrees = 0;  ///< moments 0 .. degrees - 1 are not zero
};
ProductRule productRuleFor(const Part& part, double halfM, double distanceM, int order, double k,
                           double accuracy);

/// Gauss nodes of a part in t of its span, and the Legendre values there times the weights: from a table
/// where the part is the whole span, worked out in `own` otherwise. n <= kMaxProductGauss.
const double (*productRows(const Part& part, int n, double* t, double (*own)[kLanes]))[kLanes];

}  // namespace rm::em
