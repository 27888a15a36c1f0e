// Changes of a project, without a window: each gives back another project and leaves the old one alone.
#include <catch2/catch.hpp>
#include <random>
#include <set>

#include "core/edit/designs.h"
#include "core/edit/ids.h"
#include "core/edit/items.h"
#include "core/edit/pins.h"
#include "core/model/expand.h"
#include "core/project/project_file.h"
#include "core/quantity/formula.h"

using namespace rm;
using edit::ItemType;
using model::Project;

namespace {

constexpr edit::PartKind kKinds[] = {edit::PartKind::Wire,  edit::PartKind::Bent, edit::PartKind::Loop,
                                     edit::PartKind::Vee,   edit::PartKind::Fan,  edit::PartKind::Row,
                                     edit::PartKind::Mast,  edit::PartKind::Guys, edit::PartKind::Tube,
                                     edit::PartKind::Gutter};
constexpr ItemType kListed[] = {ItemType::Dimension, ItemType::Part,  ItemType::Copy,
                                ItemType::Feed,      ItemType::Drive, ItemType::Load,
                                ItemType::Line,      ItemType::Block, ItemType::Measured};

/// Ids of everything in the designs of a project, and whether each is there once.
bool idsAreUnique(const Project& p) {
    std::set<model::Id> seen;
    bool unique = true;
    const auto see = [&](model::Id id) { unique = unique && id != 0 && seen.insert(id).second; };
    for (const auto& design : p.designs) {
        see(design.id);
        for (const ItemType type : kListed)
            edit::withList(design, type, [&](const auto& list) {
                for (const auto& item : list) see(item.id);
            });
    }
    for (const auto& pin : p.pins) see(pin.id);
    return unique;
}

model::Dimension named(const char* name, const char* text) {
    model::Dimension dimension;
    dimension.name = name;
    dimension.text = text;
    return dimension;
}

edit::Item first(const Project& p, ItemType type) {
    return edit::itemAt(p.active(), type, 0);
}

}  // namespace

TEST_CASE("parts of every kind can be added, have names and ids of their own, and are worked out") {
    Project p = edit::starterProject();
    for (int round = 0; round < 2; ++round)
        for (const auto kind : kKinds) {
            const std::size_t before = p.active().parts.size();
            edit::Added added = edit::addPart(p, kind, 20.0);
            CHECK(p.active().parts.size() == before);  // the old project is as it was
            p = std::move(added.project);
            REQUIRE(p.active().parts.size() == before + 1);
            CHECK(edit::holds(p.active(), added.item));
            CHECK(edit::nameOf(p.active(), added.item) == p.active().parts.back().name);
        }
    CHECK(idsAreUnique(p));
    std::set<std::string> names;
    for (const auto& part : p.active().parts) CHECK(names.insert(part.name).second);
    // Only the dipole is fed: there was a feed already.
    CHECK(p.active().feeds.size() == 1);
    // A value that cannot be worked out would be a finding about that part.
    for (const auto& finding : model::expand(p.active()).findings)
        CHECK(finding.sentence.find("uses") == std::string::npos);
}

TEST_CASE("the first part that can be fed gets a feed, and what stands nearby gets none") {
    Project empty = edit::starterProject();
    empty.designs[0].parts.clear();
    empty.designs[0].feeds.clear();
    for (const auto kind : kKinds) {
        const Project p = edit::addPart(empty, kind, 4.28).project;
        const bool fed = kind != edit::PartKind::Fan && !edit::isNearby(kind);
        CHECK(p.active().feeds.size() == (fed ? 1 : 0));
        if (fed) CHECK(p.active().feeds[0].part == p.active().parts[0].name);
    }
    const Project yagi = edit::addPart(empty, edit::PartKind::Row, 4.28).project;
    CHECK(yagi.active().feeds[0].place.element == "driven");
    CHECK(model::expand(yagi.active()).usable());
}

