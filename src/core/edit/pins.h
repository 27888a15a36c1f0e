// Pins: results that are kept, as the models that made them.
#pragma once

#include "core/model/design.h"

namespace rm::edit {

/// Named by what has changed since the last pin of this design, or by the design.
std::string pinName(const model::Project& project);

[[nodiscard]] model::Project addPin(model::Project project, const std::string& name,
                                    const model::Design& design);
/// Two pins: one of the design on the bench with the part, one without it. Throws rm::Error where it is gone.
[[nodiscard]] model::Project pinWithAndWithout(model::Project project, model::Id part);

// What follows throws rm::Error where the pin is gone.
[[nodiscard]] model::Project togglePin(model::Project project, model::Id pin);
[[nodiscard]] model::Project renamePin(model::Project project, model::Id pin, const std::string& name);
[[nodiscard]] model::Project colourPin(model::Project project, model::Id pin, int colour);
[[nodiscard]] model::Project removePin(model::Project project, model::Id pin);
[[nodiscard]] model::Project movePin(model::Project project, model::Id pin, int by);
/// 0: no baseline.
[[nodiscard]] model::Project setBaseline(model::Project project, model::Id pin);
/// The design that it was pinned from becomes the pinned one; where that is gone it comes back as a design of
/// its own. Either is on the bench then.
[[nodiscard]] model::Project restorePin(model::Project project, model::Id pin);
/// A new design from the pin.
[[nodiscard]] model::Project branchPin(model::Project project, model::Id pin);

}  // namespace rm::edit
