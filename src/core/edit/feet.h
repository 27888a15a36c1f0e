// Lengths that the program writes into a project that is read in feet and inches.
#pragma once

#include <string>

#include "core/model/design.h"

namespace rm::edit {

/// What is new and needs only a rough size is rounded to so many feet.
inline constexpr double kRoughFt = 0.5;

/// A length as one types it there: as on a tape where it is on a mark of it to a twentieth of a millimetre
/// ("66' 6\""), else in feet ("65.61680 ft").
std::string feetText(double metres);

/// As one types it in a project: in feet, or "20 m" to a hundredth of a millimetre.
std::string typedIn(const model::Project& project, double metres);

/// The design with its lengths in feet where they were numbers in metres, cm or mm: dimensions to the next
/// mark of a tape, where its wires still meet as they did, and the fields of its parts as they are.
[[nodiscard]] model::Design inFeet(model::Design design);

/// The part with its fields in feet where they were numbers in metres, cm or mm; rounded to so many feet
/// where only their rough size matters.
[[nodiscard]] model::Part inFeet(model::Part part, double roundedToFt = 0.0);

/// The same of a block of the feed path: the length of its line.
[[nodiscard]] model::FeedBlock inFeet(model::FeedBlock block);

/// The same of a support.
[[nodiscard]] model::Support inFeet(model::Support support, double roundedToFt = 0.0);

}  // namespace rm::edit
