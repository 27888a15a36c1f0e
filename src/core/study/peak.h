// Finds the strongest direction of a pattern.
#pragma once

#include "core/circuit/port_circuit.h"
#include "core/em/far_field.h"

namespace rm::study {

struct Peak {
    em::Direction direction;
    double gainDbi = 0.0;
};

/// Largest gain over the sphere (the upper half of it with ground): a coarse grid as fine as the pattern can
/// be, then refined by shrinking steps to 0.01 degrees. Of lobes that are equally strong (within 0.02 dB)
/// over ground the lowest, of equal directions the one nearest the horizon and azimuth 0. Where the sky has
/// been read already (em::skyPower), its rings are the grid.
Peak findPeak(const em::Mesh& mesh, const circuit::Reading& reading, const em::SkyRings* sky = nullptr);

}  // namespace rm::study
