#include "core/study/pattern_sweep.h"

#include <tbb/parallel_for.h>

namespace rm::study {

std::vector<PatternPoint> patternSweep(const model::Expansion& design, double lowHz, double highHz, int count,
                                       std::stop_token stop, FieldStore* fields) {
    requireUsable(design);
    if (count < 2 || !(highHz > lowHz)) throw Error("A sweep of patterns needs two frequencies.");
    std::vector<PatternPoint> points(static_cast<std::size_t>(count));
    tbb::parallel_for(0, count, [&](int i) {
        if (stop.stop_requested()) return;
        AnalysisOptions options;
        options.fields = fields;
        options.stepDeg = 3.0;
        const double hz = lowHz + (highHz - lowHz) * i / (count - 1);
        const Figures f = analyse(design, hz, options).figures;
        points[static_cast<std::size_t>(i)] = {hz, f.peak.gainDbi, f.peak.direction.elevationDeg,
                                               f.frontToBackDb, f.efficiency};
    });
    std::erase_if(points, [](const PatternPoint& p) { return p.frequencyHz == 0.0; });
    return points;
}

}  // namespace rm::study
