#include "core/study/tuning/tune_between.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "core/study/tuning/read_goals.h"

namespace rm::study {

namespace {

/// A goal does worse between the frequencies that are read, in misses worth minding; and how often more of
/// them are read in a row.
constexpr double kBetween = 0.02;
constexpr int kLooks = 3;

/// The largest miss of every goal on every band: by its group.
std::map<std::size_t, std::pair<double, Goals::Belongs>> worstOf(const std::vector<Goals::Belongs>& layout,
                                                                 const std::vector<double>& misses) {
    std::map<std::size_t, std::pair<double, Goals::Belongs>> worst;
    for (std::size_t i = 0; i < layout.size(); ++i) {
        const auto [it, isNew] = worst.try_emplace(layout[i].group, misses[i], layout[i]);
        if (!isNew && misses[i] > it->second.first) it->second = {misses[i], layout[i]};
    }
    return worst;
}

}  // namespace

bool Between::refine(const Search::Found& best) {
    const auto between = worstOf(dense_.layout(), dense_.misses(sampled(dense_, prober_.at(best.x))));
    const auto read = worstOf(prober_.goals().layout(), best.trial.misses);
    std::map<std::size_t, std::set<double>> more;
    for (const auto& [group, worst] : between) {
        const double miss = worst.first;
        const Goals::Belongs& belongs = worst.second;
        if ((miss <= 0.0 && !belongs.most) || miss < read.at(group).first + kBetween) continue;
        const auto& range = prober_.goals().ranges()[belongs.range];
        const auto steps = static_cast<double>(dense_.ranges()[belongs.range].hz.size());
        const double apart = (range.highHz - range.lowHz) / (2.0 * steps);
        const bool near = std::any_of(range.hz.begin(), range.hz.end(),
                                      [&](double hz) { return std::abs(hz - belongs.hz) < apart; });
        if (!near) more[belongs.range].insert(belongs.hz);
    }
    for (const auto& [range, all] : more)
        for (const double hz : all) prober_.goals().sampleToo(range, hz);
    return !more.empty();
}

Search::Found Between::look(Search::Found best) {
    for (int round = 0; round < kLooks && best.trial.good && !search_.stopped(); ++round) {
        if (!refine(best)) break;
        search_.frequenciesChanged();
        // The first that is read now is the one that is shown.
        const Search::Found now = search_.probe(best.x);
        std::vector<Search::Found> before{search_.probe(start_.x)};
        if (lookedAt_.x != start_.x) before.push_back(search_.probe(lookedAt_.x));
        best = Search::betterOf(now, std::move(before));
        if (!search_.over()) best = search_.climb(best.x);
    }
    if (!search_.stopped()) lookedAt_ = best;
    return best;
}

Between::Read Between::read(const Search::Found& found) const {
    Read out{found, {}};
    out.exact.good = found.trial.good;
    out.exact.samples = sampled(dense_, prober_.at(found.x));
    out.exact.misses = dense_.misses(out.exact.samples);
    // The limits ask for no frequency.
    const auto& misses = found.trial.misses;
    if (found.trial.good)
        out.exact.misses.insert(out.exact.misses.end(),
                                misses.end() - static_cast<std::ptrdiff_t>(prober_.limitCount()),
                                misses.end());
    return out;
}

Between::Read Between::orLookedAt(Read found) const {
    Read best = read(start_);
    const auto take = [&](Read other) {
        const auto score = [&](const Read& of) { return Search::scoreOf(dense_, of.exact); };
        if (Search::better(score(other), score(best))) best = std::move(other);
    };
    if (lookedAt_.x != start_.x && lookedAt_.x != found.found.x) take(read(lookedAt_));
    if (found.found.x != start_.x) take(std::move(found));
    return best;
}

}  // namespace rm::study
