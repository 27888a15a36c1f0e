#include "core/study/tune.h"

#include <fmt/format.h>
#include <nlopt.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <mutex>
#include <random>
#include <set>

#include "core/em/sensitivity.h"
#include "core/quantity/format.h"

namespace rm::study {

namespace {

/// Step of the derivatives in scaled dimensions.
constexpr double kStep = 1e-4;
/// A stage is left when it is met by this much.
constexpr double kMargin = -0.4;
/// Room that a met stage keeps while later ones are worked on.
constexpr double kRoom = 0.03;
constexpr double kWorthless = 60.0;
constexpr int kSpread = 24;
constexpr int kDense = 21;

/// A dimension that moves.
struct Axis {
    std::string name;
    model::DimensionKind kind = model::DimensionKind::Length;
    double low = 0.0;
    double high = 1.0;
    double step = 1e-3;
    double now = 0.0;

    double at(double scaled) const { return low + (high - low) * scaled; }
    double scaled(double value) const { return std::clamp((value - low) / (high - low), 0.0, 1.0); }
};

std::string textOf(const Axis& axis, double value) {
    return fmt::format("{:.12g}{}", value,
                       axis.kind == model::DimensionKind::Length  ? " m"
                       : axis.kind == model::DimensionKind::Angle ? " deg"
                                                                  : "");
}

quantity::Kind kindOf(model::DimensionKind kind) {
    return kind == model::DimensionKind::Angle    ? quantity::Kind::Angle
           : kind == model::DimensionKind::Number ? quantity::Kind::Number
                                                  : quantity::Kind::Length;
}

std::vector<Axis> axesOf(const model::Design& design, const std::map<std::string, double>& resume) {
    std::vector<Axis> axes;
    const auto scope = model::scopeOf(design);
    for (const auto& mover : design.tune.movers) {
        if (!mover.enabled) continue;
        const auto found = std::find_if(design.dimensions.begin(), design.dimensions.end(),
                                        [&](const auto& d) { return d.name == mover.dimension; });
        if (found == design.dimensions.end())
            throw Error(fmt::format("\"{}\" may move, but there is no such dimension.", mover.dimension));
        if (!quantity::isPlainNumber(found->text))
            throw Error(
                fmt::format("{} follows by its formula \"{}\": let what it follows from move instead.",
                            found->name, found->text));
        Axis axis;
        axis.name = found->name;
        axis.kind = found->kind;
        const auto read = [&](const std::string& text, double fallback) {
            if (text.empty()) return fallback;
            try {
                return quantity::evaluate(text, kindOf(found->kind), scope);
            } catch (const Error& e) {
                throw Error(fmt::format("What {} may move over: {}", mover.dimension, e.what()));
            }
        };
        axis.now = read(found->text, 0.0);
        const double reach = std::max(0.15 * std::abs(axis.now), 1e-3);
        axis.low = read(mover.low.empty() ? found->low : mover.low, axis.now - reach);
        axis.high = read(mover.high.empty() ? found->high : mover.high, axis.now + reach);
        axis.step = read(mover.step, axis.kind == model::DimensionKind::Angle ? 0.1 : 1e-3);
        if (!(axis.high > axis.low) || !(axis.step > 0.0))
            throw Error(fmt::format("{} has no room to move: its lower limit has to lie below its upper one.",
                                    mover.dimension));
        if (const auto kept = resume.find(axis.name); kept != resume.end()) axis.now = kept->second;
        axes.push_back(axis);
    }
    if (axes.empty()) throw Error("Nothing may move: choose the dimensions first.");
    return axes;
}

/// What results from the dimensions and has a limit, in metres, and the limit.
struct Built {
    model::LimitKind kind;
    double limitM;
};

double builtM(const model::Expansion& e, model::LimitKind kind) {
    double most = 0.0;
    double total = 0.0;
    double low = 1e300;
    double high = -1e300;
    std::map<std::string, double> lengths;
    for (const auto& wire : e.model.wires) {
        lengths[wire.part] += wire.lengthM();
        total += wire.lengthM();
        low = std::min({low, wire.startM.z(), wire.endM.z()});
        high = std::max({high, wire.startM.z(), wire.endM.z()});
    }
    switch (kind) {
        case model::LimitKind::LongestElement:
            for (const auto& row : e.rows)
                for (const auto& element : row.elements) most = std::max(most, element.lengthM);
            if (e.rows.empty())
                for (const auto& [part, length] : lengths) most = std::max(most, length);
            return most;
        case model::LimitKind::BoomLength:
            for (const auto& row : e.rows) most = std::max(most, row.boomLengthM());
            return most;
        case model::LimitKind::TotalWire:
            return total;
        case model::LimitKind::HighestPoint:
            return high;
        default:
            return low;
    }
}

/// Whether two models are the same wires: then nothing but circuits has changed.
bool sameWires(const model::WireModel& a, const model::WireModel& b) {
    if (a.wires.size() != b.wires.size()) return false;
    for (std::size_t i = 0; i < a.wires.size(); ++i)
        if (a.wires[i].startM != b.wires[i].startM || a.wires[i].endM != b.wires[i].endM ||
            a.wires[i].radiusM != b.wires[i].radiusM)
            return false;
    const auto ports = a.places();
    const auto others = b.places();
    if (ports.size() != others.size()) return false;
    for (std::size_t i = 0; i < ports.size(); ++i)
        if (ports[i].place.wire != others[i].place.wire || ports[i].place.at != others[i].place.at)
            return false;
    return true;
}

/// Solves trials; shared by the searches, changes nothing.
class Prober {
  public:
    Prober(const model::Design& design, const std::vector<model::Band>& bands, const TuneOptions& options)
        : design_(design), goals_(design, bands, options.samples), axes_(axesOf(design, options.resume)) {
        const auto scope = model::scopeOf(design);
        for (const auto& limit : design.tune.limits)
            if (limit.enabled)
                limits_.push_back(
                    {limit.kind, quantity::evaluate(limit.value, quantity::Kind::Length, scope)});
    }

