// From a place on a wire of the model to the place that a designer names, and what else lies there.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/model/expand.h"

namespace rm::edit {

/// Where a feed, a load or an end of a line can sit.
struct Spot {
    std::string part;
    model::Place place;
    Vec3 atM = Vec3::Zero();
    std::string name;     ///< "middle of Loop", "corner 2 of Loop", "12 % along Dipole"
    bool marked = false;  ///< a middle, an end, a corner or a simple fraction
};

/// All spots of a part that deserve a name: ends, corners, the middle, the middles of sides, thirds and
/// tenths of a straight wire. Of copies those of the first.
std::vector<Spot> markedSpots(const model::Design& design, const model::Expansion& expansion,
                              const std::string& part);

/// The spot at `share` (0 to 1) of wire `wire`, to a percent of the part.
std::optional<Spot> spotAt(const model::Design& design, const model::Expansion& expansion, std::size_t wire,
                           double share);

/// Between what and what a feed of the model sits: "between Vertical and Radials (4 wires)"; for one in a
/// wire "in Dipole".
std::string sidesOf(const model::Expansion& expansion, std::size_t feed);

/// Parts that a feed could take with it: others whose wires meet in its joint.
std::vector<std::string> meetingAt(const model::Expansion& expansion, std::size_t feed);

}  // namespace rm::edit
