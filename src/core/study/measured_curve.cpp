#include "core/study/measured_curve.h"

#include <algorithm>
#include <cmath>

namespace rm::study {

std::vector<model::MeasuredPoint> measuredAt(const model::Design& design, const model::Expansion& expansion,
                                             std::size_t index, Plane plane) {
    const model::Measured& measured = design.measured.at(index);
    const auto& lead = expansion.measuredLead.at(index);
    const bool here = measured.atAntenna == (plane == Plane::Antenna) || expansion.feedPath.empty();
    std::vector<model::MeasuredPoint> out;
    for (model::MeasuredPoint p : measured.data.points) {
        if (!p.impedanceOhm) {
            if (here && !lead) out.push_back(p);
            continue;
        }
        Complex z = *p.impedanceOhm;
        if (lead) z = circuit::beforeBlock(*lead, z, p.frequencyHz);
        if (!here && plane == Plane::Radio) z = atRadio(expansion, z, p.frequencyHz);
        if (!here && plane == Plane::Antenna)
            for (auto block = expansion.feedPath.rbegin(); block != expansion.feedPath.rend(); ++block)
                z = circuit::beforeBlock(*block, z, p.frequencyHz);
        p.impedanceOhm = z;
        p.swr = swr(z, expansion.referenceOhm);
        out.push_back(p);
    }
    return out;
}

std::vector<Difference> differences(const std::vector<model::MeasuredPoint>& points, const Sweep& sweep,
                                    Plane plane, const std::vector<double>& frequenciesHz) {
    std::vector<Difference> out;
    if (points.empty() || sweep.points.empty()) return out;
    for (const double hz : frequenciesHz) {
        const double tiny = 1e-9 * hz;
        if (hz < points.front().frequencyHz - tiny || hz > points.back().frequencyHz + tiny ||
            hz < sweep.points.front().frequencyHz - tiny || hz > sweep.points.back().frequencyHz + tiny)
            continue;
        auto above = std::lower_bound(points.begin(), points.end(), hz,
                                      [](const auto& p, double f) { return p.frequencyHz < f; });
        if (above == points.end()) --above;
        const auto below = above == points.begin() ? above : above - 1;
        const double width = above->frequencyHz - below->frequencyHz;
        const double t = width > 0.0 ? std::clamp((hz - below->frequencyHz) / width, 0.0, 1.0) : 0.0;
        Difference d;
        d.frequencyHz = hz;
        const SweepPoint model = sweep.at(hz);
        d.modelledOhm = plane == Plane::Radio ? model.radioOhm : model.antennaOhm;
        d.modelledSwr = swr(d.modelledOhm, sweep.referenceOhm);
        d.measuredSwr = (1.0 - t) * below->swr + t * above->swr;
        if (below->impedanceOhm && above->impedanceOhm) {
            d.measuredOhm = (1.0 - t) * *below->impedanceOhm + t * *above->impedanceOhm;
            d.measuredSwr = swr(*d.measuredOhm, sweep.referenceOhm);
            d.reflection = std::abs(reflection(*d.measuredOhm, sweep.referenceOhm) -
                                    reflection(d.modelledOhm, sweep.referenceOhm));
        }
        out.push_back(d);
    }
    return out;
}

}  // namespace rm::study
