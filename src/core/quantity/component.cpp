#include "core/quantity/component.h"

#include "core/words/words.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace rm::quantity {

namespace {

struct Prefixed {
    double size;  ///< in the smallest unit
    const char* name;
};

/// In the largest of the units that leaves at least one before the point; so many digits, none of them a
/// power of ten.
template <std::size_t N>
std::string inUnits(double value, const Prefixed (&units)[N], int digits) {
    const Prefixed* unit = units;
    for (const Prefixed& larger : units)
        // As it is written: 999.6 to three digits is 1000.
        if (std::abs(value) >= larger.size * (1.0 - 0.5 * std::pow(10.0, -digits))) unit = &larger;
    const double shown = value / unit->size;
    const int before =
        std::abs(shown) < 1.0 ? 0 : static_cast<int>(std::floor(std::log10(std::abs(shown)) + 1e-9)) + 1;
    std::string text = fmt::format("{:.{}f}", shown, before >= digits ? 0 : digits - std::max(1, before));
    if (text.find('.') != std::string::npos) {
        text.erase(text.find_last_not_of('0') + 1);
        if (text.back() == '.') text.pop_back();
    }
    return decimals(text) + " " + unit->name;
}

}  // namespace

std::string formatCapacitance(double picofarad, int digits) {
    constexpr Prefixed kUnits[] = {{1.0, "pF"}, {1e3, "nF"}, {1e6, "µF"}};
    return inUnits(picofarad, kUnits, digits);
}

std::string formatInductance(double microhenry, int digits) {
    // A tenth of a microhenry is still one.
    const double nanohenry = 1e3 * microhenry;
    if (std::abs(nanohenry) >= 100.0 && std::abs(nanohenry) < 1e3)
        return figure("{:.{}g} µH", microhenry, digits);
    constexpr Prefixed kUnits[] = {{1.0, "nH"}, {1e3, "µH"}, {1e6, "mH"}};
    return inUnits(nanohenry, kUnits, digits);
}

}  // namespace rm::quantity
