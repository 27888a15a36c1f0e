#include "app/instruments/band_data.h"

namespace rm::app {

BandData bandData(const Results& results, const std::optional<study::Resonance>& resonance) {
    BandData shown;
    shown.title = results.rangeName();
    shown.band = results.band;
    shown.sweep = results.sweep;
    shown.expansion = results.expansion;
    shown.patterns = results.patterns;
    shown.resonance = resonance;
    shown.limits = results.project->swrLimits;
    shown.pins = results.pins;
    shown.workingHz = results.frequencyHz;
    const auto& list = results.design().measured;
    for (std::size_t i = 0; results.measured && i < results.measured->size() && i < list.size(); ++i)
        if (list[i].shown)
            shown.measured.push_back({QString::fromStdString(list[i].name), i, (*results.measured)[i]});
    return shown;
}

}  // namespace rm::app
