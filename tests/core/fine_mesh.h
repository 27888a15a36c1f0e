// Meshes that are many times finer than the default, of two kinds: what they agree upon is the answer.
#pragma once

#include "core/em/mesh.h"

namespace rm::test {

/// Spans of high order that grow slowly away from everything, without the function for open ends.
inline em::MeshOptions fineMesh() {
    em::MeshOptions o;
    o.maxSpanWavelengths = 0.12;
    o.fixedOrder = 6;
    o.endFunctions = false;
    o.plainEndRadii = 2.0;
    o.growth = 4.0;
    o.gapGrowth = 4.0;
    o.neighbourDistances = 1.0;
    o.neighbourGrowth = 4.0;
    o.bendRadii = 2.0;
    return o;
}

/// More and shorter ones of lower order.
inline em::MeshOptions finerMesh() {
    em::MeshOptions o = fineMesh();
    o.maxSpanWavelengths = 0.07;
    o.fixedOrder = 5;
    o.plainEndRadii = 1.0;
    o.growth = 3.0;
    o.gapGrowth = 3.0;
    o.neighbourDistances = 0.7;
    o.neighbourGrowth = 3.0;
    o.bendRadii = 1.0;
    return o;
}

}  // namespace rm::test
