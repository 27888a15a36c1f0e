#include "core/study/tuning/goal_values.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "core/quantity/complex_number.h"
#include "core/quantity/formula.h"
#include "core/study/rational.h"
#include "core/study/tuning/goal_words.h"
#include "core/words/words.h"

namespace rm::study {

using model::Goal;
using model::GoalKind;

namespace {

/// What a gain without a limit is measured against; only its rise counts.
constexpr double kBeyondDbi = 40.0;
constexpr double kResonantOhm = 0.5;
/// Frequencies through which a curve is drawn whose width is wanted.
constexpr int kWideSamples = 9;
/// Up to this share of its frequency a range is narrow: nothing turns twice within it.
constexpr double kNarrow = 0.03;
/// The frequencies read of a wide one are no farther apart than this share of theirs, on the average: few
/// antennas do more than turn once within it.
constexpr double kApart = 0.1;

double number(const std::string& text, quantity::Kind kind, const std::string& what) {
    try {
        return quantity::evaluate(text, kind, {});
    } catch (const Error& e) {
        throw Error(say("The goal for {}: {}", what, e.what()));
    }
}

/// Azimuth of the front in the axes of the design: along the boom where there is one.
double frontOf(const model::Expansion& design) {
    if (design.rows.empty()) return 0.0;
    const Vec3& boom = design.rows.front().boom;
    return std::hypot(boom.x(), boom.y()) > 1e-6 ? std::atan2(boom.y(), boom.x()) / kDegree : 0.0;
}

/// Nothing: the best.
std::optional<double> azimuthOf(const Goal& goal, const model::Expansion& design) {
    const GoalTraits& traits = traitsOf(goal.kind);
    const std::string towards = goal.towards.empty() ? traits.usualTowards : goal.towards;
    if (towards == "best") return std::nullopt;
    if (towards == "front") return frontOf(design);
    if (towards == "back") return frontOf(design) + 180.0;
    // Compass bearings run to the right, azimuths to the left.
    return design.headingDeg - number(towards, quantity::Kind::Angle, traits.name);
}

/// Width in kHz of the stretch round the middle of a range where the reflection stays below `most`. Where it
/// is above in the middle, less than nothing, by how much; where it is below all along, more than the range:
/// the next antenna may be better still.
double widthKhz(const std::vector<GoalSample>& range, std::size_t drive, double most) {
    std::vector<double> hz;
    std::vector<Eigen::VectorXcd> values;
    for (const GoalSample& s : range) {
        hz.push_back(s.frequencyHz);
        values.push_back(Eigen::VectorXcd::Constant(1, s.drives[drive].reflection));
    }
    if (hz.size() < 2) return 0.0;
    const double low = hz.front();
    const double wholeKhz = 1e-3 * (hz.back() - low);
    const RationalModel model(hz, values);
    constexpr int kSteps = 200;
    std::vector<double> size;
    for (int i = 0; i <= kSteps; ++i)
        size.push_back(std::abs(model.at(low + (hz.back() - low) * i / kSteps)(0)));
    constexpr std::size_t middle = kSteps / 2;
    if (size[middle] >= most) return -(size[middle] - most) * wholeKhz;
    double steps = 0.0;
    for (const int way : {-1, 1}) {
        std::size_t at = middle;
        for (; at != 0 && at != kSteps; at += static_cast<std::size_t>(way)) {
            const double next = size[at + static_cast<std::size_t>(way)];
            if (next < most) {
                steps += 1.0;
                continue;
            }
            steps += (most - size[at]) / (next - size[at]);
            break;
        }
    }
    const double spare = most - *std::max_element(size.begin(), size.end());
    return wholeKhz * (steps / kSteps + std::max(0.0, spare));
}

}  // namespace

std::size_t Goals::rangeOf(double low, double high, int samples) {
    const int n = high > low ? std::max(2, samples) : 1;
    for (std::size_t i = 0; i < ranges_.size(); ++i)
        if (ranges_[i].lowHz == low && ranges_[i].highHz == high &&
            static_cast<int>(ranges_[i].hz.size()) >= n)
            return i;
    Range range{low, high, {}};
    for (int i = 0; i < n; ++i) range.hz.push_back(n == 1 ? low : low + (high - low) * i / (n - 1));
    ranges_.push_back(range);
    return ranges_.size() - 1;
}

std::size_t Goals::driveOf(const model::Design& design, const std::string& name) {
    const auto& sets = design.driveSets;
    const auto found =
        std::find_if(sets.begin(), sets.end(), [&](const auto& set) { return set.name == name; });
    if (found == sets.end())
        throw Error(say("A goal is for the drive set {}, but the design has no such set.", name));
    const int index = static_cast<int>(found - sets.begin());
    if (index == design.driveSet) return 0;
    const auto known = std::find(driveSets_.begin(), driveSets_.end(), index);
    const auto place = static_cast<std::size_t>(known - driveSets_.begin());
    if (known == driveSets_.end()) driveSets_.push_back(index);
    return place + 1;
}

Goals::Plain Goals::plainOf(const Goal& goal, const model::Design& design) {
    const GoalTraits& traits = traitsOf(goal.kind);
    const std::string what = traits.name;
    Plain plain;
    plain.kind = goal.kind;
    plain.most = asksForMost(goal);
    // The SWR is read as the size of its reflection coefficient.
    plain.scale = goal.kind == GoalKind::Swr ? 0.1 : traits.worth;
    if (goal.kind != GoalKind::Resonance && !(plain.most && traits.gain)) {
        if (goal.limit.empty()) throw Error(say("The goal for {} has no limit: type one.", what));
        plain.limit = number(goal.limit, quantity::Kind::Number, what);
    }
    if (goal.kind == GoalKind::SideLobe || goal.kind == GoalKind::Null) plain.limit = std::abs(plain.limit);
    if ((goal.kind == GoalKind::Swr || goal.kind == GoalKind::Bandwidth) && plain.limit <= 1.0)
        throw Error(say("The SWR of the goal for {} has to be above 1.", what));
    if (goal.kind == GoalKind::Resistance) plain.upper = number(goal.upper, quantity::Kind::Number, what);
    if (goal.kind == GoalKind::Impedance) {
        const auto wanted = quantity::readComplex(goal.wanted);
        if (!wanted)
            throw Error(say("The goal for {} is {}, which is no impedance: type it as 50 or 25 - j10.", what,
                            goal.wanted.empty() ? say("empty") : goal.wanted));
        plain.wantedOhm = *wanted;
    }
    if (traits.angle || traits.towards) {
        PatternAsk ask;
        ask.kind = goal.kind;
        if (traits.angle) ask.lowDeg = ask.highDeg = number(goal.angle, quantity::Kind::Angle, what);
        if (traits.angles) {
            ask.highDeg = number(goal.angleTo, quantity::Kind::Angle, what);
            if (!(ask.highDeg > ask.lowDeg))
                throw Error(say("The goal for {} needs a lower and a higher angle.", what));
        }
        ask.azimuthDeg = azimuthOf(goal, model::expand(design));
        plain.ask = asks_.asks.size();
        asks_.asks.push_back(ask);
    }
    plain.weight = goal.importance == model::Importance::Useful      ? 0.5
                   : goal.importance == model::Importance::Essential ? 2.0
                                                                     : 1.0;
    // What has no limit comes after all that has, within its stage.
    plain.stage = 2 * goal.stage + (plain.most ? 1 : 0);
    asks_.pattern = asks_.pattern || traits.pattern;
    asks_.side = asks_.side || goal.kind == GoalKind::SideLobe;
    return plain;
}

Goals::Goals(const model::Design& design, const std::vector<model::Band>& bands, int samples,
             std::optional<int> narrowSamples) {
    for (std::size_t index = 0; index < design.tune.goals.size(); ++index) {
        const Goal& goal = design.tune.goals[index];
        if (!goal.enabled) continue;
        const std::string what = traitsOf(goal.kind).name;
        struct Stretch {
            double low;
            double high;
            std::string where;
        };
        std::vector<Stretch> stretches;
        if (!goal.from.empty()) {
            const double low = number(goal.from, quantity::Kind::Frequency, what);
            const double high = goal.to.empty() ? low : number(goal.to, quantity::Kind::Frequency, what);
            if (!(low > 0.0) || high < low)
                throw Error(say("The goal for {} needs a lower and a higher frequency.", what));
            stretches.push_back({low, high, rangeWords(low, high)});
        } else {
            for (const auto& name : goal.bands)
                if (std::none_of(bands.begin(), bands.end(), [&](const auto& b) { return b.name == name; }))
                    throw Error(
                        say("The goal for {} is for {}, but the project has no such band.", what, name));
            const auto& names = goal.bands.empty() ? design.bands : goal.bands;
            for (const auto& band : bands)
                if (names.empty() || std::find(names.begin(), names.end(), band.name) != names.end())
                    stretches.push_back({band.lowHz, band.highHz, say("on ") + band.name});
            if (stretches.empty()) throw Error(say("The goal for {} has no band: give it a range.", what));
        }
        Plain plain = plainOf(goal, design);
        plain.goal = index;
        plain.counted = goal.counted && stretches.size() > 1 && !plain.most;
        const bool wide = goal.kind == GoalKind::Bandwidth;
        std::vector<std::pair<std::size_t, std::string>> drives;
        for (const auto& name : goal.driveSets)
            drives.emplace_back(driveOf(design, name), say(", driven ") + name);
        if (drives.empty()) drives.emplace_back(0, "");
        for (const auto& [low, high, where] : stretches) {
            if (wide && !(high > low))
                throw Error(say("The goal for {} needs a lower and a higher frequency.", what));
            const int usual =
                high < (1.0 + kNarrow) * low
                    ? narrowSamples.value_or(samples)
                    : std::max(samples, 1 + static_cast<int>(std::ceil(std::log(high / low) / kApart)));
            plain.range = rangeOf(low, high, wide ? std::max(samples, kWideSamples) : usual);
            // A twentieth of the range is worth minding.
            if (wide) plain.scale = 5e-5 * (high - low);
            for (const auto& [drive, words] : drives) {
                plain.drive = drive;
                plain.where = where + words;
                plain.sentence = wishOf(goal) + " " + plain.where;
                goals_.push_back(plain);
            }
        }
    }
    if (goals_.empty()) throw Error(say("There is no goal: say first what a good antenna is."));
    layOut();
}

std::size_t Goals::numbersAt(const Plain& goal, std::size_t frequency) {
    switch (goal.kind) {
        case GoalKind::Resistance:
        case GoalKind::Resonance:
            return 2;
        case GoalKind::Bandwidth:
            return frequency == 0 ? 1 : 0;
        default:
            return 1;
    }
}

void Goals::layOut() {
    layout_.clear();
    for (std::size_t g = 0; g < goals_.size(); ++g) {
        const Plain& goal = goals_[g];
        const auto& hz = ranges_[goal.range].hz;
        for (std::size_t i = 0; i < hz.size(); ++i)
            layout_.insert(layout_.end(), numbersAt(goal, i),
                           {g, goal.stage, goal.most, goal.counted, goal.range, hz[i]});
    }
}

void Goals::sampleToo(std::size_t range, double hz) {
    auto& list = ranges_.at(range).hz;
    list.insert(std::upper_bound(list.begin(), list.end(), hz), hz);
    list.erase(std::unique(list.begin(), list.end()), list.end());
    layOut();
}

std::vector<model::Expansion> Goals::expand(const model::Design& design) const {
    std::vector<model::Expansion> drives{model::expand(design)};
    for (const int set : driveSets_) {
        model::Design driven = design;
        driven.driveSet = set;
        drives.push_back(model::expand(driven));
    }
    return drives;
}

GoalSample Goals::read(const std::vector<model::Expansion>& drives, const em::PortSolution& solution,
                       const GoalSample* held) const {
    GoalSample sample{solution.frequencyHz, {}};
    for (std::size_t d = 0; d < drives.size(); ++d)
        sample.drives.push_back(readForGoals(drives[d], solution, asks_,
                                             held == nullptr ? nullptr : &held->drives[d].directions));
    return sample;
}

double Goals::valueOf(const Plain& goal, const Read& range, std::size_t at) const {
    const GoalReading& r = range[at].drives[goal.drive];
    if (goal.ask) return r.asked[*goal.ask];
    switch (goal.kind) {
        case GoalKind::Swr:
            return r.swr;
        case GoalKind::Gain:
            return r.gainDbi;
        case GoalKind::Flat: {
            double most = -999.0;
            for (const auto& other : range) most = std::max(most, other.drives[goal.drive].gainDbi);
            return most - r.gainDbi;
        }
        case GoalKind::SideLobe:
            return std::min(99.0, r.gainDbi - r.sideDbi);
        case GoalKind::Resistance:
            return r.antennaOhm.real();
        case GoalKind::Impedance:
            return std::abs(r.antennaOhm - goal.wantedOhm);
        case GoalKind::Efficiency:
            return 100.0 * r.efficiency;
        case GoalKind::Takeoff:
            return r.takeoffDeg;
        case GoalKind::Bandwidth:
            return widthKhz(range, goal.drive, (goal.limit - 1.0) / (goal.limit + 1.0));
        default:
            return r.antennaOhm.imag();
    }
}

std::vector<double> Goals::over(const Plain& goal, const Read& range, std::size_t at) const {
    if (numbersAt(goal, at) == 0) return {};
    const double v = valueOf(goal, range, at);
    switch (goal.kind) {
        case GoalKind::Swr:
            return {std::abs(range[at].drives[goal.drive].reflection) -
                    (goal.limit - 1.0) / (goal.limit + 1.0)};
        case GoalKind::Resistance:
            return {goal.limit - v, v - goal.upper};
        case GoalKind::Resonance:
            return {v - kResonantOhm, -v - kResonantOhm};
        case GoalKind::Bandwidth:
            return {1e-3 * (ranges_[goal.range].highHz - ranges_[goal.range].lowHz) - v};
        default:
            break;
    }
    if (goal.most) return {kBeyondDbi - v};
    return {traitsOf(goal.kind).relation == Relation::AtLeast ? goal.limit - v : v - goal.limit};
}

std::vector<double> Goals::misses(const Samples& samples) const {
    std::vector<double> all;
    for (const auto& goal : goals_) {
        const auto& range = samples.at(goal.range);
        for (std::size_t i = 0; i < range.size(); ++i)
            for (const double v : over(goal, range, i)) all.push_back(goal.weight * v / goal.scale);
    }
    return all;
}

int Goals::lastStage() const {
    int last = 0;
    for (const auto& goal : goals_) last = std::max(last, goal.stage);
    return last;
}

std::vector<GoalState> Goals::states(const Samples& samples) const {
    std::vector<GoalState> all;
    for (const auto& goal : goals_) {
        const auto& range = samples.at(goal.range);
        GoalState state;
        state.goal = goal.goal;
        state.sentence = goal.sentence;
        state.where = goal.where;
        state.unit = traitsOf(goal.kind).unit;
        state.most = goal.most;
        state.counted = goal.counted;
        double worst = -1e300;
        for (std::size_t i = 0; i < range.size(); ++i)
            for (const double v : over(goal, range, i)) {
                if (v <= worst) continue;
                worst = v;
                state.worst = valueOf(goal, range, i);
                state.atHz = range[i].frequencyHz;
                if (goal.kind == GoalKind::Bandwidth) {
                    state.atHz = 0.5 * (range.front().frequencyHz + range.back().frequencyHz);
                    state.worst = std::clamp(state.worst, 0.0,
                                             1e-3 * (range.back().frequencyHz - range.front().frequencyHz));
                }
                // The SWR is missed by SWR, not by reflection.
                state.miss = goal.most ? 0.0 : goal.kind == GoalKind::Swr ? state.worst - goal.limit : v;
            }
        all.push_back(state);
    }
    return all;
}

bool allMet(const std::vector<GoalState>& states) {
    std::map<std::size_t, bool> counted;
    for (const auto& state : states)
        if (state.counted)
            counted[state.goal] = counted[state.goal] || state.met();
        else if (!state.met())
            return false;
    return std::all_of(counted.begin(), counted.end(), [](const auto& one) { return one.second; });
}

}  // namespace rm::study
