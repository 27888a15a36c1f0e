#include "core/study/tolerance.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <random>

#include "core/model/dimension_kind.h"
#include "core/model/on_ground.h"
#include "core/model/soils.h"
#include "core/quantity/formula.h"
#include "core/stopped.h"
#include "core/study/tuning/tune.h"
#include "core/study/varied.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

/// Frequencies per range at which the goals of a build are read.
constexpr int kBuildSamples = 7;

double shareOf(std::vector<double> values, double share) {
    const auto at = static_cast<std::ptrdiff_t>(std::lround(share * static_cast<double>(values.size() - 1)));
    std::nth_element(values.begin(), values.begin() + at, values.end());
    return values[static_cast<std::size_t>(at)];
}

/// A typed value times a factor.
std::string scaled(const std::string& text, double factor) {
    return text.empty() ? text : fmt::format("({})*{:.9g}", text, factor);
}

std::vector<double> deviatesFor(const model::Design& design, std::mt19937& random) {
    std::normal_distribution<double> normal;
    std::vector<double> deviates(errorCount(design));
    for (double& one : deviates) one = normal(random);
    return deviates;
}

}  // namespace

std::size_t errorCount(const model::Design& design) {
    return design.dimensions.size() + design.parts.size() + 2;
}

model::Design builtWith(const model::Design& design, const BuildErrors& errors,
                        const std::vector<double>& deviates) {
    auto next = deviates.begin();
    model::Design d = design;
    const auto scope = model::scopeOf(design);
    for (auto& dimension : d.dimensions) {
        const auto& only = errors.only;
        const double by = *next++;
        if (!only.empty() && std::find(only.begin(), only.end(), dimension.name) == only.end()) continue;
        const double error = dimension.kind == model::DimensionKind::Length  ? errors.lengthM
                             : dimension.kind == model::DimensionKind::Angle ? errors.angleDeg
                                                                             : 0.0;
        const auto value = scope.values.find(dimension.name);
        // What follows by a formula errs with what it follows from.
        if (error > 0.0 && value != scope.values.end() && quantity::isPlainNumber(dimension.text))
            dimension.text = model::exactText(dimension.kind, value->second + error * by);
    }
    for (auto& part : d.parts) {
        const double factor = std::max(0.2, 1.0 + errors.diameterShare * *next++);
        if (quantity::isPlainNumber(part.conductor.diameter))
            part.conductor.diameter = scaled(part.conductor.diameter, factor);
    }
    const double lift = errors.heightM * *next++;
    if (errors.heightM > 0.0 && !model::restsOnGround(model::expand(design)))
        d.site.height = fmt::format("({}) + {:.9g} m", d.site.height, lift);
    const double wet = std::exp(errors.groundShare * *next++);
    if (errors.groundShare > 0.0 && d.site.ground == model::GroundKind::Real) {
        // A soil with a name becomes one of its own figures.
        if (const model::Soil* soil = model::findSoil(d.site.soil)) {
            d.site.soil = model::kCustomSoil;
            d.site.conductivity = fmt::format("{:.9g}", soil->conductivitySm);
            d.site.permittivity = fmt::format("{:.9g}", soil->relativePermittivity);
        }
        d.site.conductivity = scaled(d.site.conductivity, wet);
        d.site.permittivity = scaled(d.site.permittivity, std::sqrt(wet));
    }
    return d;
}

int buildsMeeting(const model::Design& design, const std::vector<model::Band>& bands,
                  const BuildErrors& errors, int builds, unsigned seed, const std::stop_token& stop) {
    std::mt19937 random(seed);
    std::vector<model::Design> built;
    for (int i = 0; i < builds; ++i) built.push_back(builtWith(design, errors, deviatesFor(design, random)));
    std::atomic<int> meeting{0};
    tbb::parallel_for(std::size_t{0}, built.size(), [&](std::size_t i) {
        unlessStopped(stop, [&] {
            try {
                if (allMet(readGoals(built[i], bands, kBuildSamples, stop))) ++meeting;
            } catch (const Error&) {
                // A build that cannot be worked out meets nothing.
            }
        });
    });
    return meeting;
}

