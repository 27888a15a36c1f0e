#include "core/model/expand_places.h"

#include <fmt/format.h>

#include <algorithm>

namespace rm::model {

using quantity::Kind;

std::vector<const Unit*> Places::unitsNamed(const std::string& name, const std::string& partName) const {
    std::vector<const Unit*> all;
    for (const auto& unit : units_)
        if (!unit.label.empty() && unit.name() == partName) return {&unit};
    for (const auto& unit : units_)
        if (unit.base == partName) all.push_back(&unit);
    if (all.empty())
        values_.problem(name,
                        fmt::format("{} is on {}, which is not there.", name,
                                    partName.empty() ? "nothing" : "\"" + partName + "\""),
                        "Choose a part for it.");
    return all;
}

std::string Places::withLabel(const std::string& name, const Unit& unit, bool several) {
    return several && !unit.label.empty() ? fmt::format("{} ({})", name, unit.label) : name;
}

bool Places::locate(const std::string& name, const Unit& unit, const Place& place, WirePlace& where) const {
    if (unit.wires.empty()) return false;
    const auto found = std::find_if(unit.paths.begin(), unit.paths.end(),
                                    [&](const PathOfUnit& p) { return p.element == place.element; });
    if (found == unit.paths.end()) {
        values_.problem(
            name,
            place.element.empty()
                ? fmt::format("{} is on {}, but on none of its elements.", name, unit.base)
                : fmt::format("{} is on \"{}\" of {}, which is not there.", name, place.element, unit.base),
            "Choose an element for it.");
        return false;
    }
    const PathOfUnit& path = *found;
    const std::string& partName = unit.base;
    const std::size_t first = unit.firstWire + path.first;
    std::vector<double> lengths;
    double total = 0.0;
    for (std::size_t i = 0; i < path.count; ++i) {
        lengths.push_back(model_.wires[first + i].lengthM());
        total += lengths.back();
    }
    double at = 0.0;
    switch (place.kind) {
        case PlaceKind::Start:
            where = {first, 0.0};
            return true;
        case PlaceKind::End:
            where = {first + path.count - 1, 1.0};
            return true;
        case PlaceKind::Corner: {
            values_.failed = false;
            // Corners are counted from the first bend; on a loop, corner 1 is where it starts.
            std::vector<std::size_t> bends;
            for (std::size_t i = path.closed ? 0 : 1; i < path.count; ++i)
                if (!model_.wires[first + i].runsOn) bends.push_back(first + i);
            if (bends.empty()) {
                values_.problem(name, fmt::format("{} sits on a corner, but {} has none.", name, partName),
                                "Put it in the middle or at an end.");
                return false;
            }
            const int corner =
                values_.count(place.value, 1, static_cast<int>(bends.size()), name, "the corner");
            if (values_.failed) return false;
            where = {bends[static_cast<std::size_t>(corner - 1)], 0.0};
            return true;
        }
        case PlaceKind::Middle:
            at = 0.5 * total;
            break;
        case PlaceKind::Distance:
            values_.failed = false;
            at = values_.value(place.value, Kind::Length, name, "the distance");
            if (at < 0.0) at += total;  // counted from the end
            break;
        case PlaceKind::Percent: {
            values_.failed = false;
            const double v = values_.value(place.value, Kind::Number, name, "the percentage");
            at = total * (place.value.find('%') != std::string::npos ? v : v / 100.0);
            break;
        }
    }
    if (values_.failed && (place.kind == PlaceKind::Distance || place.kind == PlaceKind::Percent))
        return false;
    if (at < -1e-9 || at > total * (1.0 + 1e-9)) {
        values_.problem(
            name, fmt::format("{} is {:.3f} m along {}, which is {:.3f} m long.", name, at, partName, total),
            "Choose a place on the wire.");
        return false;
    }
    std::size_t i = 0;
    while (i + 1 < path.count && at > lengths[i] * (1.0 - 1e-9)) at -= lengths[i++];
    where = {first + i, lengths[i] > 0.0 ? std::clamp(at / lengths[i], 0.0, 1.0) : 0.5};
    if (where.at < 1e-9) where.at = 0.0;
    if (where.at > 1.0 - 1e-9) where.at = 1.0;
    return true;
}

Vec3 Places::pointOf(const WirePlace& place) const {
    const auto& wire = model_.wires[place.wire];
    return wire.startM + place.at * (wire.endM - wire.startM);
}

}  // namespace rm::model
