// The search of the tuner: local climbs, stage by stage, from many points.
#pragma once

#include <nlopt.h>

#include <chrono>
#include <map>
#include <mutex>
#include <vector>

#include "core/study/tuning/tune.h"
#include "core/study/tuning/tune_prober.h"

namespace rm::study {

/// What all climbs share; safe to use from several threads.
class Search {
  public:
    Search(Prober& prober, const TuneOptions& options) : prober_(prober), options_(options) {}

    /// Trials of one stage of a climb.
    static constexpr int kMostSteps = 150;
    static constexpr int kFewSteps = 25;

    struct Found {
        std::vector<double> x;
        Trial trial;
        std::vector<double> score;  ///< less is better, the first that differs decides
    };

    double seconds() const;
    bool over() const;
    /// Nothing is solved any more.
    bool stopped() const { return options_.stop.stop_requested(); }
    /// Rounding goes on a little longer than the search, but not much.
    bool late() const;
    /// As many antennas have been solved as may be.
    bool spent() const;
    Found probe(const std::vector<double>& x, bool withGradient = false);
    /// The point with the best of the values that come from lists.
    Found choose(const std::vector<double>& x);
    /// From one point to the best near it; with few steps as far as shows what it is worth.
    Found climb(const std::vector<double>& from, int steps = kMostSteps);
    /// The same goals missed by no more, and those that are missed less than the worst of their stage as near
    /// as they come beside it.
    Found evenOut(const Found& found);
    /// The best with every dimension on a step that can be built.
    Found round(const Found& found);
    TuneState stateOf(const Found& found) const;
    /// What was found at other frequencies says nothing about the best from now on. Not while anything
    /// climbs.
    void frequenciesChanged();
    /// Whether nothing is left to gain: every goal has a limit and is met.
    bool done(const Found& found) const;

    /// Whether it is so near to the best, after few steps, that more of them may pay.
    bool promising(const Found& found, const Found& best) const;
    /// Whether all limits and the goals of the first stage are met, so that a later one is what is left to
    /// do: better antennas are near.
    bool ready(const Found& found) const;

    /// What a trial at the frequencies of these goals is worth, which need not be those of the search.
    static std::vector<double> scoreOf(const Goals& goals, const Trial& trial);
    static bool better(const std::vector<double>& a, const std::vector<double>& b);
    /// `best`, or the best of `found` where that is better.
    static Found betterOf(Found best, std::vector<Found> found);

  private:
    struct Problem;
    struct Slacks;
    /// What earlier stages have reached, by group.
    using Held = std::map<std::size_t, double>;

    std::vector<double> roundTogether(const Found& found);
    void report(const Found& found);
    /// `even`: what cannot all be met is evened out.
    Found climbStages(const Found& from, int steps, bool even);
    void runStage(int stage, int steps, const Held& held, const Slacks& slacks, Found& best);
    const Found& evaluated(Problem& problem, const double* at);
    std::vector<double> scoreOf(const Trial& trial) const { return scoreOf(prober_.goals(), trial); }
    double roundingRoom(const Trial& trial, int stage) const;
    double objectiveOf(const Trial& trial) const;
    /// Largest miss of a group.
    static std::map<std::size_t, double> reached(const Goals& goals, const Trial& trial);
    std::map<std::size_t, double> reached(const Trial& trial) const {
        return reached(prober_.goals(), trial);
    }
    static void constraints(unsigned m, double* result, unsigned n, const double* at, double* grad,
                            void* data);
    static double objective(unsigned n, const double* at, double* grad, void* data);

    Prober& prober_;
    const TuneOptions& options_;
    std::chrono::steady_clock::time_point begin_ = std::chrono::steady_clock::now();
    std::mutex mutex_;
    std::vector<double> shown_;
};

}  // namespace rm::study
