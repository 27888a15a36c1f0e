#include "core/study/site_study.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>

#include "core/model/soils.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

constexpr double kNearestWavelengths = 0.01;
constexpr double kHighestWavelengths = 2.0;

double lowestM(const model::WireModel& model) {
    double low = 1e300;
    for (const auto& wire : model.wires) low = std::min({low, wire.startM.z(), wire.endM.z()});
    return low;
}

SitePoint solvePoint(const model::Design& design, double frequencyHz, const Look& look,
                     const std::stop_token& stop) {
    const auto expansion = model::expand(design);
    requireUsable(expansion);
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(expansion.model, frequencyHz));
    const auto reading = circuit::closePorts(expansion.model, em::solvePorts(mesh, frequencyHz, stop));
    SitePoint p;
    p.siteHeightM = expansion.heightM;
    p.feedHeightM = feedHeightM(expansion.model);
    p.impedanceOhm = reading.antennaOhm;
    p.swr = swr(atRadio(expansion, p.impedanceOhm, frequencyHz), expansion.referenceOhm);
    p.peak = findPeak(*mesh, reading);
    std::vector<em::Direction> watch;
    for (const double angle : look.watchDeg) watch.push_back({angle, look.azimuthDeg});
    const auto fields = em::farField(*mesh, reading.localCurrent, frequencyHz, watch);
    for (std::size_t i = 0; i < fields.size(); ++i)
        p.watchGainDbi[i] = em::gainDbi(fields[i], reading.inputPowerW);
    if (expansion.model.ground.kind == model::GroundKind::Real) {
        const double sky =
            em::averageGain(*mesh, reading.localCurrent, frequencyHz, reading.inputPowerW, stop);
        p.groundShare = std::max(0.0, 1.0 - sky - reading.lostPowerW() / reading.inputPowerW);
    }
    return p;
}

/// Solves all designs side by side; those that stay unsolved after a stop are left out.
std::vector<SitePoint> solveAll(const std::vector<model::Design>& designs, double frequencyHz,
                                const Look& look, std::stop_token stop, const Progress& progress) {
    std::vector<std::optional<SitePoint>> solved(designs.size());
    std::atomic<std::size_t> done{0};
    tbb::parallel_for(std::size_t{0}, designs.size(), [&](std::size_t i) {
        unlessStopped(stop, [&] {
            solved[i] = solvePoint(designs[i], frequencyHz, look, stop);
            if (progress) progress(static_cast<double>(++done) / static_cast<double>(designs.size()));
        });
    });
    std::vector<SitePoint> points;
    for (auto& point : solved)
        if (point) points.push_back(std::move(*point));
    return points;
}

}  // namespace

double feedHeightM(const model::WireModel& model) {
    const model::WirePlace& place = model.feeds.at(0).place;
    const auto& wire = model.wires.at(place.wire);
    return wire.startM.z() + place.at * (wire.endM.z() - wire.startM.z());
}

HeightStudy studyHeights(const model::Design& design, double frequencyHz, const Look& look, int count,
                         std::stop_token stop, const Progress& progress) {
    if (design.site.ground == model::GroundKind::FreeSpace)
        throw Error(say("In free space height means nothing: give the site a ground first."));
    for (const auto& part : design.parts)
        if (part.enabled && std::holds_alternative<model::HungWire>(part.shape))
            throw Error(
                say("{} hangs from supports, which the height of the site does not lift: change "
                    "their heights and watch.",
                    part.name));
    auto trial = design;
    // Raised out of all trouble with the ground, to see the shape alone.
    trial.site.height = fmt::format("{:.9g} m", 1000.0);
    auto expansion = model::expand(trial);
    requireUsable(expansion);
    const double lambda = wavelengthM(frequencyHz);
    const double lowest = lowestM(expansion.model) - 1000.0;
    const double feed = feedHeightM(expansion.model) - 1000.0;
    double thickest = 0.0;
    for (const auto& wire : expansion.model.wires) thickest = std::max(thickest, wire.radiusM + wire.coatM);
    const double from = std::max(kNearestWavelengths * lambda, 3.0 * thickest) - lowest;
    // To two wavelengths, or a little above where it hangs now.
    const double now = model::expand(design).heightM + feed;
    const double to = std::max({kHighestWavelengths * lambda, 1.1 * now, from + feed + lambda}) - feed;
    std::vector<model::Design> designs;
    for (int i = 0; i < count; ++i) {
        const double t = count == 1 ? 0.0 : static_cast<double>(i) / (count - 1);
        trial.site.height = fmt::format("{:.9g} m", from + (to - from) * std::pow(t, 1.5));
        designs.push_back(trial);
    }
    HeightStudy study;
    study.look = look;
    study.frequencyHz = frequencyHz;
    expansion = model::expand(design);
    study.nowFeedHeightM = feed + expansion.heightM;
    study.points = solveAll(designs, frequencyHz, look, stop, progress);
    for (auto& point : study.points) point.soil = design.site.soil;
    study.complete = study.points.size() == designs.size();
    return study;
}

GroundStudy studyGrounds(const model::Design& design, double frequencyHz, const Look& look,
                         std::stop_token stop, const Progress& progress) {
    std::vector<model::Design> designs;
    const bool listed =
        design.site.ground == model::GroundKind::Real && model::findSoil(design.site.soil) != nullptr;
    if (!listed && design.site.ground != model::GroundKind::FreeSpace) designs.push_back(design);
    for (const auto& soil : model::soils()) {
        designs.push_back(design);
        designs.back().site.ground = model::GroundKind::Real;
        designs.back().site.soil = soil.id;
    }
    GroundStudy study{look, solveAll(designs, frequencyHz, look, stop, progress)};
    if (study.points.size() != designs.size()) return {look, {}};
    for (std::size_t i = 0; i < designs.size(); ++i)
        study.points[i].soil =
            designs[i].site.ground == model::GroundKind::Real ? designs[i].site.soil : "perfect";
    return study;
}

}  // namespace rm::study