TEST_CASE("feeds and loads that are added or duplicated sit where nothing sits, and nothing is wrong") {
    const auto fine = [](const Project& p) {
        const auto e = model::expand(p.active());
        for (const auto& finding : e.findings) UNSCOPED_INFO(finding.sentence);
        return e.usable();
    };
    Project p = edit::starterProject();
    p = edit::addFeed(std::move(p)).project;
    CHECK(p.active().feeds.at(1).place.value == "25");
    CHECK(fine(p));
    p = edit::addLoad(std::move(p), false).project;
    CHECK(p.active().loads.at(0).place.value == "75");
    p = edit::addLoad(std::move(p), true).project;
    p = edit::addFeed(std::move(p)).project;
    p = edit::duplicate(std::move(p), first(p, ItemType::Feed)).project;
    p = edit::duplicate(std::move(p), first(p, ItemType::Load)).project;
    CHECK(fine(p));
    // On the part that is selected; one without a feed comes before one with it.
    p = edit::addPart(std::move(p), edit::PartKind::Loop, 20.0).project;
    const auto loop = p.active().parts.back();
    CHECK(edit::addFeed(p).project.active().feeds.back().part == loop.name);
    CHECK(edit::addLoad(p, false, loop.id).project.active().loads.back().part == loop.name);
    CHECK(edit::addFeed(p, p.active().parts[0].id).project.active().feeds.back().part ==
          p.active().parts[0].name);
    // A row: the elements one by one.
    Project yagi = edit::starterProject();
    yagi.active().parts.clear();
    yagi.active().feeds.clear();
    yagi = edit::addPart(std::move(yagi), edit::PartKind::Row, 4.0).project;
    yagi = edit::addFeed(std::move(yagi)).project;
    yagi = edit::addFeed(std::move(yagi)).project;
    CHECK(yagi.active().feeds[0].place.element == "driven");
    CHECK(yagi.active().feeds[1].place.element == "reflector");
    CHECK(yagi.active().feeds[2].place.element == "director 1");
    CHECK(fine(yagi));
}

TEST_CASE("a duplicate stands behind what it was made from and is another thing") {
    Project p = edit::starterProject();
    p = edit::addLoad(std::move(p), false).project;
    p = edit::addDimension(std::move(p)).project;
    for (const ItemType type : {ItemType::Part, ItemType::Feed, ItemType::Load, ItemType::Dimension}) {
        const edit::Item item = first(p, type);
        const edit::Added twice = edit::duplicate(p, item);
        CHECK(twice.item.id != item.id);
        CHECK(twice.item == edit::itemAt(twice.project.active(), type, 1));
        CHECK(edit::nameOf(twice.project.active(), twice.item) != edit::nameOf(p.active(), item));
        CHECK(idsAreUnique(twice.project));
    }
    // Names of dimensions have no blanks: they stand in formulas.
    const edit::Added length = edit::duplicate(p, first(p, ItemType::Dimension));
    CHECK(edit::nameOf(length.project.active(), length.item) == "span2");
    CHECK_THROWS_AS(edit::duplicate(p, edit::Item(ItemType::Site, 0)), Error);
    CHECK_THROWS_AS(edit::duplicate(p, edit::Item(ItemType::Part, 4711)), Error);
}

TEST_CASE("removing takes that item and no other, and what is gone is left alone") {
    Project p = edit::addPart(edit::starterProject(), edit::PartKind::Loop, 20.0).project;
    const edit::Item dipole = first(p, ItemType::Part);
    const Project without = edit::remove(p, dipole);
    REQUIRE(without.active().parts.size() == 1);
    CHECK(without.active().parts[0].name == "Loop");
    CHECK_FALSE(edit::holds(without.active(), dipole));
    CHECK(edit::remove(without, dipole) == without);
    CHECK(edit::remove(without, {ItemType::Site, 0}) == without);
}

TEST_CASE("the drive set in use stays in use when others come and go") {
    Project p = edit::starterProject();
    std::vector<model::DriveSet> sets(3);
    for (int i = 0; i < 3; ++i)
        sets[static_cast<std::size_t>(i)].name = std::string(1, static_cast<char>('a' + i));
    p = edit::addDriveSets(std::move(p), sets);
    CHECK(p.active().driveSet == 0);
    p = edit::toggle(std::move(p), edit::itemAt(p.active(), ItemType::Drive, 1));
    CHECK(p.active().driveSet == 1);
    const auto used = [](const Project& q) {
        return q.active().driveSet < 0
                   ? std::string()
                   : q.active().driveSets.at(static_cast<std::size_t>(q.active().driveSet)).name;
    };
    CHECK(used(edit::remove(p, edit::itemAt(p.active(), ItemType::Drive, 0))) == "b");
    CHECK(used(edit::remove(p, edit::itemAt(p.active(), ItemType::Drive, 2))) == "b");
    CHECK(used(edit::remove(p, edit::itemAt(p.active(), ItemType::Drive, 1))).empty());
    CHECK(used(edit::duplicate(p, edit::itemAt(p.active(), ItemType::Drive, 0)).project) == "b");
    CHECK(used(edit::duplicate(p, edit::itemAt(p.active(), ItemType::Drive, 2)).project) == "b");
    // The same set again takes the place of the old one and keeps its id.
    const auto id = p.active().driveSets[1].id;
    model::DriveSet again;
    again.name = "b";
    again.termination = "75";
    p = edit::addDriveSets(std::move(p), {again});
    CHECK(p.active().driveSets.size() == 3);
    CHECK(p.active().driveSets[1].id == id);
    CHECK(p.active().driveSets[1].termination == "75");
    // Twice on and off.
    p = edit::toggle(std::move(p), edit::itemAt(p.active(), ItemType::Drive, 1));
    CHECK(p.active().driveSet == -1);
}

