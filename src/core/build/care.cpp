#include "core/build/care.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

#include "core/model/expand.h"
#include "core/model/movable.h"
#include "core/stopped.h"
#include "core/study/tuning/sensitivities.h"
#include "core/study/varied.h"

namespace rm::build {

namespace {

constexpr double kStepM = 1e-3;
constexpr double kNoticedSwr = 0.05;
constexpr double kNoticedGainDb = 0.1;
constexpr double kNoticedRearDb = 1.0;
/// Each step to what is noticed is as many times the one before.
constexpr double kWidening = 3.0;
/// A piece that grows by less than this share of a step does not follow it.
constexpr double kFollows = 0.05;
/// Growth beyond this is another piece of the same part, not the same one longer.
constexpr double kSameSteps = 8.0;
/// More numbers than this are more than a designer looks after one by one.
constexpr std::size_t kMostNumbers = 60;

/// The design with a name for every length in it.
model::Design named(const model::Design& design) {
    model::Design d = design;
    const auto movables = model::movablesOf(design);
    std::size_t taken = 0;
    for (const auto& movable : movables) {
        const bool ofPart = std::any_of(design.parts.begin(), design.parts.end(),
                                        [&](const auto& part) { return part.name == movable.owner; });
        if (!ofPart || movable.kind != model::DimensionKind::Length || taken >= kMostNumbers) continue;
        model::makeDimension(d, movable);
        ++taken;
    }
    return d;
}

/// How much a piece has grown from one cut list to another.
double growth(const Piece& piece, const CutList& after) {
    double most = 0.0;
    for (const auto& other : after.pieces) {
        const double by = other.modelledM - piece.modelledM;
        if (other.part == piece.part && std::abs(by) < kSameSteps * kStepM && std::abs(by) > std::abs(most))
            most = by;
    }
    return most;
}

/// How far two antennas are apart in what is noticed; 1: just so.
double apart(const study::Figures& a, const study::Figures& b) {
    return std::max({std::abs(a.swr - b.swr) / kNoticedSwr,
                     std::abs(a.peak.gainDbi - b.peak.gainDbi) / kNoticedGainDb,
                     std::abs(a.frontToRearDb - b.frontToRearDb) / kNoticedRearDb});
}

/// How far a number can be off, to the side where that is less, until it is noticed.
double noticedAfterM(const model::Design& design, const std::string& dimension, double value,
                     double frequencyHz, const std::stop_token& stop) {
    study::AnalysisOptions options;
    options.stop = stop;
    const auto figuresWith = [&](double metres) -> std::optional<study::Figures> {
        endWhere(stop);
        const auto expansion = model::expand(study::withDimension(design, dimension, metres));
        if (!expansion.usable()) return std::nullopt;
        return study::analyse(expansion, frequencyHz, options).figures;
    };
    const auto here = figuresWith(value);
    if (!here) return kFreeM;
    std::array<double, 2> noticed = {kFreeM, kFreeM};
    tbb::parallel_for(std::size_t{0}, noticed.size(), [&](std::size_t side) {
        unlessStopped(stop, [&] {
            double beforeM = 0.0;
            double before = 0.0;
            for (double awayM = kStepM; awayM < kWidening * kFreeM; awayM *= kWidening) {
                const auto there = figuresWith(value + (side == 0 ? awayM : -awayM));
                if (!there) {
                    // No antenna any more: what comes then is told by the slope so far.
                    if (before > 0.0) noticed[side] = beforeM / before;
                    break;
                }
                const double now = apart(*here, *there);
                if (now < 1.0) {
                    beforeM = awayM;
                    before = now;
                    continue;
                }
                // Between them as a power of the distance: the first where there is a slope, else the second.
                const double power = before > 0.0 ? std::log(now / before) / std::log(awayM / beforeM) : 1.0;
                noticed[side] =
                    power > 0.5 && before > 0.0 ? beforeM * std::pow(1.0 / before, 1.0 / power) : awayM / now;
                break;
            }
        });
    });
    endWhere(stop);
    return std::min({noticed[0], noticed[1], kFreeM});
}

}  // namespace

std::vector<Care> careOf(const model::Design& design, double frequencyHz, std::stop_token stop) {
    const CutList list = cutList(design);
    std::vector<Care> care(list.pieces.size());
    const model::Design numbers = named(design);
    const auto scope = model::scopeOf(numbers);
    for (const auto& row :
         study::studySensitivity(numbers, frequencyHz, study::SensitivityStep::Millimetre, stop)) {
        endWhere(stop);
        if (row.kind != model::DimensionKind::Length) continue;
        const double value = scope.values.at(row.dimension);
        const auto withIt = [&](double metres) {
            return study::withDimension(numbers, row.dimension, metres);
        };
        const model::Design grown = withIt(value + kStepM);
        // A number that holds wires together cannot change alone.
        if (!model::expand(grown).usable() || !model::expand(withIt(value - kStepM)).usable()) continue;
        const CutList longer = cutList(grown);
        std::optional<double> noticedM;
        for (std::size_t i = 0; i < care.size(); ++i) {
            const double by = std::abs(growth(list.pieces[i], longer)) / kStepM;
            if (by < kFollows) continue;
            if (!noticedM) noticedM = noticedAfterM(numbers, row.dimension, value, frequencyHz, stop);
            care[i].known = true;
            if (*noticedM < kFreeM) care[i].keepToM = std::min(care[i].keepToM, *noticedM * by);
            care[i].hzPerMm = std::max(care[i].hzPerMm, std::abs(row.resonanceHz) / by);
            care[i].swrPerMm = std::max(care[i].swrPerMm, std::abs(row.swr) / by);
            care[i].gainDbPerMm = std::max(care[i].gainDbPerMm, std::abs(row.gainDb) / by);
            care[i].rearDbPerMm = std::max(care[i].rearDbPerMm, std::abs(row.frontToRearDb) / by);
        }
    }
    return care;
}

}  // namespace rm::build
