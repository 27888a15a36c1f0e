#include "cli/output.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

#include <ctime>

#include "core/project/json_text.h"

namespace rm::cli {

void printJson(const nlohmann::json& json) {
    fmt::print("{}\n", io::jsonText(json, 2));
}

std::string today() {
    return fmt::format("{:%Y-%m-%d}", fmt::localtime(std::time(nullptr)));
}

}  // namespace rm::cli
