// Laws of the project file and of core/edit that hold for any project: made by any sequence of changes.
#include <fmt/format.h>
#include <rapidcheck.h>
#include <catch2/catch.hpp>

#include <set>

#include "core/edit/designs.h"
#include "core/edit/ids.h"
#include "core/edit/items.h"
#include "core/edit/pins.h"
#include "core/model/expand.h"
#include "core/project/project_file.h"
#include "core/quantity/number.h"

using namespace rm;
using edit::Item;

namespace {

const char* const kTexts[] = {"10 m", "lambda/4", "2*leg", "41' 6 1/2\"", "",
                              "abc",  "-3 m",     "1e30",  "30 deg",      "0"};

std::string anyText() {
    return *rc::gen::elementOf(std::vector<std::string>(std::begin(kTexts), std::end(kTexts)));
}

Item anyItem(const model::Design& design) {
    const auto type = *rc::gen::element<edit::ItemType>(
        edit::ItemType::Part, edit::ItemType::Dimension, edit::ItemType::Feed, edit::ItemType::Load,
        edit::ItemType::Line, edit::ItemType::Block, edit::ItemType::Copy, edit::ItemType::Drive);
    return edit::itemAt(design, type, *rc::gen::inRange<std::size_t>(0, 6));
}

/// One change that a hand could make.
model::Project changed(model::Project project) {
    const auto kind = *rc::gen::inRange(0, 16);
    const auto part = static_cast<edit::PartKind>(*rc::gen::inRange(0, 14));
    switch (kind) {
        case 0:
        case 1:
        case 2:
            return edit::addPart(std::move(project), part, *rc::gen::element(4.0, 20.0, 80.0)).project;
        case 3:
            return edit::addDimension(std::move(project)).project;
        case 4:
            return edit::addFeed(std::move(project)).project;
        case 5:
            return edit::addLoad(std::move(project), *rc::gen::arbitrary<bool>()).project;
        case 6:
            return edit::addLine(std::move(project)).project;
        case 7: {
            model::FeedBlock block;
            block.name = "Block";
            block.kind = static_cast<model::BlockKind>(*rc::gen::inRange(0, 5));
            return edit::addBlock(std::move(project), block, *rc::gen::inRange<std::size_t>(0, 9)).project;
        }
        case 8:
            return edit::addCopy(std::move(project), static_cast<model::CopyKind>(*rc::gen::inRange(0, 4)), 0)
                .project;
        case 9: {
            const Item item = anyItem(project.active());
            return edit::duplicate(std::move(project), item).project;
        }
        case 10:
        case 11: {
            const Item item = anyItem(project.active());
            return edit::remove(std::move(project), item);
        }
        case 12: {
            const Item item = anyItem(project.active());
            return edit::toggle(std::move(project), item);
        }
        case 13:
            return edit::newDesign(std::move(project));
        case 14:
            return edit::copyDesign(std::move(project));
        default: {
            auto& dimensions = project.designs.at(project.activeDesign).dimensions;
            if (!dimensions.empty())
                dimensions[*rc::gen::inRange<std::size_t>(0, dimensions.size())].text = anyText();
            return project;
        }
    }
}

/// Any project: the first one after any changes, those that are refused left out.
model::Project anyProject() {
    auto project = edit::starterProject();
    edit::giveIds(project);
    const int changes = *rc::gen::inRange(0, 12);
    for (int i = 0; i < changes; ++i) try {
            project = changed(project);
            edit::giveIds(project);
        } catch (const Error&) {
        }
    return project;
}

void collect(std::multiset<model::Id>& ids, const auto& items) {
    for (const auto& item : items) ids.insert(item.id);
}

void holds(bool passed) {
    CHECK(passed);
}

}  // namespace

TEST_CASE("any project is read back as it was written") {
    holds(rc::check("written, read and written", [] {
        const auto project = anyProject();
        const std::string text = io::textOf(project);
        const auto read = io::fromJson(nlohmann::json::parse(text));
        RC_ASSERT(io::textOf(read) == text);
        RC_ASSERT(read.designs.size() == project.designs.size());
        for (std::size_t i = 0; i < read.designs.size(); ++i) {
            // What it comes to is the same antenna.
            const auto a = model::expand(project.designs[i]);
            const auto b = model::expand(read.designs[i]);
            RC_ASSERT(a.model.wires.size() == b.model.wires.size());
            RC_ASSERT(a.findings.size() == b.findings.size());
        }
    }));
}

