#include "core/edit/pins.h"

#include <algorithm>

#include "core/edit/ids.h"
#include "core/edit/names.h"
#include "core/model/difference.h"
#include "core/words/words.h"

namespace rm::edit {

using namespace rm::model;

namespace {

/// Changes the list of pins and keeps the baseline on the pin that it was on.
template <typename Change>
Project withPins(Project project, Change change) {
    const auto place = static_cast<std::size_t>(project.baseline);
    const Id base = project.baseline >= 0 && place < project.pins.size() ? project.pins[place].id : 0;
    change(project);
    const std::size_t now = indexOf(project.pins, base);
    project.baseline = base != 0 && now < project.pins.size() ? static_cast<int>(now) : -1;
    return project;
}

}  // namespace

std::string pinName(const Project& project) {
    const Design& design = project.active();
    std::string name = design.name;
    for (const auto& pin : project.pins)
        if (pin.design.id == design.id) {
            const std::string change = describeChange(pin.design, design);
            if (!change.empty()) name = change;
        }
    return name;
}

Project addPin(Project project, const std::string& name, const Design& design) {
    Pin pin;
    pin.name = freeName(project.pins, name, " (", ")");
    pin.design = design;
    project.pins.push_back(std::move(pin));
    giveIds(project);
    return project;
}

Project pinWithAndWithout(Project project, Id part) {
    Design with = project.active();
    Design without = with;
    at(with.parts, part).enabled = true;
    at(without.parts, part).enabled = false;
    const std::string name = at(with.parts, part).name;
    return addPin(addPin(std::move(project), say("with ") + name, with), say("without ") + name, without);
}

Project togglePin(Project project, Id pin) {
    bool& shown = at(project.pins, pin).shown;
    shown = !shown;
    return project;
}

Project renamePin(Project project, Id pin, const std::string& name) {
    Pin& renamed = at(project.pins, pin);
    if (!name.empty()) renamed.name = name;
    return project;
}

Project colourPin(Project project, Id pin, int colour) {
    at(project.pins, pin).colour = colour;
    return project;
}

Project removePin(Project project, Id pin) {
    at(project.pins, pin);
    return withPins(std::move(project), [&](Project& p) {
        std::erase_if(p.pins, [&](const Pin& one) { return one.id == pin; });
    });
}

Project movePin(Project project, Id pin, int by) {
    at(project.pins, pin);
    return withPins(std::move(project), [&](Project& p) {
        const auto from = static_cast<int>(indexOf(p.pins, pin));
        const int to = std::clamp(from + by, 0, static_cast<int>(p.pins.size()) - 1);
        std::swap(p.pins.at(static_cast<std::size_t>(from)), p.pins.at(static_cast<std::size_t>(to)));
    });
}

Project setBaseline(Project project, Id pin) {
    if (pin != 0) at(project.pins, pin);
    project.baseline = pin == 0 ? -1 : static_cast<int>(indexOf(project.pins, pin));
    return project;
}

Project restorePin(Project project, Id pin) {
    const Design design = at(project.pins, pin).design;
    const std::size_t place = indexOf(project.designs, design.id);
    if (place < project.designs.size())
        project.designs[place] = design;
    else
        project.designs.push_back(design);
    project.activeDesign = std::min(place, project.designs.size() - 1);
    giveIds(project);
    return project;
}

Project branchPin(Project project, Id pin) {
    const Pin& from = at(project.pins, pin);
    Design design = from.design;
    design.id = 0;
    design.name = freeName(project.designs, from.name == design.name ? design.name + say(", branch")
                                                                     : design.name + ": " + from.name);
    project.designs.push_back(std::move(design));
    project.activeDesign = project.designs.size() - 1;
    giveIds(project);
    return project;
}

}  // namespace rm::edit
