// What --json prints.
#pragma once

#include <nlohmann/json_fwd.hpp>

namespace rm::cli {

void printJson(const nlohmann::json& json);

}  // namespace rm::cli