TEST_CASE("members that nobody knows come through any project") {
    holds(rc::check("kept", [] {
        auto j = io::toJson(anyProject());
        j["of another version"] = *rc::gen::arbitrary<int>();
        for (auto& design : j["designs"]) design["of another version"] = "design";
        for (auto& part : j["designs"][0]["parts"]) part["of another version"] = {1, 2, 3};
        const auto again = io::toJson(io::fromJson(j));
        RC_ASSERT(again == j);
    }));
}

TEST_CASE("no two things have one identity, whatever was done") {
    holds(rc::check("ids", [] {
        const auto project = anyProject();
        std::multiset<model::Id> ids;
        collect(ids, project.designs);
        collect(ids, project.pins);
        for (const auto& d : project.designs) {
            collect(ids, d.parts);
            collect(ids, d.dimensions);
            collect(ids, d.feeds);
            collect(ids, d.loads);
            collect(ids, d.lines);
            collect(ids, d.feedPath);
            collect(ids, d.copies);
            collect(ids, d.driveSets);
        }
        RC_ASSERT(ids.count(0) == 0U);
        RC_ASSERT(std::set<model::Id>(ids.begin(), ids.end()).size() == ids.size());
        for (const auto id : ids) RC_ASSERT(id <= project.lastId);
    }));
}

TEST_CASE("what is added is there, and gone when it is removed") {
    holds(rc::check("add and remove", [] {
        const auto before = anyProject();
        const auto kind = static_cast<edit::PartKind>(*rc::gen::inRange(0, 10));
        auto added = edit::addPart(before, kind, 20.0);
        edit::giveIds(added.project);
        const auto& parts = added.project.active().parts;
        RC_ASSERT(parts.size() == before.active().parts.size() + 1);
        const Item item = edit::itemAt(added.project.active(), edit::ItemType::Part, parts.size() - 1);
        // The name is its own.
        for (std::size_t i = 0; i + 1 < parts.size(); ++i) RC_ASSERT(parts[i].name != parts.back().name);
        const auto after = edit::remove(added.project, item);
        RC_ASSERT(after.active().parts.size() == before.active().parts.size());
        for (std::size_t i = 0; i < after.active().parts.size(); ++i)
            RC_ASSERT(after.active().parts[i].id == before.active().parts[i].id);
        // Removed twice is removed once.
        RC_ASSERT(io::toJson(edit::remove(after, item)) == io::toJson(after));
    }));
}

TEST_CASE("on and off is as it was") {
    holds(rc::check("toggle", [] {
        const auto project = anyProject();
        const Item item = anyItem(project.active());
        model::Project once;
        model::Project twice;
        try {
            once = edit::toggle(project, item);
            twice = edit::toggle(once, item);
        } catch (const Error&) {
            RC_DISCARD("nothing to switch");
        }
        // A drive set that is driven was one of several, or none was.
        if (item.type == edit::ItemType::Drive) RC_DISCARD("one of several");
        RC_ASSERT(io::toJson(twice) == io::toJson(project));
    }));
}

TEST_CASE("expanding never throws, and names what it finds") {
    holds(rc::check("findings", [] {
        const auto project = anyProject();
        for (const auto& design : project.designs) {
            const auto e = model::expand(design);
            for (const auto& finding : e.findings) {
                RC_ASSERT(!finding.sentence.empty());
                RC_ASSERT(!finding.mend.empty());
            }
            for (const auto& wire : e.model.wires)
                RC_ASSERT(wire.startM.allFinite() && wire.endM.allFinite());
        }
    }));
}

TEST_CASE("a number that is read is written and read again as itself") {
    holds(rc::check("numbers", [](double value) {
        RC_PRE(quantity::isOfThisWorld(value));
        const auto read = quantity::readNumber(fmt::format("{:.17g}", value));
        RC_ASSERT(read.has_value());
        RC_ASSERT(*read == value);
    }));
    holds(rc::check("texts", [](const std::string& text) {
        const std::string once = quantity::plainText(text);
        RC_ASSERT(quantity::plainText(once) == once);
        for (const char c : once) RC_ASSERT(static_cast<unsigned char>(c) >= 0x20);
        // It goes through a file.
        RC_ASSERT(nlohmann::json::parse(nlohmann::json(once).dump()).get<std::string>() == once);
    }));
}
