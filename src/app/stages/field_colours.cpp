#include "app/stages/field_colours.h"

#include <algorithm>
#include <cmath>

namespace rm::app {

namespace {

/// Of the points of a map so many are allowed to be beyond the end of the scale: those next to a wire.
constexpr double kBeyond = 0.004;
/// From the strongest to the weakest colour, as a ratio: 40 dB.
constexpr double kSpan = 100.0;

QColor mixed(const QColor& a, const QColor& b, double share) {
    const auto mix = [&](float x, float y) { return static_cast<float>(x + share * (y - x)); };
    return QColor::fromRgbF(mix(a.redF(), b.redF()), mix(a.greenF(), b.greenF()), mix(a.blueF(), b.blueF()));
}

QColor along(const std::vector<QColor>& colours, double share) {
    const double at = std::clamp(share, 0.0, 1.0) * static_cast<double>(colours.size() - 1);
    const auto first = std::min(static_cast<std::size_t>(at), colours.size() - 2);
    return mixed(colours[first], colours[first + 1], at - static_cast<double>(first));
}

}  // namespace

double FieldScale::share(double value) const {
    if (sign) return std::clamp(0.5 + 0.5 * value / high, 0.0, 1.0);
    if (even) return std::clamp(value / high, 0.0, 1.0);
    if (!(value > low)) return 0.0;
    return std::clamp(std::log(value / low) / std::log(high / low), 0.0, 1.0);
}

double FieldScale::valueAt(double share) const {
    if (sign) return (2.0 * share - 1.0) * high;
    if (even) return share * high;
    return low * std::pow(high / low, share);
}

FieldScale fieldScale(const study::FieldMap& map, const NearLook& look, bool sign) {
    std::vector<double> values;
    values.reserve(map.fields.size());
    for (const auto& field : map.fields)
        values.push_back(std::abs(study::fieldValue(field, look.kind, look.part, look.peak || sign)));
    FieldScale scale;
    scale.even = look.even;
    scale.sign = sign;
    if (values.empty()) return scale;
    const auto at = values.begin() +
                    static_cast<std::ptrdiff_t>((1.0 - kBeyond) * static_cast<double>(values.size() - 1));
    std::nth_element(values.begin(), at, values.end());
    scale.high = std::max(*at, 1e-12);
    // Flow of power is the square of a field: the same decibels are twice the span.
    scale.low = scale.high / (look.kind == study::FieldKind::Power ? kSpan * kSpan : kSpan);
    return scale;
}

QColor fieldColour(const Theme& theme, double share, bool sign) {
    if (sign) return along({theme.water, theme.panel, theme.copper}, share);
    if (theme.dark) return along({theme.yard, theme.water, theme.copper, theme.sun.lighter(125)}, share);
    return along({theme.panel, mixed(theme.panel, theme.water, 0.75), theme.copper, theme.clay.darker(150)},
                 share);
}

QImage fieldImage(const study::FieldMap& map, const NearLook& look, const FieldScale& scale,
                  const Theme& theme, std::optional<double> phase, int alpha) {
    QImage image(map.plane.columns, map.plane.rows, QImage::Format_ARGB32);
    constexpr int kSteps = 256;
    std::array<QRgb, kSteps> table{};
    for (int i = 0; i < kSteps; ++i) {
        QColor colour = fieldColour(theme, static_cast<double>(i) / (kSteps - 1), scale.sign);
        colour.setAlpha(alpha);
        table[static_cast<std::size_t>(i)] = colour.rgba();
    }
    for (int row = 0; row < map.plane.rows; ++row) {
        auto* line = reinterpret_cast<QRgb*>(image.scanLine(map.plane.rows - 1 - row));
        for (int column = 0; column < map.plane.columns; ++column) {
            const auto& field = map.at(column, row);
            const double value = phase ? study::fieldAtPhase(field, look.kind, look.part, *phase)
                                       : study::fieldValue(field, look.kind, look.part, look.peak);
            const double share = scale.share(scale.sign ? value : std::abs(value));
            line[column] = table[static_cast<std::size_t>(std::lround(share * (kSteps - 1)))];
        }
    }
    return image;
}

}  // namespace rm::app
