#include "core/edit/spots.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/model/geometry.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;

/// The wires of a part that a place can be on, in order.
struct Path {
    const Part* part = nullptr;
    std::string element;
    std::size_t first = 0;
    std::size_t count = 0;
    bool closed = false;
    double lengthM = 0.0;
};

std::vector<Path> pathsOf(const Design& design, const Expansion& expansion, const std::string& partName) {
    const auto found = std::find_if(design.parts.begin(), design.parts.end(),
                                    [&](const Part& p) { return p.name == partName; });
    if (found == design.parts.end()) return {};
    const auto& wires = expansion.model.wires;
    std::vector<Path> paths;
    const bool row = std::holds_alternative<ElementRow>(found->shape);
    std::string unit;
    for (std::size_t w = 0; w < wires.size(); ++w) {
        if (wires[w].origin() != partName) continue;
        // Of several copies the first.
        if (unit.empty()) unit = wires[w].group();
        if (wires[w].group() != unit) continue;
        const bool goesOn = !paths.empty() && paths.back().first + paths.back().count == w &&
                            (!row || wires[w].part == wires[w - 1].part);
        if (!goesOn) {
            Path path;
            path.part = &*found;
            path.first = w;
            if (row) {
                const auto comma = wires[w].part.rfind(", ");
                if (comma != std::string::npos) path.element = wires[w].part.substr(comma + 2);
            }
            paths.push_back(path);
        }
        ++paths.back().count;
    }
    for (auto& path : paths) {
        if (row) {
            // The conductor that a feed sits on is the first half of an element with two.
            for (const auto& element : std::get<ElementRow>(found->shape).elements)
                if (element.name == path.element && hasSecondConductor(element.form) && path.count > 3)
                    path.count = (path.count - 2) / 2;
        }
        for (std::size_t i = 0; i < path.count; ++i) path.lengthM += wires[path.first + i].lengthM();
        path.closed = path.count > 2 &&
                      (wires[path.first].startM - wires[path.first + path.count - 1].endM).norm() < 1e-6;
    }
    return paths;
}

std::string called(const Path& path) {
    return path.element.empty() ? path.part->name : path.part->name + ", " + path.element;
}

Vec3 along(const Expansion& expansion, const Path& path, double metres) {
    std::size_t i = path.first;
    for (; i + 1 < path.first + path.count && metres > expansion.model.wires[i].lengthM(); ++i)
        metres -= expansion.model.wires[i].lengthM();
    const auto& wire = expansion.model.wires[i];
    return wire.startM + std::min(1.0, metres / wire.lengthM()) * (wire.endM - wire.startM);
}

void mark(const Expansion& expansion, const Path& path, std::vector<Spot>& spots) {
    const auto& wires = expansion.model.wires;
    const auto add = [&](PlaceKind kind, const std::string& value, const Vec3& at, const std::string& name) {
        const bool known = std::any_of(spots.begin(), spots.end(),
                                       [&](const Spot& s) { return (s.atM - at).norm() < 1e-4; });
        if (known) return;
        Spot spot;
        spot.part = path.part->name;
        spot.place = {kind, value, path.element};
        spot.atM = at;
        spot.name = name + called(path);
        spot.marked = true;
        spots.push_back(spot);
    };
    const bool fan = std::holds_alternative<Fan>(path.part->shape) ||
                     std::holds_alternative<RadialSystem>(path.part->shape);
    if (fan) return add(PlaceKind::Start, "", wires[path.first].startM, say("hub of "));
    if (path.closed) {
        int corner = 0;
        for (std::size_t i = 0; i < path.count; ++i) {
            if (wires[path.first + i].runsOn) continue;
            ++corner;
            add(PlaceKind::Corner, fmt::format("{}", corner), wires[path.first + i].startM,
                say("corner {} of ", corner));
        }
    } else {
        // An end of an element, and one that hangs free, cannot be fed; where others join it can.
        if (path.element.empty()) {
            add(PlaceKind::Start, "", wires[path.first].startM, say("start of "));
            add(PlaceKind::End, "", wires[path.first + path.count - 1].endM, say("end of "));
            int corner = 0;
            for (std::size_t i = 1; i < path.count; ++i)
                if (!wires[path.first + i].runsOn) {
                    ++corner;
                    add(PlaceKind::Corner, fmt::format("{}", corner), wires[path.first + i].startM,
                        say("corner {} of ", corner));
                }
        }
    }
    if (!path.closed)
        add(PlaceKind::Middle, "", along(expansion, path, 0.5 * path.lengthM), say("middle of "));
    if (path.element.empty() && path.count > 1) {
        double before = 0.0;
        int side = 0;
        for (std::size_t i = 0; i < path.count;) {
            double length = wires[path.first + i].lengthM();
            for (++i; i < path.count && wires[path.first + i].runsOn; ++i)
                length += wires[path.first + i].lengthM();
            const double at = before + 0.5 * length;
            ++side;
            add(PlaceKind::Side, fmt::format("{}", side), along(expansion, path, at),
                say("middle of side {} of ", side));
            before += length;
        }
    }
    if (path.count == 1)
        for (const int tenth : {10, 20, 30, 40, 60, 70, 80, 90})
            add(PlaceKind::Percent, fmt::format("{}", tenth),
                along(expansion, path, 0.01 * tenth * path.lengthM), say("{} % along ", tenth));
    if (path.count == 1)
        for (const int third : {1, 2})
            add(PlaceKind::Percent, third == 1 ? "100/3" : "200/3",
                along(expansion, path, third / 3.0 * path.lengthM),
                third == 1 ? say("a third along ") : say("two thirds along "));
}

