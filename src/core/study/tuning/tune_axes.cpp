#include "core/study/tuning/tune_axes.h"
#include "core/model/dimension_kind.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/model/geometry.h"
#include "core/quantity/format.h"
#include "core/study/tuning/goal_words.h"
#include "core/words/words.h"

namespace rm::study {

namespace {

/// Values separated by commas, in order.
std::vector<double> listOf(const std::string& text, const std::string& name, quantity::Kind kind) {
    std::vector<double> values;
    for (std::size_t from = 0; from <= text.size();) {
        const auto comma = std::min(text.find(',', from), text.size());
        const std::string one = text.substr(from, comma - from);
        from = comma + 1;
        if (one.find_first_not_of(' ') == std::string::npos) continue;
        try {
            values.push_back(quantity::evaluate(one, kind, {}));
        } catch (const Error& e) {
            throw Error(say("The choices for {}: {}", name, e.what()));
        }
    }
    std::sort(values.begin(), values.end());
    values.erase(std::unique(values.begin(), values.end()), values.end());
    if (values.size() < 2)
        throw Error(say("The choices for {} are fewer than two: separate them by commas.", name));
    return values;
}

std::size_t nearestOf(const std::vector<double>& choices, double value) {
    return static_cast<std::size_t>(
        std::min_element(choices.begin(), choices.end(),
                         [&](double a, double b) { return std::abs(a - value) < std::abs(b - value); }) -
        choices.begin());
}

/// Least distance of two wires that do not hang together.
double apartM(const std::vector<model::PlainWire>& wires) {
    std::vector<std::size_t> group(wires.size());
    std::iota(group.begin(), group.end(), std::size_t{0});
    const auto rootOf = [&](std::size_t i) {
        while (group[i] != i) i = group[i];
        return i;
    };
    struct Pair {
        std::size_t a;
        std::size_t b;
        double distanceM;
    };
    std::vector<Pair> pairs;
    for (std::size_t a = 0; a < wires.size(); ++a)
        for (std::size_t b = a + 1; b < wires.size(); ++b) {
            const double d =
                model::nearestPoints(wires[a].startM, wires[a].endM, wires[b].startM, wires[b].endM)
                    .distanceM;
            if (d <= model::joinToleranceM(wires[a].radiusM, wires[b].radiusM))
                group[rootOf(a)] = rootOf(b);
            else
                pairs.push_back({a, b, d});
        }
    double least = 1e9;
    for (const auto& pair : pairs)
        if (rootOf(pair.a) != rootOf(pair.b)) least = std::min(least, pair.distanceM);
    return least;
}

}  // namespace

double Axis::at(double scaled) const {
    if (!discrete()) return low + (high - low) * scaled;
    const auto last = static_cast<double>(choices.size() - 1);
    return choices[static_cast<std::size_t>(std::lround(std::clamp(scaled, 0.0, 1.0) * last))];
}

double Axis::scaled(double value) const {
    if (!discrete()) return std::clamp((value - low) / (high - low), 0.0, 1.0);
    return static_cast<double>(nearestOf(choices, value)) / static_cast<double>(choices.size() - 1);
}

double Axis::built(double value) const {
    if (discrete()) return choices[nearestOf(choices, value)];
    return std::clamp(std::round(value / step) * step, low, high);
}

std::string dimensionText(model::DimensionKind kind, double value) {
    return fmt::format("{:.12g}{}", value,
                       kind == model::DimensionKind::Length  ? " m"
                       : kind == model::DimensionKind::Angle ? " deg"
                                                             : "");
}

std::vector<Axis> axesOf(const model::Design& design, const std::map<std::string, double>& resume) {
    std::vector<Axis> axes;
    const auto scope = model::scopeOf(design);
    for (const auto& mover : design.tune.movers) {
        if (!mover.enabled) continue;
        const auto found = std::find_if(design.dimensions.begin(), design.dimensions.end(),
                                        [&](const auto& d) { return d.name == mover.dimension; });
        if (found == design.dimensions.end())
            throw Error(say("\"{}\" may move, but there is no such dimension.", mover.dimension));
        if (!quantity::isPlainNumber(found->text))
            throw Error(say("{} follows by its formula \"{}\": let what it follows from move instead.",
                            found->name, found->text));
        Axis axis;
        axis.name = found->name;
        axis.kind = found->kind;
        const auto read = [&](const std::string& text, double fallback) {
            if (text.empty()) return fallback;
            try {
                return quantity::evaluate(text, model::kindOf(found->kind), scope);
            } catch (const Error& e) {
                throw Error(say("What {} may move over: {}", mover.dimension, e.what()));
            }
        };
        axis.now = read(found->text, 0.0);
        if (const auto kept = resume.find(axis.name); kept != resume.end()) axis.now = kept->second;
        if (!mover.choices.empty()) {
            axis.choices = listOf(mover.choices, mover.dimension, model::kindOf(found->kind));
            axis.low = axis.choices.front();
            axis.high = axis.choices.back();
            axes.push_back(axis);
            continue;
        }
        const double now = read(found->text, 0.0);
        const double reach = std::max(0.15 * std::abs(now), 1e-3);
        axis.low = read(mover.low.empty() ? found->low : mover.low, now - reach);
        axis.high = read(mover.high.empty() ? found->high : mover.high, now + reach);
        axis.step =
            read(mover.step, axis.kind == model::DimensionKind::Length  ? 1e-3
                             : axis.kind == model::DimensionKind::Angle ? 0.1
                                                                        : 1e-3 * (axis.high - axis.low));
        if (!(axis.high > axis.low) || !(axis.step > 0.0))
            throw Error(say("{} has no room to move: its lower limit has to lie below its upper one.",
                            mover.dimension));
        axes.push_back(axis);
    }
    if (axes.empty()) throw Error(say("Nothing may move: choose the dimensions first."));
    return axes;
}

model::Design withValues(const model::Design& design, const std::map<std::string, double>& values,
                         bool tidy) {
    model::Design d = design;
    for (auto& dimension : d.dimensions) {
        const auto found = values.find(dimension.name);
        if (found == values.end()) continue;
        const std::string like =
            quantity::isPlainNumber(dimension.text) ? dimension.text : std::string("1 m");
        if (!tidy)
            dimension.text = dimensionText(dimension.kind, found->second);
        else if (dimension.kind == model::DimensionKind::Length)
            dimension.text = quantity::lengthLike(like, found->second);
        else
            dimension.text = fmt::format("{:.6g}{}", found->second,
                                         dimension.kind == model::DimensionKind::Angle ? " deg" : "");
    }
    return d;
}

double builtM(const model::Expansion& e, model::LimitKind kind) {
    double most = 0.0;
    double total = 0.0;
    double low = 1e300;
    double high = -1e300;
    std::map<std::string, double> lengths;
    for (const auto& wire : e.model.wires) {
        lengths[wire.part] += wire.lengthM();
        total += wire.lengthM();
        low = std::min({low, wire.startM.z(), wire.endM.z()});
        high = std::max({high, wire.startM.z(), wire.endM.z()});
    }
    switch (kind) {
        case model::LimitKind::LongestElement:
            for (const auto& row : e.rows)
                for (const auto& element : row.elements) most = std::max(most, element.lengthM);
            if (e.rows.empty())
                for (const auto& [part, length] : lengths) most = std::max(most, length);
            return most;
        case model::LimitKind::BoomLength:
            for (const auto& row : e.rows) most = std::max(most, row.boomLengthM());
            return most;
        case model::LimitKind::TotalWire:
            return total;
        case model::LimitKind::HighestPoint:
            return high;
        case model::LimitKind::KeepApart:
            return apartM(e.model.wires);
        default:
            return low;
    }
}

double PlainLimit::overM(const model::Expansion& design) const {
    const double over = builtM(design, kind) - limitM;
    return kind == model::LimitKind::LowestPoint || kind == model::LimitKind::KeepApart ? -over : over;
}

std::vector<PlainLimit> limitsOf(const model::Design& design) {
    std::vector<PlainLimit> limits;
    const auto scope = model::scopeOf(design);
    for (const auto& limit : design.tune.limits) {
        if (!limit.enabled) continue;
        try {
            limits.push_back({limit.kind, quantity::evaluate(limit.value, quantity::Kind::Length, scope)});
        } catch (const Error& e) {
            throw Error(say("The limit for {}: {}", nameOf(limit.kind), e.what()));
        }
    }
    return limits;
}

}  // namespace rm::study
