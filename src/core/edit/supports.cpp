#include "core/edit/supports.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/edit/feet.h"
#include "core/edit/ids.h"
#include "core/edit/names.h"
#include "core/edit/shape_fields.h"
#include "core/model/expand_hung.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;
using quantity::Kind;

constexpr double kHalfWave = 0.48;  ///< of a wavelength, for thin wire at a usual height

std::string metres(double value) {
    return fmt::format("{:.9g} m", std::abs(value) < 1e-9 ? 0.0 : value);
}

Support& supportOf(Design& design, Id id) {
    return at(design.site.supports, id);
}

Support newSupport(SupportKind kind) {
    Support support;
    support.kind = kind;
    const auto usual = [&](const std::string& name, const char* height) {
        support.name = name;
        support.height = height;
    };
    switch (kind) {
        case SupportKind::Mast:
            usual(say("Mast"), "10 m");
            break;
        case SupportKind::Tree:
            usual(say("Tree"), "12 m");
            break;
        case SupportKind::RoofEdge:
            usual(say("Roof edge"), "6 m");
            break;
        case SupportKind::Wall:
            usual(say("Wall"), "3 m");
            break;
        case SupportKind::Peg:
            usual(say("Peg"), "0.3 m");
            break;
    }
    return support;
}

std::vector<PlainSupport> standing(const Design& design) {
    FieldValues values = fieldValues(design);
    return readSupports(values, design.site.supports, 0.0);
}

const PlainSupport* named(const std::vector<PlainSupport>& all, const std::string& name) {
    const auto found = std::find_if(all.begin(), all.end(), [&](const auto& s) { return s.name == name; });
    return found == all.end() ? nullptr : &*found;
}

}  // namespace

Added addSupport(Project project, SupportKind kind, double eastM, double northM) {
    Design& design = project.active();
    constexpr double kEdgeM = 10.0;
    Support support = newSupport(kind);
    if (project.feetAndInches) support = inFeet(std::move(support), kRoughFt);
    support.name = freeName(design.site.supports, support.name);
    support.east = metres(eastM);
    support.north = metres(northM);
    support.toEast = metres(eastM + kEdgeM);
    support.toNorth = metres(northM);
    if (project.feetAndInches) support = inFeet(std::move(support));
    design.site.supports.push_back(support);
    giveIds(project);
    const Item item{ItemType::Support, project.active().site.supports.back().id};
    return {std::move(project), item};
}

Added addHung(Project project, std::vector<std::string> supports, double lambdaM) {
    const auto there = [&]() -> const std::vector<Support>& { return project.active().site.supports; };
    if (supports.size() < 2) {
        const double half = 0.3 * lambdaM;
        while (there().size() < 2)
            project = addSupport(std::move(project), SupportKind::Mast, there().empty() ? -half : half, 0.0)
                          .project;
        supports = {there()[0].name, there()[1].name};
    }
    Design& design = project.active();
    HungWire hung;
    for (const auto& name : supports) hung.points.push_back({name, "", ""});
    const auto standingNow = standing(design);
    double way = 0.0;
    double between = -1.0;
    std::size_t highest = 0;
    double ends = 0.0;
    const PlainSupport* before = nullptr;
    for (std::size_t i = 0; i < supports.size(); ++i) {
        const PlainSupport* now = named(standingNow, supports[i]);
        if (now == nullptr) throw Error(say("There is no support named {} on the site.", supports[i]));
        const Vec3 middle = 0.5 * (now->topM + now->otherM);
        if (before != nullptr) way += (middle - 0.5 * (before->topM + before->otherM)).norm();
        const bool end = i == 0 || i + 1 == supports.size();
        if (end) ends = std::max(ends, now->heightM());
        if (!end && now->heightM() > between) {
            between = now->heightM();
            highest = i;
        }
        before = now;
    }
    if (supports.size() > 2) {
        hung.by = between > ends ? HungBy::Corner : HungBy::Start;
        hung.corner = fmt::format("{}", std::max<std::size_t>(1, highest));
    }
    // To the centimetre or the inch, where so much of it fits.
    const double step = project.feetAndInches ? 0.0254 : 0.01;
    const double half = step * std::floor(kHalfWave * lambdaM / step);
    hung.length = !(half > 0.0 && half < 0.98 * way) ? ""
                  : project.feetAndInches            ? feetText(half)
                                                     : fmt::format("{:.2f} m", half);
    if (hung.length.empty() && hung.by == HungBy::Corner) hung.by = HungBy::Start;
    Part part;
    part.name = freeName(design.parts, say("Hung wire"));
    part.shape = hung;
    if (design.feeds.empty()) {
        Feed feed;
        feed.part = part.name;
        if (hung.by == HungBy::Start) feed.place.kind = PlaceKind::Start;
        if (hung.by == HungBy::Start && supports.size() == 2) feed.place.kind = PlaceKind::Middle;
        design.feeds.push_back(feed);
    }
    design.parts.push_back(part);
    giveIds(project);
    const Item item{ItemType::Part, project.active().parts.back().id};
    return {std::move(project), item};
}

