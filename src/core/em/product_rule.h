// Product Gauss rules over pairs of spans, and how many points they need.
#pragma once

#include <initializer_list>

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

/// Calls `leaf(pa, pb, ruleA, ruleB, distance)` for parts of two spans that a rule of at most `most` points
/// serves, halving the longer part where it does not. `b` may be a mirror image; distances count as at least
/// `leastM`.
template <typename Leaf>
void overParts(const Span& a, const Span& b, double k, double accuracy, int most, double leastM,
               const Leaf& leaf, const Part& pa = {}, const Part& pb = {}, int depth = 0) {
    const double ha = pa.halfWidth() * a.halfM();
    const double hb = pb.halfWidth() * b.halfM();
    const double distance = distanceOfParts(a, pa, b, pb);
    const double safe = distance < leastM ? leastM : distance;
    const ProductRule ra = productRuleFor(pa, ha, safe, a.order, k, accuracy);
    const ProductRule rb = productRuleFor(pb, hb, safe, b.order, k, accuracy);
    if ((ra.points <= most && rb.points <= most) || depth >= 40) {
        leaf(pa, pb, ra, rb, distance);
        return;
    }
    const bool cutA = ha >= hb;
    const Part& cut = cutA ? pa : pb;
    for (const Part& half : {Part{cut.from, cut.middle()}, Part{cut.middle(), cut.to}})
        overParts(a, b, k, accuracy, most, leastM, leaf, cutA ? half : pa, cutA ? pb : half, depth + 1);
}

/// Gauss nodes of a part in t of its span, and the Legendre values there times the weights: from a table
/// where the part is the whole span, worked out in `own` otherwise. n <= kMaxProductGauss.
const double (*productRows(const Part& part, int n, double* t, double (*own)[kLanes]))[kLanes];

}  // namespace rm::em
