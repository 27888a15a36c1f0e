// Eight doubles that the compiler keeps in vector registers. The inner loops of the engine run over the eight
// polynomials of a span; written with this type they become what they look like.
#pragma once

#include "core/em/quadrature.h"

namespace rm::em {

using Lanes [[gnu::vector_size(kLanes * sizeof(double))]] = double;

/// The same eight doubles where they lie in memory. Lanes are never passed or returned by value: on a
/// processor whose registers are narrower that would be another calling convention.
using LanesInPlace
    [[gnu::vector_size(kLanes * sizeof(double)), gnu::aligned(alignof(double)), gnu::may_alias]] = double;

inline const LanesInPlace& lanesAt(const double* from) {
    return *reinterpret_cast<const LanesInPlace*>(from);
}
inline LanesInPlace& lanesAt(double* at) {
    return *reinterpret_cast<LanesInPlace*>(at);
}

}  // namespace rm::em
