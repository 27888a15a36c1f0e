#include "core/em/mesh_limits.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/em/radials.h"
#include "core/model/limits.h"
#include "core/model/on_ground.h"
#include "core/model/soils.h"
#include "core/words/words.h"

namespace rm::em {

namespace {

constexpr double kMostWavelengths = 1500.0;  ///< of wire in all, symmetric or not

double electricalLength(const model::WireModel& model, const model::PlainWire& wire,
                        const Wavelengths& wavelengths) {
    return wire.lengthM() / wavelengths.at(model::isInSoil(model.ground, wire));
}

/// Before anything is laid out: a span of half a wavelength has about six unknowns. Equal radials of one
/// hub are taken apart into small systems (em/rotational.h): all of them are counted as two.
void refuseWhatIsTooLarge(const model::WireModel& model, const Wavelengths& wavelengths) {
    std::vector<double> shares(model.wires.size(), 1.0);
    for (const auto& set : radialSets(model))
        for (const auto& radial : set)
            shares[radial.wire] = std::min(shares[radial.wire], 2.0 / static_cast<double>(set.size()));
    double all = 0.0;
    double together = 0.0;
    double wires = 0.0;
    for (std::size_t w = 0; w < model.wires.size(); ++w) {
        const double own = electricalLength(model, model.wires[w], wavelengths);
        all += own;
        together += shares[w] * own;
        wires += shares[w];
    }
    const double unknowns = 12.0 * together + 2.0 * wires;
    const auto most = static_cast<double>(model::kMostUnknowns);
    if (unknowns <= most && all <= kMostWavelengths) return;
    throw Error(
        say("The wires are {:.3g} wavelengths long in all at {:.6g} MHz: that takes about {:.3g} "
            "unknowns, and at most {} "
            "can be worked out. Make the antenna smaller or the frequency lower.",
            all, kSpeedOfLight / wavelengths.airM / 1e6, std::max(unknowns, 12.0 * all),
            unknowns <= most ? std::llround(12.0 * kMostWavelengths) : std::llround(most)));
}

/// Where two wires lie to each other is told to 1e-13 rad, which whole numbers do up to 9e5 rad; so far
/// apart, two antennas know nothing of each other anyway.
void refuseWhatIsTooFarApart(const model::WireModel& model, const Wavelengths& wavelengths) {
    Eigen::AlignedBox3d all;
    Eigen::AlignedBox3d buried;
    for (const auto& wire : model.wires)
        for (Vec3 end : {wire.startM, wire.endM}) {
            all.extend(end);
            // What the ground mirrors lies as far below.
            if (model.ground.kind != model::GroundKind::FreeSpace)
                all.extend(Vec3(end.x(), end.y(), -end.z()));
            if (model::isInSoil(model.ground, wire)) buried.extend(end);
        }
    const double across = all.isEmpty() ? 0.0 : all.diagonal().norm() / wavelengths.airM;
    const double inSoil = buried.isEmpty() ? 0.0 : buried.diagonal().norm() / wavelengths.soilM;
    const double most = model::kMostPhase / (2.0 * kPi);
    if (std::max(across, inSoil) <= most) return;
    throw Error(
        say("The wires lie {:.3g} wavelengths{} apart at {:.6g} MHz, and at most {:.0f} can be "
            "worked out. Bring them closer together, or lower the frequency.",
            std::max(across, inSoil), inSoil > across ? say(" in the soil") : "",
            kSpeedOfLight / wavelengths.airM / 1e6, most));
}

}  // namespace

Wavelengths wavelengthsOver(const model::Ground& ground, double frequencyHz) {
    const double air = wavelengthM(frequencyHz);
    if (ground.kind != model::GroundKind::Real) return {air, air};
    return {air, air / std::sqrt(std::abs(model::permittivityAt(ground, frequencyHz)))};
}

void requireWorkable(const model::WireModel& model, const Wavelengths& wavelengths) {
    refuseWhatIsTooLarge(model, wavelengths);
    refuseWhatIsTooFarApart(model, wavelengths);
}

}  // namespace rm::em