    struct Trial {
        bool good = false;
        Goals::Samples samples;
        std::vector<double> misses;  ///< of the goals, then of the limits
        Eigen::MatrixXd gradient;    ///< misses x axes
    };

    const std::vector<Axis>& axes() const { return axes_; }
    Goals& goals() { return goals_; }
    const Goals& goals() const { return goals_; }
    std::size_t limitCount() const { return limits_.size(); }
    long evaluations() const { return evaluations_; }

    model::Design at(const std::vector<double>& x) const {
        model::Design d = design_;
        for (std::size_t i = 0; i < axes_.size(); ++i)
            for (auto& dimension : d.dimensions)
                if (dimension.name == axes_[i].name) dimension.text = textOf(axes_[i], axes_[i].at(x[i]));
        return d;
    }

    Trial probe(const std::vector<double>& x, bool withGradient) const {
        Trial trial;
        const auto expansion = model::expand(at(x));
        if (!expansion.usable()) return trial;
        // A trial is the same whatever this thread has worked on before.
        em::forgetPairs();
        std::vector<std::vector<em::FactoredPorts>> factored;
        try {
            for (const auto& range : goals_.ranges()) {
                const auto mesh =
                    std::make_shared<const em::Mesh>(em::makeMesh(expansion.model, range.highHz));
                trial.samples.emplace_back();
                factored.emplace_back();
                for (const double hz : range.hz) {
                    ++evaluations_;
                    factored.back().emplace_back(mesh, hz);
                    trial.samples.back().push_back(goals_.read(expansion, factored.back().back().solution()));
                }
            }
        } catch (const Error&) {
            return trial;
        }
        trial.misses = allMisses(trial.samples, expansion);
        trial.good =
            std::all_of(trial.misses.begin(), trial.misses.end(), [](double v) { return std::isfinite(v); });
        if (!withGradient || !trial.good) return trial;
        trial.gradient = Eigen::MatrixXd::Zero(static_cast<Eigen::Index>(trial.misses.size()),
                                               static_cast<Eigen::Index>(axes_.size()));
        for (std::size_t a = 0; a < axes_.size(); ++a) {
            std::vector<double> sides[2];
            differentiate(x, a, expansion, trial, factored, sides);
            if (sides[0].empty() || sides[1].empty()) continue;
            for (std::size_t m = 0; m < trial.misses.size(); ++m)
                trial.gradient(static_cast<Eigen::Index>(m), static_cast<Eigen::Index>(a)) =
                    (sides[1][m] - sides[0][m]) / (2.0 * kStep);
        }
        return trial;
    }