/// The ends of wires in the joint of a feed: those on its side, and the others.
struct Sides {
    std::vector<std::size_t> own;
    std::vector<std::size_t> other;
};

Sides sidesAt(const Expansion& expansion, const PlainFeed& feed) {
    Sides sides;
    const auto& wires = expansion.model.wires;
    const auto pointOf = [&](const WirePlace& place) -> Vec3 {
        return wires[place.wire].startM + place.at * (wires[place.wire].endM - wires[place.wire].startM);
    };
    if (feed.place.at > 0.0 && feed.place.at < 1.0) return sides;
    const Vec3 point = pointOf(feed.place);
    for (std::size_t w = 0; w < wires.size(); ++w)
        for (const double at : {0.0, 1.0}) {
            const double room = joinToleranceM(wires[w].radiusM, wires[feed.place.wire].radiusM);
            if ((pointOf({w, at}) - point).norm() > room) continue;
            const auto is = [&](const WirePlace& place) { return place.wire == w && place.at == at; };
            const bool own = is(feed.place) || std::any_of(feed.together.begin(), feed.together.end(), is);
            (own ? sides.own : sides.other).push_back(w);
        }
    return sides;
}

/// "Vertical", "Radials (4 wires), Mast".
std::string listed(const Expansion& expansion, const std::vector<std::size_t>& ends) {
    std::vector<std::pair<std::string, int>> parts;
    for (const std::size_t w : ends) {
        const std::string& name = expansion.model.wires[w].part;
        const auto known =
            std::find_if(parts.begin(), parts.end(), [&](const auto& p) { return p.first == name; });
        if (known == parts.end())
            parts.emplace_back(name, 1);
        else
            ++known->second;
    }
    std::string words;
    for (const auto& [name, count] : parts)
        words += (words.empty() ? "" : ", ") + (count > 1 ? say("{} ({} wires)", name, count) : name);
    return words;
}

}  // namespace

std::string sidesOf(const Expansion& expansion, std::size_t feed) {
    if (feed >= expansion.model.feeds.size()) return {};
    const auto& at = expansion.model.feeds[feed];
    const Sides sides = sidesAt(expansion, at);
    if (sides.other.empty()) return "in " + expansion.model.wires[at.place.wire].part;
    return say("between {} and {}", listed(expansion, sides.own), listed(expansion, sides.other));
}

std::vector<std::string> meetingAt(const Expansion& expansion, std::size_t feed) {
    std::vector<std::string> names;
    if (feed >= expansion.model.feeds.size()) return names;
    const auto& at = expansion.model.feeds[feed];
    Sides sides = sidesAt(expansion, at);
    sides.other.insert(sides.other.end(), sides.own.begin(), sides.own.end());
    for (const std::size_t w : sides.other) {
        const std::string& name = expansion.model.wires[w].origin();
        if (name != expansion.model.wires[at.place.wire].origin() &&
            std::find(names.begin(), names.end(), name) == names.end())
            names.push_back(name);
    }
    return names;
}

std::vector<Spot> markedSpots(const Design& design, const Expansion& expansion, const std::string& part) {
    std::vector<Spot> spots;
    for (const auto& path : pathsOf(design, expansion, part)) mark(expansion, path, spots);
    return spots;
}

std::optional<Spot> spotAt(const Design& design, const Expansion& expansion, std::size_t wire, double share) {
    if (wire >= expansion.model.wires.size()) return std::nullopt;
    const std::string part = expansion.model.wires[wire].origin();
    for (const auto& path : pathsOf(design, expansion, part)) {
        if (wire < path.first || wire >= path.first + path.count) continue;
        double metres = share * expansion.model.wires[wire].lengthM();
        for (std::size_t i = path.first; i < wire; ++i) metres += expansion.model.wires[i].lengthM();
        const double percent = std::clamp(std::round(100.0 * metres / path.lengthM), 1.0, 99.0);
        Spot spot;
        spot.part = part;
        spot.place = {PlaceKind::Percent, fmt::format("{:g}", percent), path.element};
        spot.atM = along(expansion, path, 0.01 * percent * path.lengthM);
        spot.name = say("{:g} % along {}", percent, called(path));
        return spot;
    }
    return std::nullopt;
}

}  // namespace rm::edit
