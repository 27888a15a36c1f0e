// A trap wound of coaxial cable: its shield is the coil, what lies between shield and inner conductor the
// capacitor.
#pragma once

#include <string>

#include "core/model/feed_blocks.h"

namespace rm::build {

struct CoaxTrap {
    std::string cable;  ///< "coax 50 thin"
    double formerM = 0.0;
    double turns = 0.0;
    double cableM = 0.0;        ///< in the winding, with nothing for its ends
    double windingM = 0.0;      ///< length along the former
    double inductanceH = 0.0;   ///< of the winding
    double capacitanceF = 0.0;  ///< of its cable
    double resonanceHz = 0.0;
};

/// Close turns of thin 50 ohm coax on the pipe on which they come nearest to as long as they are wide,
/// resonant at this frequency: 1/(2 pi sqrt(L C)) with L of the winding of its shield and C of all of its
/// cable. The inner conductor's far end is joined to the near end of the shield.
///
/// R. H. Johns, "Coaxial Cable Antenna Traps", QST, May 1981. L as in winding.h, with the cable as the wire.
CoaxTrap coaxTrapFor(double resonanceHz);

}  // namespace rm::build
