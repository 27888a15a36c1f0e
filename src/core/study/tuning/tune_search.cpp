#include "core/study/tuning/tune_search.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace rm::study {

namespace {

/// A stage is left when it is met by this much.
constexpr double kMargin = -0.4;
/// Least room that a met stage keeps while later ones are worked on.
constexpr double kRoom = 0.03;
constexpr double kWorthless = 60.0;
/// No miss is as large.
constexpr double kNoLimit = 200.0;
/// A counted band is met with this much to spare where it can be, for rounding and for what lies between the
/// frequencies read.
constexpr double kCountedRoom = 0.1;
/// Rounds of giving up the bands that are farthest from met.
constexpr int kGiveUps = 3;
constexpr double kNearMet = 0.3;
/// Rounds of looking for better steps next to the rounded dimensions, and up to how many dimensions in pairs.
constexpr int kRoundPasses = 4;
constexpr std::size_t kPairsTried = 12;
/// Until when dimensions are rounded: this much of the time for the search, and a moment.
constexpr double kRoundingShare = 1.1;
constexpr double kRoundingSeconds = 0.5;
/// Passes over all steps and pairs of steps in rounding by the gradient.
constexpr int kTogetherPasses = 12;
/// A miss this much over the best one is worth more steps.
constexpr double kPromising = 1.5;
/// How much smaller the box is each time that a climb begins anew, and the smallest, in parts of the whole.
constexpr double kSmallerBox = 0.25;
constexpr double kLeastBox = 0.01;
/// Where something is held already, the box that a stage begins with, and how it grows.
constexpr double kHeldBox = 0.1;
constexpr double kLargerBox = 1.5;
/// Combinations of listed values that are all tried; more are tried one list after the other.
constexpr std::size_t kCombinations = 64;

}  // namespace

/// Which groups have a slack of their own instead of the common t, what it counts, and its limits.
struct Search::Slacks {
    std::map<std::size_t, double> weights;
    double low = -kCountedRoom;
    double high = kNoLimit;
};

/// One stage for the optimiser: the scaled dimensions, t above every miss, and a slack for each group that
/// has one.
struct Search::Problem {
    Search* search;
    int stage;
    const Held* held;
    Found* best;
    std::vector<std::size_t> slacks;  ///< groups that have one
    std::vector<double> weights;      ///< of the slacks
    std::vector<bool> hasSlack;       ///< each entry of the layout
    unsigned rows = 0;
    std::vector<double> x;
    Found last;
    nlopt_opt opt = nullptr;

    unsigned axes() const { return static_cast<unsigned>(best->x.size()); }
    /// Index of the slack of a group.
    unsigned slackOf(std::size_t group) const {
        return axes() + 1 +
               static_cast<unsigned>(std::find(slacks.begin(), slacks.end(), group) - slacks.begin());
    }
};

double Search::seconds() const {
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin_).count() -
           prober_.control().pausedSeconds();
}

bool Search::spent() const {
    return prober_.control().evaluations >= options_.maxEvaluations;
}

bool Search::over() const {
    return options_.stop.stop_requested() || seconds() > options_.maxSeconds || spent();
}

bool Search::late() const {
    return options_.stop.stop_requested() ||
           seconds() > kRoundingShare * options_.maxSeconds + kRoundingSeconds || spent();
}

std::map<std::size_t, double> Search::reached(const Goals& goals, const Trial& trial) {
    std::map<std::size_t, double> most;
    const auto& layout = goals.layout();
    for (std::size_t i = 0; i < layout.size(); ++i) {
        const auto [it, isNew] = most.try_emplace(layout[i].group, trial.misses[i]);
        if (!isNew) it->second = std::max(it->second, trial.misses[i]);
    }
    return most;
}

