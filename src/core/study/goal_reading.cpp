#include "core/study/goal_reading.h"

#include <algorithm>
#include <cmath>

#include "core/circuit/port_circuit.h"
#include "core/study/lobes.h"
#include "core/study/peak.h"
#include "core/study/radio.h"

namespace rm::study {

using model::GoalKind;

namespace {

/// Steps of the first look round, degrees.
constexpr double kRingStep = 3.0;
constexpr double kFinest = 0.05;
/// Elevations of a range are this far apart, and no more than so many.
constexpr double kRangeStep = 1.5;
constexpr int kMostInRange = 31;

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

    /// The strongest of the directions of `at` for `from` to `to`, refined between its neighbours.
    template <typename At>
    em::Direction strongest(const At& at, double from, double to, double step) const {
        std::vector<em::Direction> directions;
        const int count = std::max(1, static_cast<int>(std::ceil((to - from) / step - 1e-9)));
        step = (to - from) / count;
        for (int i = 0; i <= count; ++i) directions.push_back(at(from + i * step));
        auto gain = gains(directions);
        auto best = std::max_element(gain.begin(), gain.end()) - gain.begin();
        double centre = from + static_cast<double>(best) * step;
        double most = gain[static_cast<std::size_t>(best)];
        for (step *= 0.5; step > 0.5 * kFinest; step *= 0.5) {
            directions.clear();
            const double sides[] = {std::max(from, centre - step), std::min(to, centre + step)};
            for (const double side : sides) directions.push_back(at(side));
            gain = gains(directions);
            for (std::size_t i = 0; i < 2; ++i)
                if (gain[i] > most) {
                    most = gain[i];
                    centre = sides[i];
                }
        }
        return at(centre);
    }

  private:
    const em::Mesh& mesh_;
    const circuit::Reading& reading_;
};

/// From a direction close to it, how far up the top of the lobe is: by a parabola, smooth in the antenna.
double towardsTop(const Look& look, const em::Direction& at) {
    constexpr double step = 0.5;
    if (at.elevationDeg < 2.0 * step || at.elevationDeg > 90.0 - 2.0 * step) return 0.0;
    const auto g =
        look.gains({{at.elevationDeg - step, at.azimuthDeg}, at, {at.elevationDeg + step, at.azimuthDeg}});
    const double bend = g[0] - 2.0 * g[1] + g[2];
    return bend < 0.0 ? std::clamp(0.5 * step * (g[0] - g[2]) / bend, -step, step) : 0.0;
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
    const auto ringAt = [](double elevation) {
        return [elevation](double azimuth) { return em::Direction{elevation, azimuth}; };
    };
    switch (ask.kind) {
        case GoalKind::GainAt: {
            if (ask.azimuthDeg) return {{ask.lowDeg, *ask.azimuthDeg}};
            return {look.strongest(ringAt(ask.lowDeg), 0.0, 360.0, kRingStep)};
        }
        case GoalKind::Null:
            return {{ask.lowDeg, ask.azimuthDeg.value_or(peak.azimuthDeg + 180.0)}};
        case GoalKind::MeanGain:
        case GoalKind::LeastGain: {
            const double middle = 0.5 * (ask.lowDeg + ask.highDeg);
            const double azimuth = ask.azimuthDeg
                                       ? *ask.azimuthDeg
                                       : look.strongest(ringAt(middle), 0.0, 360.0, kRingStep).azimuthDeg;
            std::vector<em::Direction> row;
            for (const double elevation : elevationsOf(ask)) row.push_back({elevation, azimuth});
            return row;
        }
        default: {
            // At the elevation of the strongest lobe, wherever that points.
            const em::Direction front{peak.elevationDeg, ask.azimuthDeg.value_or(peak.azimuthDeg)};
            if (ask.kind == GoalKind::FrontToBack)
                return {front, {front.elevationDeg, front.azimuthDeg + 180.0}};
            return {front, look.strongest(ringAt(front.elevationDeg), front.azimuthDeg + 90.0,
                                          front.azimuthDeg + 270.0, kRingStep)};
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
        const double up = behind ? towardsTop(look, held->peak) - held->towardsPeakDeg : 0.0;
        for (std::size_t i = 0; i < asks.asks.size(); ++i)
            if (readBehind(asks.asks[i].kind))
                for (auto& direction : r.directions.asked[i]) direction.elevationDeg += up;
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
    std::vector<em::Direction> all{r.directions.peak, r.directions.side.value_or(r.directions.peak)};
    for (const auto& directions : r.directions.asked)
        all.insert(all.end(), directions.begin(), directions.end());
    const auto gain = look.gains(all);
    r.gainDbi = gain[0];
    if (r.directions.side) r.sideDbi = gain[1];
    r.takeoffDeg = r.directions.peak.elevationDeg;
    auto next = gain.begin() + 2;
    for (std::size_t i = 0; i < asks.asks.size(); ++i) {
        const auto end = next + static_cast<std::ptrdiff_t>(r.directions.asked[i].size());
        r.asked.push_back(valueOf(asks.asks[i], {next, end}, r.gainDbi));
        next = end;
    }
    return r;
}

}  // namespace rm::study
