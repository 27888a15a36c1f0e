#include "core/study/sweep.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>

namespace rm::study {

Sweep sweep(const model::Expansion& design, double lowHz, double highHz, int points, std::stop_token stop,
            const Progress& progress) {
    requireUsable(design);
    if (!(lowHz > 0.0) || !(highHz >= lowHz) || points < 1)
        throw Error("A sweep needs a lower and a higher frequency and at least one point.");
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(design.model, highHz));
    std::vector<SweepPoint> all(static_cast<std::size_t>(points));
    std::vector<std::atomic<bool>> solved(all.size());
    std::atomic<int> done{0};
    const auto one = [&](std::size_t i) {
        if (stop.stop_requested()) return;
        SweepPoint& p = all[i];
        p.frequencyHz =
            points == 1 ? lowHz : lowHz + (highHz - lowHz) * static_cast<double>(i) / (points - 1);
        p.impedanceOhm = feedImpedances(design.model, mesh, p.frequencyHz);
        p.swr = swr(p.impedanceOhm.front(), design.referenceOhm);
        solved[i] = true;
        if (progress) progress(static_cast<double>(++done) / points);
    };
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, all.size(), 1), [&](const auto& range) {
        for (std::size_t i = range.begin(); i < range.end(); ++i) one(i);
    });
    Sweep result;
    result.referenceOhm = design.referenceOhm;
    for (std::size_t i = 0; i < all.size(); ++i)
        if (solved[i]) result.points.push_back(std::move(all[i]));
    result.complete = result.points.size() == all.size();
    return result;
}

double Sweep::worstSwr() const {
    double worst = 1.0;
    for (const auto& p : points) worst = std::max(worst, p.swr);
    return worst;
}

double Sweep::bestSwr() const {
    if (points.empty()) return 1.0;
    return std::min_element(points.begin(), points.end(),
                            [](const auto& a, const auto& b) { return a.swr < b.swr; })
        ->swr;
}

double Sweep::bestFrequencyHz() const {
    if (points.empty()) return 0.0;
    return std::min_element(points.begin(), points.end(),
                            [](const auto& a, const auto& b) { return a.swr < b.swr; })
        ->frequencyHz;
}

double Sweep::bandwidthHz(double limit) const {
    if (points.empty() || bestSwr() > limit) return 0.0;
    const auto best = std::min_element(points.begin(), points.end(),
                                       [](const auto& a, const auto& b) { return a.swr < b.swr; });
    const auto crossing = [&](const SweepPoint& inside, const SweepPoint& outside) {
        if (!std::isfinite(outside.swr)) return inside.frequencyHz;
        const double t = (limit - inside.swr) / (outside.swr - inside.swr);
        return inside.frequencyHz + t * (outside.frequencyHz - inside.frequencyHz);
    };
    double low = points.front().frequencyHz;
    for (auto p = best; p != points.begin(); --p)
        if ((p - 1)->swr > limit) {
            low = crossing(*p, *(p - 1));
            break;
        }
    double high = points.back().frequencyHz;
    for (auto p = best; p + 1 != points.end(); ++p)
        if ((p + 1)->swr > limit) {
            high = crossing(*p, *(p + 1));
            break;
        }
    return high - low;
}

}  // namespace rm::study