/// For every stage its largest miss, the limits counting with the first, then the bands missed, then by how
/// much all goals and bands in all; last, by how much everything is met.
std::vector<double> Search::scoreOf(const Goals& goals, const Trial& trial) {
    const int last = goals.lastStage();
    std::vector<double> score(3 * (static_cast<std::size_t>(last) + 1) + 1, 0.0);
    if (!trial.good) return std::vector<double>(score.size(), kWorthless);
    const auto& layout = goals.layout();
    std::set<std::size_t> seen;
    double finest = -kWorthless;
    for (std::size_t i = 0; i < trial.misses.size(); ++i) {
        const bool limit = i >= layout.size();
        if (!limit && layout[i].counted) continue;
        const std::size_t s = limit ? 0 : 3 * static_cast<std::size_t>(layout[i].stage);
        const bool most = !limit && layout[i].most;
        const double value = most ? trial.misses[i] : std::max(0.0, trial.misses[i]);
        score[s] = seen.insert(s).second ? value : std::max(score[s], value);
        if (!limit && !most) finest = std::max(finest, trial.misses[i]);
    }
    const auto most = reached(goals, trial);
    std::set<std::size_t> groups;
    for (const auto& belongs : layout) {
        if (belongs.most || !groups.insert(belongs.group).second) continue;
        const auto s = 3 * static_cast<std::size_t>(belongs.stage);
        const double miss = most.at(belongs.group);
        score[s + 2] += std::max(0.0, miss);
        if (!belongs.counted) continue;
        if (miss > 0.0) score[s + 1] += 1.0;
        finest = std::max(finest, miss);
    }
    score.back() = finest;
    return score;
}

double Search::objectiveOf(const Trial& trial) const {
    if (!trial.good) return kWorthless;
    const auto score = scoreOf(trial);
    double bands = 0.0;
    double sum = 0.0;
    for (std::size_t s = 0; 3 * s + 2 < score.size(); ++s) {
        bands += score[3 * s + 1];
        sum += score[3 * s + 2];
    }
    if (bands <= 0.0) return score.back();
    double rest = 0.0;
    for (std::size_t s = 0; 3 * s + 2 < score.size(); ++s) rest = std::max(rest, score[3 * s]);
    return std::max(rest, bands - 1.0 + sum / (1.0 + sum));
}

bool Search::done(const Found& found) const {
    const auto& layout = prober_.goals().layout();
    return found.trial.good && objectiveOf(found.trial) <= 0.0 &&
           std::none_of(layout.begin(), layout.end(), [](const auto& b) { return b.most; });
}

bool Search::promising(const Found& found, const Found& best) const {
    if (!found.trial.good) return false;
    for (std::size_t i = 0; i < found.score.size(); ++i)
        if (std::abs(found.score[i] - best.score[i]) > 2e-3)
            return found.score[i] < kPromising * std::max(1.0, 1.0 + best.score[i]);
    return true;
}

bool Search::ready(const Found& found) const {
    const auto& layout = prober_.goals().layout();
    const auto first = std::min_element(layout.begin(), layout.end(),
                                        [](const auto& a, const auto& b) { return a.stage < b.stage; });
    if (!found.trial.good || first == layout.end() || first->most) return false;
    const auto met = [](double miss) { return miss <= 0.0; };
    const auto begin = found.score.begin();
    return std::all_of(begin, begin + 3, met) &&
           std::all_of(begin + 3 * first->stage, begin + 3 * first->stage + 3, met) &&
           std::any_of(layout.begin(), layout.end(), [&](const auto& b) { return b.stage > first->stage; });
}

bool Search::better(const std::vector<double>& a, const std::vector<double>& b) {
    for (std::size_t i = 0; i < a.size(); ++i)
        if (std::abs(a[i] - b[i]) > 2e-3) return a[i] < b[i];
    return false;
}

Search::Found Search::betterOf(Found best, std::vector<Found> found) {
    for (auto& f : found)
        if (better(f.score, best.score)) best = std::move(f);
    return best;
}

Search::Found Search::probe(const std::vector<double>& x, bool withGradient) {
    prober_.control().pass(options_.stop);
    Found found{x, prober_.probe(x, withGradient), {}};
    found.score = scoreOf(found.trial);
    report(found);
    return found;
}

TuneState Search::stateOf(const Found& found) const {
    TuneState state;
    state.values = prober_.valuesAt(found.x);
    if (found.trial.good) state.goals = prober_.goals().states(found.trial.samples);
    state.objective = objectiveOf(found.trial);
    state.evaluations = prober_.control().evaluations;
    state.solutions = prober_.control().solutions;
    state.seconds = seconds();
    return state;
}

