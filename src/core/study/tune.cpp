#include "core/study/tune.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "core/stopped.h"
#include "core/study/tune_as_built.h"
#include "core/study/tune_search.h"

namespace rm::study {

namespace {

constexpr std::size_t kSpread = 24;
/// Where bands are counted, the landscape has many valleys.
constexpr std::size_t kWideSpread = 96;
constexpr int kDense = 21;
/// Hops that bring nothing before the search ends, in batches; how far they go, in parts of the box.
constexpr int kIdleHops = 2;
constexpr std::size_t kHopsAtOnce = 2;
constexpr double kHopReach[] = {0.03, 0.08, 0.2};

std::vector<double> scaledNow(const std::vector<Axis>& axes) {
    std::vector<double> x;
    for (const auto& axis : axes) x.push_back(axis.scaled(axis.now));
    return x;
}

/// Points in the unit cube, one in every slice of each dimension (latin hypercube).
std::vector<std::vector<double>> spreadOf(std::size_t axes, std::size_t count, unsigned seed) {
    std::mt19937 random(seed);
    std::vector<std::vector<double>> points(count, std::vector<double>(axes));
    for (std::size_t a = 0; a < axes; ++a) {
        std::vector<std::size_t> slice(count);
        for (std::size_t i = 0; i < count; ++i) slice[i] = i;
        for (std::size_t i = count; i-- > 1;) std::swap(slice[i], slice[random() % (i + 1)]);
        for (std::size_t i = 0; i < count; ++i)
            points[i][a] = (static_cast<double>(slice[i]) + static_cast<double>(random() % 1000) / 1000.0) /
                           static_cast<double>(count);
    }
    return points;
}

/// Climbs from random places near the best, until several in a row bring nothing: what is good has better
/// neighbours more often than a place anywhere in the box.
Search::Found hopOn(Search& search, const std::vector<Axis>& axes, Search::Found best, unsigned seed) {
    std::mt19937 random(seed + 1);
    std::normal_distribution<double> normal;
    for (int idle = 0; idle < kIdleHops && !search.over() && !search.done(best); ++idle) {
        // As many at once whatever the machine has: the same seed is the same antenna.
        std::vector<Search::Found> found(kHopsAtOnce);
        for (auto& f : found) {
            const double reach = kHopReach[random() % std::size(kHopReach)];
            f.x = best.x;
            for (std::size_t a = 0; a < axes.size(); ++a)
                if (!axes[a].discrete()) f.x[a] = std::clamp(f.x[a] + reach * normal(random), 0.0, 1.0);
        }
        tbb::parallel_for(std::size_t{0}, found.size(), [&](std::size_t i) {
            if (!search.over()) found[i] = search.climb(found[i].x);
        });
        for (auto& f : found) {
            if (f.score.empty() || !Search::better(f.score, best.score)) continue;
            best = std::move(f);
            idle = -1;
        }
    }
    return best;
}

/// Adds the frequencies where a goal is missed most between the samples; false where there are none.
bool refine(Prober& prober, const model::Design& design, const std::vector<model::Band>& bands) {
    bool added = false;
    for (const auto& state : readGoals(design, bands, kDense)) {
        if (state.met()) continue;
        auto& goals = prober.goals();
        for (std::size_t r = 0; r < goals.ranges().size(); ++r) {
            const auto& range = goals.ranges()[r];
            if (state.atHz < range.lowHz || state.atHz > range.highHz || range.hz.size() < 2) continue;
            const double apart = (range.highHz - range.lowHz) / (2.0 * kDense);
            if (std::any_of(range.hz.begin(), range.hz.end(),
                            [&](double hz) { return std::abs(hz - state.atHz) < apart; }))
                continue;
            goals.sampleToo(r, state.atHz);
            added = true;
        }
    }
    return added;
}

}  // namespace

std::vector<GoalState> readGoals(const model::Design& design, const std::vector<model::Band>& bands,
                                 int samples, const std::stop_token& stop) {
    const Goals goals(design, bands, samples);
    const auto drives = goals.expand(design);
    for (const auto& expansion : drives) requireUsable(expansion);
    Goals::Samples all;
    for (const auto& range : goals.ranges()) {
        const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(drives.front().model, range.highHz));
        std::vector<GoalSample> read(range.hz.size());
        tbb::parallel_for(std::size_t{0}, range.hz.size(), [&](std::size_t i) {
            // The same whatever this thread has worked on before.
            em::forgetPairs();
            read[i] = goals.read(drives, em::solvePorts(mesh, range.hz[i], stop));
        });
        all.push_back(std::move(read));
    }
    return goals.states(all);
}

