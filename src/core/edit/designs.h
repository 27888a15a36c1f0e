// Designs of a project: made, copied, chosen, removed. Which one is on the bench, and on which band, is only
// looked at: choosing is no edit (see Document::look).
#pragma once

#include <optional>

#include "core/model/design.h"

namespace rm::edit {

/// A project with one straight dipole for 20 m and a few bands, in metres or in feet and inches.
model::Project starterProject(bool feetAndInches = false);

/// A new design for the working band, on the bench.
[[nodiscard]] model::Project newDesign(model::Project project);
/// A design that comes from elsewhere, on the bench, on the band it is for.
[[nodiscard]] model::Project addDesign(model::Project project, model::Design design);
/// A copy of the design on the bench, on the bench in its place.
[[nodiscard]] model::Project copyDesign(model::Project project);
/// Without the design on the bench. Throws rm::Error where it is the only one.
[[nodiscard]] model::Project removeDesign(model::Project project);

/// Puts a design on the bench, on the working band where it is for that, otherwise on its own first band. The
/// project as it was where the design is gone.
[[nodiscard]] model::Project chooseDesign(model::Project project, model::Id design);
/// The band of this name, where there is one.
[[nodiscard]] model::Project chooseBand(model::Project project, const std::string& band);
/// Other bands; the working band stays by its name.
[[nodiscard]] model::Project setBands(model::Project project, const std::vector<model::Band>& bands,
                                      const model::SwrLimits& limits);
/// With these bands, where it has none of their names, from the lowest to the highest.
[[nodiscard]] model::Project withBands(model::Project project, const std::vector<model::Band>& bands);

/// The band that is worked on; round `frequencyHz` where the project has none.
model::Band workingBand(const model::Project& project, double frequencyHz);
/// Whether the design is for this band.
bool isFor(const model::Design& design, const std::string& band);
/// Which of these bands to look at a design on: the working one where the design is for it, otherwise the
/// first that it is for; nothing where there is none.
std::optional<std::size_t> bandFor(const model::Design& design, const std::vector<model::Band>& bands,
                                   std::size_t working);

}  // namespace rm::edit
