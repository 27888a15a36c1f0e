#include "core/study/tuning/goal_reading.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/port_circuit.h"
#include "core/study/lobes.h"
#include "core/study/peak.h"
#include "core/study/radio.h"

namespace rm::study {

using model::GoalKind;

namespace {

/// Steps of the first look round, degrees, and of the second one where the first found most.
constexpr double kRingStep = 3.0;
constexpr double kSecondStep = 0.4;
/// What is read beside a direction to know which way the top of its lobe is, degrees of elevation.
constexpr double kRise = 0.5;
/// Elevations of a range are this far apart, and no more than so many.
constexpr double kRangeStep = 1.5;
constexpr int kMostInRange = 31;

/// Three gains a step apart as a parabola.
struct Bow {
    double before;
    double middle;
    double after;

    /// Where its top is, in steps from the middle, at most `most` of them.
    double top(double most) const {
        const double bend = before - 2.0 * middle + after;
        if (bend < 0.0) return std::clamp(0.5 * (before - after) / bend, -most, most);
        return before > after ? -most : before < after ? most : 0.0;
    }
    double at(double steps) const {
        return middle + 0.5 * steps * (after - before) +
               0.5 * steps * steps * (before - 2.0 * middle + after);
    }
};

/// Looks at the far field of one reading.
class Look {
  public:
    Look(const em::Mesh& mesh, const circuit::Reading& reading) : mesh_(mesh), reading_(reading) {}

    std::vector<double> gains(const std::vector<em::Direction>& directions) const {
        std::vector<double> dbi;
        for (const auto& field : em::farField(mesh_, reading_.localCurrent, reading_.frequencyHz, directions))
            dbi.push_back(em::gainDbi(field, reading_.inputPowerW));
        return dbi;
    }

    /// The strongest direction at an elevation between two bearings, which are 360 degrees apart for all
    /// round: one look round, and one at what is strongest there.
    em::Direction strongest(double elevation, double from, double to) const {
        std::vector<em::Direction> ring;
        const int count = std::max(2, static_cast<int>(std::ceil((to - from) / kRingStep - 1e-9)));
        const double step = (to - from) / count;
        for (int i = 0; i <= count; ++i) ring.push_back({elevation, from + i * step});
        const auto gain = gains(ring);
        int best = static_cast<int>(std::max_element(gain.begin(), gain.end()) - gain.begin());
        const bool round = to - from >= 360.0;
        if (!round) best = std::clamp(best, 1, count - 1);
        const auto at = [&](int i) { return gain[static_cast<std::size_t>((i + count) % count)]; };
        const Bow wide =
            round ? Bow{at(best - 1), at(best), at(best + 1)}
                  : Bow{gain[static_cast<std::size_t>(best) - 1], gain[static_cast<std::size_t>(best)],
                        gain[static_cast<std::size_t>(best) + 1]};
        const double about = from + step * (best + wide.top(1.0));
        const auto near =
            gains({{elevation, about - kSecondStep}, {elevation, about}, {elevation, about + kSecondStep}});
        const double azimuth = about + kSecondStep * Bow{near[0], near[1], near[2]}.top(2.0);
        return {elevation, round ? azimuth : std::clamp(azimuth, from, to)};
    }