void Search::frequenciesChanged() {
    prober_.frequenciesChanged();
    shown_.clear();
}

void Search::report(const Found& found) {
    if (!options_.progress || !found.trial.good) return;
    const std::scoped_lock lock(mutex_);
    if (!shown_.empty() && !better(found.score, shown_)) return;
    shown_ = found.score;
    options_.progress(stateOf(found));
}

Search::Found Search::choose(const std::vector<double>& x) {
    Found best = probe(x);
    std::vector<std::size_t> lists;
    std::size_t combinations = 1;
    const auto& axes = prober_.axes();
    for (std::size_t a = 0; a < axes.size(); ++a)
        if (axes[a].discrete()) {
            lists.push_back(a);
            combinations = std::min(kCombinations + 1, combinations * axes[a].choices.size());
        }
    const auto scaled = [&](std::size_t axis, std::size_t k) {
        return static_cast<double>(k) / static_cast<double>(axes[axis].choices.size() - 1);
    };
    const auto attempt = [&](const std::vector<double>& at) {
        if (over() || at == best.x) return false;
        Found found = probe(at);
        if (!better(found.score, best.score)) return false;
        best = std::move(found);
        return true;
    };
    if (lists.empty()) return best;
    if (combinations <= kCombinations) {
        for (std::size_t c = 0; c < combinations; ++c) {
            auto at = x;
            std::size_t rest = c;
            for (const std::size_t a : lists) {
                at[a] = scaled(a, rest % axes[a].choices.size());
                rest /= axes[a].choices.size();
            }
            attempt(at);
        }
        return best;
    }
    for (bool moved = true; moved;) {
        moved = false;
        for (const std::size_t a : lists)
            for (std::size_t k = 0; k < axes[a].choices.size(); ++k) {
                auto at = best.x;
                at[a] = scaled(a, k);
                moved = attempt(at) || moved;
            }
    }
    return best;
}

Search::Found Search::climb(const std::vector<double>& from, int steps) {
    Found best = choose(from);
    const auto& axes = prober_.axes();
    const bool lists = std::any_of(axes.begin(), axes.end(), [](const Axis& a) { return a.discrete(); });
    for (int round = 0; round < 3 && best.trial.good && !over(); ++round) {
        best = climbStages(best, steps, false);
        if (!lists) break;
        Found other = choose(best.x);
        if (other.x == best.x) break;
        best = std::move(other);
    }
    return best;
}

/// How far rounding every dimension to its step is likely to move the misses of a stage: each is off by up to
/// half a step either way, evenly spread.
double Search::roundingRoom(const Trial& trial, int stage) const {
    const auto& layout = prober_.goals().layout();
    const auto& axes = prober_.axes();
    double most = 0.0;
    for (std::size_t i = 0; i < layout.size() && trial.gradient.cols() > 0; ++i) {
        if (layout[i].stage != stage) continue;
        double sum = 0.0;
        for (std::size_t a = 0; a < axes.size(); ++a) {
            if (axes[a].discrete()) continue;
            const double step = axes[a].step / (axes[a].high - axes[a].low);
            const double by =
                trial.gradient(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(a)) * step;
            sum += by * by / 12.0;
        }
        most = std::max(most, 1.5 * std::sqrt(sum));
    }
    return kRoom + std::min(most, 1.0);
}

Search::Found Search::evenOut(const Found& found) {
    return climbStages(found, kMostSteps, true);
}

