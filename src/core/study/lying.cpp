#include "core/study/lying.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/checks.h"
#include "core/model/geometry.h"
#include "core/model/on_ground.h"
#include "core/quantity/format.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

bool liesOn(const model::PlainWire& wire) {
    const double least = model::leastHeightM(wire);
    return std::abs(std::abs(wire.startM.z()) - least) < 1e-6 * least &&
           std::abs(wire.endM.z() - wire.startM.z()) < 1e-6 * least;
}

/// The model with what lies of one part, and what is joined to it, mirrored to the other side of the surface.
model::WireModel turnedOver(model::WireModel model, const std::string& part) {
    std::vector<std::pair<Vec3, double>> points;
    for (const auto& wire : model.wires)
        if (wire.origin() == part && liesOn(wire))
            for (const Vec3& end : {wire.startM, wire.endM})
                points.emplace_back(end, std::max(model::joinToleranceM(wire.radiusM, wire.radiusM), 1e-9));
    for (auto& wire : model.wires)
        for (Vec3* end : {&wire.startM, &wire.endM})
            if (std::any_of(points.begin(), points.end(),
                            [&](const auto& point) { return (point.first - *end).norm() <= point.second; }))
                end->z() = -end->z();
    return model;
}

}  // namespace

std::string LyingDifference::sentence() const {
    return say(
        "{} lies on the ground and is worked out {:.1f} mm {} it. {} {:.1f} mm {}, the feed would see {} Ω "
        "instead "
        "of {} Ω, and the strongest lobe would be {:.1f} dB {}.",
        part, 1e3 * std::abs(heightM), heightM > 0.0 ? say("above") : say("below"),
        heightM > 0.0 ? say("Pressed") : say("Lifted to"), 1e3 * std::abs(heightM),
        heightM > 0.0 ? say("into it") : say("above it"), quantity::formatImpedance(otherOhm),
        quantity::formatImpedance(ohm), std::abs(otherGainDb),
        otherGainDb > 0.0 ? say("stronger") : say("weaker"));
}

std::vector<LyingDifference> lyingDifferences(const model::Expansion& design, const Analysis& analysis,
                                              FieldStore* fields, const std::stop_token& stop) {
    std::vector<LyingDifference> all;
    if (design.model.ground.kind != model::GroundKind::Real) return all;
    for (const auto& wire : design.model.wires) {
        if (!liesOn(wire) ||
            std::any_of(all.begin(), all.end(), [&](const auto& d) { return d.part == wire.origin(); }))
            continue;
        model::Expansion other = design;
        other.model = turnedOver(design.model, wire.origin());
        const double hz = analysis.figures.frequencyHz;
        if (model::hasError(model::checkWires(other.model, hz))) continue;
        AnalysisOptions options;
        options.fields = fields;
        options.stop = stop;
        const Figures figures = analyse(other, hz, options).figures;
        all.push_back({wire.origin(), wire.startM.z(), analysis.figures.antennaOhm, figures.antennaOhm,
                       figures.peak.gainDbi - analysis.figures.peak.gainDbi});
    }
    return all;
}

}  // namespace rm::study
