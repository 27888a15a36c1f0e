// Goals, movers and limits of a design as JSON.
#pragma once

#include "core/project/json_members.h"

namespace rm::io {

model::TunePlan readPlan(const json& j, const std::string& where);
json writePlan(const model::TunePlan& plan);

}  // namespace rm::io
