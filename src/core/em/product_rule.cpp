#include "core/em/product_rule.h"

#include <algorithm>
#include <cmath>

#include "core/model/geometry.h"

namespace rm::em {

namespace {

/// Rows of Legendre values times the Gauss weight at the nodes of a rule over the whole of a span.
struct WeightedRows {
    alignas(64) double row[kMaxProductGauss][kLanes];
};

const WeightedRows& weightedRows(int n) {
    static const std::array<WeightedRows, kMaxProductGauss + 1> tables = [] {
        std::array<WeightedRows, kMaxProductGauss + 1> all{};
        for (int size = 1; size <= kMaxProductGauss; ++size) {
            const GaussRule& rule = gaussRule(size);
            for (std::size_t i = 0; i < static_cast<std::size_t>(size); ++i) {
                legendreRow(rule.node[i], all[static_cast<std::size_t>(size)].row[i]);
                for (double& value : all[static_cast<std::size_t>(size)].row[i]) value *= rule.weight[i];
            }
        }
        return all;
    }();
    return tables[static_cast<std::size_t>(n)];
}

}  // namespace

double distanceOfParts(const Span& a, const Part& pa, const Span& b, const Part& pb) {
    const double reach = pa.halfWidth() * a.halfM() + pb.halfWidth() * b.halfM();
    const double middles = (pointOn(a, pa.middle()) - pointOn(b, pb.middle())).norm();
    if (middles > 6.0 * reach) return middles - reach;
    return model::nearestPoints(pointOn(a, pa.from), pointOn(a, pa.to), pointOn(b, pb.from),
                                pointOn(b, pb.to))
        .distanceM;
}

int gaussFor(double halfM, double distanceM, int order, double k, double accuracy) {
    const double ratio = distanceM / halfM;
    // The singularity may lie beside the part (rate u + sqrt(1 + u^2)), the slowest case.
    const double rate = ratio + std::sqrt(1.0 + ratio * ratio);
    const double n = -0.5 * std::log(accuracy) / std::log(rate) + 0.5 * order + 0.6 * k * halfM;
    return std::max(2, static_cast<int>(std::ceil(n)));
}

ProductRule productRuleFor(const Part& part, double halfM, double distanceM, int order, double k,
                           double accuracy) {
    const int full = gaussFor(halfM, distanceM, order, k, accuracy);
    if (part.from != -1.0 || part.to != 1.0) return {full, order + 1};
    const double ratio = distanceM / halfM;
    const double rate = ratio + std::sqrt(1.0 + ratio * ratio);
    const double terms = 1.0 - std::log(accuracy) / std::log(rate) + 1.2 * k * halfM;
    const int cut = std::max(2, static_cast<int>(std::ceil(terms)));
    if (cut >= full || cut > order) return {full, order + 1};
    return {cut, cut};
}

const double (*productRows(const Part& part, int n, double* t, double (*own)[kLanes]))[kLanes] {
    const GaussRule& rule = gaussRule(n);
    const bool whole = part.from == -1.0 && part.to == 1.0;
    for (int i = 0; i < n; ++i)
        t[i] = part.middle() + part.halfWidth() * rule.node[static_cast<std::size_t>(i)];
    if (whole) return weightedRows(n).row;
    for (int i = 0; i < n; ++i) {
        legendreRow(t[i], own[i]);
        const double w = part.halfWidth() * rule.weight[static_cast<std::size_t>(i)];
        for (int m = 0; m < kLanes; ++m) own[i][m] *= w;
    }
    return own;
}

}  // namespace rm::em