  private:
    const em::Mesh& mesh_;
    const circuit::Reading& reading_;
};

/// Whether a direction has both neighbours above the ground that its lobe's top is looked for with.
bool canRise(const em::Direction& at) {
    return at.elevationDeg >= 2.0 * kRise && at.elevationDeg <= 90.0 - 2.0 * kRise;
}

em::Direction raised(em::Direction at, double byDeg) {
    at.elevationDeg += byDeg;
    return at;
}

/// From a direction close to it, how far up the top of the lobe is: by a parabola, smooth in the antenna.
double towardsTop(const Look& look, const em::Direction& at) {
    if (!canRise(at)) return 0.0;
    const auto g = look.gains({raised(at, -kRise), at, raised(at, kRise)});
    return kRise * Bow{g[0], g[1], g[2]}.top(1.0);
}

bool readBehind(GoalKind kind) {
    return kind == GoalKind::FrontToRear || kind == GoalKind::FrontToBack;
}

std::vector<double> elevationsOf(const PatternAsk& ask) {
    const double width = ask.highDeg - ask.lowDeg;
    const int count = std::clamp(static_cast<int>(std::ceil(width / kRangeStep)), 1, kMostInRange - 1);
    std::vector<double> all;
    for (int i = 0; i <= count; ++i) all.push_back(ask.lowDeg + width * i / count);
    return all;
}

/// Where a goal looks: one direction, front and rear, or a row of elevations.
std::vector<em::Direction> directionsOf(const PatternAsk& ask, const em::Direction& peak, const Look& look) {
    switch (ask.kind) {
        case GoalKind::GainAt: {
            if (ask.azimuthDeg) return {{ask.lowDeg, *ask.azimuthDeg}};
            return {look.strongest(ask.lowDeg, 0.0, 360.0)};
        }
        case GoalKind::Null:
            return {{ask.lowDeg, ask.azimuthDeg.value_or(peak.azimuthDeg + 180.0)}};
        case GoalKind::MeanGain:
        case GoalKind::LeastGain: {
            const double middle = 0.5 * (ask.lowDeg + ask.highDeg);
            const double azimuth =
                ask.azimuthDeg ? *ask.azimuthDeg : look.strongest(middle, 0.0, 360.0).azimuthDeg;
            std::vector<em::Direction> row;
            for (const double elevation : elevationsOf(ask)) row.push_back({elevation, azimuth});
            return row;
        }
        default: {
            // At the elevation of the strongest lobe, wherever that points.
            const em::Direction front{peak.elevationDeg, ask.azimuthDeg.value_or(peak.azimuthDeg)};
            if (ask.kind == GoalKind::FrontToBack)
                return {front, {front.elevationDeg, front.azimuthDeg + 180.0}};
            return {front,
                    look.strongest(front.elevationDeg, front.azimuthDeg + 90.0, front.azimuthDeg + 270.0)};
        }
    }
}

double valueOf(const PatternAsk& ask, const std::vector<double>& gain, double peakDbi) {
    switch (ask.kind) {
        case GoalKind::GainAt:
            return gain[0];
        case GoalKind::Null:
            return peakDbi - gain[0];
        case GoalKind::MeanGain: {
            // By trapezoids: the ends count half.
            double sum = 0.0;
            for (std::size_t i = 0; i < gain.size(); ++i)
                sum += std::pow(10.0, 0.1 * gain[i]) * (i == 0 || i + 1 == gain.size() ? 0.5 : 1.0);
            return 10.0 * std::log10(sum / static_cast<double>(gain.size() - 1));
        }
        case GoalKind::LeastGain:
            return *std::min_element(gain.begin(), gain.end());
        default:
            return gain[0] - gain[1];
    }
}

std::optional<em::Direction> strongestSide(const em::Mesh& mesh, const circuit::Reading& reading,
                                           const em::Direction& peak) {
    const auto elevation = readCut(elevationCut(mesh, reading, peak.azimuthDeg, 1.0));
    const auto azimuth = readCut(azimuthCut(mesh, reading, peak.elevationDeg, 2.0));
    std::optional<em::Direction> side;
    double most = -999.0;
    if (elevation.sideLobe) {
        const double a = elevation.sideLobe->angleDeg;
        most = elevation.sideLobe->gainDbi;
        side = a <= 90.0    ? em::Direction{a, peak.azimuthDeg}
               : a <= 270.0 ? em::Direction{180.0 - a, peak.azimuthDeg + 180.0}
                            : em::Direction{a - 360.0, peak.azimuthDeg};
    }
    if (azimuth.sideLobe && azimuth.sideLobe->gainDbi > most)
        side = em::Direction{peak.elevationDeg, azimuth.sideLobe->angleDeg};
    return side;
}

}  // namespace

GoalReading readForGoals(const model::Expansion& design, const em::PortSolution& solution,
                         const GoalAsks& asks, const ReadDirections* held) {
    const auto reading = circuit::closePorts(design.model, solution);
    const em::Mesh& mesh = *solution.mesh;
    GoalReading r;
    r.antennaOhm = reading.antennaOhm;
    const Complex radio = atRadio(design, r.antennaOhm, solution.frequencyHz);
    r.reflection = reflection(radio, design.referenceOhm);
    r.swr = swr(radio, design.referenceOhm);
    r.efficiency = 1.0 - reading.lostPowerW() / reading.inputPowerW;
    if (!asks.pattern) return r;
    const Look look(mesh, reading);
    const bool behind = std::any_of(asks.asks.begin(), asks.asks.end(),
                                    [](const PatternAsk& ask) { return readBehind(ask.kind); });
    if (held != nullptr) {
        r.directions = *held;
    } else {
        r.directions.peak = findPeak(mesh, reading).direction;
        if (behind) r.directions.towardsPeakDeg = towardsTop(look, r.directions.peak);
        if (asks.side) r.directions.side = strongestSide(mesh, reading, r.directions.peak);
        for (const auto& ask : asks.asks) {
            em::Direction top = r.directions.peak;
            if (readBehind(ask.kind)) top.elevationDeg += r.directions.towardsPeakDeg;
            r.directions.asked.push_back(directionsOf(ask, top, look));
        }
    }
    // All at once. Held front and rear follow the top of the lobe: they are read with their neighbours.
    const em::Direction& peak = r.directions.peak;
    const bool follows = held != nullptr && behind && canRise(peak);
    std::vector<em::Direction> all{peak, r.directions.side.value_or(peak)};
    const auto withNeighbours = [&](const em::Direction& direction) {
        all.insert(all.end(), {raised(direction, -kRise), direction, raised(direction, kRise)});
    };
    if (follows) withNeighbours(peak);
    for (std::size_t i = 0; i < asks.asks.size(); ++i)
        for (const auto& direction : r.directions.asked[i])
            if (follows && readBehind(asks.asks[i].kind))
                withNeighbours(direction);
            else
                all.push_back(direction);
    const auto gain = look.gains(all);
    r.gainDbi = gain[0];
    if (r.directions.side) r.sideDbi = gain[1];
    r.takeoffDeg = peak.elevationDeg;
    auto next = gain.begin() + 2;
    const auto nextBow = [&next] {
        const Bow bow{next[0], next[1], next[2]};
        next += 3;
        return bow;
    };
    const double rise = follows ? nextBow().top(1.0) - r.directions.towardsPeakDeg / kRise : 0.0;
    for (std::size_t i = 0; i < asks.asks.size(); ++i) {
        std::vector<double> asked;
        for (std::size_t d = 0; d < r.directions.asked[i].size(); ++d)
            asked.push_back(follows && readBehind(asks.asks[i].kind) ? nextBow().at(rise) : *next++);
        r.asked.push_back(valueOf(asks.asks[i], asked, r.gainDbi));
    }
    return r;
}

}  // namespace rm::study
