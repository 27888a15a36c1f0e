#include "core/model/rename.h"

#include <algorithm>

namespace rm::model {

namespace {

/// Whether `name` is `base` or one of its copies.
bool means(const std::string& name, const std::string& base) {
    return name == base || (name.rfind(base + " (", 0) == 0 && name.back() == ')');
}

/// Exchanges the base of a name, with the label of its copy left as it is.
void follow(std::string& name, const std::string& before, const std::string& after) {
    if (means(name, before)) name = after + name.substr(before.size());
}

/// Calls `change` with the part and the place of all that stands somewhere.
template <typename Change>
void eachPlace(Design& design, Change change) {
    for (auto& feed : design.feeds) change(feed.part, feed.place);
    for (auto& load : design.loads) change(load.part, load.place);
    for (auto& line : design.lines) {
        change(line.fromPart, line.from);
        change(line.toPart, line.to);
    }
}

}  // namespace

void renamePart(Design& design, std::size_t part, const std::string& name) {
    const std::string before = design.parts.at(part).name;
    design.parts[part].name = name;
    eachPlace(design, [&](std::string& on, Place&) { follow(on, before, name); });
    for (auto& feed : design.feeds)
        for (auto& other : feed.with)
            if (other == before) other = name;
    for (auto& copy : design.copies)
        for (auto& of : copy.parts)
            if (of == before) of = name;
}

void renameFeed(Design& design, std::size_t feed, const std::string& name) {
    const std::string before = design.feeds.at(feed).name;
    design.feeds[feed].name = name;
    for (auto& set : design.driveSets)
        for (auto& entry : set.driven) follow(entry.feed, before, name);
    for (auto& arm : design.harness.arms) follow(arm.feed, before, name);
    for (auto& part : design.parts)
        if (auto* run = std::get_if<CableRun>(&part.shape)) follow(run->feed, before, name);
}

void renameDriveSet(Design& design, std::size_t set, const std::string& name) {
    const std::string before = design.driveSets.at(set).name;
    design.driveSets[set].name = name;
    for (auto& goal : design.tune.goals)
        std::replace(goal.driveSets.begin(), goal.driveSets.end(), before, name);
}

void renameElement(Design& design, std::size_t part, std::size_t element, const std::string& name) {
    auto& renamed = std::get<ElementRow>(design.parts.at(part).shape).elements.at(element);
    const std::string before = renamed.name;
    const std::string& on = design.parts[part].name;
    renamed.name = name;
    eachPlace(design, [&](const std::string& where, Place& place) {
        if (means(where, on) && place.element == before) place.element = name;
    });
}

void renameSupport(Design& design, std::size_t support, const std::string& name) {
    const std::string before = design.site.supports.at(support).name;
    design.site.supports[support].name = name;
    for (auto& part : design.parts) {
        if (auto* hung = std::get_if<HungWire>(&part.shape))
            for (auto& point : hung->points)
                if (point.support == before) point.support = name;
        if (auto* run = std::get_if<CableRun>(&part.shape))
            for (auto& point : run->points)
                if (point.support == before) point.support = name;
    }
}

const Part* partMeant(const Design& design, const std::string& name) {
    for (const auto& part : design.parts)
        if (part.name == name) return &part;
    for (const auto& part : design.parts)
        if (means(name, part.name)) return &part;
    return nullptr;
}

std::string labelOf(const std::string& name) {
    const auto open = name.rfind(" (");
    if (open == std::string::npos || name.back() != ')') return name;
    return name.substr(open + 2, name.size() - open - 3);
}

}  // namespace rm::model
