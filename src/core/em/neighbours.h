// Where wires come close to each other: the charge on a wire changes fast where something beside it begins or
// ends, over a length like the distance.
#pragma once

#include <vector>

#include "core/model/wire_model.h"

namespace rm::em {

/// A place on a wire, and how far the nearest end, bend, feed, step or crossing of another wire is from it.
struct NearPlace {
    double atM = 0.0;  ///< from the start of the wire; 0 and its length: the ends
    double distanceM = 0.0;
};

/// For every wire the places beside which another wire has an end, a bend, a step of its radius, a joint, a
/// port, or crosses, no farther away than `reachM` and than the wire is long. In order along the wire, ends
/// excluded where nothing is near; of places closer together than their distance the nearer one stays. Equal
/// radials of one hub have the same places. Does not depend on the order or the direction of the wires.
std::vector<std::vector<NearPlace>> nearPlaces(const model::WireModel& model, double reachM);

}  // namespace rm::em
