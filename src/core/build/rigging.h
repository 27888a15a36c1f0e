// What hangs and what is pegged: ropes, heights, sag and pull, and where pegs and the ends of radials and
// guys come to lie.
#pragma once

#include <string>
#include <vector>

#include "core/model/expand.h"

namespace rm::build {

/// One span of a hung wire.
struct HungRow {
    std::string part;
    std::string from;
    std::string to;
    double ropeM = 0.0;    ///< in this span
    double wireM = 0.0;    ///< in this span
    double fromUpM = 0.0;  ///< height of the rope or wire at `from`
    double toUpM = 0.0;
    double middleUpM = 0.0;  ///< of the middle of the span, with its sag
    double sagM = 0.0;
    double pullN = 0.0;       ///< 0: taut, without a weight
    double slopeDeg = 0.0;    ///< at `from`, above the horizon towards `to`
    double bearingDeg = 0.0;  ///< compass, from `from` to `to`
};

/// Something to drive in or to peg out.
struct PegRow {
    std::string what;         ///< "Peg", "Radials, end 3"
    std::string from;         ///< where the distance counts from: "the middle of the site", "Radials"
    double bearingDeg = 0.0;  ///< compass
    double distanceM = 0.0;   ///< level
    double upM = 0.0;         ///< above the ground
};

struct Rigging {
    std::vector<HungRow> hung;
    std::vector<PegRow> pegs;
};

Rigging riggingOf(const model::Design& design, const model::Expansion& expansion);

}  // namespace rm::build
