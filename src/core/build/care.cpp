#include "core/build/care.h"

#include <algorithm>
#include <cmath>

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

}  // namespace

double Care::keepToM() const {
    const double steps = std::max({swrPerMm / kNoticedSwr, gainDbPerMm / kNoticedGainDb,
                                   rearDbPerMm / kNoticedRearDb, kStepM / kFreeM});
    return kStepM / steps;
}

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
        const CutList longer = cutList(study::withDimension(numbers, row.dimension, value + kStepM));
        for (std::size_t i = 0; i < care.size(); ++i) {
            const double by = std::abs(growth(list.pieces[i], longer)) / kStepM;
            if (by < kFollows) continue;
            care[i].hzPerMm = std::max(care[i].hzPerMm, std::abs(row.resonanceHz) / by);
            care[i].swrPerMm = std::max(care[i].swrPerMm, std::abs(row.swr) / by);
            care[i].gainDbPerMm = std::max(care[i].gainDbPerMm, std::abs(row.gainDb) / by);
            care[i].rearDbPerMm = std::max(care[i].rearDbPerMm, std::abs(row.frontToRearDb) / by);
        }
    }
    return care;
}

}  // namespace rm::build
