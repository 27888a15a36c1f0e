// Reflection coefficient, SWR and return loss of an impedance against a real reference.
#pragma once

#include "core/common.h"

namespace rm::circuit {

/// Reflection coefficient of `impedance` against a real reference in ohm; 1 for an open circuit (infinite).
Complex reflection(Complex impedance, double referenceOhm);
/// Impedance in ohm that reflects like this.
Complex impedanceOf(Complex reflection, double referenceOhm);
/// Standing wave ratio; infinity where everything comes back.
double swr(Complex impedance, double referenceOhm);
/// The largest standing wave ratio that is kept or written: what is beyond is no better known.
inline constexpr double kMostSwr = 1e6;
/// Return loss in dB, positive.
double returnLossDb(Complex impedance, double referenceOhm);

}  // namespace rm::circuit
