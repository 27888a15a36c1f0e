#include "core/study/peak.h"

#include <algorithm>
#include <cmath>

namespace rm::study {

Peak findPeak(const em::Mesh& mesh, const circuit::Reading& reading) {
    const bool overGround = mesh.ground.kind != model::GroundKind::FreeSpace;
    Vec3 low = Vec3::Constant(1e99);
    Vec3 high = Vec3::Constant(-1e99);
    for (const auto& span : mesh.spans)
        for (const Vec3& end : {span.startM(), span.endM()}) {
            low = low.cwiseMin(end);
            high = high.cwiseMax(end);
        }
    // Lobes are at least about half a wavelength over the extent wide; images double the height.
    Vec3 extent = high - low;
    if (overGround) extent.z() = 2.0 * high.z();
    const double size = extent.norm() / wavelengthM(reading.frequencyHz);
    double step = std::clamp(10.0 / std::max(size, 0.5), 1.0, 10.0);

    const auto best = [&](const std::vector<em::Direction>& directions, Peak& peak) {
        const auto fields = em::farField(mesh, reading.localCurrent, reading.frequencyHz, directions);
        for (std::size_t i = 0; i < fields.size(); ++i) {
            const double gain = em::gainDbi(fields[i], reading.inputPowerW);
            // A flat top keeps the first direction found, so that azimuth 0 wins over its equals.
            if (gain > peak.gainDbi + 1e-7) peak = {directions[i], gain};
        }
    };
    Peak peak{{0.0, 0.0}, -999.0};
    std::vector<em::Direction> grid;
    for (double elevation = overGround ? 0.0 : -90.0; elevation <= 90.0; elevation += step) {
        const double azimuthStep = step / std::max(0.1, std::cos(elevation * kDegree));
        const int count = std::max(1, static_cast<int>(std::ceil(360.0 / azimuthStep)));
        for (int i = 0; i < count; ++i) grid.push_back({elevation, 360.0 * i / count});
    }
    best(grid, peak);
    while (step > 0.01) {
        step *= 0.5;
        std::vector<em::Direction> around;
        for (int i = -1; i <= 1; ++i)
            for (int j = -1; j <= 1; ++j)
                around.push_back({std::clamp(peak.direction.elevationDeg + i * step, overGround ? 0.0 : -90.0, 90.0),
                                  peak.direction.azimuthDeg + j * step});
        best(around, peak);
    }
    peak.direction.azimuthDeg = std::fmod(peak.direction.azimuthDeg + 360.0, 360.0);
    if (360.0 - peak.direction.azimuthDeg < 0.02) peak.direction.azimuthDeg = 0.0;
    return peak;
}

}  // namespace rm::study
