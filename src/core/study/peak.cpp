#include "core/study/peak.h"

#include <algorithm>
#include <cmath>

#include "core/em/field_rings.h"

namespace rm::study {

namespace {

/// Lobes this close to each other in strength count as equal.
constexpr double kEqualLobesDb = 0.02;

/// Where a search begins: the strongest direction of a grid, and how far the next ones are.
struct Start {
    Peak peak;
    double liftDeg = 0.0;
    double turnDeg = 0.0;
};

/// Of directions in order from the horizon and from azimuth 0: among equals the first stays.
class Strongest {
  public:
    explicit Strongest(const circuit::Reading& reading, Peak soFar = {{0.0, 0.0}, -999.0})
        : inputPowerW_(reading.inputPowerW), peak_(soFar) {}

    void take(const em::Direction& direction, const em::FarField& field) {
        const double gain = em::gainDbi(field, inputPowerW_);
        if (gain > peak_.gainDbi + kSame) peak_ = {direction, gain};
    }
    void takeRing(double elevationDeg, const em::FarField* fields, std::size_t count) {
        for (std::size_t i = 0; i < count; ++i)
            take({elevationDeg, 360.0 * static_cast<double>(i) / static_cast<double>(count)}, fields[i]);
    }
    const Peak& peak() const { return peak_; }

  private:
    static constexpr double kSame = 1e-7;

    double inputPowerW_;
    Peak peak_;
};

/// Steps that no lobe falls between: it is about half a wavelength over the extent wide. The plan of the
/// antenna sets the step in azimuth, its height (twice that over ground, with the image) and its plan the
/// step in elevation.
struct Steps {
    double azimuthDeg = 0.0;
    double elevationDeg = 0.0;

