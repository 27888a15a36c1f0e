#include "core/study/tuning/trade_off.h"

#include <fmt/format.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <mutex>

#include "core/quantity/formula.h"
#include "core/stopped.h"
#include "core/study/tuning/goal_words.h"
#include "core/study/tuning/tune.h"
#include "core/study/tuning/tune_axes.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

constexpr int kMostPoints = 60;
/// Differences of misses that count as none.
constexpr double kSameMiss = 2e-3;
/// And of gains in dB, or widths in kHz.
constexpr double kSameMost = 5e-3;
/// Of the time, what one climb may take: from the design with several starts, and from a neighbour.
constexpr double kFirstShare = 0.3;
constexpr double kShare = 0.15;
/// Rounds of looking at the neighbours.
constexpr int kLendRounds = 2;

/// Which of two answers to one question is better: what is missed less, then what has more of what is wanted
/// without a limit.
bool better(const TradePoint& a, const TradePoint& b) {
    if (a.solved != b.solved) return a.solved;
    const double missA = std::max(0.0, a.miss);
    const double missB = std::max(0.0, b.miss);
    if (std::abs(missA - missB) > kSameMiss) return missA < missB;
    const auto most = [](const TradePoint& p) {
        double sum = 0.0;
        for (const auto& state : p.goals) sum += state.most ? state.worst : 0.0;
        return sum;
    };
    return most(a) > most(b) + kSameMost;
}

/// Indices in the order in which they are found: the ends, then the middles of what is left.
std::vector<std::vector<int>> levelsOf(int count) {
    std::vector<std::vector<int>> levels;
    std::vector<int> known{0, count - 1};
    levels.push_back(known);
    while (static_cast<int>(known.size()) < count) {
        std::vector<int> level;
        for (std::size_t i = 0; i + 1 < known.size(); ++i)
            if (known[i + 1] - known[i] > 1) level.push_back((known[i] + known[i + 1]) / 2);
        known.insert(known.end(), level.begin(), level.end());
        std::sort(known.begin(), known.end());
        levels.push_back(level);
    }
    if (count == 1) levels.front() = {0};
    return levels;
}

class Trader {
  public:
    Trader(const model::Design& design, const std::vector<model::Band>& bands, const TradeAxis& axis,
           const TradeOptions& options)
        : design_(design), bands_(bands), options_(options) {
        out_.axis = axis;
        for (int i = 0; i < axis.points; ++i) {
            const double share = axis.points == 1 ? 0.0 : static_cast<double>(i) / (axis.points - 1);
            out_.points.push_back({axis.from + share * (axis.to - axis.from), false, {}, {}, {}, 0.0});
        }
    }

    TradeOff run(double nowValue) {
        out_.nowValue = nowValue;
        unlessStopped(options_.stop, [&] { out_.now = readGoals(design_, bands_, kDense, options_.stop); });
        for (const auto& level : levelsOf(out_.axis.points)) {
            const bool first = done_ == 0;
            // The answers of the levels before are fixed while a level is worked on: the same whatever the
            // threads do.
            const std::vector<TradePoint> before = out_.points;
            tbb::parallel_for(std::size_t{0}, level.size(), [&](std::size_t i) {
                if (over()) return;
                find(before, static_cast<std::size_t>(level[i]), first);
            });
        }
        // Beyond the time too: whatever an antenna next to it does better is no news to a point.
        for (int round = 0; round < kLendRounds && !options_.stop.stop_requested(); ++round) {
            bool moved = false;
            const auto count = out_.points.size();
            for (std::size_t i = 1; i < count; ++i) moved = borrow(i, i - 1) || moved;
            for (std::size_t i = count; i-- > 1;) moved = borrow(i - 1, i) || moved;
            if (!moved) break;
        }
        out_.stopped = over();
        tell(1.0);
        return out_;
    }

  private:
    using Clock = std::chrono::steady_clock;

    double seconds() const { return std::chrono::duration<double>(Clock::now() - begin_).count(); }
    bool over() const { return options_.stop.stop_requested() || seconds() > options_.maxSeconds; }

    void tell(double share) const {
        if (options_.progress) options_.progress(share);
    }

    void keep(std::size_t at, TradePoint point) {
        const std::scoped_lock lock(mutex_);
        if (!better(point, out_.points[at])) return;
        out_.points[at] = std::move(point);
        if (options_.improved) options_.improved(out_);
    }

    /// How a design answers the question of a point.
    TradePoint answer(double value, const model::Design& asked, std::map<std::string, double> values) const {
        TradePoint point;
        point.value = value;
        point.values = std::move(values);
        point.design = withValues(asked, point.values, true);
        point.goals = readGoals(point.design, bands_, kDense, options_.stop);
        const auto expansion = model::expand(point.design);
        bool first = true;
        const auto count = [&](double miss) {
            point.miss = first ? miss : std::max(point.miss, miss);
            first = false;
        };
        for (const auto& state : point.goals)
            if (!state.most) count(state.miss / traitsOf(asked.tune.goals[state.goal].kind).worth);
        for (const auto& limit : limitsOf(asked))
            count((limit.overM(expansion) - kBuiltM) / (0.1 * std::max(0.1, std::abs(limit.limitM))));
        point.solved = true;
        return point;
    }

