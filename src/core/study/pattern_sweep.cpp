#include "core/study/pattern_sweep.h"
#include "core/stopped.h"
#include "core/words/words.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

namespace rm::study {

namespace {

/// What is solved already between the ends, and what else it takes to leave no gap wider than `widest`.
std::vector<double> samples(std::vector<double> solved, double lowHz, double highHz, double widest) {
    std::erase_if(solved, [&](double hz) { return hz <= lowHz || hz >= highHz; });
    solved.push_back(lowHz);
    solved.push_back(highHz);
    std::sort(solved.begin(), solved.end());
    solved.erase(std::unique(solved.begin(), solved.end()), solved.end());
    std::vector<double> all;
    for (std::size_t i = 0; i + 1 < solved.size(); ++i) {
        const double gap = solved[i + 1] - solved[i];
        const int parts = std::max(1, static_cast<int>(std::ceil(gap / widest - 1e-9)));
        for (int k = 0; k < parts; ++k) all.push_back(solved[i] + gap * k / parts);
    }
    all.push_back(highHz);
    return all;
}

}  // namespace

std::vector<PatternPoint> patternSweep(const model::Expansion& design, double lowHz, double highHz, int count,
                                       std::stop_token stop, FieldStore* fields) {
    requireUsable(design);
    if (count < 2 || !(highHz > lowHz)) throw Error(say("A sweep of patterns needs two frequencies."));
    FieldStore own;
    FieldStore& store = fields != nullptr ? *fields : own;
    AnalysisOptions options;
    options.fields = &store;
    options.stepDeg = 3.0;
    options.meshHz = highHz;
    options.stop = stop;
    const auto frequencies = samples(store.solvedHz(store.mesh(design.model, highHz)), lowHz, highHz,
                                     (highHz - lowHz) / (count - 1));
    std::vector<PatternPoint> points(frequencies.size());
    tbb::parallel_for(std::size_t{0}, frequencies.size(), [&](std::size_t i) {
        unlessStopped(stop, [&] {
            const Figures f = analyse(design, frequencies[i], options).figures;
            points[i] = {frequencies[i], f.peak.gainDbi, f.peak.direction.elevationDeg, f.frontToBackDb,
                         f.efficiency};
        });
    });
    std::erase_if(points, [](const PatternPoint& p) { return p.frequencyHz == 0.0; });
    return points;
}

}  // namespace rm::study