    Steps(const em::Mesh& mesh, double frequencyHz) {
        const auto [low, high] = mesh.bounds();
        const double lambda = wavelengthM(frequencyHz);
        const double plan = (high - low).head<2>().norm() / lambda;
        const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
        const double rise = (overGround ? 2.0 * high.z() : high.z() - low.z()) / lambda;
        const auto stepFor = [](double size) { return std::clamp(10.0 / std::max(size, 0.5), 1.0, 10.0); };
        azimuthDeg = stepFor(plan);
        elevationDeg = stepFor(std::max(plan, rise));
    }
};

Start startOnGrid(const em::Mesh& mesh, const circuit::Reading& reading, const Steps& steps) {
    std::vector<em::Ring> rings;
    const auto ringAt = [&](double elevationDeg) {
        const double around = 360.0 / steps.azimuthDeg * std::max(0.1, std::cos(elevationDeg * kDegree));
        rings.push_back({elevationDeg, std::max(1, static_cast<int>(std::ceil(around)))});
    };
    ringAt(0.0);
    for (double elevation = steps.elevationDeg; elevation <= 90.0; elevation += steps.elevationDeg) {
        ringAt(elevation);
        if (mesh.ground.kind == model::GroundKind::FreeSpace) ringAt(-elevation);
    }
    const auto fields = em::fieldRings(mesh, reading.localCurrent, reading.frequencyHz, rings);
    Strongest strongest(reading);
    const em::FarField* at = fields.data();
    for (const auto& ring : rings) {
        strongest.takeRing(ring.elevationDeg, at, static_cast<std::size_t>(ring.count));
        at += ring.count;
    }
    return {strongest.peak(), steps.elevationDeg, steps.azimuthDeg};
}

/// The strongest direction of each ring of the sky that may hold the peak, of neighbouring rings the
/// strongest one. From one of its directions to the next a lobe loses no more than kBetweenDb, and kUprightDb
/// of it from ring to ring.
std::vector<Start> startsInSky(const em::Mesh& mesh, const circuit::Reading& reading, const Steps& steps,
                               const em::SkyRings& sky) {
    constexpr double kBetweenDb = 3.0;
    constexpr double kUprightDb = 1.0;
    const std::size_t count = sky.fields.size();
    const auto strongestOf = [&](std::size_t r, const std::vector<em::FarField>& ring) {
        Strongest strongest(reading);
        strongest.takeRing(sky.elevationDeg[r], ring.data(), ring.size());
        return strongest.peak();
    };
    const auto stronger = [](const Peak& a, const Peak& b) { return a.gainDbi < b.gainDbi; };
    std::vector<Peak> best;
    for (std::size_t r = 0; r < count; ++r) best.push_back(strongestOf(r, sky.fields[r]));
    const double most = std::max_element(best.begin(), best.end(), stronger)->gainDbi;
    const int around = static_cast<int>(std::ceil(360.0 / steps.azimuthDeg));
    for (std::size_t r = 0; r < count; ++r)
        if (best[r].gainDbi > most - kBetweenDb && sky.fields[r].size() < static_cast<std::size_t>(around))
            best[r] = strongestOf(
                r, em::finerRing(mesh, reading.frequencyHz, sky.elevationDeg[r], sky.fields[r], around));
    const double top = std::max_element(best.begin(), best.end(), stronger)->gainDbi;
    std::vector<Start> starts;
    for (std::size_t r = 0; r < count; ++r) {
        const bool overBelow = r == 0 || best[r].gainDbi > best[r - 1].gainDbi;
        const bool overAbove = r + 1 == count || best[r].gainDbi >= best[r + 1].gainDbi;
        if (best[r].gainDbi < top - kUprightDb || !overBelow || !overAbove) continue;
        const double below = r > 0 ? sky.elevationDeg[r - 1] : 0.0;
        const double above = r + 1 < count ? sky.elevationDeg[r + 1] : 90.0;
        const double gap = std::max(above - sky.elevationDeg[r], sky.elevationDeg[r] - below);
        starts.push_back({best[r], std::max(gap, steps.elevationDeg), steps.azimuthDeg});
    }
    return starts;
}

}  // namespace

Peak findPeak(const em::Mesh& mesh, const circuit::Reading& reading, const em::SkyRings* sky) {
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    const Steps steps(mesh, reading.frequencyHz);
    const double step = steps.elevationDeg;
    const bool read = sky != nullptr && !sky->fields.empty();
    const std::vector<Start> starts = read ? startsInSky(mesh, reading, steps, *sky)
                                           : std::vector<Start>{startOnGrid(mesh, reading, steps)};
    const em::FarFieldReader reader(mesh, reading.localCurrent, reading.frequencyHz);
    const auto refine = [&](Peak& from, double lift, double turn) {
        while (std::max(lift, turn) > 0.01) {
            lift *= 0.5;
            turn *= 0.5;
            std::vector<em::Direction> around{from.direction};
            for (int i = -1; i <= 1; ++i)
                for (const int j : {0, -1, 1})  // among equals the azimuth stays
                    if (i != 0 || j != 0)
                        around.push_back({std::clamp(from.direction.elevationDeg + i * lift,
                                                     overGround ? 0.0 : -90.0, 90.0),
                                          from.direction.azimuthDeg + j * turn});
            const auto fields = reader.towards(around);
            Strongest strongest(reading, from);
            for (std::size_t i = 0; i < fields.size(); ++i) strongest.take(around[i], fields[i]);
            from = strongest.peak();
        }
    };
    Peak peak{{0.0, 0.0}, -999.0};
    for (const Start& start : starts) {
        // What was derived between directions is read there anew.
        Peak top{start.peak.direction, -999.0};
        refine(top, start.liftDeg, start.turnDeg);
        if (top.gainDbi > peak.gainDbi + 1e-7) peak = top;
    }
    if (overGround) {
        // Lobes over ground are often equally strong: the lowest of them is the takeoff angle.
        std::vector<em::Direction> below;
        for (double elevation = 0.0; elevation < peak.direction.elevationDeg; elevation += 0.5 * step)
            below.push_back({elevation, peak.direction.azimuthDeg});
        const auto fields = reader.towards(below);
        const auto gainAt = [&](std::size_t i) { return em::gainDbi(fields[i], reading.inputPowerW); };
        for (std::size_t i = 1; i + 1 < below.size(); ++i) {
            const double gain = gainAt(i);
            if (gain < gainAt(i - 1) || gain < gainAt(i + 1) || gain < peak.gainDbi - 0.5) continue;
            Peak lower{below[i], gain};
            refine(lower, step, steps.azimuthDeg);
            if (lower.gainDbi < peak.gainDbi - kEqualLobesDb ||
                lower.direction.elevationDeg > peak.direction.elevationDeg - step)
                continue;
            peak = lower;
            break;
        }
    }
    // Straight up, or down, all azimuths are one direction.
    if (std::abs(peak.direction.elevationDeg) == 90.0) peak.direction.azimuthDeg = 0.0;
    peak.direction.azimuthDeg = std::fmod(peak.direction.azimuthDeg + 360.0, 360.0);
    if (360.0 - peak.direction.azimuthDeg < 0.02) peak.direction.azimuthDeg = 0.0;
    return peak;
}

}  // namespace rm::study
