#include "app/plot/ticks.h"

#include <algorithm>
#include <cmath>

namespace rm::app {

double roundStep(double span, int parts) {
    const double raw = span / parts;
    if (!(raw > 0.0) || !std::isfinite(raw)) return 1.0;
    const double power = std::pow(10.0, std::floor(std::log10(raw)));
    for (const double m : {1.0, 2.0, 2.5, 5.0, 10.0})
        if (m * power >= raw * 0.999) return m * power;
    return 10.0 * power;
}

std::vector<double> ticksBy(double low, double high, double step) {
    std::vector<double> list;
    if (!std::isfinite(low) || !std::isfinite(high) || !(step > 0.0) || (high - low) / step > kMostTicks)
        return list;
    const double first = std::ceil(low / step - 1e-9);
    const double last = std::floor(high / step + 1e-9);
    // Counted, so that no step is lost against a large value.
    for (double n = first; n <= last && static_cast<int>(list.size()) < kMostTicks; n += 1.0) {
        if (n + 1.0 <= n) break;
        list.push_back(n == 0.0 ? 0.0 : n * step);
    }
    return list;
}

void Range::include(double value) {
    if (!std::isfinite(value)) return;
    if (empty()) {
        low = high = value;
        return;
    }
    low = std::min(low, value);
    high = std::max(high, value);
}

Range Range::rounded(int parts, double least) const {
    Range wide = empty() ? Range{0.0, least} : *this;
    if (wide.span() < least) {
        const double middle = 0.5 * (wide.low + wide.high);
        wide = {middle - 0.5 * least, middle + 0.5 * least};
    }
    const double step = roundStep(wide.span(), parts);
    const Range rounded{std::floor(wide.low / step) * step, std::ceil(wide.high / step) * step};
    return rounded.span() > 0.0 && std::isfinite(rounded.span()) ? rounded : Range{0.0, least};
}

}  // namespace rm::app
