#include "core/study/goal_values.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "core/quantity/formula.h"
#include "core/study/goal_words.h"

namespace rm::study {

using model::Goal;
using model::GoalKind;

namespace {

/// What a gain without a limit is measured against; only its rise counts.
constexpr double kBeyondDbi = 40.0;
constexpr double kResonantOhm = 0.5;

double number(const std::string& text, quantity::Kind kind, const std::string& what) {
    try {
        return quantity::evaluate(text, kind, {});
    } catch (const Error& e) {
        throw Error(fmt::format("The goal for {}: {}", what, e.what()));
    }
}

}  // namespace

double Goals::scaleOf(GoalKind kind) {
    // The SWR is read as the size of its reflection coefficient.
    return kind == GoalKind::Swr ? 0.1 : worthMinding(kind);
}

Goals::Goals(const model::Design& design, const std::vector<model::Band>& bands, int samples) {
    const auto rangeOf = [&](double low, double high) {
        for (std::size_t i = 0; i < ranges_.size(); ++i)
            if (ranges_[i].lowHz == low && ranges_[i].highHz == high) return i;
        Range range{low, high, {}};
        const int n = high > low ? std::max(2, samples) : 1;
        for (int i = 0; i < n; ++i) range.hz.push_back(n == 1 ? low : low + (high - low) * i / (n - 1));
        ranges_.push_back(range);
        return ranges_.size() - 1;
    };
    for (std::size_t index = 0; index < design.tune.goals.size(); ++index) {
        const Goal& goal = design.tune.goals[index];
        if (!goal.enabled) continue;
        const std::string what = nameOf(goal.kind);
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
                throw Error(fmt::format("The goal for {} needs a lower and a higher frequency.", what));
            stretches.push_back({low, high, rangeWords(low, high)});
        } else {
            for (const auto& name : goal.bands)
                if (std::none_of(bands.begin(), bands.end(), [&](const auto& b) { return b.name == name; }))
                    throw Error(fmt::format("The goal for {} is for {}, but the project has no such band.",
                                            what, name));
            const auto& names = goal.bands.empty() ? design.bands : goal.bands;
            for (const auto& band : bands)
                if (names.empty() || std::find(names.begin(), names.end(), band.name) != names.end())
                    stretches.push_back({band.lowHz, band.highHz, "on " + band.name});
            if (stretches.empty())
                throw Error(fmt::format("The goal for {} has no band: give it a range.", what));
        }
        for (const auto& [low, high, where] : stretches) {
            Plain plain;
            plain.kind = goal.kind;
            plain.goal = index;
            plain.where = where;
            plain.range = rangeOf(low, high);
            plain.most = asksForMost(goal);
            plain.counted = goal.counted && stretches.size() > 1 && !plain.most;
            if (goal.kind != GoalKind::Resonance && !plain.most) {
                if (goal.limit.empty())
                    throw Error(fmt::format("The goal for {} has no limit: type one.", what));
                plain.limit = number(goal.limit, quantity::Kind::Number, what);
            }
            if (goal.kind == GoalKind::Swr && plain.limit <= 1.0)
                throw Error("The goal for SWR has to be above 1.");
            if (goal.kind == GoalKind::Resistance)
                plain.upper = number(goal.upper, quantity::Kind::Number, what);
            if (goal.kind == GoalKind::GainAt) {
                plain.angleDeg = number(goal.angle, quantity::Kind::Angle, what);
                plain.angleIndex = angles_.size();
                angles_.push_back(plain.angleDeg);
            }
            plain.weight = goal.importance == model::Importance::Useful      ? 0.5
                           : goal.importance == model::Importance::Essential ? 2.0
                                                                             : 1.0;
            // What has no limit comes after all that has, within its stage.
            plain.stage = 2 * goal.stage + (plain.most ? 1 : 0);
            plain.sentence = wishOf(goal) + " " + where;
            pattern_ = pattern_ || (goal.kind != GoalKind::Swr && goal.kind != GoalKind::Resistance &&
                                    goal.kind != GoalKind::Resonance && goal.kind != GoalKind::Efficiency);
            rear_ = rear_ || goal.kind == GoalKind::FrontToRear;
            side_ = side_ || goal.kind == GoalKind::SideLobe;
            goals_.push_back(plain);
        }
    }
    if (goals_.empty()) throw Error("There is no goal: say first what a good antenna is.");
    layOut();
}

void Goals::layOut() {
    layout_.clear();
    for (std::size_t g = 0; g < goals_.size(); ++g) {
        const Plain& goal = goals_[g];
        const std::size_t each =
            goal.kind == GoalKind::Resistance || goal.kind == GoalKind::Resonance ? 2 : 1;
        layout_.insert(layout_.end(), each * ranges_[goal.range].hz.size(),
                       {g, goal.stage, goal.most, goal.counted});
    }
}

void Goals::sampleToo(std::size_t range, double hz) {
    auto& list = ranges_.at(range).hz;
    list.insert(std::upper_bound(list.begin(), list.end(), hz), hz);
    list.erase(std::unique(list.begin(), list.end()), list.end());
    layOut();
}

