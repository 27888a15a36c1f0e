// Equal wires round a hub, found before anything is cut into spans.
#pragma once

#include <vector>

#include "core/model/wire_model.h"

namespace rm::em {

struct Radial {
    std::size_t wire = 0;
    bool fromStart = true;  ///< the hub is at the start of the wire
};

/// Six or more wires of one hub that are equally long, thick and steep, whatever their bearing. A wire may be
/// in two sets, one for each of its ends.
std::vector<std::vector<Radial>> radialSets(const model::WireModel& model);

/// The least number of wires that make a set.
inline constexpr std::size_t kLeastRadials = 6;

}  // namespace rm::em
