#include "core/study/tuning/sensitivities.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/stopped.h"
#include "core/study/varied.h"

namespace rm::study {

namespace {

/// Frequency where the reactance goes through zero, nearest to the one given, within 15 % of it.
double resonanceNear(const model::Expansion& expansion, double frequencyHz) {
    const auto found = sweep(expansion, 0.85 * frequencyHz, 1.15 * frequencyHz, 61).resonancesHz();
    if (found.empty()) return 0.0;
    return *std::min_element(found.begin(), found.end(), [&](double a, double b) {
        return std::abs(a - frequencyHz) < std::abs(b - frequencyHz);
    });
}

}  // namespace

std::vector<Sensitivity> studySensitivity(const model::Design& design, double frequencyHz,
                                          SensitivityStep step, std::stop_token stop) {
    const auto here = model::expand(design);
    requireUsable(here);
    std::vector<Sensitivity> rows;
    for (const auto& dimension : design.dimensions) {
        if (!quantity::isPlainNumber(dimension.text)) continue;
        Sensitivity row;
        row.dimension = dimension.name;
        row.kind = dimension.kind;
        const double value = here.dimensionValue.at(dimension.name);
        const double percent = 0.01 * std::max(1e-6, std::abs(value));
        row.step = dimension.kind == model::DimensionKind::Angle ? 1.0
                   : dimension.kind == model::DimensionKind::Number || step == SensitivityStep::Percent
                       ? percent
                   : step == SensitivityStep::Centimetre ? 1e-2
                                                         : 1e-3;
        rows.push_back(row);
    }
    AnalysisOptions options;
    options.stop = stop;
    const auto fill = [&](Sensitivity& row) {
        const double value = here.dimensionValue.at(row.dimension);
        const auto back = model::expand(withDimension(design, row.dimension, value - row.step));
        const auto further = model::expand(withDimension(design, row.dimension, value + row.step));
        if (!back.usable() || !further.usable()) return;
        const Figures a = analyse(back, frequencyHz, options).figures;
        const Figures b = analyse(further, frequencyHz, options).figures;
        row.swr = 0.5 * (b.swr - a.swr);
        row.gainDb = 0.5 * (b.peak.gainDbi - a.peak.gainDbi);
        row.frontToRearDb = 0.5 * (b.frontToRearDb - a.frontToRearDb);
        const double low = resonanceNear(back, frequencyHz);
        const double high = resonanceNear(further, frequencyHz);
        if (low > 0.0 && high > 0.0) row.resonanceHz = 0.5 * (high - low);
    };
    tbb::parallel_for(std::size_t{0}, rows.size(),
                      [&](std::size_t i) { unlessStopped(stop, [&] { fill(rows[i]); }); });
    std::stable_sort(rows.begin(), rows.end(), [](const Sensitivity& a, const Sensitivity& b) {
        return std::abs(a.swr) > std::abs(b.swr);
    });
    return rows;
}

}  // namespace rm::study
