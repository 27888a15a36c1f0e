// Starters: good designs to begin with. Each kind is a sketch in named dimensions from a wavelength, a height
// and a site, which is then brought to resonance or to its goals by solving it, not by a rule of thumb.
#pragma once

#include <stop_token>
#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::starters {

/// What a designer asks for.
struct Order {
    std::vector<model::Band>
        bands;              ///< the first is the one it is resonant on; others where the kind takes some
    model::Site site;       ///< ground and heading; the height is the kind's affair
    double heightM = 10.0;  ///< what supports there are reach
    model::Conductor wire;  ///< of what is made of wire
    /// A wire that is straight hangs between two supports of the site, where any two hold its length.
    bool onSupports = false;
};

struct Kind {
    std::string id;           ///< "inverted-v"
    std::string name;         ///< "Inverted V"
    std::string group;        ///< "Dipoles"
    std::string goodAt;       ///< a line or two for the one who chooses
    int bands = 1;            ///< how many it can serve: 2 for a trap dipole, 9 for as many as there are
    double lowestHz = 1.8e6;  ///< where it is built
    double highestHz = 60e6;
};

const std::vector<Kind>& kinds();
/// The kind with this id; null where there is none.
const Kind* findKind(const std::string& id);

/// The sketch: named dimensions, feed path and goals, with lengths by rule of thumb. Throws rm::Error for a
/// kind that is not there or an order without bands.
model::Design sketch(const std::string& kind, const Order& order);

/// The sketch brought to what it is for by solving it. Throws rm::Error where that cannot be done,
/// rm::Stopped where it is told to stop.
model::Design make(const std::string& kind, const Order& order, const std::stop_token& stop = {});

}  // namespace rm::starters
