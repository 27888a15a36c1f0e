#include "core/study/radial_study.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>

#include "core/model/expand.h"
#include "core/model/expand_parts.h"
#include "core/stopped.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

/// A doubling of the wire that brings less than this no longer pays.
constexpr double kPaysDb = 0.5;
/// The second watch angle is the one that counts: low, but above where every gain over soil vanishes.
constexpr std::size_t kWatch = 1;

RadialPoint solveOn(const model::Design& design, int count, double lengthM, double frequencyHz,
                    const Look& look, const std::stop_token& stop) {
    AnalysisOptions options;
    options.bearingAzimuthDeg = look.azimuthDeg;
    options.stop = stop;
    const Analysis a = analyse(model::expand(design), frequencyHz, options);
    RadialPoint point;
    point.count = count;
    point.wireM = count * lengthM;
    point.ohm = a.figures.antennaOhm;
    point.swr = a.figures.swr;
    for (std::size_t i = 0; i < look.watchDeg.size(); ++i)
        point.watchGainDbi[i] = a.elevation.at(look.watchDeg[i]);
    point.efficiency = a.figures.efficiency;
    point.skyShare = a.figures.skyShare;
    point.soilShare = a.figures.soilShare();
    return point;
}

}  // namespace

const std::vector<int>& radialCounts() {
    static const std::vector<int> counts = {2, 3, 4, 6, 8, 12, 16, 24, 32, 48, 64, 90, 120};
    return counts;
}

std::string radialSystemOf(const model::Design& design) {
    for (const auto& part : design.parts)
        if (part.enabled && std::holds_alternative<model::RadialSystem>(part.shape)) return part.name;
    return "";
}

std::optional<Radials> radialsOf(const model::Design& design) {
    const std::string name = radialSystemOf(design);
    for (const auto& part : design.parts) {
        const auto* system = part.name == name ? std::get_if<model::RadialSystem>(&part.shape) : nullptr;
        if (system == nullptr || !part.enabled) continue;
        try {
            const auto scope = model::scopeOf(design);
            Radials now;
            now.count = static_cast<int>(
                std::lround(quantity::evaluate(system->count, quantity::Kind::Number, scope)));
            for (const std::string& one : model::lengthsInTurn(system->length))
                now.lengthM = std::max(now.lengthM, quantity::evaluate(one, quantity::Kind::Length, scope));
            return now;
        } catch (const Error&) {
            return std::nullopt;
        }
    }
    return std::nullopt;
}

model::Design withRadials(model::Design design, const std::string& part, int count, double lengthM) {
    for (auto& p : design.parts)
        if (auto* system = p.name == part ? std::get_if<model::RadialSystem>(&p.shape) : nullptr) {
            system->count = fmt::format("{}", count);
            system->length = fmt::format("{:.6g} m", lengthM);
        }
    return design;
}

RadialStudy studyRadials(const model::Design& design, double frequencyHz, const Look& look,
                         std::stop_token stop, const Progress& progress) {
    RadialStudy study;
    study.part = radialSystemOf(design);
    if (study.part.empty())
        throw Error(say("There is no radial system in this design: add one under the antenna first."));
    if (design.site.ground == model::GroundKind::Perfect)
        throw Error(say("On perfect ground radials do nothing: choose the soil of the site first."));
    requireUsable(model::expand(design));
    // What is usable has a number and a length.
    study.now = radialsOf(design).value();
    study.look = look;
    study.frequencyHz = frequencyHz;
    const double factor[] = {0.5, 1.0, 2.0};
    const std::size_t counts = radialCounts().size();
    for (std::size_t c = 0; c < study.curves.size(); ++c) {
        study.curves[c].lengthM = factor[c] * study.now.lengthM;
        study.curves[c].points.resize(counts);
    }
    const std::size_t total = study.curves.size() * counts;
    std::atomic<std::size_t> done{0};
    tbb::parallel_for(std::size_t{0}, total, [&](std::size_t i) {
        unlessStopped(stop, [&] {
            RadialCurve& curve = study.curves[i / counts];
            const int count = radialCounts()[i % counts];
            try {
                curve.points[i % counts] = solveOn(withRadials(design, study.part, count, curve.lengthM),
                                                   count, curve.lengthM, frequencyHz, look, stop);
            } catch (const Error&) {
                // More wire than can be worked out, or where something stands: this point is left out.
            }
            const std::size_t sofar = ++done;
            if (progress) progress(static_cast<double>(sofar) / static_cast<double>(total));
        });
    });
    for (RadialCurve& curve : study.curves)
        std::erase_if(curve.points, [](const RadialPoint& point) { return point.count == 0; });
    study.complete = done == total && !stop.stop_requested() && !study.curves[1].points.empty();
    return study;
}

std::string RadialStudy::advice(quantity::LengthStyle lengths) const {
    if (!complete) return "";
    const auto& points = curves[1].points;
    // The smallest number from which twice as many no longer pay.
    const auto twice = [&](std::size_t i) {
        return std::find_if(points.begin(), points.end(),
                            [&](const RadialPoint& p) { return p.count == 2 * points[i].count; });
    };
    for (std::size_t i = 0; i < points.size(); ++i) {
        const auto next = twice(i);
        if (next == points.end()) continue;
        const double gain = next->watchGainDbi[kWatch] - points[i].watchGainDbi[kWatch];
        if (gain >= kPaysDb) continue;
        const std::string each = quantity::formatRough(now.lengthM, 1, lengths);
        const std::string wire = quantity::formatRough(next->wireM - points[i].wireM, 0, lengths);
        return say(
            "From {} × {} to {} × {}: {:+.1f} dB at {:g}° for {} of wire. Beyond {} more of them hardly pay.",
            points[i].count, each, next->count, each, gain, look.watchDeg[kWatch], wire, points[i].count);
    }
    if (points.empty()) return "";
    return say("Up to {} radials twice as many bring half a dB or more at {:g}°.", points.back().count,
               look.watchDeg[kWatch]);
}

}  // namespace rm::study
