// Ids for what has none yet, and for copies that still carry the id of what they were copied from.
#pragma once

#include "core/model/design.h"

namespace rm::edit {

/// Gives every item of the project an id of its own: those with none, and those whose id stands further up
/// already, get the next ones after `lastId`. The design inside a pin keeps the id of the design that it was
/// pinned from, which is how it is found again; one that has none takes that of the design of its name.
void giveIds(model::Project& project);

}  // namespace rm::edit