    std::vector<double> allMisses(const Goals::Samples& samples, const model::Expansion& expansion) const {
        auto all = goals_.misses(samples);
        for (const auto& limit : limits_) {
            const double over = builtM(expansion, limit.kind) - limit.limitM;
            // A tenth of the limit is a miss worth minding.
            all.push_back((limit.kind == model::LimitKind::LowestPoint ? -over : over) /
                          (0.1 * std::max(0.1, std::abs(limit.limitM))));
        }
        return all;
    }

  private:
    /// The misses a step back and a step further along one axis, from derivatives of the solutions.
    void differentiate(const std::vector<double>& x, std::size_t axis, const model::Expansion& here,
                       const Trial& trial, const std::vector<std::vector<em::FactoredPorts>>& factored,
                       std::vector<double> (&sides)[2]) const {
        auto moved = x;
        moved[axis] = x[axis] - kStep;
        const auto back = model::expand(at(moved));
        moved[axis] = x[axis] + kStep;
        const auto further = model::expand(at(moved));
        if (back.model.wires.size() != here.model.wires.size() ||
            further.model.wires.size() != here.model.wires.size())
            return;
        const bool circuitsOnly = sameWires(back.model, here.model) && sameWires(further.model, here.model);
        Goals::Samples samples[2];
        const auto& ranges = goals_.ranges();
        for (std::size_t r = 0; r < ranges.size(); ++r) {
            std::shared_ptr<const em::Mesh> meshes[2];
            if (!circuitsOnly) {
                meshes[0] = std::make_shared<const em::Mesh>(em::makeMesh(back.model, ranges[r].highHz));
                meshes[1] = std::make_shared<const em::Mesh>(em::makeMesh(further.model, ranges[r].highHz));
            }
            for (auto& side : samples) side.emplace_back();
            for (std::size_t k = 0; k < ranges[r].hz.size(); ++k) {
                const em::FactoredPorts& base = factored[r][k];
                const ReadDirections* held = &trial.samples[r][k].directions;
                std::optional<em::PortDerivative> d;
                if (!circuitsOnly) d = base.derivative(*meshes[1], *meshes[0], kStep);
                for (int side = 0; side < 2; ++side) {
                    const double h = side == 0 ? -kStep : kStep;
                    em::PortSolution solution = base.solution();
                    if (d) {
                        solution.mesh = meshes[side];
                        solution.admittance += h * d->admittance;
                        solution.localCurrents += h * d->localCurrents;
                    } else if (!circuitsOnly) {
                        // Cut otherwise: solved anew.
                        solution = em::solvePorts(meshes[side], ranges[r].hz[k]);
                    }
                    samples[side].back().push_back(goals_.read(side == 0 ? back : further, solution, held));
                }
            }
        }
        sides[0] = allMisses(samples[0], back);
        sides[1] = allMisses(samples[1], further);
    }

