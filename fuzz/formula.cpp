// Formulas and lengths: refused in a sentence, or a finite value; what is shown of a length is read as it.
#include <cmath>

#include "core/quantity/format.h"
#include "core/quantity/formula.h"
#include "core/quantity/number.h"
#include "target.h"

using namespace rm;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size == 0) return 0;
    const auto kind = static_cast<quantity::Kind>(data[0] % 5);
    const std::string text = fuzz::textOf(data + 1, size - 1);
    const quantity::Scope scope{{{"leg", 10.2}, {"n", 4.0}, {"turn", 30.0}}, 21.2};
    quantity::isUsableName(text);
    quantity::closestName(text, {"leg", "turn"});
    fuzz::require(quantity::plainText(quantity::plainText(text)) == quantity::plainText(text),
                  "plain text is plain");
    double value = 0.0;
    try {
        const auto names = quantity::namesIn(text);
        fuzz::require(!quantity::isPlainNumber(text) || names.empty(), "a plain number uses no names", text);
        value = quantity::evaluate(text, kind, scope);
    } catch (const Error&) {
        return 0;
    }
    fuzz::require(std::isfinite(value), "values are finite", text);
    if (kind != quantity::Kind::Length || std::abs(value) > 1e5) return 0;
    for (const auto style : {quantity::LengthStyle::Metric, quantity::LengthStyle::FeetInches}) {
        const std::string shown = quantity::formatLength(value, style);
        const double again = quantity::evaluate(shown, kind, scope);
        fuzz::require(std::abs(again - value) <= 0.0016 + 1e-3 * std::abs(value),
                      "a length is read as it is shown", text + " is shown as " + shown);
    }
    return 0;
}
