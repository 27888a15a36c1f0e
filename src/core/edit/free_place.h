// Where something new sits on a part.
#pragma once

#include <vector>

#include "core/model/design.h"

namespace rm::edit {

/// The first of these places along the part, in percent from its start, where neither a feed nor a load sits
/// yet; of an element row on any of its elements, the driven one first. The first place where all are taken.
model::Place freePlace(const model::Design& design, const model::Part& part,
                       const std::vector<int>& percents);

/// In the order in which feeds and loads are put along a wire.
inline const std::vector<int> kFeedPlaces = {50, 25, 75, 12, 37, 62, 87};
inline const std::vector<int> kLoadPlaces = {25, 75, 50, 12, 37, 62, 87};

}  // namespace rm::edit