Search::Found Search::climbStages(const Found& from, int steps, bool even) {
    Found best = from;
    const auto& layout = prober_.goals().layout();
    std::set<int> stages;
    for (const auto& belongs : layout) stages.insert(belongs.stage);
    Held held;
    for (const int stage : stages) {
        if (over()) break;
        std::set<std::size_t> counted;
        std::set<std::size_t> others;
        for (const auto& belongs : layout)
            if (belongs.stage == stage && !belongs.most)
                (belongs.counted ? counted : others).insert(belongs.group);
        for (int round = 0; round < (counted.empty() ? 1 : kGiveUps) && !over(); ++round) {
            // The farther a band is from met, the less it counts the next time.
            Slacks slacks;
            const auto now = reached(best.trial);
            for (const auto group : counted)
                slacks.weights[group] = round == 0 ? 1.0 : 1.0 / (std::max(0.0, now.at(group)) + kNearMet);
            const double before = best.score[3 * static_cast<std::size_t>(stage) + 1];
            runStage(stage, steps, held, slacks, best);
            if (round > 0 && best.score[3 * static_cast<std::size_t>(stage) + 1] >= before) break;
        }
        // What cannot all be met: no goal farther off than the one that is now, and all of them as near as
        // they come. The largest miss alone would leave the others anywhere below it.
        if (const double largest = best.score[3 * static_cast<std::size_t>(stage)];
            even && counted.empty() && others.size() > 1 && largest > 0.0 && !over()) {
            Slacks slacks{{}, 0.0, largest + 2e-3};
            for (const auto group : others) slacks.weights[group] = 1.0;
            runStage(stage, steps, held, slacks, best);
        }
        const auto now = reached(best.trial);
        double most = -kWorthless;
        for (const auto& belongs : layout)
            if (belongs.stage == stage && !belongs.counted) most = std::max(most, now.at(belongs.group));
        // What is met is held with a little room for rounding.
        const auto bound = [](double value) { return value < 0.0 ? std::max(value, -kRoom) : value + 2e-3; };
        for (const auto& belongs : layout)
            if (belongs.stage == stage)
                held[belongs.group] = bound(belongs.counted || most > 0.0 ? now.at(belongs.group) : most);
    }
    return best;
}

/// Steps that can be built, near `found`, chosen together: by what its gradient says of every miss. No
/// antenna is solved for it but the first.
std::vector<double> Search::roundTogether(const Found& found) {
    const auto& axes = prober_.axes();
    auto x = found.x;
    std::vector<std::size_t> free;
    for (std::size_t a = 0; a < axes.size(); ++a) {
        if (axes[a].discrete()) continue;
        x[a] = axes[a].scaled(axes[a].built(axes[a].at(x[a])));
        free.push_back(a);
    }
    const Found exact = probe(found.x, true);
    if (!exact.trial.good || exact.trial.gradient.cols() == 0) return x;
    const auto predicted = [&](const std::vector<double>& at) {
        Trial trial;
        trial.good = true;
        trial.misses = exact.trial.misses;
        for (std::size_t i = 0; i < trial.misses.size(); ++i)
            for (const std::size_t a : free)
                trial.misses[i] +=
                    exact.trial.gradient(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(a)) *
                    (at[a] - exact.x[a]);
        return scoreOf(trial);
    };
    const auto stepped = [&](std::vector<double> at, std::size_t a, double steps) {
        const double moved = axes[a].built(axes[a].at(at[a]) + steps * axes[a].step);
        // Not farther from the exact place than a step: there the gradient still holds.
        if (std::abs(moved - axes[a].at(exact.x[a])) <= 1.01 * axes[a].step) at[a] = axes[a].scaled(moved);
        return at;
    };
    auto score = predicted(x);
    const auto attempt = [&](const std::vector<double>& at) {
        if (at == x) return false;
        auto other = predicted(at);
        if (other >= score) return false;  // a strict order, or it could go round in a circle
        x = at;
        score = std::move(other);
        return true;
    };
    bool moved = true;
    for (int pass = 0; pass < kTogetherPasses && moved && !options_.stop.stop_requested(); ++pass) {
        moved = false;
        for (const std::size_t a : free)
            for (const double by : {-1.0, 1.0}) moved = attempt(stepped(x, a, by)) || moved;
        for (std::size_t i = 0; i < free.size() && !moved; ++i)
            for (std::size_t j = 0; j < i; ++j)
                for (const double by : {-1.0, 1.0})
                    for (const double with : {-1.0, 1.0})
                        moved = attempt(stepped(stepped(x, free[i], by), free[j], with)) || moved;
    }
    return x;
}

