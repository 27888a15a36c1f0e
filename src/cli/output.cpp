#include "cli/output.h"

#include <fmt/format.h>

#include "core/project/json_text.h"

namespace rm::cli {

void printJson(const nlohmann::json& json) {
    fmt::print("{}\n", io::jsonText(json, 2));
}

}  // namespace rm::cli