    void climb(std::size_t at, const std::map<std::string, double>& from, int starts) {
        const double value = out_.points[at].value;
        const model::Design asked = withAsked(design_, out_.axis, value);
        TuneOptions tune;
        tune.seed = options_.seed;
        tune.starts = starts;
        tune.resume = from;
        tune.stop = options_.stop;
        // No point may use up the time of the others.
        const double share = starts > 1 ? kFirstShare : kShare;
        tune.maxSeconds =
            std::max(0.5, std::min(options_.maxSeconds - seconds(), share * options_.maxSeconds));
        try {
            const TuneResult result = study::tune(asked, bands_, tune);
            keep(at, answer(value, asked, result.builtValues));
        } catch (const Stopped&) {
            // What is there so far stays.
        }
    }

    void find(const std::vector<TradePoint>& before, std::size_t at, bool first) {
        bool any = false;
        for (std::size_t i = at; i-- > 0 && !any;)
            if (before[i].solved) {
                climb(at, before[i].values, 1);
                any = true;
            }
        bool other = false;
        for (std::size_t i = at + 1; i < before.size() && !other && !over(); ++i)
            if (before[i].solved) {
                climb(at, before[i].values, 1);
                other = true;
            }
        if (!any && !other) climb(at, {}, first ? options_.starts : 1);
        tell(0.8 * static_cast<double>(++done_) / out_.axis.points);
    }

    /// Where the antenna of a neighbour answers better than what was found, that one, tuned on.
    bool borrow(std::size_t at, std::size_t from) {
        if (options_.stop.stop_requested() || !out_.points[from].solved) return false;
        const double value = out_.points[at].value;
        const model::Design asked = withAsked(design_, out_.axis, value);
        try {
            TradePoint lent = answer(value, asked, out_.points[from].values);
            if (!better(lent, out_.points[at])) return false;
            keep(at, std::move(lent));
        } catch (const Stopped&) {
            return false;
        }
        if (!over()) climb(at, out_.points[at].values, 1);
        return true;
    }

    static constexpr int kDense = 21;
    /// Dimensions on a step may exceed a limit by less than a tape shows.
    static constexpr double kBuiltM = 1e-4;

    const model::Design& design_;
    const std::vector<model::Band>& bands_;
    const TradeOptions& options_;
    Clock::time_point begin_ = Clock::now();
    std::mutex mutex_;
    std::atomic<int> done_{0};
    TradeOff out_;
};

}  // namespace

std::vector<TradeChoice> tradeChoices(const model::Design& design) {
    std::vector<TradeChoice> all;
    for (std::size_t i = 0; i < design.tune.goals.size(); ++i) {
        const auto& goal = design.tune.goals[i];
        const auto& traits = traitsOf(goal.kind);
        if (!goal.enabled || goal.limit.empty() || traits.relation == Relation::None) continue;
        try {
            const double now = quantity::evaluate(goal.limit, quantity::Kind::Number, {});
            const char* relation = traits.relation == Relation::AtLeast  ? " at least"
                                   : traits.relation == Relation::AsWide ? " below an SWR of"
                                                                         : " at most";
            all.push_back({false, i, traits.name + std::string(relation),
                           traits.relation == Relation::AsWide ? "" : traits.unit, std::abs(now)});
        } catch (const Error&) {
            // The goal says itself that it cannot be read.
        }
    }
    const auto& limits = design.tune.limits;
    for (std::size_t i = 0; i < limits.size(); ++i) {
        if (!limits[i].enabled) continue;
        try {
            const double now =
                quantity::evaluate(limits[i].value, quantity::Kind::Length, model::scopeOf(design));
            const bool least = limits[i].kind == model::LimitKind::LowestPoint ||
                               limits[i].kind == model::LimitKind::KeepApart;
            all.push_back(
                {true, i, nameOf(limits[i].kind) + (least ? say(" at least") : say(" at most")), "m", now});
        } catch (const Error&) {
            // And so does the limit.
        }
    }
    return all;
}

model::Design withAsked(const model::Design& design, const TradeAxis& axis, double value) {
    model::Design asked = design;
    if (axis.ofLimit)
        asked.tune.limits.at(axis.index).value = fmt::format("{:.6g} m", value);
    else
        asked.tune.goals.at(axis.index).limit = fmt::format("{:.6g}", value);
    return asked;
}

TradeOff studyTrade(const model::Design& design, const std::vector<model::Band>& bands, const TradeAxis& axis,
                    const TradeOptions& options) {
    const auto choices = tradeChoices(design);
    const auto choice = std::find_if(choices.begin(), choices.end(), [&](const TradeChoice& c) {
        return c.ofLimit == axis.ofLimit && c.index == axis.index;
    });
    if (choice == choices.end())
        throw Error(
            say("There is nothing to trade: choose a goal with a limit, or a limit of what is built."));
    if (!(axis.to > axis.from)) throw Error(say("A trade-off goes from a lower to a higher value."));
    if (axis.points < 2 || axis.points > kMostPoints)
        throw Error(say("A trade-off has 2 to {} points.", kMostPoints));
    // What cannot be tuned at all says so at once.
    for (const double value : {axis.from, axis.to}) {
        const model::Design asked = withAsked(design, axis, value);
        Goals(asked, bands, 2);
        axesOf(asked);
        limitsOf(asked);
    }
    return Trader(design, bands, axis, options).run(choice->now);
}

}  // namespace rm::study
