// Integrals over two parallel spans of a kernel that depends on the difference of the two coordinates alone.
#pragma once

#include <algorithm>
#include <array>

#include "core/em/lanes.h"
#include "core/em/pair_moments.h"

namespace rm::em {

/// Length of a panel against its distance from the nearest approach: the rule of the panel is then good to
/// 1e-6.
inline constexpr double kPanelGrowth = 3.0;

/// Most points of the inner rule.
inline constexpr int kMaxInner = kMaxOrder + 1;

/// Adds to every rows[c] the Legendre moments of kernel channel c. Integrates over the difference zeta with
/// panels that grow away from zeta = 0, where the spans are nearest, from the length `scaleM` on; for each
/// zeta the product of the polynomials is integrated exactly over the overlap. `kernel(zeta, n, values)`
/// fills values[c][q] for n differences in metres along the direction of a.
template <std::size_t Channels, typename Kernel>
void parallelRule(const Span& a, const Span& b, double scaleM, PairMoments::Rows* const* rows,
                  const Kernel& kernel) {
    const double sense = a.direction.dot(b.direction) > 0.0 ? 1.0 : -1.0;
    const double centreB = (b.centreM - a.centreM).dot(a.direction);
    const double aLow = -a.halfM();
    const double aHigh = a.halfM();
    const double bLow = centreB - b.halfM();
    const double bHigh = centreB + b.halfM();
    // zeta = s - s'. Kinks of the overlap, and the nearest approach.
    std::array<double, 5> kink = {aLow - bHigh, aLow - bLow, aHigh - bHigh, aHigh - bLow, 0.0};
    const bool inside = kink[0] < 0.0 && kink[3] > 0.0;
    if (!inside) kink[4] = kink[0];
    std::sort(kink.begin(), kink.end());
    // Short panels see the kernel alone; long ones the polynomials as well.
    const GaussRule& shortRule = gaussRule(6);
    const GaussRule& longRule = gaussRule(6 + (a.order + b.order) / 3);
    const double shortPanel = 0.1 * std::min(a.lengthM, b.lengthM);
    const GaussRule& inner = gaussRule((a.order + b.order) / 2 + 1);

    const auto panel = [&](double from, double to) {
        const GaussRule& rule = to - from < shortPanel ? shortRule : longRule;
        double zeta[kMaxGauss];
        double values[Channels][kMaxGauss];
        for (int q = 0; q < rule.size; ++q)
            zeta[q] = 0.5 * (from + to) + 0.5 * (to - from) * rule.node[static_cast<std::size_t>(q)];
        kernel(zeta, rule.size, values);
        // All points of the panel: the inner rule on the overlap of every difference.
        double onA[kMaxGauss * kMaxInner];
        double onB[kMaxGauss * kMaxInner];
        double weight[kMaxGauss];
        alignas(64) double rowsA[kMaxGauss * kMaxInner][kLanes];
        alignas(64) double rowsB[kMaxGauss * kMaxInner][kLanes];
        for (int q = 0; q < rule.size; ++q) {
            const double low = std::max(aLow, bLow + zeta[q]);
            const double high = std::max(low, std::min(aHigh, bHigh + zeta[q]));
            weight[q] = 0.5 * (to - from) * rule.weight[static_cast<std::size_t>(q)] * 0.5 * (high - low) /
                        (a.halfM() * b.halfM());
            for (int r = 0; r < inner.size; ++r) {
                const double s =
                    0.5 * (low + high) + 0.5 * (high - low) * inner.node[static_cast<std::size_t>(r)];
                onA[q * inner.size + r] = s / a.halfM();
                onB[q * inner.size + r] = sense * (s - zeta[q] - centreB) / b.halfM();
            }
        }
        legendreRows(onA, rule.size * inner.size, rowsA);
        legendreRows(onB, rule.size * inner.size, rowsB);
        for (int q = 0; q < rule.size; ++q) {
            // The products of the polynomials first, the kernel once for all of them.
            Lanes overlap[kLanes] = {};
            for (int r = 0; r < inner.size; ++r) {
                const double* pa = rowsA[q * inner.size + r];
                const Lanes pb = lanesAt(rowsB[q * inner.size + r]) *
                                 (weight[q] * inner.weight[static_cast<std::size_t>(r)]);
                for (int m = 0; m < kLanes; ++m) overlap[m] += pa[m] * pb;
            }
            for (std::size_t c = 0; c < Channels; ++c)
                for (std::size_t m = 0; m <= static_cast<std::size_t>(a.order); ++m) {
                    double* row = (*rows[c])[m].data();
                    lanesAt(row) += values[c][q] * overlap[m];
                }
        }
    };
    for (std::size_t i = 0; i + 1 < kink.size(); ++i) {
        double from = kink[i];
        const double to = kink[i + 1];
        while (to - from > 1e-12 * (kink[4] - kink[0])) {
            // A panel may be as long as its own distance from the nearest approach allows.
            const double away = from >= 0.0 ? std::max(scaleM, from) : std::max(scaleM, -0.25 * from);
            double next = std::min(to, from + kPanelGrowth * away);
            if (to - next < 0.2 * (next - from)) next = to;
            panel(from, next);
            from = next;
        }
    }
}

}  // namespace rm::em
