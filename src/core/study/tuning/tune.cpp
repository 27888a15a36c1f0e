#include "core/study/tuning/tune.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "core/stopped.h"
#include "core/study/tuning/tune_as_built.h"
#include "core/study/tuning/tune_between.h"
#include "core/study/tuning/tune_search.h"

namespace rm::study {

namespace {

constexpr std::size_t kSpread = 24;
/// Where bands are counted, the landscape has many valleys.
constexpr std::size_t kWideSpread = 96;
constexpr int kDense = 21;
/// Hops that bring nothing before the search ends, in batches; how far they go, in parts of the box.
constexpr int kIdleHops = 3;
constexpr std::size_t kHopsAtOnce = 4;
/// How many of them go on to the end.
constexpr std::size_t kGoOn = 2;
/// Attempts to land on an antenna that can be built.
constexpr int kLandings = 8;
constexpr double kNearReach[] = {0.08, 0.03, 0.2};
/// Where what comes first is not met yet.
constexpr double kFarReach[] = {0.2, 0.1, 0.05};

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

/// What can be built of these, the best first.
std::vector<Search::Found> ranked(std::vector<Search::Found> found) {
    std::erase_if(found, [](const auto& f) { return !f.trial.good; });
    std::stable_sort(found.begin(), found.end(),
                     [](const auto& a, const auto& b) { return a.score < b.score; });
    return found;
}

/// Climbs from each, all at once: what was found, the best first.
std::vector<Search::Found> climbAll(Search& search, const std::vector<std::vector<double>>& from, int steps) {
    std::vector<Search::Found> found(from.size());
    tbb::parallel_for(std::size_t{0}, from.size(), [&](std::size_t i) {
        if (!search.over()) found[i] = search.climb(from[i], steps);
    });
    return ranked(std::move(found));
}

/// A few steps from the best of points spread over all of the box, and on to the end from the one that has
/// come farthest; as it was where nothing is better than `best`.
Search::Found climbSpread(Search& search, const std::vector<std::vector<double>>& points, std::size_t most,
                          const Search::Found& best) {
    std::vector<Search::Found> spread(points.size());
    tbb::parallel_for(std::size_t{0}, points.size(), [&](std::size_t i) {
        if (!search.over()) spread[i] = search.choose(points[i]);
    });
    spread = ranked(std::move(spread));
    spread.resize(std::min(spread.size(), most));
    if (spread.empty()) return best;
    std::vector<std::vector<double>> first;
    for (const auto& f : spread) first.push_back(f.x);
    auto found = climbAll(search, first, Search::kFewSteps);
    if (found.empty()) return best;
    for (auto& f : climbAll(search, {found.front().x}, Search::kMostSteps)) found.push_back(std::move(f));
    return Search::betterOf(best, std::move(found));
}

/// Climbs from random places near the best, until several in a row bring nothing: what is good has better
/// neighbours more often than a place anywhere in the box.
Search::Found hopOn(Search& search, Between& between, const std::vector<Axis>& axes, Search::Found best,
                    unsigned seed) {
    std::mt19937 random(seed + 1);
    std::normal_distribution<double> normal;
    std::size_t batch = 0;
    for (int idle = 0; idle < kIdleHops && !search.over() && !search.done(best); ++idle) {
        // As many at once whatever the machine has: the same seed is the same antenna.
        std::vector<std::vector<double>> hops(kHopsAtOnce);
        const double reach = (search.ready(best) ? kNearReach : kFarReach)[batch++ % std::size(kNearReach)];
        for (auto& x : hops)
            for (int attempt = 0; attempt < kLandings; ++attempt) {
                x = best.x;
                for (std::size_t a = 0; a < axes.size(); ++a)
                    if (!axes[a].discrete()) x[a] = std::clamp(x[a] + reach * normal(random), 0.0, 1.0);
                if (search.probe(x).trial.good) break;
            }
        auto found = climbAll(search, hops, Search::kFewSteps);
        std::vector<std::vector<double>> on;
        for (const auto& f : found)
            if (on.size() < kGoOn && search.promising(f, best)) on.push_back(f.x);
        for (auto& f : climbAll(search, on, Search::kMostSteps)) found.push_back(std::move(f));
        auto next = Search::betterOf(best, std::move(found));
        // Where nothing new is near: the best as good as it gets there.
        if (idle == 0 && !Search::better(next.score, best.score)) next = search.evenOut(next);
        if (Search::better(next.score, best.score)) {
            idle = -1;
            next = between.look(std::move(next));
        }
        best = std::move(next);
    }
    return best;
}

}  // namespace

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

    Between between(search, prober, Goals(design, bands, kDense), start);
    Search::Found best =
        between.look(Search::betterOf(start, climbAll(search, {start.x}, Search::kMostSteps)));
    // Where that does not meet what comes first: a spread of points, one in every slice of each dimension.
    const auto& layout = prober.goals().layout();
    const bool counted = std::any_of(layout.begin(), layout.end(), [](const auto& b) { return b.counted; });
    const int more = counted ? 2 * options.starts - 1 : options.starts - 1;
    if (more > 0 && !search.over() && !search.ready(best))
        best = between.look(climbSpread(search,
                                        spreadOf(axes.size(), counted ? kWideSpread : kSpread, options.seed),
                                        static_cast<std::size_t>(more), best));
    if (options.starts > 1) best = hopOn(search, between, axes, best, options.seed);
    best = between.look(std::move(best));
    if (design.tune.asBuilt && !search.over()) {
        result.asBuilt.emplace();
        try {
            best = tuneAsBuilt(search, prober, design, bands, options, best, *result.asBuilt);
        } catch (const Stopped&) {
            result.asBuilt.reset();
        }
    }
    Between::Read ended = between.read(best);
    // Where it was stopped nothing between the frequencies read of it was looked at.
    if (search.stopped() && !design.tune.asBuilt) ended = between.orLookedAt(std::move(ended));
    best = ended.found;
    result.best = search.stateOf(best);
    result.stopped = search.over();
    result.exact = between.dense().states(ended.exact.samples);
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
