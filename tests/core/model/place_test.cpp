// Places along a part: a side's middle stays there whatever becomes of the other sides.
#include <catch2/catch.hpp>

#include "core/edit/spots.h"
#include "core/model/expand.h"

using namespace rm;
using Catch::Contains;
using model::PlaceKind;

namespace {

/// A loop of three sides in the plane across the front, its base below.
model::Design triangle() {
    model::Design d;
    model::Part part;
    part.name = "Loop";
    model::BentWire wire;
    wire.points = {{"0 m", "-3 m", "10 m"}, {"0 m", "3 m", "10 m"}, {"0 m", "0 m", "15 m"}};
    wire.closed = true;
    part.shape = wire;
    d.parts = {part};
    model::Feed feed;
    feed.part = "Loop";
    d.feeds = {feed};
    return d;
}

Vec3 fedAt(const model::Design& d) {
    const auto e = model::expand(d);
    REQUIRE(e.usable());
    const auto& place = e.model.feeds.at(0).place;
    const auto& wire = e.model.wires.at(place.wire);
    return wire.startM + place.at * (wire.endM - wire.startM);
}

}  // namespace

TEST_CASE("the middle of a side is where its two corners say") {
    auto d = triangle();
    d.feeds[0].place = {PlaceKind::Side, "1"};
    CHECK((fedAt(d) - Vec3(0.0, 0.0, 10.0)).norm() < 1e-9);
    d.feeds[0].place = {PlaceKind::Side, "3"};
    CHECK((fedAt(d) - Vec3(0.0, -1.5, 12.5)).norm() < 1e-9);
    // Another base: the feed stays in its middle, where a percentage of the whole would have moved off.
    auto& wire = std::get<model::BentWire>(d.parts[0].shape);
    d.feeds[0].place = {PlaceKind::Side, "1"};
    wire.points[2] = {"0 m", "1 m", "19 m"};
    CHECK((fedAt(d) - Vec3(0.0, 0.0, 10.0)).norm() < 1e-9);
}

TEST_CASE("sides are counted from the start, on open wires too, and a side that is none is said") {
    auto d = triangle();
    std::get<model::BentWire>(d.parts[0].shape).closed = false;
    d.feeds[0].place = {PlaceKind::Side, "2"};
    CHECK((fedAt(d) - Vec3(0.0, 1.5, 12.5)).norm() < 1e-9);
    d.feeds[0].place = {PlaceKind::Side, "3"};
    const auto e = model::expand(d);
    CHECK_FALSE(e.usable());
    const bool said = std::any_of(e.findings.begin(), e.findings.end(), [](const auto& f) {
        return f.sentence.find("the side") != std::string::npos;
    });
    CHECK(said);
}

TEST_CASE("a loop offers its corners and the middles of its sides, each under one name") {
    const auto d = triangle();
    const auto e = model::expand(d);
    std::vector<std::string> names;
    for (const auto& spot : edit::markedSpots(d, e, "Loop")) {
        names.push_back(spot.name);
        auto moved = d;
        moved.feeds[0].place = spot.place;
        CHECK((fedAt(moved) - spot.atM).norm() < 1e-6);
    }
    const std::vector<std::string> expected = {"corner 1 of Loop",         "corner 2 of Loop",
                                               "corner 3 of Loop",         "middle of side 1 of Loop",
                                               "middle of side 2 of Loop", "middle of side 3 of Loop"};
    CHECK(names == expected);
}
