#include "core/export/pattern_files.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace rm::io {

namespace {

double compass(double headingDeg, double azimuthDeg) {
    const double b = std::fmod(headingDeg - azimuthDeg, 360.0);
    return b < 0.0 ? b + 360.0 : b;
}

}  // namespace

std::string cutsCsv(const study::Analysis& analysis, double headingDeg) {
    std::string text = fmt::format(
        "# {:.6f} MHz, elevation cut towards bearing {:.1f}, azimuth cut at elevation "
        "{:.1f}\ncut,angle_deg,gain_dBi\n",
        analysis.figures.frequencyHz / 1e6, compass(headingDeg, analysis.elevation.fixedAngleDeg),
        analysis.azimuth.fixedAngleDeg);
    const auto& e = analysis.elevation;
    for (std::size_t i = 0; i < e.angleDeg.size(); ++i)
        text += fmt::format("elevation,{:.2f},{:.3f}\n", e.angleDeg[i], e.gainDbi[i]);
    const auto& a = analysis.azimuth;
    for (std::size_t i = 0; i + 1 < a.angleDeg.size(); ++i)
        text += fmt::format("azimuth,{:.2f},{:.3f}\n", compass(headingDeg, a.angleDeg[i]), a.gainDbi[i]);
    return text;
}

std::string sphereCsv(const study::LobeGrid& grid, double headingDeg) {
    std::string text = "elevation_deg,bearing_deg,gain_dBi\n";
    for (int r = 0; r < grid.rows; ++r)
        for (int c = 0; c < grid.columns; ++c)
            text += fmt::format("{:.2f},{:.2f},{:.3f}\n", grid.elevationDeg(r),
                                compass(headingDeg, grid.azimuthDeg(c)), grid.at(r, c));
    return text;
}

std::string lobeObj(const model::Expansion& design, const study::LobeGrid& grid, double radiusM) {
    std::string text = "# wires as lines, the lobe as quads; metres, x forward, y left, z up\no wires\n";
    Vec3 low = Vec3::Constant(1e99);
    Vec3 high = Vec3::Constant(-1e99);
    int vertex = 0;
    std::string lines;
    for (const auto& wire : design.model.wires) {
        for (const Vec3& end : {wire.startM, wire.endM}) {
            text += fmt::format("v {:.5f} {:.5f} {:.5f}\n", end.x(), end.y(), end.z());
            low = low.cwiseMin(end);
            high = high.cwiseMax(end);
        }
        lines += fmt::format("l {} {}\n", vertex + 1, vertex + 2);
        vertex += 2;
    }
    text += lines + "o lobe\n";
    Vec3 origin = 0.5 * (low + high);
    if (grid.lowestDeg >= 0.0) origin.z() = 0.0;
    const double peak = *std::max_element(grid.gainDbi.begin(), grid.gainDbi.end());
    for (int r = 0; r < grid.rows; ++r)
        for (int c = 0; c < grid.columns; ++c) {
            const double size = radiusM * std::pow(10.0, std::max(-80.0, grid.at(r, c) - peak) / 40.0);
            const double e = grid.elevationDeg(r) * kDegree;
            const double a = grid.azimuthDeg(c) * kDegree;
            const Vec3 p =
                origin + size * Vec3(std::cos(e) * std::cos(a), std::cos(e) * std::sin(a), std::sin(e));
            text += fmt::format("v {:.5f} {:.5f} {:.5f}\n", p.x(), p.y(), p.z());
        }
    for (int r = 0; r + 1 < grid.rows; ++r)
        for (int c = 0; c < grid.columns; ++c) {
            const auto index = [&](int row, int column) {
                return vertex + 1 + row * grid.columns + column % grid.columns;
            };
            text += fmt::format("f {} {} {} {}\n", index(r, c), index(r, c + 1), index(r + 1, c + 1),
                                index(r + 1, c));
        }
    return text;
}

}  // namespace rm::io
