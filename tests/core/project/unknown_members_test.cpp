// What a later version has written into a project is still there when this one has saved it, wherever it
// stands.
#include <catch2/catch.hpp>

#include "core/edit/designs.h"
#include "core/edit/items.h"
#include "core/edit/pins.h"
#include "core/project/project_file.h"

using namespace rm;
using nlohmann::json;

namespace {

/// A project that has something of every kind.
model::Project everything() {
    model::Project p = edit::starterProject();
    for (const auto kind :
         {edit::PartKind::Wire, edit::PartKind::Bent, edit::PartKind::Loop, edit::PartKind::Vee,
          edit::PartKind::Fan, edit::PartKind::Row, edit::PartKind::Mast, edit::PartKind::Hung})
        p = edit::addPart(std::move(p), kind, 20.0).project;
    p = edit::addLoad(std::move(p), false).project;
    p = edit::addLoad(std::move(p), true).project;
    p = edit::addLine(std::move(p)).project;
    p = edit::addDimension(std::move(p)).project;
    p = edit::addCopy(std::move(p), model::CopyKind::Stack, 0).project;
    model::FeedBlock network;
    network.kind = model::BlockKind::Network;
    network.arms.resize(2);
    p = edit::addBlock(std::move(p), network, 9).project;
    model::DriveSet set;
    set.name = "One";
    set.driven.push_back({"Feed"});
    p = edit::addDriveSets(std::move(p), {set});
    model::Measured measured;
    measured.data.points = {{7.0e6, Complex(50.0, 1.0), 1.02}, {7.1e6, std::nullopt, 1.3}};
    measured.hasLead = true;
    measured.lead.kind = model::BlockKind::Cable;
    p = edit::addMeasured(std::move(p), {measured}).project;
    model::Design& d = p.designs[0];
    d.harness.arms.push_back({"Feed", "1 m", true});
    d.build.stock = "5 m";
    d.site.backdrop.file = "garden.png";
    d.tune.goals.resize(1);
    d.tune.movers.resize(1);
    d.tune.limits.resize(1);
    return edit::addPin(std::move(p), "Pin", d);
}

/// Puts a member that nobody knows into every object; returns how many there are.
int mark(json& j) {
    int marked = 0;
    if (j.is_object()) {
        for (auto& [name, value] : j.items()) marked += mark(value);
        j["of a later version"] = {{"deep", {1, 2, 3}}};
        ++marked;
    } else if (j.is_array()) {
        for (auto& value : j) marked += mark(value);
    }
    return marked;
}

}  // namespace

TEST_CASE("unknown members are kept in every object of a project") {
    json file = io::toJson(everything());
    const int objects = mark(file);
    REQUIRE(objects > 60);
    CHECK(io::toJson(io::fromJson(file)) == file);
}

TEST_CASE("a project with something of every kind is read as it was written") {
    const json file = io::toJson(everything());
    CHECK(io::toJson(io::fromJson(file)) == file);
    CHECK(file["designs"][0]["parts"].size() == 9);
    CHECK(file["pins"][0]["design"]["name"] == "Dipole");
}

TEST_CASE("a harness that is switched off keeps its cable") {
    model::Project p = edit::starterProject();
    p.designs[0].harness.line.length = "7.3 m";
    const auto back = io::fromJson(io::toJson(p));
    CHECK(back.designs[0].harness.line.length == "7.3 m");
    CHECK_FALSE(back.designs[0].harness.enabled);
}

TEST_CASE("every member of the demo comes back with its value") {
    const auto file = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    const auto again = io::fromJson(io::toJson(file));
    CHECK(again == file);
}
