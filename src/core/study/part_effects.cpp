#include "core/study/part_effects.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/without.h"
#include "core/stopped.h"
#include "core/study/currents.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

constexpr int kBandPoints = 11;
/// A difference of SWR below this is none.
constexpr double kNoSwr = 0.02;

}  // namespace

std::string PartEffect::name() const {
    std::string all;
    for (const auto& part : without) all += (all.empty() ? "" : ", ") + part;
    return all;
}

std::string PartEffects::sentence(const PartEffect& row) const {
    if (!row.problem.empty()) return row.problem;
    const double costs = row.figures.peak.gainDbi - whole.peak.gainDbi;
    std::vector<std::string> said;
    if (std::abs(costs) >= kNoDb)
        said.push_back(
            say("{} {:.1f} dB of peak gain", costs > 0.0 ? say("costs") : say("brings"), std::abs(costs)));
    if (std::abs(row.worstSwr - worstSwr) >= kNoSwr)
        said.push_back(
            say("moves the worst SWR in {} from {:.2f} to {:.2f}", band.name, row.worstSwr, worstSwr));
    const double back = whole.frontToBackDb - row.figures.frontToBackDb;
    if (std::abs(back) >= 1.0)
        said.push_back(
            say("{} front-to-back by {:.0f} dB", back > 0.0 ? say("raises") : say("lowers"), std::abs(back)));
    const double sky = whole.skyShare - row.figures.skyShare;
    if (std::abs(sky) >= 0.01)
        said.push_back(say("{} {:.0f} % of the power to the sky", sky < 0.0 ? say("takes") : say("adds"),
                           100.0 * std::abs(sky)));
    if (said.empty()) return row.name() + say(" does nothing that counts.");
    std::string text = row.name() + (row.without.size() > 1 ? say(" together: ") : " ");
    for (std::size_t i = 0; i < said.size(); ++i)
        text += (i == 0 ? "" : i + 1 == said.size() ? say(" and ") : ", ") + said[i];
    return text + ".";
}

std::vector<std::string> sparePartsOf(const model::Design& design) {
    std::vector<std::string> spare;
    for (const auto& part : design.parts)
        if (part.enabled && !model::withoutPart(design, part.name).feeds.empty()) spare.push_back(part.name);
    return spare;
}

PartEffects partEffects(const model::Design& design, const std::vector<std::string>& parts,
                        const model::Band& band, double frequencyHz, std::stop_token stop,
                        const Progress& progress) {
    PartEffects effects;
    effects.band = band;
    const model::Expansion all = model::expand(design);
    requireUsable(all);
    AnalysisOptions options;
    options.stop = stop;
    const Analysis whole = analyse(all, frequencyHz, options);
    effects.whole = whole.figures;
    const auto worst = [&](const model::Expansion& e) {
        return sweep(e, band.lowHz, band.highHz, kBandPoints, stop).worstSwr();
    };
    effects.worstSwr = worst(all);
    std::vector<std::vector<std::string>> sets;
    for (const auto& part : parts) sets.push_back({part});
    if (parts.size() > 1) sets.push_back(parts);
    double largest = 0.0;
    std::vector<double> onWire(all.model.wires.size(), 0.0);
    for (const auto& span : whole.mesh->spans)
        for (double t = -1.0; t <= 1.0; t += 0.1) {
            const double size = std::abs(currentOn(span, whole.reading.localCurrent, t));
            onWire[span.wire] = std::max(onWire[span.wire], size);
            largest = std::max(largest, size);
        }
    try {
        for (const auto& set : sets) {
            endWhere(stop);
            PartEffect row;
            row.without = set;
            for (std::size_t w = 0; w < all.model.wires.size(); ++w)
                if (std::find(set.begin(), set.end(), all.model.wires[w].origin()) != set.end() &&
                    largest > 0.0)
                    row.share = std::max(row.share, onWire[w] / largest);
            model::Design less = design;
            for (const auto& part : set) less = model::withoutPart(std::move(less), part);
            try {
                const model::Expansion e = model::expand(less);
                row.figures = analyse(e, frequencyHz, options).figures;
                row.worstSwr = worst(e);
            } catch (const Error& error) {
                row.problem = say("Without {} it cannot be worked out: {}", row.name(), error.what());
            }
            effects.rows.push_back(std::move(row));
            if (progress)
                progress(static_cast<double>(effects.rows.size()) / static_cast<double>(sets.size()));
        }
        effects.complete = true;
    } catch (const Stopped&) {
    }
    return effects;
}

}  // namespace rm::study
