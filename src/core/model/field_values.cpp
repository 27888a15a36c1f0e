#include "core/model/field_values.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/words/words.h"

namespace rm::model {

using quantity::Kind;

void FieldValues::problem(const std::string& item, const std::string& sentence, const std::string& mend) {
    findings.push_back({Severity::Error, item, sentence, mend});
    failed = true;
}

double FieldValues::value(const std::string& text, Kind kind, const std::string& item,
                          const std::string& field) {
    try {
        return quantity::evaluate(text, kind, scope);
    } catch (const Error& e) {
        problem(item, fmt::format("{}, {}: {}", item, field, e.what()),
                say("Type a number with its unit, or a formula."));
        return 0.0;
    }
}

double FieldValues::positive(const std::string& text, Kind kind, const std::string& item,
                             const std::string& field) {
    const double v = value(text, kind, item, field);
    if (!failed && !(v > 0.0))
        problem(item, say("{}: {} has to be above zero.", item, field), say("Type a larger value."));
    return v;
}

double FieldValues::within(const std::string& text, Kind kind, double low, double high,
                           const std::string& item, const std::string& field) {
    const double v = value(text, kind, item, field);
    if (!failed && !(v >= low && v <= high))
        problem(item, say("{}: {} is {:g}.", item, field, v),
                say("Use a value from {:g} to {:g}.", low, high));
    return std::clamp(v, low, high);
}

std::optional<double> FieldValues::maybe(const std::string& text, const std::string& item,
                                         const std::string& field, double unit) {
    if (text.empty()) return std::nullopt;
    return positive(text, Kind::Number, item, field) * unit;
}

int FieldValues::count(const std::string& text, int low, int high, const std::string& item,
                       const std::string& field) {
    const double v = value(text, Kind::Number, item, field);
    // Before it becomes an integer: not every number has one.
    const int n = static_cast<int>(std::lround(std::clamp(v, low - 1.0, high + 1.0)));
    if (!failed && (n < low || n > high || std::abs(v - n) > 1e-6)) {
        problem(item, say("{}: {} is {:g}.", item, field, v),
                say("Use a whole number from {} to {}.", low, high));
        return low;
    }
    return std::clamp(n, low, high);
}

Vec3 FieldValues::point(const PointText& text, const std::string& item, const std::string& field) {
    return {value(text[0], Kind::Length, item, field + say(" forward")),
            value(text[1], Kind::Length, item, field + say(" left")),
            value(text[2], Kind::Length, item, field + say(" height"))};
}

double FieldValues::radius(const std::string& text, const std::string& item, const std::string& field) {
    constexpr double kStrip = 0.25;
    constexpr double kSquare = 0.59;
    const auto begins = [&](const std::string& word) { return text.rfind(word, 0) == 0; };
    double radius = 0.0;
    if (begins("strip "))
        radius = kStrip * value(text.substr(6), Kind::Diameter, item, field);
    else if (begins("square "))
        radius = kSquare * value(text.substr(7), Kind::Diameter, item, field);
    else
        radius = 0.5 * value(text, Kind::Diameter, item, field);
    if (!failed && radius <= 0.0)
        problem(item, say("{} has no thickness.", item), say("Give it a diameter above zero."));
    return radius;
}

}  // namespace rm::model
