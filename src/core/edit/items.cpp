#include "core/edit/items.h"

#include <fmt/format.h>

#include <cmath>

#include "core/edit/feet.h"
#include "core/edit/free_place.h"
#include "core/edit/ids.h"
#include "core/edit/names.h"
#include "core/edit/supports.h"
#include "core/model/expand.h"
#include "core/model/rename.h"
#include "core/quantity/format.h"
#include "core/quantity/formula.h"
#include "core/words/words.h"

namespace rm::edit {

namespace {

using namespace rm::model;

/// The project with ids for all that is new, and the item at a place in its list.
Added added(Project project, ItemType type, std::size_t index) {
    giveIds(project);
    const Item item = itemAt(project.active(), type, index);
    return {std::move(project), item};
}

template <typename Items>
Added append(Project project, Items Design::*list, typename Items::value_type item, ItemType type) {
    auto& items = project.active().*list;
    items.push_back(std::move(item));
    const std::size_t last = items.size() - 1;
    return added(std::move(project), type, last);
}

/// What the elements of a new row are rounded to in a project in feet.
constexpr double kMarkFt = 1.0 / 96.0;

/// Three elements, cut for the wavelength near enough to begin with.
ElementRow starterRow(double lambdaM) {
    ElementRow row;
    row.start = {"0 m", "0 m", "5 m"};
    const struct {
        std::string name;
        double position;
        double length;
    } elements[] = {
        {say("reflector"), 0.0, 0.495}, {say("driven"), 0.2, 0.473}, {say("director 1"), 0.36, 0.44}};
    // Numbers for the tape, in centimetres.
    const auto typed = [&](double wavelengths) { return fmt::format("{:.2f} m", wavelengths * lambdaM); };
    for (const auto& e : elements) {
        RowElement element;
        element.name = e.name;
        element.position = typed(e.position);
        element.length = typed(e.length);
        row.elements.push_back(element);
    }
    return row;
}

Part newPart(PartKind kind, double lambdaM) {
    Part part;
    switch (kind) {
        case PartKind::Wire:
            part.name = say("Wire");
            part.shape = StraightWire{{"0 m", "-0.24*lambda", "5 m"}, {"0 m", "0.24*lambda", "5 m"}};
            break;
        case PartKind::Bent:
            part.name = say("Bent wire");
            part.shape =
                BentWire{{{"0 m", "0 m", "2 m"}, {"0 m", "0 m", "8 m"}, {"-10 m", "0 m", "8 m"}}, false};
            break;
        case PartKind::Loop: {
            RegularLoop loop;
            loop.size = "1.03*lambda";
            part.name = say("Loop");
            part.shape = loop;
            break;
        }
        case PartKind::Vee: {
            InvertedV vee;
            vee.leg = "0.24*lambda";
            part.name = say("Inverted V");
            part.shape = vee;
            break;
        }
        case PartKind::Fan: {
            Fan fan;
            fan.length = "lambda/4";
            part.name = say("Radials");
            part.shape = fan;
            break;
        }
        case PartKind::Row:
            part.name = say("Yagi");
            part.conductor = {"aluminium", "8 mm", "", "3"};
            part.shape = starterRow(lambdaM);
            break;
        case PartKind::Radials: {
            RadialSystem radials;
            radials.length = "lambda/4";
            part.name = say("Radial system");
            part.shape = radials;
            break;
        }
        case PartKind::Rod:
            part.name = say("Ground rod");
            part.conductor = {"steel", "16 mm", "", "3"};
            part.shape = GroundRod{};
            break;
        case PartKind::Mast:
            part.name = say("Mast");
            part.conductor = {"steel", "60 mm", "", "3"};
            part.shape = StraightWire{{"-2 m", "0 m", "0.2 m"}, {"-2 m", "0 m", "10 m"}};
            break;
        case PartKind::Guys: {
            Fan guys;
            guys.hub = {"-2 m", "0 m", "9 m"};
            guys.count = "3";
            guys.length = "11 m";
            guys.slope = "50 deg";
            guys.insulators = "3";
            part.name = say("Guys");
            part.conductor = {"steel", "4 mm", "", "3"};
            part.shape = guys;
            break;
        }
        case PartKind::Tube:
            part.name = say("Mounting tube");
            part.conductor = {"aluminium-6061", "40 mm", "", "3"};
            part.shape = StraightWire{{"-0.3 m", "0 m", "3 m"}, {"-0.3 m", "0 m", "6 m"}};
            break;
        case PartKind::Gutter:
            part.name = say("Gutter");
            part.conductor = {"steel", "100 mm", "", "3"};
            part.shape =
                BentWire{{{"-4 m", "-6 m", "5 m"}, {"-4 m", "6 m", "5 m"}, {"-4 m", "6 m", "0.2 m"}}, false};
            break;
        case PartKind::Cable: {
            CableRun run;
            run.end = RunEnd::Open;
            part.name = say("Cable run");
            part.conductor = {"copper", "8 mm", "1 mm", "3"};
            part.shape = run;
            break;
        }
        case PartKind::Hung:
            break;  // edit/supports: it needs something to hang on
    }
    return part;
}

/// Where the antenna stands: the lowest end of its wires, as the fields of a part count; the origin where
/// there is none yet.
PointText footOf(const Expansion& expansion) {
    const Vec3* lowest = nullptr;
    for (const auto& wire : expansion.model.wires)
        for (const Vec3* end : {&wire.startM, &wire.endM})
            if (lowest == nullptr || end->z() < lowest->z() - 1e-9) lowest = end;
    if (lowest == nullptr) return {"0 m", "0 m", "0 m"};
    const auto metres = [](double value) {
        return fmt::format("{:.6g} m", std::abs(value) < 1e-9 ? 0.0 : value);
    };
    return {metres(lowest->x()), metres(lowest->y()), metres(lowest->z() - expansion.heightM)};
}

/// What holds an antenna goes under it; where there is soil, a mast stands on a footing, guys are pegged and
/// a gutter's pipe runs into the ground.
void standOn(Part& part, PartKind kind, const Design& design) {
    if (!isEarth(kind) && !isNearby(kind)) return;
    const Expansion expansion = expand(design);
    if (auto* radials = std::get_if<RadialSystem>(&part.shape)) radials->foot = footOf(expansion);
    if (auto* rod = std::get_if<GroundRod>(&part.shape)) rod->top = footOf(expansion);
    if (design.site.ground != GroundKind::Real || expansion.heightM != 0.0) return;
    if (kind == PartKind::Mast) std::get<StraightWire>(part.shape).start[2] = "-1 m";
    if (kind == PartKind::Guys) std::get<Fan>(part.shape).length = "12.3 m";
    if (kind == PartKind::Gutter) std::get<BentWire>(part.shape).points.back()[2] = "-0.3 m";
}

/// From the first feed: straight down where it is up in the air, otherwise away over the grass.
void hangOn(CableRun& run, const Design& design) {
    if (design.feeds.empty()) return;
    run.feed = design.feeds.front().name;
    const Expansion expansion = expand(design);
    if (expansion.model.feeds.empty()) return;
    const WirePlace& place = expansion.model.feeds.front().place;
    const PlainWire& wire = expansion.model.wires[place.wire];
    constexpr double kUpInTheAirM = 1.5;
    if ((wire.startM + place.at * (wire.endM - wire.startM)).z() > kUpInTheAirM) return;
    run.down = false;
    run.points = {{"", {"-8 m", "0 m", "5 cm"}}};
}

/// What is neither earth nor a cable.
bool takesFeed(const Part& part) {
    return !std::holds_alternative<Fan>(part.shape) && !std::holds_alternative<RadialSystem>(part.shape) &&
           !std::holds_alternative<GroundRod>(part.shape) && !std::holds_alternative<CableRun>(part.shape);
}

std::string firstPart(const Design& design) {
    return design.parts.empty() ? std::string() : design.parts.front().name;
}

std::string usualName(CopyKind kind) {
    switch (kind) {
        case CopyKind::Mirror:
            return say("Mirror");
        case CopyKind::Rotate:
            return say("Rotation");
        case CopyKind::Shift:
            return say("Steps");
        case CopyKind::Stack:
            return say("Stack");
    }
    return "";
}

}  // namespace

bool isEarth(PartKind kind) {
    return kind == PartKind::Radials || kind == PartKind::Rod;
}

bool isNearby(PartKind kind) {
    return kind == PartKind::Mast || kind == PartKind::Guys || kind == PartKind::Tube ||
           kind == PartKind::Gutter;
}

Added addPart(Project project, PartKind kind, double lambdaM) {
    if (kind == PartKind::Hung) return addHung(std::move(project), {}, lambdaM);
    Design& design = project.active();
    Part part = newPart(kind, lambdaM);
    // Of the elements of a row every mark counts, of the rest the size.
    if (project.feetAndInches) part = inFeet(std::move(part), kind == PartKind::Row ? kMarkFt : kRoughFt);
    standOn(part, kind, design);
    if (project.feetAndInches) part = inFeet(std::move(part));
    part.name = freeName(design.parts, part.name);
    if (auto* run = std::get_if<CableRun>(&part.shape)) hangOn(*run, design);
    if (design.feeds.empty() && kind != PartKind::Fan && kind != PartKind::Cable && !isEarth(kind) &&
        !isNearby(kind)) {
        Feed feed;
        feed.part = part.name;
        if (kind == PartKind::Row) feed.place.element = say("driven");
        design.feeds.push_back(feed);
    }
    return append(std::move(project), &Design::parts, std::move(part), ItemType::Part);
}

Added addDimension(Project project) {
    Dimension dimension;
    dimension.name = freeName(project.active().dimensions, "length", "");
    dimension.text = project.feetAndInches ? "30 ft" : "10 m";
    return append(std::move(project), &Design::dimensions, std::move(dimension), ItemType::Dimension);
}

Added addFeed(Project project, Id part) {
    const Design& design = project.active();
    Feed feed;
    feed.name = freeName(design.feeds, say("Feed"));
    const Part* on = find(design.parts, part);
    if (on == nullptr || !on->enabled || !takesFeed(*on)) on = partForFeed(design);
    if (on == nullptr && !design.parts.empty()) on = &design.parts.front();
    if (on != nullptr) {
        feed.part = on->name;
        feed.place = freePlace(design, *on, kFeedPlaces);
    }
    return append(std::move(project), &Design::feeds, std::move(feed), ItemType::Feed);
}

Added addLoad(Project project, bool trap, Id part) {
    const Design& design = project.active();
    Load load;
    if (const Part* on = find(design.parts, part); on != nullptr && !trap) {
        if (std::holds_alternative<CableRun>(on->shape)) {
            load.name = freeName(design.loads, say("Choke"));
            load.part = on->name;
            load.place = {PlaceKind::Start, ""};
            load.form = LoadForm::Parallel;
            load.resistance = "2000";
            return append(std::move(project), &Design::loads, std::move(load), ItemType::Load);
        }
    }
    load.name = freeName(design.loads, trap ? say("Trap") : say("Load"));
    load.form = trap ? LoadForm::Trap : LoadForm::Series;
    load.trapFrequency = design.designFrequency;
    if (!trap) load.inductance = "5";
    const Part* on = find(design.parts, part);
    if ((on == nullptr || !takesFeed(*on)) && !design.parts.empty()) on = &design.parts.front();
    if (on != nullptr) {
        load.part = on->name;
        load.place = freePlace(design, *on, kLoadPlaces);
    }
    return append(std::move(project), &Design::loads, std::move(load), ItemType::Load);
}

Added addLine(Project project) {
    const Design& design = project.active();
    PhasingLine line;
    line.name = freeName(design.lines, say("Line"));
    line.length = "0.25*0.66*lambda";
    line.fromPart = firstPart(design);
    if (!design.parts.empty()) line.toPart = design.parts.back().name;
    return append(std::move(project), &Design::lines, std::move(line), ItemType::Line);
}

Added addBlock(Project project, FeedBlock block, std::size_t place) {
    auto& path = project.active().feedPath;
    const std::size_t at = std::min(place, path.size());
    block.id = 0;
    block.name = freeName(path, block.name);
    path.insert(path.begin() + static_cast<std::ptrdiff_t>(at), std::move(block));
    return added(std::move(project), ItemType::Block, at);
}

Added addCopy(Project project, CopyKind kind, Id part) {
    const Design& design = project.active();
    Copy copy;
    copy.kind = kind;
    copy.name = freeName(design.copies, usualName(kind));
    copy.rowSpacing = copy.columnSpacing = "0.7*lambda";
    copy.step = {"0 m", "lambda/2", "0 m"};
    // A stack is rarely of its mast.
    const Part* of = find(design.parts, part);
    if (of != nullptr && design.parts.size() > 1) copy.parts = {of->name};
    return append(std::move(project), &Design::copies, std::move(copy), ItemType::Copy);
}

Added addMeasured(Project project, std::vector<Measured> measured) {
    auto& list = project.active().measured;
    for (auto& one : measured) {
        // What is cut later does not change what was measured before.
        if (one.takenWith.empty())
            for (const auto& d : project.active().dimensions)
                if (d.scales && quantity::isPlainNumber(d.text))
                    one.takenWith.push_back({d.name, d.text, {}});
        list.push_back(std::move(one));
    }
    const std::size_t last = list.size() - 1;
    return added(std::move(project), ItemType::Measured, last);
}

Project addDriveSets(Project project, const std::vector<DriveSet>& sets) {
    Design& design = project.active();
    for (const auto& set : sets) {
        const auto same = std::find_if(design.driveSets.begin(), design.driveSets.end(),
                                       [&](const auto& old) { return old.name == set.name; });
        if (same == design.driveSets.end()) {
            design.driveSets.push_back(set);
        } else {
            const Id id = same->id;
            *same = set;
            same->id = id;
        }
    }
    if (design.driveSet < 0 && !design.driveSets.empty()) design.driveSet = 0;
    giveIds(project);
    return project;
}

Added duplicate(Project project, Item item) {
    Design& design = project.active();
    if (!holds(design, item) || !isListed(item.type) || item.type == ItemType::Measured)
        throw Error(say("There is nothing here that can be duplicated."));
    std::size_t at = 0;
    withList(design, item.type, [&](auto& list) {
        at = indexOf(list, item.id) + 1;
        auto copy = list.at(at - 1);
        copy.id = 0;
        if constexpr (requires { copy.place; }) {
            if (const Part* on = partMeant(design, copy.part))
                copy.place = freePlace(design, *on, item.type == ItemType::Feed ? kFeedPlaces : kLoadPlaces);
        }
        copy.name = freeName(list, copy.name, item.type == ItemType::Dimension ? "" : " ");
        list.insert(list.begin() + static_cast<std::ptrdiff_t>(at), std::move(copy));
    });
    if (item.type == ItemType::Drive && design.driveSet >= static_cast<int>(at)) ++design.driveSet;
    return added(std::move(project), item.type, at);
}

namespace {

/// Everything that stands on a part, and every mention of it.
void forget(Design& design, const std::string& part) {
    const auto on = [&](const std::string& name) {
        const Part* meant = partMeant(design, name);
        return meant != nullptr && meant->name == part;
    };
    std::erase_if(design.feeds, [&](const Feed& feed) { return on(feed.part); });
    std::erase_if(design.loads, [&](const Load& load) { return on(load.part); });
    std::erase_if(design.lines, [&](const PhasingLine& l) { return on(l.fromPart) || on(l.toPart); });
    for (auto& feed : design.feeds) std::erase(feed.with, part);
    // Copies of nothing but this part are copies of nothing; of nothing at all would mean of everything.
    std::erase_if(design.copies, [&](Copy& copy) {
        if (copy.parts.empty()) return false;
        std::erase(copy.parts, part);
        return copy.parts.empty();
    });
}

/// What hung on a support hangs on the others that hold it; on the last two it stays, and says that one is
/// gone.
void untie(Design& design, const std::string& support) {
    for (auto& part : design.parts) {
        if (auto* hung = std::get_if<HungWire>(&part.shape))
            for (std::size_t i = hung->points.size(); i-- > 0 && hung->points.size() > 2;)
                if (hung->points[i].support == support)
                    hung->points.erase(hung->points.begin() + static_cast<std::ptrdiff_t>(i));
        if (auto* run = std::get_if<CableRun>(&part.shape))
            std::erase_if(run->points, [&](const RunPoint& point) { return point.support == support; });
    }
}

bool isFedAlready(const Design& design, const std::string& part) {
    return std::any_of(design.feeds.begin(), design.feeds.end(), [&](const Feed& feed) {
        const Part* meant = partMeant(design, feed.part);
        return meant != nullptr && meant->name == part;
    });
}

}  // namespace

std::vector<Feed> feedsOn(const Design& design, Id part) {
    std::vector<Feed> feeds;
    for (const auto& feed : design.feeds) {
        const Part* meant = partMeant(design, feed.part);
        if (meant != nullptr && meant->id == part) feeds.push_back(feed);
    }
    return feeds;
}

const Part* partForFeed(const Design& design) {
    for (const auto& part : design.parts) {
        if (part.enabled && takesFeed(part) && !isFedAlready(design, part.name)) return &part;
    }
    return nullptr;
}

Project handOn(Project project, const std::vector<Feed>& feeds, Id part) {
    Design& design = project.active();
    const Part& to = at(design.parts, part);
    for (Feed feed : feeds) {
        feed.id = 0;
        feed.part = to.name;
        feed.place = {};
        feed.with.clear();
        if (const auto* row = std::get_if<ElementRow>(&to.shape)) {
            feed.place.element = row->elements.empty() ? "" : row->elements.front().name;
            for (const auto& element : row->elements)
                if (element.name == "driven" || element.name == say("driven"))
                    feed.place.element = element.name;
        }
        feed.name = freeName(design.feeds, feed.name);
        design.feeds.push_back(feed);
    }
    giveIds(project);
    return project;
}

Project remove(Project project, Item item) {
    Design& design = project.active();
    if (!holds(design, item)) return project;
    if (item.type == ItemType::Part) forget(design, nameOf(design, item));
    if (item.type == ItemType::Support) untie(design, nameOf(design, item));
    withList(design, item.type, [&](auto& list) {
        const std::size_t at = indexOf(list, item.id);
        list.erase(list.begin() + static_cast<std::ptrdiff_t>(at));
        if (item.type != ItemType::Drive) return;
        // The one in use stays in use, wherever it stands now.
        const auto removed = static_cast<int>(at);
        if (design.driveSet == removed) design.driveSet = -1;
        if (design.driveSet > removed) --design.driveSet;
    });
    return project;
}

Project toggle(Project project, Item item) {
    Design& design = project.active();
    const auto flip = [](bool& flag) { flag = !flag; };
    switch (item.type) {
        case ItemType::Part:
            flip(at(design.parts, item.id).enabled);
            break;
        case ItemType::Block:
            flip(at(design.feedPath, item.id).enabled);
            break;
        case ItemType::Load:
            flip(at(design.loads, item.id).enabled);
            break;
        case ItemType::Line:
            flip(at(design.lines, item.id).enabled);
            break;
        case ItemType::Copy:
            flip(at(design.copies, item.id).enabled);
            break;
        case ItemType::Measured:
            flip(at(design.measured, item.id).shown);
            break;
        case ItemType::Harness:
            flip(design.harness.enabled);
            break;
        case ItemType::Drive: {
            at(design.driveSets, item.id);
            const auto index = static_cast<int>(indexOf(design.driveSets, item.id));
            design.driveSet = design.driveSet == index ? -1 : index;
            break;
        }
        default:
            break;
    }
    return project;
}

std::string* sourceOf(Design& design, std::string& typed) {
    std::string* source = &typed;
    // No more steps than there are names: names can go round in a circle.
    for (std::size_t step = 0; step <= design.dimensions.size(); ++step) {
        if (quantity::isPlainNumber(*source)) return source;
        const auto named = std::find_if(design.dimensions.begin(), design.dimensions.end(),
                                        [&](const Dimension& d) { return d.name == *source; });
        if (named == design.dimensions.end()) return nullptr;
        source = &named->text;
    }
    return nullptr;
}

std::string& spacingOf(Copy& copy) {
    return copy.rows != "1" ? copy.rowSpacing : copy.columnSpacing;
}

Project setSpacing(Project project, Id copy, double metres) {
    Design& design = project.active();
    std::string& typed = spacingOf(at(design.copies, copy));
    std::string* source = sourceOf(design, typed);
    std::string& text = source != nullptr ? *source : typed;
    text = quantity::lengthLike(source != nullptr ? text : std::string("1 m"),
                                std::round(100.0 * metres) / 100.0);
    return project;
}

Project setHeight(Project project, double metres) {
    auto& height = project.active().site.height;
    height = quantity::lengthLike(height, metres);
    return project;
}

}  // namespace rm::edit
