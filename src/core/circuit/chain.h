// Two-ports from the antenna to the radio, and what impedance, SWR and loss are at every joint of the chain.
#pragma once

#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "core/common.h"

namespace rm::circuit {

/// Voltage and current at the radio end from those at the antenna end: V1 = a V2 + b I2, I1 = c V2 + d I2, I2
/// flowing towards the antenna.
struct TwoPort {
    Complex a = 1.0;
    Complex b = 0.0;
    Complex c = 0.0;
    Complex d = 1.0;

    /// This one nearer to the radio than `next`.
    TwoPort then(const TwoPort& next) const;
    /// Impedance (ohm) at the radio end with `load` at the antenna end; both may be infinite.
    Complex impedanceInto(Complex load) const;
    /// Power in over power in the load, in dB; zero where the load takes none.
    double lossDb(Complex load) const;
};

TwoPort seriesElement(Complex impedanceOhm);
TwoPort shuntElement(Complex admittanceS);

/// A transformer: `impedanceRatio` is antenna side over radio side, 49 for a 49:1. What is absent is ideal.
/// All element values belong to the radio side; from the radio: shunt compensation capacitor, series leakage
/// inductance, shunt magnetising inductance beside the core loss, ideal 1:n.
struct Transformer {
    double impedanceRatio = 1.0;
    std::optional<double> magnetisingH;
    std::optional<double> coreLossOhm;
    std::optional<double> leakageH;
    std::optional<double> compensationF;
};

/// A kind of line: matched loss k1 sqrt(f) + k2 f in dB per 100 m with f in MHz.
struct LineKind {
    double impedanceOhm = 50.0;  ///< real
    double velocityFactor = 0.66;
    double lossRootDb = 0.0;    ///< k1
    double lossLinearDb = 0.0;  ///< k2

    double matchedLossDb(double lengthM, double frequencyHz) const;
    /// gamma in 1/m: attenuation in neper and phase in rad.
    Complex propagation(double frequencyHz) const;
};

struct Cable {
    LineKind line;
    double lengthM = 0.0;
};

/// A piece of line across the feed line.
struct Stub {
    LineKind line;
    double lengthM = 0.0;
    bool shorted = true;
};

enum class ElementKind { Inductor, Capacitor, Resistor };

/// A lumped element in henry, farad or ohm. Finite Q is a series resistance of reactance/Q at every
/// frequency.
struct Element {
    ElementKind kind = ElementKind::Inductor;
    double value = 0.0;
    bool shunt = false;
    std::optional<double> q;

    Complex impedance(double frequencyHz) const;
};

/// A common-mode choke: nothing but its loss on the wanted current, as a matched pad of 50 ohm.
struct Choke {
    double lossDb = 0.1;
};

using Block = std::variant<Transformer, Cable, Stub, Element, Choke>;

TwoPort twoPort(const Block& block, double frequencyHz);

/// One joint of the feed path: what the next block towards the radio sees.
struct Joint {
    Complex impedanceOhm;
    double blockLossDb = 0.0;  ///< of the block on the antenna side
    double totalLossDb = 0.0;  ///< from here to the antenna
};

/// Joints from the antenna (first, before any block) to the radio (last) for a chain that begins at the
/// antenna.
std::vector<Joint> walkChain(const std::vector<Block>& blocks, Complex antennaOhm, double frequencyHz);

}  // namespace rm::circuit