TuneGradient tuneGradient(const model::Design& design, const std::vector<model::Band>& bands,
                          const std::vector<double>& scaled) {
    const Prober prober(design, bands, TuneOptions().samples, {}, std::make_shared<TuneControl>(), {});
    const auto trial = prober.probe(scaled, true);
    return {trial.misses, trial.gradient};
}

TuneResult tune(const model::Design& design, const std::vector<model::Band>& bands,
                const TuneOptions& options) {
    requireUsable(model::expand(design));
    if (design.tune.asBuilt) readErrors(design.tune.errors);
    Prober prober(design, bands, options.samples, options.resume,
                  options.control ? options.control : std::make_shared<TuneControl>(), options.stop);
    Search search(prober, options);
    const auto& axes = prober.axes();
    TuneResult result;
    const auto start = search.probe(scaledNow(axes));
    result.before = search.stateOf(start);
    // As it was, not as the limits of its dimensions would have it.
    for (const auto& axis : axes) result.before.values[axis.name] = axis.now;
    result.before.goals = readGoals(withValues(design, result.before.values), bands, options.samples);

    // A spread of points, one in every slice of each dimension; the best of them begin searches of their own.
    const auto& layout = prober.goals().layout();
    const bool counted = std::any_of(layout.begin(), layout.end(), [](const auto& b) { return b.counted; });
    const auto points = spreadOf(axes.size(), counted ? kWideSpread : kSpread, options.seed);
    std::vector<Search::Found> spread(points.size());
    const int more = std::max(0, counted ? 2 * options.starts - 1 : options.starts - 1);
    if (more > 0)
        tbb::parallel_for(std::size_t{0}, points.size(), [&](std::size_t i) {
            if (!search.over()) spread[i] = search.choose(points[i]);
        });
    std::erase_if(spread, [](const auto& f) { return f.score.empty() || !f.trial.good; });
    std::stable_sort(spread.begin(), spread.end(),
                     [](const auto& a, const auto& b) { return a.score < b.score; });
    std::vector<Search::Found> found{start};
    for (int i = 0; i < more && i < static_cast<int>(spread.size()); ++i)
        found.push_back(spread[static_cast<std::size_t>(i)]);
    tbb::parallel_for(std::size_t{0}, found.size(), [&](std::size_t i) {
        if (!search.over()) found[i] = search.climb(found[i].x);
    });
    Search::Found best = start;
    for (const auto& f : found)
        if (Search::better(f.score, best.score)) best = f;
    if (options.starts > 1) best = hopOn(search, axes, best, options.seed);
    for (int round = 0; round < 2 && !search.over(); ++round) {
        if (!refine(prober, prober.at(best.x), bands)) break;
        prober.frequenciesChanged();
        best = search.climb(best.x);
    }
    if (design.tune.asBuilt && !search.over()) {
        result.asBuilt.emplace();
        try {
            best = tuneAsBuilt(search, prober, design, bands, options, best, *result.asBuilt);
        } catch (const Stopped&) {
            result.asBuilt.reset();
        }
    }
    result.best = search.stateOf(best);
    result.stopped = search.over();
    result.exact = readGoals(prober.at(best.x), bands, kDense);
    const auto rounded = search.stateOf(search.round(best)).values;
    result.best.evaluations = prober.control().evaluations;
    result.best.solutions = prober.control().solutions;
    // On the steps themselves, free of the scaling.
    for (const auto& axis : axes) result.builtValues[axis.name] = axis.built(rounded.at(axis.name));
    result.proposal = withValues(design, result.builtValues, true);
    result.rounded = readGoals(result.proposal, bands, kDense);
    return result;
}

}  // namespace rm::study