    const model::Design& design_;
    Goals goals_;
    std::vector<Axis> axes_;
    std::vector<Built> limits_;
    mutable std::atomic<long> evaluations_{0};
};

/// Largest miss of every stage, the limits first; what is met counts as zero but where more is better.
std::vector<double> scoreOf(const Prober& prober, const Prober::Trial& trial) {
    const int last = prober.goals().lastStage();
    std::vector<double> score(static_cast<std::size_t>(last) + 2, 0.0);
    if (!trial.good) return std::vector<double>(score.size(), kWorthless);
    const auto stages = prober.goals().stages();
    std::vector<bool> seen(score.size(), false);
    double finest = -kWorthless;
    for (std::size_t i = 0; i < trial.misses.size(); ++i) {
        const bool limit = i >= stages.size();
        const auto s = limit ? std::size_t{0} : static_cast<std::size_t>(stages[i]);
        const bool most = s % 2 == 1;
        const double value = most ? trial.misses[i] : std::max(0.0, trial.misses[i]);
        score[s] = seen[s] ? std::max(score[s], value) : value;
        seen[s] = true;
        if (!limit && !most) finest = std::max(finest, trial.misses[i]);
    }
    score.back() = finest;
    return score;
}

bool better(const std::vector<double>& a, const std::vector<double>& b) {
    for (std::size_t i = 0; i < a.size(); ++i)
        if (std::abs(a[i] - b[i]) > 2e-3) return a[i] < b[i];
    return false;
}

/// What all searches share.
class Search {
  public:
    Search(Prober& prober, const TuneOptions& options) : prober_(prober), options_(options) {}

    struct Found {
        std::vector<double> x;
        Prober::Trial trial;
        std::vector<double> score;
    };

    double seconds() const {
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin_).count();
    }
    bool over() const {
        return options_.stop.stop_requested() || seconds() > options_.maxSeconds ||
               prober_.evaluations() > options_.maxEvaluations;
    }

    Found probe(const std::vector<double>& x, bool withGradient = false) {
        Found found{x, prober_.probe(x, withGradient), {}};
        found.score = scoreOf(prober_, found.trial);
        report(found);
        return found;
    }

    TuneState stateOf(const Found& found) const {
        TuneState state;
        for (std::size_t i = 0; i < found.x.size(); ++i)
            state.values[prober_.axes()[i].name] = prober_.axes()[i].at(found.x[i]);
        if (found.trial.good) state.goals = prober_.goals().states(found.trial.samples);
        state.objective = found.score.empty() ? kWorthless : found.score.back();
        state.evaluations = prober_.evaluations();
        state.seconds = seconds();
        return state;
    }

    /// From one point, stage by stage.
    Found climb(const std::vector<double>& from) {
        Found best = probe(from);
        if (!best.trial.good) return best;
        std::set<int> stages;
        for (const int s : prober_.goals().stages()) stages.insert(s);
        std::map<int, double> held;
        for (const int stage : stages) {
            if (over()) break;
            runStage(stage, held, best);
            double reached = -kWorthless;
            const auto list = prober_.goals().stages();
            for (std::size_t i = 0; i < list.size(); ++i)
                if (list[i] == stage) reached = std::max(reached, best.trial.misses[i]);
            // What is met is held with a little room for rounding.
            held[stage] = reached < 0.0 ? std::max(reached, -kRoom) : reached + 2e-3;
        }
        return best;
    }

  private:
    struct Problem {
        Search* search;
        int stage;
        const std::map<int, double>* held;
        Found* best;
        std::vector<double> x;
        Found last;
        nlopt_opt opt = nullptr;
    };

    void report(const Found& found) {
        if (!options_.progress || !found.trial.good) return;
        const std::scoped_lock lock(mutex_);
        if (!shown_.empty() && !better(found.score, shown_)) return;
        shown_ = found.score;
        options_.progress(stateOf(found));
    }

    const Found& evaluated(Problem& p, const double* at, unsigned n) {
        const std::vector<double> x(at, at + n - 1);
        if (p.last.x == x) return p.last;
        if (over()) nlopt_force_stop(p.opt);
        p.last = probe(x, true);
        if (better(p.last.score, p.best->score)) *p.best = p.last;
        return p.last;
    }

