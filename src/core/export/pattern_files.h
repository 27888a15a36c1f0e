// Patterns as files: cuts and the whole sphere as comma-separated values, the lobe with the wires as a mesh.
#pragma once

#include <string>

#include "core/model/expand.h"
#include "core/study/lobe_grid.h"

namespace rm::io {

/// Columns cut, angle_deg, gain_dBi: the elevation cut (angle from the horizon in front), then the azimuth
/// cut (compass bearing).
std::string cutsCsv(const study::Analysis& analysis, double headingDeg);

/// Columns elevation_deg, bearing_deg (compass), gain_dBi.
std::string sphereCsv(const study::LobeGrid& grid, double headingDeg);

/// Wavefront OBJ: the wires as lines ("l"), the lobe as quads round the middle of the antenna, its largest
/// radius `radiusM`, other directions by the square root of the field strength. Axes as in designs, metres.
std::string lobeObj(const model::Expansion& design, const study::LobeGrid& grid, double radiusM);

}  // namespace rm::io