BuildErrors readErrors(const ErrorTexts& texts) {
    const auto read = [](std::string typed, quantity::Kind kind, const std::string& what) {
        const auto percent = typed.find('%');
        if (percent != std::string::npos) typed.erase(percent);
        double value = 0.0;
        try {
            value = quantity::evaluate(typed, kind, {});
        } catch (const Error& e) {
            throw Error(say("The error of the {}: {}", what, e.what()));
        }
        if (!(value >= 0.0)) throw Error(say("The error of the {} has to be zero or more.", what));
        return percent != std::string::npos ? value / 100.0 : value;
    };
    using quantity::Kind;
    BuildErrors errors;
    errors.lengthM = read(texts.length, Kind::Length, say("lengths"));
    errors.angleDeg = read(texts.angle, Kind::Angle, say("angles"));
    errors.diameterShare = read(texts.diameter, Kind::Number, say("diameters"));
    errors.heightM = read(texts.height, Kind::Length, say("height"));
    errors.groundShare = read(texts.ground, Kind::Number, say("ground"));
    if (errors.diameterShare > 0.5)
        throw Error(say("The error of the diameters is above half: type it in percent, as 2 %."));
    return errors;
}

Tolerance studyTolerance(const model::Design& design, const std::vector<model::Band>& bands, double lowHz,
                         double highHz, int builds, const BuildErrors& errors, unsigned seed,
                         std::stop_token stop, const Progress& progress) {
    const auto drawn = model::expand(design);
    requireUsable(drawn);
    constexpr int kPoints = 21;
    // Errors are drawn one after the other, so that the seed alone decides them.
    std::mt19937 random(seed);
    std::vector<model::Design> built;
    for (int i = 0; i < builds; ++i) built.push_back(builtWith(design, errors, deviatesFor(design, random)));
    const bool goals = std::any_of(design.tune.goals.begin(), design.tune.goals.end(),
                                   [](const model::Goal& g) { return g.enabled; });
    struct One {
        bool failed = false;
        std::vector<double> swr;
        bool meets = false;
        std::vector<GoalState> states;
    };
    std::vector<One> all(built.size());
    std::atomic<int> done{0};
    tbb::parallel_for(std::size_t{0}, built.size(), [&](std::size_t i) {
        unlessStopped(stop, [&] {
            One one;
            try {
                const auto expansion = model::expand(built[i]);
                requireUsable(expansion);
                const auto swept = sweep(expansion, lowHz, highHz, kPoints, stop);
                endWhere(stop);
                for (const auto& p : swept.points) one.swr.push_back(p.swr);
                if (goals) {
                    one.states = readGoals(built[i], bands, kBuildSamples, stop);
                    one.meets = allMet(one.states);
                }
            } catch (const Error&) {
                // A build that cannot be worked out is one that went wrong; the others go on.
                one = {true, {}, false, {}};
            }
            all[i] = std::move(one);
            if (progress) progress(static_cast<double>(++done) / builds);
        });
    });
    Tolerance t;
    t.restsOnGround = model::restsOnGround(drawn);
    t.failed =
        static_cast<int>(std::count_if(all.begin(), all.end(), [](const One& one) { return one.failed; }));
    std::erase_if(all, [](const One& one) { return one.swr.empty(); });
    t.builds = static_cast<int>(all.size()) + t.failed;
    t.meeting =
        goals ? static_cast<int>(std::count_if(all.begin(), all.end(), [](const One& o) { return o.meets; }))
              : -1;
    std::vector<double> worst;
    for (const auto& one : all) worst.push_back(*std::max_element(one.swr.begin(), one.swr.end()));
    if (!worst.empty()) t.mostOfNine = shareOf(worst, 0.9);
    for (std::size_t g = 0; !all.empty() && g < all[0].states.size(); ++g) {
        if (all[0].states[g].most) continue;
        const auto met =
            std::count_if(all.begin(), all.end(), [g](const One& o) { return o.states[g].met(); });
        t.each.emplace_back(all[0].states[g].sentence, static_cast<int>(met));
    }
    for (const auto& p : sweep(drawn, lowHz, highHz, kPoints).points) t.drawnSwr.push_back(p.swr);
    for (int p = 0; p < kPoints && !all.empty(); ++p) {
        std::vector<double> here;
        for (const auto& one : all) here.push_back(one.swr[static_cast<std::size_t>(p)]);
        t.hz.push_back(lowHz + (highHz - lowHz) * p / (kPoints - 1));
        t.lowSwr.push_back(shareOf(here, 0.05));
        t.middleSwr.push_back(shareOf(here, 0.5));
        t.highSwr.push_back(shareOf(here, 0.95));
    }
    return t;
}

}  // namespace rm::study
