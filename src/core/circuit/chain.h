// Two-ports from the antenna to the radio, and what impedance, SWR and loss are at every joint of the chain.
#pragma once

#include <vector>

#include "core/common.h"
#include "core/model/feed_blocks.h"

namespace rm::circuit {

using model::Block;
using model::Cable;
using model::Choke;
using model::Element;
using model::ElementKind;
using model::LineKind;
using model::Network;
using model::Stub;
using model::Transformer;

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

/// Propagation constant times length; loss beyond 30 neper (260 dB) counts as that much: nothing comes back
/// from there, and the hyperbolic functions stay numbers.
Complex through(const LineKind& line, double frequencyHz, double lengthM);

TwoPort seriesElement(Complex impedanceOhm);
TwoPort shuntElement(Complex admittanceS);

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

/// The impedance on its way through one block, from `load` (first) to what is seen from its radio side
/// (last): `stepPoints` points for every simple step of the block (a transformer has up to five, a network as
/// many as elements), each grown from nothing. For drawing on a Smith chart.
std::vector<Complex> walkBlock(const Block& block, Complex load, double frequencyHz, int stepPoints = 96);

/// The load that is behind a block when `seenOhm` is seen from its radio side: moves the plane of a
/// measurement towards the antenna.
Complex beforeBlock(const Block& block, Complex seenOhm, double frequencyHz);

}  // namespace rm::circuit
