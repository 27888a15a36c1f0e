#include "core/model/without.h"

#include "core/model/rename.h"

namespace rm::model {

Design withoutPart(Design design, const std::string& part) {
    const auto on = [&design, &part](const std::string& name) {
        const Part* meant = partMeant(design, name);
        return meant != nullptr && meant->name == part;
    };
    for (auto& one : design.parts)
        if (one.name == part) one.enabled = false;
    std::erase_if(design.loads, [&](const auto& load) { return on(load.part); });
    std::erase_if(design.lines, [&](const auto& line) { return on(line.fromPart) || on(line.toPart); });
    const auto isGone = [&](const std::string& name) {
        // A drive set names feeds after copying: "Feed (upper)".
        for (const auto& feed : design.feeds)
            if (on(feed.part) && (name == feed.name || name.rfind(feed.name + " (", 0) == 0)) return true;
        return false;
    };
    for (auto& set : design.driveSets)
        std::erase_if(set.driven, [&](const auto& entry) { return isGone(entry.feed); });
    std::erase_if(design.harness.arms, [&](const auto& arm) { return isGone(arm.feed); });
    std::erase_if(design.feeds, [&](const auto& feed) { return on(feed.part); });
    for (auto& feed : design.feeds) std::erase(feed.with, part);
    return design;
}

}  // namespace rm::model
