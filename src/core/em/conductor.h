// Loss in round conductors: the surface impedance per length, and common materials.
#pragma once

#include "core/common.h"

namespace rm::em {

/// Internal impedance per length of a round wire in ohm/m (series R + j w L_i), exact skin effect:
/// z = kc J0(kc a) / (2 pi a sigma J1(kc a)), kc^2 = -j w mu0 sigma. Radius in m, conductivity in S/m; zero
/// for an infinite conductivity. Source: S. Ramo, J. Whinnery, T. Van Duzer, Fields and Waves in
/// Communication Electronics, "Impedance of round wires".
Complex wireImpedancePerM(double frequencyHz, double radiusM, double conductivitySm);

}  // namespace rm::em
