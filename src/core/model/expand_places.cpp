#include "core/model/expand_places.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/quantity/format.h"
#include "core/words/words.h"

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
                        say("{} is on {}, which is not there.", name,
                            partName.empty() ? say("nothing") : "\"" + partName + "\""),
                        say("Choose a part for it."));
    return all;
}

std::string Places::withLabel(const std::string& name, const Unit& unit, bool several) {
    return several && !unit.label.empty() ? fmt::format("{} ({})", name, unit.label) : name;
}

/// Where the sides of a path begin: at its first wire, and wherever one does not run on from the one before.
std::vector<std::size_t> Places::sides(const PathOfUnit& path, std::size_t first) const {
    std::vector<std::size_t> starts{first};
    for (std::size_t i = 1; i < path.count; ++i)
        if (!model_.wires[first + i].runsOn) starts.push_back(first + i);
    return starts;
}

std::optional<std::size_t> Places::numberOf(const std::string& name, const Place& place, std::size_t count,
                                            const std::string& what, const std::string& partName) const {
    if (count == 0) {
        values_.problem(name, say("{} sits on a {}, but {} has none.", name, what, partName),
                        say("Put it in the middle or at an end."));
        return std::nullopt;
    }
    values_.failed = false;
    const int number = values_.count(place.value, 1, static_cast<int>(count), name, say("the {}", what));
    if (values_.failed) return std::nullopt;
    return static_cast<std::size_t>(number);
}

bool Places::locate(const std::string& name, const Unit& unit, const Place& place, WirePlace& where) const {
    if (unit.wires.empty()) return false;
    const auto found = std::find_if(unit.paths.begin(), unit.paths.end(),
                                    [&](const PathOfUnit& p) { return p.element == place.element; });
    if (found == unit.paths.end()) {
        values_.problem(
            name,
            place.element.empty()
                ? say("{} is on {}, but on none of its elements.", name, unit.base)
                : say("{} is on \"{}\" of {}, which is not there.", name, place.element, unit.base),
            say("Choose an element for it."));
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
            // Corners are counted from the first bend; on a loop, corner 1 is where it starts.
            auto corners = sides(path, first);
            if (!path.closed || model_.wires[first].runsOn) corners.erase(corners.begin());
            const auto corner = numberOf(name, place, corners.size(), say("corner"), partName);
            if (!corner) return false;
            where = {corners[*corner - 1], 0.0};
            return true;
        }
        case PlaceKind::Side: {
            const auto starts = sides(path, first);
            const auto side = numberOf(name, place, starts.size(), say("side"), partName);
            if (!side) return false;
            const std::size_t from = starts[*side - 1];
            const std::size_t end = *side < starts.size() ? starts[*side] : first + path.count;
            for (std::size_t w = first; w < from; ++w) at += lengths[w - first];
            for (std::size_t w = from; w < end; ++w) at += 0.5 * lengths[w - first];
            break;
        }
        case PlaceKind::Middle:
            at = 0.5 * total;
            break;
        case PlaceKind::Distance:
            values_.failed = false;
            at = values_.value(place.value, Kind::Length, name, say("the distance"));
            if (at < 0.0) at += total;  // counted from the end
            break;
        case PlaceKind::Percent: {
            values_.failed = false;
            const double v = values_.value(place.value, Kind::Number, name, say("the percentage"));
            at = total * (place.value.find('%') != std::string::npos ? v : v / 100.0);
            break;
        }
    }
    if (values_.failed && (place.kind == PlaceKind::Distance || place.kind == PlaceKind::Percent))
        return false;
    if (at < -1e-9 || at > total * (1.0 + 1e-9)) {
        values_.problem(name,
                        say("{} is {} along {}, which is {} long.", name, quantity::said(at, 3), partName,
                            quantity::said(total, 3)),
                        say("Choose a place on the wire."));
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
