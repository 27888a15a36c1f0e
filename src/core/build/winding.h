// A coil as turns on a former.
#pragma once

#include <cmath>
#include <string>
#include <vector>

namespace rm::build {

struct Winding {
    double inductanceH = 0.0;
    double formerM = 0.0;  ///< diameter of the former
    double wireM = 0.0;    ///< diameter of the wire
    double pitchM = 0.0;   ///< from turn to turn
    double turns = 0.0;
    double lengthM = 0.0;      ///< of the winding
    double wireLengthM = 0.0;  ///< with nothing for its ends
    double resonanceHz = 0.0;  ///< of its own, with nothing joined to it
    double q = 0.0;            ///< at the frequency asked for, at most
};

/// A single layer with turns one wire apart on the former, of the usual pipe sizes, that makes it nearest to
/// as long as it is wide: there the least wire gives the inductance.
///
/// Turns: H. A. Wheeler, "Simple Inductance Formulas for Radio Coils", Proc. IRE 16, 1928, exact to 1 % for
/// coils longer than 0.8 of their radius. Resonance: the self-capacitance measured by R. G. Medhurst, "H.F.
/// Resistance and Self-Capacitance of Single-Layer Solenoids", Wireless Engineer 24, 1947, in its usual fit.
/// Q: what the wire's own skin effect leaves, taken twice for what neighbouring turns do to it. The former
/// and whatever is near take more: no coil is better than this.
Winding windingFor(double inductanceH, double frequencyHz);
/// The same on a given former.
Winding windingOn(double formerM, double inductanceH, double frequencyHz);

/// Of turns of this mean diameter, evenly along a length. Wheeler, as above. All in metres, result in henry.
double inductanceOf(double meanDiameterM, double turns, double lengthM);

/// Outer diameters of plastic pipe that is sold, metres.
const std::vector<double>& formers();

/// What `make(former)` winds on the pipe on which it comes out nearest to as long as it is wide: there the
/// least wire gives the inductance.
template <typename Make, typename LengthOf>
auto onBestFormer(const Make& make, const LengthOf& lengthOf) {
    auto best = make(formers().front());
    double nearest = 1e99;
    for (const double former : formers()) {
        const auto one = make(former);
        const double off = std::abs(std::log(lengthOf(one) / former));
        if (off >= nearest) continue;
        nearest = off;
        best = one;
    }
    return best;
}

/// The values of the series E24 nearest to this one, in its unit.
double nearestE24(double value);

}  // namespace rm::build
