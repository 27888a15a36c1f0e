// Finds the strongest direction of a pattern.
#pragma once

#include "core/circuit/port_circuit.h"
#include "core/em/far_field.h"

namespace rm::study {

struct Peak {
    em::Direction direction;
    double gainDbi = 0.0;
};

/// Largest gain over the sphere (the upper half of it with ground): a coarse grid as fine as the pattern can be,
/// then refined by shrinking steps to 0.01 degrees.
Peak findPeak(const em::Mesh& mesh, const circuit::Reading& reading);

}  // namespace rm::study