Search::Found Search::round(const Found& found) {
    const auto& axes = prober_.axes();
    auto x = found.x;
    for (std::size_t a = 0; a < axes.size(); ++a)
        if (!axes[a].discrete()) x[a] = axes[a].scaled(axes[a].built(axes[a].at(x[a])));
    Found best = probe(x);
    if (Found together = probe(roundTogether(found)); better(together.score, best.score))
        best = std::move(together);
    // The nearest steps are not always the best ones together: one step further or back, of one dimension,
    // and of two where a goal is still missed.
    const auto stepped = [&](const std::vector<double>& from, std::size_t a, double steps) {
        auto at = from;
        at[a] = axes[a].scaled(axes[a].built(axes[a].at(from[a]) + steps * axes[a].step));
        return at;
    };
    // How much to spare a met goal has does not count here: what is as good stays with the nearest step.
    const auto without = [](std::vector<double> score) {
        score.pop_back();
        return score;
    };
    const auto attempt = [&](const std::vector<double>& at) {
        if (at == best.x || late()) return false;
        Found other = probe(at);
        if (!better(without(other.score), without(best.score))) return false;
        best = std::move(other);
        return true;
    };
    std::vector<std::size_t> free;
    for (std::size_t a = 0; a < axes.size(); ++a)
        if (!axes[a].discrete()) free.push_back(a);
    for (int pass = 0; pass < kRoundPasses; ++pass) {
        bool moved = false;
        for (const std::size_t a : free)
            for (const double by : {-1.0, 1.0}) moved = attempt(stepped(best.x, a, by)) || moved;
        if (moved) continue;
        if (objectiveOf(best.trial) <= 0.0 || free.size() > kPairsTried) break;
        for (std::size_t i = 0; i < free.size(); ++i)
            for (std::size_t j = 0; j < i; ++j)
                for (const double by : {-1.0, 1.0})
                    for (const double with : {-1.0, 1.0})
                        moved = attempt(stepped(stepped(best.x, free[i], by), free[j], with)) || moved;
        if (!moved) break;
    }
    return best;
}

const Search::Found& Search::evaluated(Problem& p, const double* at) {
    const std::vector<double> x(at, at + p.axes());
    if (p.last.x == x) return p.last;
    if (over()) {
        // What it answers now is thrown away.
        nlopt_force_stop(p.opt);
        if (!p.last.x.empty()) return p.last;
    }
    p.last = probe(x, true);
    if (better(p.last.score, p.best->score)) *p.best = p.last;
    return p.last;
}

/// Every miss of this stage below t or the slack of its band, what earlier stages have reached held, the
/// limits kept.
void Search::constraints(unsigned, double* result, unsigned n, const double* at, double* grad, void* data) {
    auto& p = *static_cast<Problem*>(data);
    const unsigned axes = p.axes();
    const Found& f = p.search->evaluated(p, at);
    const auto& layout = p.search->prober_.goals().layout();
    unsigned row = 0;
    for (std::size_t i = 0; i < layout.size() + p.search->prober_.limitCount(); ++i) {
        const bool limit = i >= layout.size();
        if (!limit && layout[i].stage > p.stage) continue;
        const bool own = !limit && layout[i].stage == p.stage;
        if (!own && !limit && p.held->count(layout[i].group) == 0) continue;
        const unsigned above = own ? (p.hasSlack[i] ? p.slackOf(layout[i].group) : axes) : n;
        const double bound = own ? at[above] : limit ? 0.0 : p.held->at(layout[i].group);
        result[row] = f.trial.good ? f.trial.misses[i] - bound : kWorthless;
        if (grad != nullptr) {
            std::fill(grad + row * n, grad + (row + 1) * n, 0.0);
            for (unsigned a = 0; a < axes && f.trial.good; ++a)
                grad[row * n + a] = f.trial.gradient(static_cast<Eigen::Index>(i), a);
            if (own) grad[row * n + above] = -1.0;
        }
        ++row;
    }
}

double Search::objective(unsigned n, const double* at, double* grad, void* data) {
    const auto& p = *static_cast<Problem*>(data);
    double value = at[p.axes()];
    for (std::size_t s = 0; s < p.slacks.size(); ++s) value += p.weights[s] * at[p.axes() + 1 + s];
    if (grad != nullptr) {
        std::fill(grad, grad + n, 0.0);
        grad[p.axes()] = 1.0;
        for (std::size_t s = 0; s < p.slacks.size(); ++s) grad[p.axes() + 1 + s] = p.weights[s];
    }
    return value;
}