TEST_CASE("a switch is on, then off, for everything that has one") {
    Project p = edit::starterProject();
    p = edit::addLoad(std::move(p), false).project;
    p = edit::addLine(std::move(p)).project;
    p = edit::addCopy(std::move(p), model::CopyKind::Shift, 0).project;
    p = edit::addBlock(std::move(p), {}, 0).project;
    p = edit::addMeasured(std::move(p), {model::Measured{}}).project;
    for (const ItemType type : {ItemType::Part, ItemType::Load, ItemType::Line, ItemType::Copy,
                                ItemType::Block, ItemType::Measured, ItemType::Harness}) {
        const edit::Item item = edit::isListed(type) ? first(p, type) : edit::Item{type, 0};
        const Project other = edit::toggle(p, item);
        CHECK_FALSE(other == p);
        CHECK(edit::toggle(other, item) == p);
    }
    CHECK_THROWS_AS(edit::toggle(p, edit::Item(ItemType::Part, 4711)), Error);
}

TEST_CASE("a spacing is set where it comes from: the field, or the dimension that it names") {
    Project p = edit::addCopy(edit::starterProject(), model::CopyKind::Stack, 0).project;
    const model::Id copy = p.active().copies[0].id;
    p.designs[0].copies[0].rowSpacing = "stack";
    p.designs[0].dimensions.push_back(named("stack", "3 m"));
    const Project moved = edit::setSpacing(p, copy, 4.567);
    CHECK(moved.active().copies[0].rowSpacing == "stack");
    CHECK(quantity::evaluate(moved.active().dimensions.back().text, quantity::Kind::Length, {}) ==
          Approx(4.57));
    // A formula has no number to set: the spacing becomes one.
    p.designs[0].copies[0].rowSpacing = "0.7*lambda";
    CHECK(edit::setSpacing(p, copy, 2.0).active().copies[0].rowSpacing.find("2") == 0);
    // Names that go round in a circle come to an end.
    p.designs[0].copies[0].rowSpacing = "x";
    p.designs[0].dimensions = {named("x", "y"), named("y", "x")};
    CHECK(edit::setSpacing(p, copy, 2.0).active().copies[0].rowSpacing.find("2") == 0);
    // One row: the columns are what is spaced.
    p.designs[0].copies[0].rows = "1";
    CHECK(edit::setSpacing(p, copy, 2.5).active().copies[0].columnSpacing.find("2.5") == 0);
    CHECK_THROWS_AS(edit::setSpacing(p, 4711, 2.0), Error);
}

TEST_CASE("the height keeps its unit") {
    Project p = edit::starterProject();
    p.designs[0].site.height = "30 ft";
    const std::string set = edit::setHeight(p, 12.192).active().site.height;
    CHECK(quantity::evaluate(set, quantity::Kind::Length, {}) == Approx(12.192).margin(0.02));
    CHECK(set.find("m") == std::string::npos);
}

TEST_CASE("designs are made, copied and removed; the copy is another antenna with other ids") {
    Project p = edit::starterProject();
    const Project two = edit::copyDesign(p);
    CHECK(two.activeDesign == 1);
    CHECK(two.active().name == "Dipole 2");
    CHECK(idsAreUnique(two));
    // Each is for the working band.
    Project forty = p;
    forty.workingBand = 0;
    const model::Design made = edit::newDesign(forty).active();
    CHECK(made.designFrequency == "7.1 MHz");
    CHECK(made.dimensions[0].text == "20.66 m");
    CHECK(edit::newDesign(p).active().dimensions[0].text == p.active().dimensions[0].text);
    CHECK(edit::removeDesign(two).activeDesign == 0);
    CHECK_THROWS_WITH(edit::removeDesign(p), Catch::Contains("only design"));
}

