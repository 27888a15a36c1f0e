#include "core/study/peak.h"

#include <algorithm>
#include <cmath>

#include "core/em/field_rings.h"

namespace rm::study {

namespace {

/// Lobes this close to each other in strength count as equal.
constexpr double kEqualLobesDb = 0.02;

}  // namespace

Peak findPeak(const em::Mesh& mesh, const circuit::Reading& reading) {
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    const auto [low, high] = mesh.bounds();
    // A lobe is about half a wavelength over the extent wide: the plan of the antenna sets the step in
    // azimuth, its height (twice that over ground, with the image) and its plan the step in elevation.
    const double lambda = wavelengthM(reading.frequencyHz);
    const double plan = (high - low).head<2>().norm() / lambda;
    const double rise = (overGround ? 2.0 * high.z() : high.z() - low.z()) / lambda;
    const auto stepFor = [](double size) { return std::clamp(10.0 / std::max(size, 0.5), 1.0, 10.0); };
    const double azimuthStep = stepFor(plan);
    const double step = stepFor(std::max(plan, rise));

    const auto strongest = [&](const std::vector<em::Direction>& directions,
                               const std::vector<em::FarField>& fields, Peak& peak) {
        for (std::size_t i = 0; i < fields.size(); ++i) {
            const double gain = em::gainDbi(fields[i], reading.inputPowerW);
            // Among equals the first direction found stays: nearest the horizon, nearest azimuth 0.
            if (gain > peak.gainDbi + 1e-7) peak = {directions[i], gain};
        }
    };
    const auto best = [&](const std::vector<em::Direction>& directions, Peak& peak) {
        strongest(directions, em::farField(mesh, reading.localCurrent, reading.frequencyHz, directions),
                  peak);
    };
    Peak peak{{0.0, 0.0}, -999.0};
    std::vector<em::Direction> grid;
    std::vector<em::Ring> rings;
    std::vector<double> elevations{0.0};
    for (double elevation = step; elevation <= 90.0; elevation += step) {
        elevations.push_back(elevation);
        if (!overGround) elevations.push_back(-elevation);
    }
    for (const double elevation : elevations) {
        const int count = std::max(
            1,
            static_cast<int>(std::ceil(360.0 / azimuthStep * std::max(0.1, std::cos(elevation * kDegree)))));
        for (int i = 0; i < count; ++i) grid.push_back({elevation, 360.0 * i / count});
        rings.push_back({elevation, count});
    }
    strongest(grid, em::fieldRings(mesh, reading.localCurrent, reading.frequencyHz, rings), peak);
    const auto refine = [&](Peak& from) {
        double lift = step;
        double turn = azimuthStep;
        while (std::max(lift, turn) > 0.01) {
            lift *= 0.5;
            turn *= 0.5;
            std::vector<em::Direction> around;
            for (int i = -1; i <= 1; ++i)
                for (int j = -1; j <= 1; ++j)
                    around.push_back(
                        {std::clamp(from.direction.elevationDeg + i * lift, overGround ? 0.0 : -90.0, 90.0),
                         from.direction.azimuthDeg + j * turn});
            best(around, from);
        }
    };
    refine(peak);
    if (overGround) {
        // Lobes over ground are often equally strong: the lowest of them is the takeoff angle.
        std::vector<em::Direction> below;
        for (double elevation = 0.0; elevation < peak.direction.elevationDeg; elevation += 0.5 * step)
            below.push_back({elevation, peak.direction.azimuthDeg});
        const auto fields = em::farField(mesh, reading.localCurrent, reading.frequencyHz, below);
        const auto gainAt = [&](std::size_t i) { return em::gainDbi(fields[i], reading.inputPowerW); };
        for (std::size_t i = 1; i + 1 < below.size(); ++i) {
            const double gain = gainAt(i);
            if (gain < gainAt(i - 1) || gain < gainAt(i + 1) || gain < peak.gainDbi - 0.5) continue;
            Peak lower{below[i], gain};
            refine(lower);
            if (lower.gainDbi < peak.gainDbi - kEqualLobesDb ||
                lower.direction.elevationDeg > peak.direction.elevationDeg - step)
                continue;
            peak = lower;
            break;
        }
    }
    peak.direction.azimuthDeg = std::fmod(peak.direction.azimuthDeg + 360.0, 360.0);
    if (360.0 - peak.direction.azimuthDeg < 0.02) peak.direction.azimuthDeg = 0.0;
    return peak;
}

}  // namespace rm::study
