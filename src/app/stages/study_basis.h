// What a study rests on, so that it can be told when it has become old.
#pragma once

#include "app/session/session.h"

namespace rm::app {

enum class Varied { Height, Ground, Radials, Nothing };

/// All that a study of the design on the bench rests on, but what it varies itself.
std::string studyBasis(const Session& session, Varied varied);

/// The same of a design that what is varied has been taken out of.
std::string studyBasis(const Session& session, model::Design rest);

/// The design without its name, its goals and what is typed for these dimensions.
model::Design withoutTyped(model::Design design, const std::vector<std::string>& dimensions);

}  // namespace rm::app