TEST_CASE("bands that a project lacks are added in their place, and none twice") {
    Project p = edit::starterProject();
    p.bands[1].lowHz = 14.1e6;
    Project more = edit::withBands(p, {*model::findAllocatedBand("20 m"), *model::findAllocatedBand("80 m")});
    REQUIRE(more.bands.size() == 5);
    CHECK(more.bands[0].name == "80 m");
    CHECK(more.bands[2].lowHz == 14.1e6);  // the designer's own edges
    CHECK(edit::workingBand(more, 1e6).name == "20 m");
    CHECK(edit::withBands(more, more.bands) == more);
}

TEST_CASE("a design is chosen on a band that it is for") {
    Project p = edit::copyDesign(edit::starterProject());
    p.designs[0].bands = {"10 m"};
    p = edit::chooseDesign(std::move(p), p.designs[0].id);
    CHECK(p.bands[p.workingBand].name == "10 m");
    p = edit::chooseDesign(std::move(p), p.designs[1].id);
    CHECK(p.bands[p.workingBand].name == "10 m");  // for every band: it stays
    const Project same = edit::chooseDesign(p, 4711);
    CHECK(same == p);
    CHECK(edit::chooseBand(p, "40 m").workingBand == 0);
    CHECK(edit::chooseBand(p, "no band").workingBand == p.workingBand);
    // Other bands: the working one stays by its name.
    const Project fewer = edit::setBands(p, {p.bands[3], p.bands[0]}, {1.2, 2.0, 4.0});
    CHECK(fewer.bands[fewer.workingBand].name == "10 m");
    Project none = p;
    none.bands.clear();
    CHECK(edit::workingBand(none, 10e6).lowHz == Approx(9.8e6));
}

TEST_CASE("pins come and go, and the baseline stays on its pin") {
    Project p = edit::starterProject();
    for (const char* name : {"a", "b", "c"}) p = edit::addPin(std::move(p), name, p.active());
    const auto id = [&](int i) { return p.pins.at(static_cast<std::size_t>(i)).id; };
    CHECK(edit::addPin(p, "a", p.active()).pins.back().name == "a (2)");
    p = edit::setBaseline(std::move(p), id(1));
    const auto base = [](const Project& q) {
        return q.baseline < 0 ? std::string() : q.pins.at(static_cast<std::size_t>(q.baseline)).name;
    };
    CHECK(base(p) == "b");
    CHECK(base(edit::removePin(p, id(0))) == "b");
    CHECK(base(edit::removePin(p, id(1))).empty());
    for (int i = 0; i < 3; ++i)
        for (const int by : {-1, 1, -9, 9}) CHECK(base(edit::movePin(p, id(i), by)) == "b");
    CHECK(edit::movePin(p, id(0), 1).pins[1].name == "a");
    CHECK(base(edit::setBaseline(p, 0)).empty());
    CHECK(edit::renamePin(p, id(2), "z").pins[2].name == "z");
    CHECK(edit::renamePin(p, id(2), "").pins[2].name == "c");
    CHECK_FALSE(edit::togglePin(p, id(2)).pins[2].shown);
    CHECK(edit::colourPin(p, id(2), 3).pins[2].colour == 3);
    for (const auto change : {edit::togglePin, edit::removePin, edit::restorePin, edit::branchPin})
        CHECK_THROWS_AS(change(p, 4711), Error);
}

TEST_CASE("a pin is restored to the design it came from, whatever that is called by now") {
    Project p = edit::starterProject();
    const model::Id design = p.active().id;
    p = edit::addPin(std::move(p), "before", p.active());
    p.designs[0].name = "Long dipole";
    p.designs[0].dimensions[0].text = "12 m";
    p = edit::copyDesign(std::move(p));
    const model::Id pin = p.pins[0].id;
    const Project restored = edit::restorePin(p, pin);
    CHECK(restored.designs.size() == 2);
    CHECK(restored.activeDesign == 0);
    CHECK(restored.active().id == design);
    CHECK(restored.active().dimensions[0].text == "10.35 m");
    CHECK(restored.designs[1] == p.designs[1]);
    // Where the design is gone, no other one is overwritten.
    Project gone = p;
    gone.activeDesign = 0;
    gone = edit::removeDesign(std::move(gone));
    const Project back = edit::restorePin(gone, pin);
    CHECK(back.designs.size() == 2);
    CHECK(back.active().name == "Dipole");
    CHECK(back.designs[0] == gone.designs[0]);
    // A branch is a design of its own.
    const Project branched = edit::branchPin(p, pin);
    CHECK(branched.designs.size() == 3);
    CHECK(branched.active().name == "Dipole: before");
    CHECK(idsAreUnique(branched));
}

