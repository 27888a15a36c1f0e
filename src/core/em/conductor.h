// What a wire is made of, along its length: loss of round conductors, and a coat of insulation.
#pragma once

#include "core/common.h"

namespace rm::em {

/// Internal impedance per length of a round wire in ohm/m (series R + j w L_i), exact skin effect:
/// z = kc J0(kc a) / (2 pi a sigma J1(kc a)), kc^2 = -j w mu0 sigma. Radius in m, conductivity in S/m; zero
/// for an infinite conductivity. Source: S. Ramo, J. Whinnery, T. Van Duzer, Fields and Waves in
/// Communication Electronics, "Impedance of round wires".
Complex wireImpedancePerM(double frequencyHz, double radiusM, double conductivitySm);

/// A coat of thickness d and permittivity eps_r on a wire of radius a makes the voltage to the charge
/// smaller, but not the magnetic field: for the kernels the wire has the radius a (1 + d/a)^(1 - 1/eps_r),
/// and the inductance that this takes away is put back along it. Static field of the coat, good while it is
/// thin against the wavelength. Source: K. F. Lee and K. G. Balmain, "Insulated antennas", Radio Science 14
/// (1979); J. H. Richmond, NASA CR-2399 (1974).
double coatedRadiusM(double radiusM, double coatM, double coatPermittivity);
/// (mu0/2 pi) (1 - 1/eps_r) ln(1 + d/a) in H/m.
double coatInductancePerM(double radiusM, double coatM, double coatPermittivity);

/// The voltage across the coat of a charge, ln(1 + d/a)/(2 pi eps0 eps_r) in m/F. In soil of complex
/// permittivity eps the charge of the wire adds (1 - 1/eps) of that to what the kernels give with the radius
/// above: between that radius and the outside of the coat they see soil where in air they see air. Same
/// sources.
double coatElastanceM(double radiusM, double coatM, double coatPermittivity);

/// The impedance along a wire.
struct WireMaterial {
    double conductivitySm = 0.0;    ///< infinity for a perfect conductor
    double conductorRadiusM = 0.0;  ///< of the metal
    double inductancePerM = 0.0;    ///< of the coat, H/m
    double elastanceM = 0.0;        ///< of the coat, m/F

    /// ohm/m; its real part is what turns to heat.
    Complex impedancePerM(double frequencyHz) const;
};

}  // namespace rm::em
