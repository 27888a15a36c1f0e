// Eight doubles that the compiler keeps in vector registers. The inner loops of the engine run over the eight
// polynomials of a span; written with this type they become what they look like.
#pragma once

#include <cstring>

#include "core/em/quadrature.h"

namespace rm::em {

using Lanes [[gnu::vector_size(kLanes * sizeof(double))]] = double;

inline Lanes load(const double* from) {
    Lanes lanes;
    std::memcpy(&lanes, from, sizeof lanes);
    return lanes;
}
inline void store(const Lanes& lanes, double* to) {
    std::memcpy(to, &lanes, sizeof lanes);
}

}  // namespace rm::em