TEST_CASE("with and without a part are two pins") {
    Project p = edit::addPart(edit::starterProject(), edit::PartKind::Mast, 20.0).project;
    const model::Id mast = p.active().parts[1].id;
    p = edit::pinWithAndWithout(std::move(p), mast);
    REQUIRE(p.pins.size() == 2);
    CHECK(p.pins[0].design.parts[1].enabled);
    CHECK_FALSE(p.pins[1].design.parts[1].enabled);
    CHECK(p.pins[1].name == "without Mast");
    CHECK_THROWS_AS(edit::pinWithAndWithout(p, 4711), Error);
}

TEST_CASE("ids are given once: what has one keeps it, copies get others, and none comes back") {
    Project p = edit::starterProject();
    const Project before = p;
    edit::giveIds(p);
    CHECK(p == before);
    p.designs.push_back(p.designs[0]);
    edit::giveIds(p);
    CHECK(idsAreUnique(p));
    CHECK(p.designs[0] == before.designs[0]);
    const model::Id last = p.lastId;
    p.designs.pop_back();
    p = edit::addFeed(std::move(p)).project;
    CHECK(p.active().feeds.back().id > last);
}

TEST_CASE("any order of changes leaves ids unique, a file that reads back, and names that are free") {
    std::mt19937 random(7);
    const auto pick = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    for (int run = 0; run < 25; ++run) {
        Project p = edit::starterProject();
        for (int step = 0; step < 40; ++step) {
            const ItemType type = kListed[pick(9)];
            const edit::Item item = edit::itemAt(p.active(), type, static_cast<std::size_t>(pick(3)));
            switch (pick(9)) {
                case 0:
                    p = edit::addPart(std::move(p), kKinds[pick(10)], 10.0).project;
                    break;
                case 1:
                    if (edit::holds(p.active(), item) && type != ItemType::Measured)
                        p = edit::duplicate(std::move(p), item).project;
                    break;
                case 2:
                    p = edit::remove(std::move(p), item);
                    break;
                case 3:
                    p = edit::addCopy(std::move(p), static_cast<model::CopyKind>(pick(4)), 0).project;
                    break;
                case 4:
                    p = edit::copyDesign(std::move(p));
                    break;
                case 5:
                    if (p.designs.size() > 1) p = edit::removeDesign(std::move(p));
                    break;
                case 6:
                    p = edit::addPin(std::move(p), edit::pinName(p), p.active());
                    break;
                case 7:
                    if (!p.pins.empty()) p = edit::restorePin(std::move(p), p.pins[0].id);
                    break;
                default:
                    p = edit::addBlock(std::move(p), {}, static_cast<std::size_t>(pick(4))).project;
            }
            INFO("run " << run << ", step " << step);
            REQUIRE(idsAreUnique(p));
            REQUIRE(p.activeDesign < p.designs.size());
            std::set<std::string> names;
            for (const auto& part : p.active().parts) REQUIRE(names.insert(part.name).second);
        }
        const auto file = io::toJson(p);
        CHECK(io::toJson(io::fromJson(file)) == file);
    }
}

TEST_CASE("a finding leads to what it speaks of") {
    Project p = edit::addLoad(edit::starterProject(), false).project;
    CHECK(edit::itemNamed(p.active(), "Load").type == ItemType::Load);
    CHECK(edit::itemNamed(p.active(), "span").type == ItemType::Dimension);
    CHECK(edit::itemNamed(p.active(), "Site") == edit::Item{ItemType::Site, 0});
    CHECK(edit::itemNamed(p.active(), "Harness") == edit::Item{ItemType::Harness, 0});
    CHECK(edit::itemNamed(p.active(), "nobody").type == ItemType::None);
    CHECK(edit::itemAt(p.active(), ItemType::Load, 7).type == ItemType::None);
    CHECK_FALSE(edit::holds(p.active(), {}));
}