    /// Every miss of this stage below t, what earlier stages have reached held, the limits kept.
    static void constraints(unsigned m, double* result, unsigned n, const double* at, double* grad,
                            void* data) {
        auto& p = *static_cast<Problem*>(data);
        const Found& f = p.search->evaluated(p, at, n);
        const auto stages = p.search->prober_.goals().stages();
        unsigned row = 0;
        for (std::size_t i = 0; i < stages.size() + p.search->prober_.limitCount(); ++i) {
            const bool limit = i >= stages.size();
            const bool own = !limit && stages[i] == p.stage;
            if (!limit && stages[i] > p.stage) continue;
            if (!own && !limit && p.held->count(stages[i]) == 0) continue;
            const double bound = own ? at[n - 1] : limit ? 0.0 : p.held->at(stages[i]);
            result[row] = f.trial.good ? f.trial.misses[i] - bound : kWorthless;
            if (grad != nullptr) {
                for (unsigned a = 0; a + 1 < n; ++a)
                    grad[row * n + a] =
                        f.trial.good ? f.trial.gradient(static_cast<Eigen::Index>(i), a) : 0.0;
                grad[row * n + n - 1] = own ? -1.0 : 0.0;
            }
            ++row;
        }
        (void)m;
    }

    static double objective(unsigned n, const double* at, double* grad, void*) {
        if (grad != nullptr) {
            std::fill(grad, grad + n, 0.0);
            grad[n - 1] = 1.0;
        }
        return at[n - 1];
    }

    void runStage(int stage, const std::map<int, double>& held, Found& best) {
        const auto n = static_cast<unsigned>(best.x.size() + 1);
        const auto stages = prober_.goals().stages();
        unsigned rows = static_cast<unsigned>(prober_.limitCount());
        double t = -kWorthless;
        for (std::size_t i = 0; i < stages.size(); ++i) {
            if (stages[i] == stage) t = std::max(t, best.trial.misses[i]);
            rows += stages[i] == stage || (stages[i] < stage && held.count(stages[i]) != 0) ? 1U : 0U;
        }
        const bool most = stage % 2 == 1;
        if (!most && t <= kMargin) return;
        Problem problem{this, stage, &held, &best, {}, {}, nullptr};
        nlopt_opt opt = nlopt_create(NLOPT_LD_MMA, n);
        problem.opt = opt;
        std::vector<double> lower(n, 0.0);
        std::vector<double> upper(n, 1.0);
        lower.back() = most ? -200.0 : kMargin;
        upper.back() = 200.0;
        nlopt_set_lower_bounds(opt, lower.data());
        nlopt_set_upper_bounds(opt, upper.data());
        nlopt_set_min_objective(opt, objective, &problem);
        const std::vector<double> tolerance(rows, 1e-4);
        nlopt_add_inequality_mconstraint(opt, rows, constraints, &problem, tolerance.data());
        nlopt_set_maxeval(opt, 90);
        nlopt_set_ftol_abs(opt, 1e-3);
        nlopt_set_xtol_abs1(opt, 1e-4);
        std::vector<double> x = best.x;
        x.push_back(t);
        double value = 0.0;
        nlopt_optimize(opt, x.data(), &value);
        nlopt_destroy(opt);
    }

