#include "core/study/compare.h"
#include "core/stopped.h"
#include "core/study/self_check.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>

namespace rm::study {

namespace {

constexpr int kSweepPoints = 11;

bool isFor(const model::Design& design, const model::Band& band) {
    return design.bands.empty() ||
           std::find(design.bands.begin(), design.bands.end(), band.name) != design.bands.end();
}

void workOut(CompareCell& cell, const model::Expansion& expansion, const model::Band& band,
             const model::Angles& angles, FieldStore& fields, const std::stop_token& stop) {
    try {
        cell.worstSwr = sweep(expansion, band.lowHz, band.highHz, kSweepPoints, stop, {}, &fields).worstSwr();
        // On the mesh of the sweep, whose middle point is solved already as a rule.
        AnalysisOptions options;
        options.fields = &fields;
        options.meshHz = band.highHz;
        options.stop = stop;
        auto analysis = std::make_shared<Analysis>(analyse(expansion, band.centreHz(), options));
        for (std::size_t i = 0; i < angles.watchDeg.size(); ++i)
            cell.watchGainDbi[i] = analysis->elevation.at(angles.watchDeg[i]);
        cell.analysis = std::move(analysis);
    } catch (const Error& e) {
        cell.problem = e.what();
    }
}

}  // namespace

Comparison compare(const model::Project& project, FieldStore* fields, std::stop_token stop,
                   const Progress& progress) {
    FieldStore own;
    FieldStore& store = fields != nullptr ? *fields : own;
    Comparison out;
    out.bands = project.bands;
    out.angles = project.angles;
    out.live = project.activeDesign;
    std::vector<const model::Design*> designs;
    const auto add = [&](const std::string& name, const model::Design& design, bool pin, std::size_t index) {
        out.rows.push_back({name, pin, index, 0.0, std::vector<CompareCell>(out.bands.size())});
        designs.push_back(&design);
    };
    for (std::size_t i = 0; i < project.designs.size(); ++i)
        add(project.designs[i].name, project.designs[i], false, i);
    for (std::size_t i = 0; i < project.pins.size(); ++i)
        if (project.pins[i].shown) add(project.pins[i].name, project.pins[i].design, true, i);
    std::vector<model::Expansion> expansions;
    for (std::size_t r = 0; r < designs.size(); ++r) {
        expansions.push_back(model::expand(*designs[r]));
        out.rows[r].headingDeg = expansions.back().headingDeg;
    }
    // Each on the mesh that suits it.
    tbb::parallel_for(std::size_t{0}, expansions.size(), [&](std::size_t r) {
        unlessStopped(stop, [&] { settle(expansions[r], expansions[r].designFrequencyHz, stop); });
    });
    const std::size_t cells = out.rows.size() * out.bands.size();
    std::atomic<std::size_t> done{0};
    tbb::parallel_for(std::size_t{0}, cells, [&](std::size_t i) {
        const std::size_t r = i / out.bands.size();
        const std::size_t b = i % out.bands.size();
        CompareCell& cell = out.rows[r].cells[b];
        cell.frequencyHz = out.bands[b].centreHz();
        cell.meant = isFor(*designs[r], out.bands[b]);
        if (cell.meant)
            unlessStopped(stop, [&] { workOut(cell, expansions[r], out.bands[b], out.angles, store, stop); });
        if (progress) progress(static_cast<double>(++done) / static_cast<double>(cells));
    });
    out.complete = !stop.stop_requested();
    return out;
}

std::optional<double> figureOf(const CompareCell& cell, CompareQuantity quantity) {
    if (!cell.known()) return std::nullopt;
    const Figures& f = cell.analysis->figures;
    switch (quantity) {
        case CompareQuantity::Swr:
            return cell.worstSwr;
        case CompareQuantity::Peak:
            return f.peak.gainDbi;
        case CompareQuantity::Takeoff:
            return f.peak.direction.elevationDeg;
        case CompareQuantity::Efficiency:
            return 100.0 * f.efficiency;
        default:
            return cell.watchGainDbi[static_cast<std::size_t>(quantity) -
                                     static_cast<std::size_t>(CompareQuantity::Gain1)];
    }
}

}  // namespace rm::study
