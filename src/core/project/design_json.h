// Designs and their plans as JSON, described member by member in docs/formats.md.
#pragma once

#include <nlohmann/json_fwd.hpp>

#include "core/model/design.h"

namespace rm::io {

/// Throws rm::Error that says which member of which item is wrong; `where` names the design.
model::Design readDesign(const nlohmann::json& j, const std::string& where);
nlohmann::json writeDesign(const model::Design& design);

/// Goals, movers and limits alone.
model::TunePlan readPlan(const nlohmann::json& j, const std::string& where);

}  // namespace rm::io
