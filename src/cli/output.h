// What --json prints, and the date of what is printed.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <string>

namespace rm::cli {

void printJson(const nlohmann::json& json);

/// "2026-11-28", for title blocks.
std::string today();

}  // namespace rm::cli
