// What a dragged point clicks into, where feeds can sit, and wires that were drawn.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/edit/designs.h"
#include "core/edit/drawn.h"
#include "core/edit/snaps.h"
#include "core/edit/spots.h"
#include "core/quantity/formula.h"
#include "findings.h"

using namespace rm;
using namespace rm::model;

namespace {

/// Seen from the front, ten pixels for a metre.
Eigen::Vector2d front(const Vec3& p) {
    return {10.0 * p.y(), 10.0 * p.z()};
}

edit::Snapped snapAt(const edit::SnapScene& scene, const Vec3& raw) {
    return edit::snapped(scene, raw, Vec3::UnitY(), Vec3::UnitZ(), front, 6.0);
}

Expansion dipoleToSnapTo() {
    return expand(edit::starterProject().active());
}

}  // namespace

TEST_CASE("an end clicks into the end of another wire, wherever that lies in depth") {
    edit::SnapScene scene;
    scene.points = {{Vec3(3, 1, 8), "end of Mast"}};
    const auto s = snapAt(scene, {0, 1.2, 8.3});
    CHECK(s.name == "end of Mast");
    CHECK((s.atM - Vec3(3, 1, 8)).norm() == 0.0);
    CHECK(snapAt(scene, {0, 5, 3}).name.empty());
}

TEST_CASE("guides: the ground, level with, plumb above, a right angle, a quarter wave, and two at once") {
    edit::SnapScene scene;
    scene.overGround = true;
    scene.points = {{Vec3(0, -9, 7), "end of Mast"}};
    auto s = snapAt(scene, {0, 4, 0.4});
    CHECK(s.name == "on the ground");
    CHECK(s.atM.z() == 0.0);
    s = snapAt(scene, {0, 4, 7.3});
    CHECK(s.name == "level with end of Mast");
    CHECK(s.atM.z() == Approx(7.0));
    s = snapAt(scene, {0, -8.7, 12});
    CHECK(s.name == "plumb above end of Mast");
    CHECK(s.atM.y() == Approx(-9.0));

    scene.points.clear();
    scene.anchorM = Vec3(0, 0, 5);
    scene.beforeAnchorM = Vec3(0, -3, 8);
    s = snapAt(scene, {0, 3.2, 8.4});
    CHECK(s.name == "at a right angle");
    CHECK((s.atM - *scene.anchorM).dot(*scene.anchorM - *scene.beforeAnchorM) == Approx(0.0).margin(1e-9));
    scene.lengths = {{5.3, "a quarter wave"}};
    s = snapAt(scene, {0.0, 5.0, 5.3});
    CHECK(s.name == "level, a quarter wave");
    CHECK((s.atM - Vec3(0, 5.3, 5)).norm() < 1e-9);
}

TEST_CASE("an insulated wire is slower than a bare one") {
    PlainWire wire;
    CHECK(edit::coatVelocityFactor(wire, 20.0) == 1.0);
    wire.coatM = 0.001;
    wire.coatPermittivity = 3.0;
    const double thin = edit::coatVelocityFactor(wire, 20.0);
    CHECK(thin < 0.99);
    CHECK(thin > 0.94);
    wire.coatM = 0.002;
    CHECK(edit::coatVelocityFactor(wire, 20.0) < thin);
}

TEST_CASE("a scene names what is there, without what is in the hand") {
    const auto e = dipoleToSnapTo();
    const auto scene = edit::snapScene(e, {});
    REQUIRE(scene.points.size() == 3);
    CHECK(scene.points[2].name == "middle of Dipole");
    CHECK(scene.lengths.size() == 1);
    CHECK(edit::snapScene(e, {"Dipole"}).points.empty());
}

TEST_CASE("every marked spot is a place where a feed is found again") {
    Project p = edit::starterProject();
    for (const auto kind :
         {edit::PartKind::Bent, edit::PartKind::Loop, edit::PartKind::Vee, edit::PartKind::Row})
        p = edit::addPart(p, kind, 20.0).project;
    // A drawn triangle, closed.
    p = edit::addDrawn(p, {Vec3(30, 0, 2), Vec3(30, 8, 9), Vec3(30, -8, 9)}, true).project;
    const auto e = expand(p.active());
    int seen = 0;
    for (const auto& part : p.active().parts)
        for (const auto& spot : edit::markedSpots(p.active(), e, part.name)) {
            Design d = p.active();
            Feed feed;
            feed.name = "Probe";
            feed.part = spot.part;
            feed.place = spot.place;
            d.feeds = {feed};
            const auto placed = expand(d);
            INFO(spot.name);
            REQUIRE(placed.model.feeds.size() == 1);
            const auto& at = placed.model.feeds[0].place;
            const auto& wire = placed.model.wires[at.wire];
            CHECK((wire.startM + at.at * (wire.endM - wire.startM) - spot.atM).norm() < 1e-6);
            ++seen;
        }
    CHECK(seen > 30);
    const auto spot = edit::spotAt(p.active(), e, 0, 0.237);
    REQUIRE(spot);
    CHECK(spot->place.value == "24");
}

TEST_CASE("a drawn wire is where it was drawn, and its lengths get names that move it") {
    Project p = edit::starterProject();
    p = edit::remove(p, edit::itemAt(p.active(), edit::ItemType::Part, 0));
    REQUIRE(p.active().feeds.empty());
    const Vec3 a(0, 0, 2);
    const auto added = edit::addDrawn(p, {a, Vec3(0, 0, 12), Vec3(-3, 4, 12)}, false);
    p = added.project;
    CHECK(p.active().feeds.size() == 1);
    auto wires = expand(p.active()).model.wires;
    REQUIRE(wires.size() == 2);
    CHECK((wires[0].startM - a).norm() < 1e-9);
    CHECK((wires[1].endM - Vec3(-3, 4, 12)).norm() < 1e-9);

    p = edit::nameLengths(p, added.item.id);
    const Design named = p.active();
    REQUIRE(named.dimensions.size() == 3);
    CHECK(named.dimensions[1].name == "side1");
    CHECK(named.dimensions[1].text == "10 m");
    wires = expand(named).model.wires;
    CHECK((wires[1].endM - Vec3(-3, 4, 12)).norm() < 1e-6);
    p.designs[0].dimensions[2].text = "10 m";
    wires = expand(p.active()).model.wires;
    CHECK((wires[1].endM - Vec3(-6, 8, 12)).norm() < 1e-6);
    CHECK_THROWS_AS(edit::nameLengths(p, added.item.id), Error);
}

TEST_CASE("equal lengths share a name") {
    Project p = edit::starterProject();
    const auto square = edit::addDrawn(p, {Vec3(0, 0, 3), Vec3(0, 5, 3), Vec3(0, 5, 8), Vec3(0, 0, 8)}, true);
    p = edit::nameLengths(square.project, square.item.id);
    CHECK(p.active().dimensions.size() == 2);
    CHECK(test::firstError(p.active()).empty());
    CHECK_THROWS_AS(edit::addDrawn(p, {Vec3::Zero()}, false), Error);
}