    Prober& prober_;
    const TuneOptions& options_;
    std::chrono::steady_clock::time_point begin_ = std::chrono::steady_clock::now();
    std::mutex mutex_;
    std::vector<double> shown_;
};

std::vector<double> scaledNow(const std::vector<Axis>& axes) {
    std::vector<double> x;
    for (const auto& axis : axes) x.push_back(axis.scaled(axis.now));
    return x;
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
                                 int samples) {
    const Goals goals(design, bands, samples);
    const auto expansion = model::expand(design);
    requireUsable(expansion);
    Goals::Samples all;
    for (const auto& range : goals.ranges()) {
        const auto mesh = std::make_shared<const em::Mesh>(em::makeMesh(expansion.model, range.highHz));
        std::vector<GoalSample> read(range.hz.size());
        tbb::parallel_for(std::size_t{0}, range.hz.size(), [&](std::size_t i) {
            read[i] = goals.read(expansion, em::solvePorts(mesh, range.hz[i]));
        });
        all.push_back(std::move(read));
    }
    return goals.states(all);
}

TuneGradient tuneGradient(const model::Design& design, const std::vector<model::Band>& bands,
                          const std::vector<double>& scaled) {
    TuneOptions options;
    const Prober prober(design, bands, options);
    const auto trial = prober.probe(scaled, true);
    return {trial.misses, trial.gradient};
}

TuneResult tune(const model::Design& design, const std::vector<model::Band>& bands,
                const TuneOptions& options) {
    requireUsable(model::expand(design));
    Prober prober(design, bands, options);
    Search search(prober, options);
    const auto& axes = prober.axes();
    TuneResult result;
    const auto start = search.probe(scaledNow(axes));
    result.before = search.stateOf(start);

    // A spread of points, one in every slice of each dimension; the best of them begin searches of their own.
    std::mt19937 random(options.seed);
    std::vector<std::vector<double>> points(kSpread, std::vector<double>(axes.size()));
    for (std::size_t a = 0; a < axes.size(); ++a) {
        std::vector<int> slice(kSpread);
        for (int i = 0; i < kSpread; ++i) slice[static_cast<std::size_t>(i)] = i;
        for (std::size_t i = kSpread; i-- > 1;) std::swap(slice[i], slice[random() % (i + 1)]);
        for (std::size_t i = 0; i < kSpread; ++i)
            points[i][a] = (slice[i] + static_cast<double>(random() % 1000) / 1000.0) / kSpread;
    }
    std::vector<Search::Found> spread(kSpread);
    const int more = std::max(0, options.starts - 1);
    if (more > 0)
        tbb::parallel_for(std::size_t{0}, static_cast<std::size_t>(kSpread), [&](std::size_t i) {
            if (!search.over()) spread[i] = search.probe(points[i]);
        });
    std::erase_if(spread, [](const auto& f) { return f.score.empty() || !f.trial.good; });
    std::stable_sort(spread.begin(), spread.end(),
                     [](const auto& a, const auto& b) { return a.score < b.score; });
    std::vector<std::vector<double>> from{start.x};
    for (int i = 0; i < more && i < static_cast<int>(spread.size()); ++i)
        from.push_back(spread[static_cast<std::size_t>(i)].x);
    std::vector<Search::Found> found(from.size());
    tbb::parallel_for(std::size_t{0}, from.size(), [&](std::size_t i) { found[i] = search.climb(from[i]); });
    Search::Found best = start;
    for (const auto& f : found)
        if (better(f.score, best.score)) best = f;
    for (int round = 0; round < 2 && !search.over(); ++round) {
        if (!refine(prober, prober.at(best.x), bands)) break;
        best = search.climb(best.x);
    }
    result.best = search.stateOf(best);
    result.stopped = search.over();
    // What can be built.
    auto rounded = best.x;
    for (std::size_t i = 0; i < axes.size(); ++i) {
        const Axis& axis = axes[i];
        const double value = std::round(axis.at(best.x[i]) / axis.step) * axis.step;
        rounded[i] = (std::clamp(value, axis.low, axis.high) - axis.low) / (axis.high - axis.low);
    }
    result.proposal = prober.at(rounded);
    for (auto& dimension : result.proposal.dimensions)
        for (const auto& old : design.dimensions)
            if (old.name == dimension.name && old.kind == model::DimensionKind::Length &&
                old.text != dimension.text)
                dimension.text =
                    quantity::lengthLike(quantity::isPlainNumber(old.text) ? old.text : std::string("1 m"),
                                         quantity::evaluate(dimension.text, quantity::Kind::Length, {}));
    result.rounded = readGoals(result.proposal, bands, kDense);
    return result;
}

}  // namespace rm::study
