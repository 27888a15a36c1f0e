// Where a part goes that would lie on another one.
#pragma once

#include "core/model/design.h"

namespace rm::edit {

/// Moves a part by a metre or a few (three feet or a few) to a side, forward, up or between these, the first
/// of them where it brings no error: what is duplicated would lie on what it was made from. It stays where
/// none will do, and where its place comes from supports, or from dimensions that others have, too.
void setApart(model::Design& design, model::Id part, bool feet);

}  // namespace rm::edit
