// What stands on the site, and what is hung from it: pure changes of a project, as in items.h.
#pragma once

#include <string>
#include <vector>

#include "core/edit/fit.h"
#include "core/edit/items.h"

namespace rm::edit {

/// A support of usual size there, metres from the origin of the design. An edge runs on to the east.
[[nodiscard]] Added addSupport(model::Project project, model::SupportKind kind, double eastM, double northM);

/// A wire hung on these supports of the design, from one to the next, half a wave long where there is room
/// for it and otherwise all the way; the first part of a design that can be fed gets a feed. With fewer than
/// two names the first two supports hold it, and two masts are put up where the site has none. Over three or
/// more the middle is at the highest one between if the ends lie lower, otherwise the wire begins at the
/// first.
[[nodiscard]] Added addHung(model::Project project, std::vector<std::string> supports, double lambdaM);

/// Whether all that is switched on hangs from supports: the height of the site moves nothing then.
bool hangsAltogether(const model::Design& design);

/// The support as a conductor: a wire along it, from the ground (or along its edge), that moves with it.
[[nodiscard]] Added addAsWire(model::Project project, model::Id support);

/// Moves a support, or the other end of an edge, there; metres from the origin of the design. An edge keeps
/// its other end.
Fit placeSupport(model::Design& design, model::Id support, bool other, double eastM, double northM,
                 const Steps& steps);

/// Moves a support with both of its ends.
Fit shiftSupport(model::Design& design, model::Id support, double eastM, double northM, const Steps& steps);

Fit raiseSupport(model::Design& design, model::Id support, double heightM, const Steps& steps);

/// Wires that hang on it, by their names.
std::vector<std::string> hangingOn(const model::Design& design, const std::string& support);

}  // namespace rm::edit
