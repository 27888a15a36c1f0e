// Blocks of a feed path worked out to numbers, and the generic kinds of line.
#pragma once

#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "core/common.h"

namespace rm::model {

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

/// Lumped elements one after the other, from the antenna to the radio: an L, a pi or a T.
struct Network {
    std::vector<Element> elements;
};

using Block = std::variant<Transformer, Cable, Stub, Element, Choke, Network>;

/// A line by description. Losses are typical of the kind and size; makers' sheets differ by a tenth or two.
struct LineType {
    std::string id;    ///< as stored in the project file
    std::string name;  ///< as shown
    LineKind kind;
    /// As a wire for the current on its outside: of the shield, or of one round wire instead of two (the root
    /// of radius times spacing), and the thickness of its jacket.
    double diameterM = 0.0;
    double jacketM = 0.0;
};

const std::vector<LineType>& lineTypes();

/// The line with this id, or nullptr.
const LineType* findLine(const std::string& id);

}  // namespace rm::model