void Search::runStage(int stage, int steps, const Held& held, const Slacks& slacks, Found& best) {
    const auto& layout = prober_.goals().layout();
    Problem problem{this, stage, &held, &best, {}, {}, {}, 0, {}, {}, nullptr};
    for (const auto& belongs : layout)
        problem.hasSlack.push_back(slacks.weights.find(belongs.group) != slacks.weights.end());
    problem.rows = static_cast<unsigned>(prober_.limitCount());
    double t = -kWorthless;  // the largest miss
    bool most = false;
    for (std::size_t i = 0; i < layout.size(); ++i) {
        const bool own = layout[i].stage == stage;
        most = most || (own && layout[i].most);
        if (own && !layout[i].counted) t = std::max(t, best.trial.misses[i]);
        problem.rows += own || (layout[i].stage < stage && held.count(layout[i].group) != 0) ? 1U : 0U;
    }
    const auto now = reached(best.trial);
    bool met = most ? false : t <= kMargin;
    for (const auto& [group, weight] : slacks.weights) {
        problem.slacks.push_back(group);
        problem.weights.push_back(weight);
        met = met && now.at(group) <= slacks.low;
    }
    if (met) return;
    const auto axes = static_cast<unsigned>(best.x.size());
    const auto n = axes + 1 + static_cast<unsigned>(problem.slacks.size());
    std::vector<double> lower(n, 0.0);
    std::vector<double> upper(n, 1.0);
    lower[axes] = most ? -kNoLimit : kMargin;
    upper[axes] = kNoLimit;
    for (unsigned s = axes + 1; s < n; ++s) {
        lower[s] = slacks.low;
        upper[s] = slacks.high;
    }
    const std::vector<double> tolerance(problem.rows, 1e-4);
    // Where wires would touch there is no slope to go by, and a climb can stop short beside such a place: it
    // begins anew from the best it has found, in a box round it that grows with success and shrinks without.
    const bool free = held.empty() && slacks.high >= kNoLimit;
    for (double reach = free ? 1.0 : kHeldBox; steps > 0 && reach > kLeastBox && !over();) {
        const auto before = best.score;
        for (unsigned a = 0; a < axes; ++a) {
            const bool fixed = prober_.axes()[a].discrete();
            lower[a] = fixed ? best.x[a] : std::max(0.0, best.x[a] - reach);
            upper[a] = fixed ? best.x[a] : std::min(1.0, best.x[a] + reach);
        }
        std::vector<double> x = best.x;
        const auto misses = reached(best.trial);
        double largest = -kWorthless;
        for (std::size_t i = 0; i < layout.size(); ++i)
            if (layout[i].stage == stage && !layout[i].counted)
                largest = std::max(largest, best.trial.misses[i]);
        x.push_back(std::max(largest, lower[axes]));
        for (const std::size_t group : problem.slacks) x.push_back(std::max(misses.at(group), slacks.low));
        nlopt_opt opt = nlopt_create(NLOPT_LD_SLSQP, n);
        problem.opt = opt;
        nlopt_set_lower_bounds(opt, lower.data());
        nlopt_set_upper_bounds(opt, upper.data());
        nlopt_set_min_objective(opt, objective, &problem);
        nlopt_add_inequality_mconstraint(opt, problem.rows, constraints, &problem, tolerance.data());
        nlopt_set_maxeval(opt, steps);
        nlopt_set_ftol_abs(opt, 1e-3);
        nlopt_set_xtol_abs1(opt, 1e-4);
        double value = 0.0;
        nlopt_optimize(opt, x.data(), &value);
        steps -= std::max(1, nlopt_get_numevals(opt));
        nlopt_destroy(opt);
        const bool improved = better(best.score, before);
        if (improved && reach >= 1.0) break;
        reach *= improved ? kLargerBox : kSmallerBox;
    }
}

}  // namespace rm::study
