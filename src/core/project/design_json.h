// A design as JSON, described member by member in docs/formats.md.
#pragma once

#include <nlohmann/json.hpp>

#include "core/model/design.h"

namespace rm::io {

/// Throws rm::Error that says which member of which item is wrong. `number` names a design without a name.
model::Design readDesign(const nlohmann::json& j, std::size_t number);
nlohmann::json writeDesign(const model::Design& design);

}  // namespace rm::io
