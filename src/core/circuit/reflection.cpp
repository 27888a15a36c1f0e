#include "core/circuit/reflection.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace rm::circuit {

Complex reflection(Complex impedance, double referenceOhm) {
    if (!std::isfinite(std::abs(impedance))) return 1.0;
    return (impedance - referenceOhm) / (impedance + referenceOhm);
}

Complex impedanceOf(Complex reflection, double referenceOhm) {
    if (reflection == Complex(1.0)) return std::numeric_limits<double>::infinity();
    return referenceOhm * (1.0 + reflection) / (1.0 - reflection);
}

double swr(Complex impedance, double referenceOhm) {
    // Of the two distances and not of their ratio: without resistance they are equal to the last bit.
    const double away = std::abs(impedance + referenceOhm);
    const double near = std::abs(impedance - referenceOhm);
    return away > near ? (away + near) / (away - near) : std::numeric_limits<double>::infinity();
}

double returnLossDb(Complex impedance, double referenceOhm) {
    return -20.0 * std::log10(std::max(1e-9, std::abs(reflection(impedance, referenceOhm))));
}

}  // namespace rm::circuit