GoalSample Goals::read(const model::Expansion& design, const em::PortSolution& solution,
                       const ReadDirections* held) const {
    const auto reading = circuit::closePorts(design.model, solution);
    const em::Mesh& mesh = *solution.mesh;
    GoalSample s;
    s.frequencyHz = solution.frequencyHz;
    s.antennaOhm = reading.antennaOhm;
    const Complex radio = atRadio(design, s.antennaOhm, s.frequencyHz);
    s.reflection = std::abs(reflection(radio, design.referenceOhm));
    s.swr = swr(radio, design.referenceOhm);
    s.efficiency = 1.0 - reading.lostPowerW() / reading.inputPowerW;
    if (!pattern_) return s;
    if (held != nullptr) {
        s.directions = *held;
    } else {
        s.directions.peak = findPeak(mesh, reading).direction;
        const auto& peak = s.directions.peak;
        if (rear_) {
            const Cut ring = azimuthCut(mesh, reading, peak.elevationDeg, 3.0);
            double most = -999.0;
            for (std::size_t i = 0; i < ring.angleDeg.size(); ++i)
                if (std::cos((ring.angleDeg[i] - peak.azimuthDeg) * kDegree) <= 1e-9 &&
                    ring.gainDbi[i] > most) {
                    most = ring.gainDbi[i];
                    s.directions.rear = {peak.elevationDeg, ring.angleDeg[i]};
                }
        }
        if (side_) {
            const auto elevation = readCut(elevationCut(mesh, reading, peak.azimuthDeg, 1.0));
            const auto azimuth = readCut(azimuthCut(mesh, reading, peak.elevationDeg, 2.0));
            double most = -999.0;
            if (elevation.sideLobe) {
                const double a = elevation.sideLobe->angleDeg;
                most = elevation.sideLobe->gainDbi;
                s.directions.side = a <= 90.0    ? em::Direction{a, peak.azimuthDeg}
                                    : a <= 270.0 ? em::Direction{180.0 - a, peak.azimuthDeg + 180.0}
                                                 : em::Direction{a - 360.0, peak.azimuthDeg};
            }
            if (azimuth.sideLobe && azimuth.sideLobe->gainDbi > most)
                s.directions.side = em::Direction{peak.elevationDeg, azimuth.sideLobe->angleDeg};
        }
    }
    std::vector<em::Direction> look{s.directions.peak, s.directions.rear,
                                    s.directions.side.value_or(s.directions.peak)};
    for (const double angle : angles_) look.push_back({angle, s.directions.peak.azimuthDeg});
    const auto fields = em::farField(mesh, reading.localCurrent, s.frequencyHz, look);
    const auto gain = [&](std::size_t i) { return em::gainDbi(fields[i], reading.inputPowerW); };
    s.gainDbi = gain(0);
    s.rearDbi = gain(1);
    s.sideDbi = s.directions.side ? gain(2) : -999.0;
    for (std::size_t i = 0; i < angles_.size(); ++i) s.gainAtDbi.push_back(gain(3 + i));
    s.takeoffDeg = s.directions.peak.elevationDeg;
    return s;
}

double Goals::valueOf(const Plain& goal, const std::vector<GoalSample>& range, std::size_t at) const {
    const GoalSample& s = range[at];
    switch (goal.kind) {
        case GoalKind::Swr:
            return s.swr;
        case GoalKind::Gain:
            return s.gainDbi;
        case GoalKind::GainAt:
            return s.gainAtDbi[goal.angleIndex];
        case GoalKind::FrontToRear:
            return s.gainDbi - s.rearDbi;
        case GoalKind::Flat: {
            double most = -999.0;
            for (const auto& other : range) most = std::max(most, other.gainDbi);
            return most - s.gainDbi;
        }
        case GoalKind::SideLobe:
            return std::max(-99.0, s.sideDbi - s.gainDbi);
        case GoalKind::Resistance:
            return s.antennaOhm.real();
        case GoalKind::Efficiency:
            return 100.0 * s.efficiency;
        case GoalKind::Takeoff:
            return s.takeoffDeg;
        default:
            return s.antennaOhm.imag();
    }
}

std::vector<double> Goals::over(const Plain& goal, const std::vector<GoalSample>& range,
                                std::size_t at) const {
    const double v = valueOf(goal, range, at);
    switch (goal.kind) {
        case GoalKind::Swr:
            return {range[at].reflection - (goal.limit - 1.0) / (goal.limit + 1.0)};
        case GoalKind::Gain:
        case GoalKind::GainAt:
            return {(goal.most ? kBeyondDbi : goal.limit) - v};
        case GoalKind::FrontToRear:
        case GoalKind::Efficiency:
            return {goal.limit - v};
        case GoalKind::Resistance:
            return {goal.limit - v, v - goal.upper};
        case GoalKind::Resonance:
            return {v - kResonantOhm, -v - kResonantOhm};
        default:
            return {v - goal.limit};
    }
}

std::vector<double> Goals::misses(const Samples& samples) const {
    std::vector<double> all;
    for (const auto& goal : goals_) {
        const auto& range = samples.at(goal.range);
        for (std::size_t i = 0; i < range.size(); ++i)
            for (const double v : over(goal, range, i)) all.push_back(goal.weight * v / scaleOf(goal.kind));
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
        state.unit = unitOf(goal.kind);
        state.most = goal.most;
        state.counted = goal.counted;
        double worst = -1e300;
        for (std::size_t i = 0; i < range.size(); ++i)
            for (const double v : over(goal, range, i)) {
                if (v <= worst) continue;
                worst = v;
                state.worst = valueOf(goal, range, i);
                state.atHz = range[i].frequencyHz;
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
