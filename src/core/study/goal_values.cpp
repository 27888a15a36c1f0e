#include "core/study/goal_values.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/quantity/formula.h"

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

const char* nameOf(GoalKind kind) {
    switch (kind) {
        case GoalKind::Swr:
            return "SWR at the radio";
        case GoalKind::Gain:
            return "gain";
        case GoalKind::GainAt:
            return "gain at an angle";
        case GoalKind::FrontToRear:
            return "front-to-rear";
        case GoalKind::Flat:
            return "change of gain";
        case GoalKind::SideLobe:
            return "side lobes";
        case GoalKind::Resistance:
            return "R at the antenna";
        case GoalKind::Efficiency:
            return "efficiency";
        case GoalKind::Takeoff:
            return "takeoff angle";
        default:
            return "resonance";
    }
}

const char* unitOf(GoalKind kind) {
    switch (kind) {
        case GoalKind::Swr:
            return "";
        case GoalKind::Gain:
        case GoalKind::GainAt:
            return "dBi";
        case GoalKind::FrontToRear:
        case GoalKind::Flat:
        case GoalKind::SideLobe:
            return "dB";
        case GoalKind::Efficiency:
            return "%";
        case GoalKind::Takeoff:
            return "°";
        default:
            return "ohm";
    }
}

std::string megahertz(double hz) {
    return fmt::format("{:g}", std::round(hz / 1e2) / 1e4);
}

}  // namespace

double Goals::scaleOf(GoalKind kind) {
    switch (kind) {
        case GoalKind::Swr:
            return 0.1;  // of the reflection coefficient
        case GoalKind::Gain:
        case GoalKind::GainAt:
            return 0.5;
        case GoalKind::FrontToRear:
        case GoalKind::SideLobe:
            return 3.0;
        case GoalKind::Flat:
            return 0.3;
        case GoalKind::Resistance:
        case GoalKind::Resonance:
            return 10.0;
        default:
            return 5.0;
    }
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
    for (const Goal& goal : design.tune.goals) {
        if (!goal.enabled) continue;
        const std::string what = nameOf(goal.kind);
        std::vector<std::pair<double, double>> stretches;
        if (!goal.from.empty()) {
            const double low = number(goal.from, quantity::Kind::Frequency, what);
            const double high = goal.to.empty() ? low : number(goal.to, quantity::Kind::Frequency, what);
            if (!(low > 0.0) || high < low)
                throw Error(fmt::format("The goal for {} needs a lower and a higher frequency.", what));
            stretches.emplace_back(low, high);
        } else {
            for (const auto& band : bands) {
                const auto& names = design.bands;
                if (names.empty() || std::find(names.begin(), names.end(), band.name) != names.end())
                    stretches.emplace_back(band.lowHz, band.highHz);
            }
            if (stretches.empty())
                throw Error(fmt::format("The goal for {} has no band: give it a range.", what));
        }
        for (const auto& [low, high] : stretches) {
            Plain plain;
            plain.kind = goal.kind;
            plain.range = rangeOf(low, high);
            plain.most = goal.limit.empty() && (goal.kind == GoalKind::Gain || goal.kind == GoalKind::GainAt);
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
            const std::string where = low == high
                                          ? fmt::format("at {} MHz", megahertz(low))
                                          : fmt::format("from {} to {} MHz", megahertz(low), megahertz(high));
            const std::string unit = *unitOf(goal.kind) == 0 ? "" : std::string(" ") + unitOf(goal.kind);
            if (plain.most)
                plain.sentence = fmt::format("{} as high as possible {}", what, where);
            else if (goal.kind == GoalKind::Resonance)
                plain.sentence = fmt::format("resonant {}", where);
            else if (goal.kind == GoalKind::Resistance)
                plain.sentence =
                    fmt::format("{} between {:g} and {:g} ohm {}", what, plain.limit, plain.upper, where);
            else {
                const bool least = goal.kind == GoalKind::Gain || goal.kind == GoalKind::GainAt ||
                                   goal.kind == GoalKind::FrontToRear || goal.kind == GoalKind::Efficiency;
                const std::string name =
                    goal.kind == GoalKind::GainAt ? fmt::format("gain at {:g}°", plain.angleDeg) : what;
                plain.sentence = fmt::format("{} at {} {:g}{} {}", name, least ? "least" : "most",
                                             plain.limit, unit, where);
            }
            pattern_ = pattern_ || (goal.kind != GoalKind::Swr && goal.kind != GoalKind::Resistance &&
                                    goal.kind != GoalKind::Resonance && goal.kind != GoalKind::Efficiency);
            rear_ = rear_ || goal.kind == GoalKind::FrontToRear;
            side_ = side_ || goal.kind == GoalKind::SideLobe;
            goals_.push_back(plain);
        }
    }
    if (goals_.empty()) throw Error("There is no goal: say first what a good antenna is.");
}

void Goals::sampleToo(std::size_t range, double hz) {
    auto& list = ranges_.at(range).hz;
    list.insert(std::upper_bound(list.begin(), list.end(), hz), hz);
    list.erase(std::unique(list.begin(), list.end()), list.end());
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

std::vector<int> Goals::stages() const {
    std::vector<int> all;
    for (const auto& goal : goals_) {
        const std::size_t each =
            goal.kind == GoalKind::Resistance || goal.kind == GoalKind::Resonance ? 2 : 1;
        all.insert(all.end(), each * ranges_[goal.range].hz.size(), goal.stage);
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
        state.sentence = goal.sentence;
        state.unit = unitOf(goal.kind);
        state.most = goal.most;
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

}  // namespace rm::study
