#include "core/study/tuning/sensitivities.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/stopped.h"
#include "core/study/varied.h"

namespace rm::study {

namespace {

/// Share of a frequency to which a resonance has to settle: a hundredth of what a millimetre in ten metres
/// moves.
constexpr double kSettled = 1e-6;
/// Distance, as a share of the frequency, at which slopes are taken: the same two frequencies serve every
/// antenna, for tables of the ground are kept by frequency. A step no longer than it needs no further
/// solution.
constexpr double kAside = 3e-4;
/// No step of a dimension moves a resonance by more than this share, or it is another one.
constexpr double kNearby = 0.1;
constexpr int kMostSecants = 8;

/// Where the reactance goes through zero, and how it bends there.
struct Crossing {
    double frequencyHz = 0.0;
    double ohmPerHz2 = 0.0;
};

/// Zero of the reactance of an antenna that differs little from the one with the crossing, to a share of the
/// frequency: Newton's step with the other's bend, and secants where that is a long one. Nothing where it has
/// gone or is too far.
template <typename Reactance>
std::optional<double> followed(const Crossing& from, double settled, const Reactance& reactance) {
    double hz = from.frequencyHz;
    double ohm = reactance(hz);
    const double aside = kAside * hz;
    const double slope = (reactance(hz + aside) - ohm) / aside - 0.5 * from.ohmPerHz2 * aside;
    double step = -ohm / slope;
    step = -ohm / (slope + 0.5 * from.ohmPerHz2 * step);
    for (int i = 0; i < kMostSecants; ++i) {
        if (!(std::abs((hz + step) / from.frequencyHz - 1.0) < kNearby)) return std::nullopt;
        if (std::abs(step) < settled * from.frequencyHz) return hz + step;
        const double ohmThere = reactance(hz + step);
        hz += step;
        step *= -ohmThere / (ohmThere - ohm);
        ohm = ohmThere;
    }
    return std::nullopt;
}

/// The reactance of an antenna where its feed path begins, on one mesh.
auto reactanceOf(const model::Expansion& antenna, double meshHz, const std::stop_token& stop) {
    const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(antenna.model, meshHz));
    return [&antenna, mesh, &stop](double hz) {
        endWhere(stop);
        return antennaImpedance(antenna.model, mesh, hz, stop).imag();
    };
}

/// The crossing nearest to the frequency given, within 15 % of it; nothing where there is none.
std::optional<Crossing> crossingNear(const model::Expansion& antenna, double frequencyHz,
                                     const std::stop_token& stop) {
    const Sweep band = sweep(antenna, 0.85 * frequencyHz, 1.15 * frequencyHz, 61, stop);
    endWhere(stop);
    const auto found = band.resonancesHz();
    if (found.empty()) return std::nullopt;
    const double hz = *std::min_element(found.begin(), found.end(), [&](double a, double b) {
        return std::abs(a - frequencyHz) < std::abs(b - frequencyHz);
    });
    // Between the points of a sweep the reactance bends: at a Yagi a straight line there is far off.
    const auto reactance = reactanceOf(antenna, hz, stop);
    const auto zero = followed({hz}, kSettled, reactance);
    if (!zero) return std::nullopt;
    const double aside = kAside * *zero;
    return Crossing{*zero, (reactance(*zero + aside) - 2.0 * reactance(*zero) + reactance(*zero - aside)) /
                               (aside * aside)};
}

}  // namespace

std::vector<Sensitivity> studySensitivity(const model::Design& design, double frequencyHz,
                                          SensitivityStep step, std::stop_token stop) {
    const auto here = model::expand(design);
    requireUsable(here);
    std::vector<Sensitivity> rows;
    for (const auto& dimension : design.dimensions) {
        if (!quantity::isPlainNumber(dimension.text)) continue;
        Sensitivity row;
        row.dimension = dimension.name;
        row.kind = dimension.kind;
        const double value = here.dimensionValue.at(dimension.name);
        const double percent = 0.01 * std::max(1e-6, std::abs(value));
        row.step = dimension.kind == model::DimensionKind::Angle ? 1.0
                   : dimension.kind == model::DimensionKind::Number || step == SensitivityStep::Percent
                       ? percent
                   : step == SensitivityStep::Centimetre ? 1e-2
                                                         : 1e-3;
        rows.push_back(row);
    }
    AnalysisOptions options;
    options.stop = stop;
    const auto crossing = rows.empty() ? std::nullopt : crossingNear(here, frequencyHz, stop);
    const auto fill = [&](Sensitivity& row) {
        const double value = here.dimensionValue.at(row.dimension);
        const auto back = model::expand(withDimension(design, row.dimension, value - row.step));
        const auto further = model::expand(withDimension(design, row.dimension, value + row.step));
        if (!back.usable() || !further.usable()) return;
        const Figures a = analyse(back, frequencyHz, options).figures;
        const Figures b = analyse(further, frequencyHz, options).figures;
        row.swr = 0.5 * (b.swr - a.swr);
        row.gainDb = 0.5 * (b.peak.gainDbi - a.peak.gainDbi);
        row.frontToRearDb = 0.5 * (b.frontToRearDb - a.frontToRearDb);
        if (!crossing) return;
        const auto resonanceOf = [&](const model::Expansion& antenna) {
            return followed(*crossing, kAside, reactanceOf(antenna, crossing->frequencyHz, stop));
        };
        const auto low = resonanceOf(back);
        const auto high = resonanceOf(further);
        if (low && high) row.resonanceHz = 0.5 * (*high - *low);
    };
    tbb::parallel_for(std::size_t{0}, rows.size(),
                      [&](std::size_t i) { unlessStopped(stop, [&] { fill(rows[i]); }); });
    std::stable_sort(rows.begin(), rows.end(), [](const Sensitivity& a, const Sensitivity& b) {
        return std::abs(a.swr) > std::abs(b.swr);
    });
    return rows;
}

}  // namespace rm::study
