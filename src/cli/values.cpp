#include "cli/values.h"

#include <fmt/format.h>

#include "core/model/limits.h"
#include "core/quantity/number.h"

namespace rm::cli {

CLI::Validator number(double low, double high, const std::string& unit) {
    const std::string range = fmt::format("{:g} to {:g}{}", low, high, unit.empty() ? "" : " " + unit);
    return {[=](std::string& text) -> std::string {
                const auto value = quantity::readNumber(text);
                if (value && *value >= low && *value <= high) return {};
                return fmt::format("\"{}\" is not a number from {}.", quantity::plainText(text), range);
            },
            range};
}

CLI::Validator frequencyMhz() {
    return number(model::kLowestHz / 1e6, model::kHighestHz / 1e6, "MHz");
}

}  // namespace rm::cli
