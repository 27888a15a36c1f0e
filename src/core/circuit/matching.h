// Networks that turn one impedance into another: every solution, with its element values.
#pragma once

#include <string>
#include <vector>

#include "core/circuit/chain.h"

namespace rm::circuit {

/// A network of lumped elements from the antenna to the radio.
struct LumpedMatch {
    std::string name;  ///< "shunt capacitor at the antenna, series inductor"
    std::vector<Element> elements;
};

/// All exact matches of `load` to the real `targetOhm` with one series and one shunt element, in any order;
/// those with one element only where that is enough. Lossless values. Throws rm::Error where the load has no
/// resistance. Source: shunt at the load: b = +- sqrt(G/R0 - G^2); series at the load: x = +- sqrt(R R0 -
/// R^2).
std::vector<LumpedMatch> lNetworks(Complex load, double targetOhm, double frequencyHz);

enum class ThreeElements { PiLowPass, PiHighPass, TLowPass, THighPass };

/// A pi or T network between two resistances with the given Q, that of the end whose Q is larger. Throws
/// rm::Error where the Q is too small: below sqrt(larger/smaller - 1).
LumpedMatch threeElementNetwork(ThreeElements kind, double loadOhm, double targetOhm, double q,
                                double frequencyHz);

/// The same for a load with reactance: the arm beside it takes the reactance over (pi: the susceptance), so
/// that it may be an element of the other kind, or be left out. The Q is that of the rest.
LumpedMatch threeElementNetwork(ThreeElements kind, Complex load, double targetOhm, double q,
                                double frequencyHz);

/// A stub across the line at a distance from the load, both in wavelengths on the line, in [0, 0.5).
struct StubMatch {
    double distance = 0.0;
    double susceptance = 0.0;  ///< at the stub before it is put on, in units of 1/Z0
    double openLength = 0.0;
    double shortedLength = 0.0;
};

/// Both places for a stub on a lossless line of impedance z0Ohm, nearest to the load first.
std::vector<StubMatch> singleStubs(Complex load, double z0Ohm);

/// A quarter wavelength of another line at a place where the impedance on the line is real.
struct QuarterWaveMatch {
    double distance = 0.0;  ///< from the load, wavelengths
    double resistanceOhm = 0.0;
    double sectionOhm = 0.0;
};

/// At the first voltage maximum and at the first voltage minimum.
std::vector<QuarterWaveMatch> quarterWaves(Complex load, double z0Ohm);

/// The nearest value of a series of preferred numbers, `perDecade` 12 or 24 (IEC 60063).
double standardValue(double value, int perDecade);

}  // namespace rm::circuit
