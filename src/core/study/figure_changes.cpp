#include "core/study/figure_changes.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/study/figures.h"
#include "core/study/lobes.h"
#include "core/study/sweep.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

constexpr int kSwrPoints = 11;

/// A figure, how much of it is worth a word, and which way is better.
struct Figure {
    std::string name;
    std::string unit;
    double value = 0.0;
    double worth = 0.1;
    double sign = 1.0;  ///< of better
};

std::vector<Figure> figuresOf(const model::Design& design, const std::vector<model::Band>& bands,
                              const model::Angles& angles, const std::stop_token& stop) {
    const auto expansion = model::expand(design);
    requireUsable(expansion);
    std::vector<Figure> all;
    for (const auto& band : bands) {
        const auto& own = design.bands;
        if (!own.empty() && std::find(own.begin(), own.end(), band.name) == own.end()) continue;
        const auto swept = sweep(expansion, band.lowHz, band.highHz, kSwrPoints, stop);
        all.push_back({say("worst SWR on ") + band.name, "", swept.worstSwr(), 0.02, -1.0});
    }
    AnalysisOptions options;
    options.stop = stop;
    const auto analysis = analyse(expansion, expansion.designFrequencyHz, options);
    const auto& figures = analysis.figures;
    all.push_back({say("gain"), "dBi", figures.peak.gainDbi, 0.05, 1.0});
    for (const double elevation : angles.watchDeg)
        if (expansion.model.ground.kind != model::GroundKind::FreeSpace)
            all.push_back(
                {say("gain at {:g}°", elevation), "dBi", analysis.elevation.at(elevation), 0.05, 1.0});
    all.push_back({say("front-to-back"), "dB", figures.frontToBackDb, 0.2, 1.0});
    all.push_back({say("front-to-rear"), "dB", figures.frontToRearDb, 0.2, 1.0});
    all.push_back(
        {say("side lobe"), "dB", readCut(analysis.azimuth).sideLobeDb().value_or(-40.0), 0.2, -1.0});
    all.push_back({say("to the sky"), "%", 100.0 * figures.skyShare, 0.5, 1.0});
    return all;
}

}  // namespace

std::string FigureChange::sentence() const {
    const int digits = unit.empty() ? 2 : unit == "%" ? 0 : 1;
    // Small steps of gain are told in hundredths.
    const int shown = unit == "dBi" && std::abs(after - before) < 0.15 ? 2 : digits;
    return fmt::format("{} {:.{}f} → {:.{}f}{}{}", name, before, shown, after, shown, unit.empty() ? "" : " ",
                       unit);
}

std::vector<FigureChange> figureChanges(const model::Design& before, const model::Design& after,
                                        const std::vector<model::Band>& bands, const model::Angles& angles,
                                        const std::stop_token& stop) {
    const auto old = figuresOf(before, bands, angles, stop);
    const auto now = figuresOf(after, bands, angles, stop);
    struct Weighed {
        FigureChange change;
        double by;
    };
    std::vector<Weighed> weighed;
    for (std::size_t i = 0; i < std::min(old.size(), now.size()); ++i) {
        const double by = old[i].sign * (now[i].value - old[i].value) / old[i].worth;
        if (std::abs(by) < 1.0) continue;
        weighed.push_back({{old[i].name, old[i].unit, old[i].value, now[i].value, by > 0.0}, by});
    }
    std::stable_sort(weighed.begin(), weighed.end(),
                     [](const Weighed& a, const Weighed& b) { return a.by < b.by; });
    std::vector<FigureChange> changes;
    for (auto& one : weighed) changes.push_back(std::move(one.change));
    return changes;
}

}  // namespace rm::study