Added addAsWire(Project project, Id support) {
    Design& design = project.active();
    const Support& solid = supportOf(design, support);
    if (solid.kind == SupportKind::Peg || solid.kind == SupportKind::Tree)
        throw Error(say("{} is a {}: only masts, roof edges and walls carry current.", solid.name,
                        supportName(solid.kind)));
    HungWire along;
    along.by = HungBy::Start;
    along.length = "";
    if (isEdge(solid.kind)) {
        const auto all = standing(design);
        const PlainSupport* plain = named(all, solid.name);
        const double reach = plain != nullptr ? (plain->otherM - plain->topM).norm() : 1.0;
        along.points = {{solid.name, "", "0 m"}, {solid.name, "", metres(reach)}};
    } else {
        along.points = {{solid.name, "0 m", ""}, {solid.name, "", ""}};
        // On perfect ground it stands, in soil it would need its footing.
        if (design.site.ground != GroundKind::Perfect) along.points.front().height = "0.2 m";
    }
    Part part;
    part.name = freeName(design.parts, solid.name + say(" as wire"));
    part.conductor = {"steel", solid.kind == SupportKind::Mast ? "50 mm" : "100 mm", "", "3"};
    part.shape = along;
    design.parts.push_back(part);
    giveIds(project);
    const Item item{ItemType::Part, project.active().parts.back().id};
    return {std::move(project), item};
}

Fit placeSupport(Design& design, Id support, bool other, double eastM, double northM, const Steps& steps) {
    Support& moved = supportOf(design, support);
    return fitFields(
        design,
        {{other ? &moved.toEast : &moved.east, Kind::Length, eastM, moved.name + say(", east")},
         {other ? &moved.toNorth : &moved.north, Kind::Length, northM, moved.name + say(", north")}},
        steps);
}

Fit shiftSupport(Design& design, Id support, double eastM, double northM, const Steps& steps) {
    Support& moved = supportOf(design, support);
    FieldValues values = fieldValues(design);
    std::vector<FieldTarget> targets;
    const auto add = [&](std::string& text, double by, const std::string& name) {
        const double now = values.value(text, Kind::Length, moved.name, name);
        if (!values.failed) targets.push_back({&text, Kind::Length, now + by, moved.name + ", " + name});
    };
    add(moved.east, eastM, say("east"));
    add(moved.north, northM, say("north"));
    if (isEdge(moved.kind)) {
        add(moved.toEast, eastM, say("east of its other end"));
        add(moved.toNorth, northM, say("north of its other end"));
    }
    return fitFields(design, targets, steps);
}

Fit raiseSupport(Design& design, Id support, double heightM, const Steps& steps) {
    Support& moved = supportOf(design, support);
    return fitFields(
        design, {{&moved.height, Kind::Length, std::max(0.0, heightM), moved.name + say(", height")}}, steps);
}

bool hangsAltogether(const Design& design) {
    bool any = false;
    for (const auto& part : design.parts) {
        if (!part.enabled) continue;
        if (!std::holds_alternative<HungWire>(part.shape)) return false;
        any = true;
    }
    return any;
}

std::vector<std::string> hangingOn(const Design& design, const std::string& support) {
    std::vector<std::string> names;
    for (const auto& part : design.parts)
        if (const auto* hung = std::get_if<HungWire>(&part.shape))
            if (std::any_of(hung->points.begin(), hung->points.end(),
                            [&](const HangPoint& p) { return p.support == support; }))
                names.push_back(part.name);
    return names;
}

}  // namespace rm::edit
