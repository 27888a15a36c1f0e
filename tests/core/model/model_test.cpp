// Designs: dimensions, parts, feeds, and what the checks say.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/em/mesh.h"
#include "core/model/checks.h"
#include "core/model/expand.h"
#include "core/model/materials.h"
#include "core/study/figures.h"
#include "findings.h"

using namespace rm;
using namespace rm::model;
using rm::test::firstError;

namespace {

Dimension dim(const std::string& name, const std::string& text) {
    Dimension d;
    d.name = name;
    d.text = text;
    return d;
}

Design plainDipole() {
    Design d;
    d.dimensions = {dim("span", "10 m"), dim("half", "span/2")};
    Part part;
    part.name = "Dipole";
    part.shape = StraightWire{{"0", "-half", "0"}, {"0", "half", "0"}};
    d.parts = {part};
    Feed feed;
    feed.part = "Dipole";
    d.feeds = {feed};
    d.site.ground = GroundKind::Perfect;
    d.site.height = "8 m";
    return d;
}

Part wirePart(const std::string& name, const PointText& from, const PointText& to) {
    Part part;
    part.name = name;
    part.shape = StraightWire{from, to};
    return part;
}

}  // namespace

TEST_CASE("a design is worked out with its formulas and its height") {
    const auto e = expand(plainDipole());
    CHECK(e.findings.empty());
    REQUIRE(e.model.wires.size() == 1);
    CHECK(e.model.wires[0].lengthM() == Approx(10.0));
    CHECK(e.model.wires[0].startM.z() == Approx(8.0));
    CHECK(e.model.wires[0].radiusM == Approx(0.001));
    CHECK(*e.model.wires[0].conductivitySm == Approx(5.96e7));
    CHECK(e.model.feeds[0].place.at == Approx(0.5));
    CHECK(e.usable());
}

TEST_CASE("circles, unknown names and double names of dimensions are explained") {
    using Catch::Contains;
    auto d = plainDipole();
    d.dimensions = {dim("a", "b + 1 m"), dim("b", "c"), dim("c", "a"), dim("half", "5 m")};
    CHECK_THAT(firstError(d), Contains("depends on itself"));
    d.dimensions = {dim("half", "wing/2")};
    CHECK_THAT(firstError(d), Contains("half") && Contains("wing"));
    d.dimensions = {dim("half", "5 m"), dim("half", "6 m")};
    CHECK_THAT(firstError(d), Contains("two dimensions named half"));
    d.dimensions = {dim("half", "5 m"), dim("sin", "6 m")};
    CHECK_THAT(firstError(d), Contains("cannot name a dimension"));
    // Order of definition does not matter.
    d.dimensions = {dim("half", "span/2"), dim("span", "2*quarter"), dim("quarter", "lambda/4")};
    CHECK(expand(d).model.wires[0].lengthM() == Approx(0.5 * wavelengthM(14.15e6)));
}

TEST_CASE("an inverted V has its apex, its legs and its angle") {
    auto d = plainDipole();
    d.parts[0].shape = InvertedV{{"1", "2", "0"}, "12", "10", "120", "0"};
    const auto e = expand(d);
    REQUIRE(e.model.wires.size() == 2);
    CHECK((e.model.wires[0].endM - Vec3(1, 2, 20)).norm() < 1e-9);
    for (const auto& w : e.model.wires) CHECK(w.lengthM() == Approx(10.0));
    const Vec3 a = e.model.wires[0].startM - e.model.wires[0].endM;
    const Vec3 b = e.model.wires[1].endM - e.model.wires[1].startM;
    CHECK(std::acos(a.normalized().dot(b.normalized())) / kDegree == Approx(120.0));
    // The feed in the middle is the apex, in series with the second leg.
    CHECK(e.model.feeds[0].place.wire == 1);
    CHECK(e.model.feeds[0].place.at == 0.0);
    // The first leg runs to the left; turned by 90 degrees to the right it runs to the front.
    CHECK(e.model.wires[0].startM.y() > 2.0);
    std::get<InvertedV>(d.parts[0].shape).turn = "90 deg";
    CHECK(expand(d).model.wires[0].startM.x() > 1.0);
}

TEST_CASE("a loop by perimeter or side, upright or flat, on a side or a corner") {
    auto d = plainDipole();
    RegularLoop loop;
    loop.centre = {"0", "0", "5"};
    loop.size = "20 m";
    d.parts[0].shape = loop;
    d.feeds[0].place = {PlaceKind::Corner, "1"};
    auto wires = expand(d).model.wires;
    REQUIRE(wires.size() == 4);
    double total = 0.0;
    double low = 1e9;
    for (const auto& w : wires) {
        total += w.lengthM();
        low = std::min({low, w.startM.z(), w.endM.z()});
        CHECK(std::abs(w.startM.x()) < 1e-9);  // stands across the front
    }
    CHECK(total == Approx(20.0));
    CHECK(low == Approx(8 + 5 - 2.5));
    CHECK(wires[0].startM.z() == Approx(wires[0].endM.z()));  // the bottom side comes first
    loop.cornerDown = true;
    loop.byPerimeter = false;
    loop.size = "2 m";
    loop.sides = "3";
    d.parts[0].shape = loop;
    wires = expand(d).model.wires;
    REQUIRE(wires.size() == 3);
    CHECK(wires[0].lengthM() == Approx(2.0));
    CHECK(wires[0].startM.z() == Approx(13 - 2 / std::sqrt(3.0)));
    loop.tilt = "0 deg";
    d.parts[0].shape = loop;
    for (const auto& w : expand(d).model.wires) CHECK(w.startM.z() == Approx(13.0));
    loop.sides = "2";
    d.parts[0].shape = loop;
    CHECK_THAT(firstError(d), Catch::Contains("number of sides") && Catch::Contains("3 to 60"));
}

TEST_CASE("a fan of radials droops from its hub") {
    auto d = plainDipole();
    Part fan;
    fan.name = "Radials";
    fan.shape = Fan{{"0", "0", "0"}, "6", "3 m", "30 deg", "0 deg"};
    d.parts = {wirePart("Vertical", {"0", "0", "0"}, {"0", "0", "5"}), fan};
    d.feeds[0] = {};
    d.feeds[0].part = "Vertical";
    d.feeds[0].place.kind = PlaceKind::Start;
    const auto e = expand(d);
    CHECK(e.findings.empty());
    REQUIRE(e.model.wires.size() == 7);
    for (std::size_t i = 1; i < 7; ++i) {
        CHECK(e.model.wires[i].endM.z() == Approx(8 - 1.5));
        CHECK(e.model.wires[i].lengthM() == Approx(3.0));
    }
    REQUIRE(e.joints.size() == 1);
    CHECK(e.joints[0].parts == std::vector<std::string>{"Vertical", "Radials"});
}

TEST_CASE("places along a bent wire") {
    auto d = plainDipole();
    d.parts[0].shape = BentWire{{{"0", "0", "0"}, {"0", "0", "4"}, {"6", "0", "4"}}, false};
    const auto at = [&](PlaceKind kind, const char* value) {
        d.feeds[0].place = {kind, value};
        const auto e = expand(d);
        REQUIRE_FALSE(e.model.feeds.empty());
        return e.model.feeds[0].place;
    };
    CHECK(at(PlaceKind::Middle, "").wire == 1);
    CHECK(at(PlaceKind::Middle, "").at == Approx(1.0 / 6));
    CHECK(at(PlaceKind::Corner, "1").wire == 1);
    CHECK(at(PlaceKind::Corner, "1").at == 0.0);
    CHECK(at(PlaceKind::Distance, "1 m").at == Approx(0.25));
    CHECK(at(PlaceKind::Distance, "-1 m").at == Approx(5.0 / 6));
    CHECK(at(PlaceKind::Percent, "5").at == Approx(0.125));
    CHECK(at(PlaceKind::Percent, "5 %").at == Approx(0.125));
    d.feeds[0].place = {PlaceKind::Distance, "11 m"};
    CHECK_THAT(firstError(d), Catch::Contains("10.000 m long"));
    d.feeds[0].place = {PlaceKind::Corner, "2"};
    CHECK_THAT(firstError(d), Catch::Contains("corner"));
}

TEST_CASE("checks name the part and the mend") {
    using Catch::Contains;
    auto d = plainDipole();
    SECTION("crossing without a joint") {
        d.parts.push_back(wirePart("Guy", {"-3", "1", "0"}, {"3", "1", "0"}));
        CHECK_THAT(firstError(d), Contains("Guy") && Contains("Dipole") && Contains("without a joint"));
    }
    SECTION("nearly touching") {
        d.parts.push_back(wirePart("Guy", {"-3", "1", "0.0025"}, {"3", "1", "0.0025"}));
        const auto e = expand(d);
        CHECK_FALSE(hasError(e.findings));
        REQUIRE(e.findings.size() == 1);
        CHECK_THAT(e.findings[0].sentence, Contains("0.5 mm apart"));
    }
    SECTION("lying on each other") {
        d.parts.push_back(wirePart("Twin", {"0", "-1", "0"}, {"0", "1", "0"}));
        CHECK_THAT(firstError(d), Contains("lie on each other"));
    }
    SECTION("an end on the middle of a wire is a joint") {
        d.parts.push_back(wirePart("Tail", {"0", "2", "0"}, {"0", "2", "-3"}));
        const auto e = expand(d);
        CHECK(e.findings.empty());
        CHECK(e.joints.size() == 1);
        CHECK(em::makeMesh(e.model, 14e6).functions.size() >
              em::makeMesh(expand(plainDipole()).model, 14e6).functions.size() + 3);
    }
    SECTION("a sharp angle at a joint") {
        d.parts.push_back(wirePart("Tail", {"0", "5", "0"}, {"0", "-5", "0.2"}));
        CHECK_THAT(firstError(d), Contains("apart"));
    }
    SECTION("shorter than its diameter") {
        d.parts[0].conductor.diameter = "50 mm";
        d.parts.push_back(wirePart("Dot", {"5", "5", "0"}, {"5", "5", "0.001"}));
        CHECK_THAT(firstError(d), Contains("Dot") && Contains("shorter than its diameter"));
    }
    SECTION("below ground") {
        d.site.height = "-1 m";
        CHECK_THAT(firstError(d), Contains("Dipole reaches 1.00 m below the ground") && Contains("Raise"));
    }
    SECTION("on the ground") {
        d.site.height = "0 m";
        CHECK_THAT(firstError(d), Contains("lies on perfect ground"));
    }
    SECTION("a feed on nothing") {
        d.feeds[0].part = "Gone";
        CHECK_THAT(firstError(d), Contains("Feed is on \"Gone\", which is not there"));
    }
    SECTION("a feed on a part that is off") {
        d.parts.push_back(wirePart("Other", {"5", "-1", "0"}, {"5", "1", "0"}));
        d.parts[0].enabled = false;
        CHECK_THAT(firstError(d), Contains("switched off"));
    }
    SECTION("no feed") {
        d.feeds.clear();
        CHECK_THAT(firstError(d), Contains("nothing drives"));
    }
    SECTION("an open end fed") {
        d.feeds[0].place.kind = PlaceKind::End;
        CHECK_THAT(firstError(d), Contains("open end"));
    }
    SECTION("no thickness") {
        d.parts[0].conductor.diameter = "0 mm";
        CHECK_THAT(firstError(d), Contains("Dipole has no thickness"));
    }
    SECTION("no length") {
        d.dimensions[0].text = "0 m";
        CHECK_THAT(firstError(d), Contains("no length"));
    }
    SECTION("too thick for a wire") {
        d.parts[0].conductor.diameter = "0.5 m";
        CHECK(expand(d).findings.front().severity == Severity::Warning);
        d.parts[0].conductor.diameter = "3 m";
        CHECK_THAT(firstError(d), Contains("wavelengths thick"));
    }
    SECTION("two parts of one name") {
        d.parts.push_back(wirePart("Dipole", {"5", "-1", "0"}, {"5", "1", "0"}));
        CHECK_THAT(firstError(d), Contains("two parts named Dipole"));
    }
}

TEST_CASE("a model with an error never gets numbers") {
    auto d = plainDipole();
    d.parts.push_back(wirePart("Guy", {"-3", "1", "0"}, {"3", "1", "0"}));
    CHECK_THROWS_AS(study::analyse(expand(d), 14.15e6), Error);
    d = plainDipole();
    d.parts.clear();
    CHECK_THROWS_AS(study::analyse(expand(d), 14.15e6), Error);
}

TEST_CASE("materials and bands are complete") {
    for (const auto& material : materials()) {
        CHECK(findMaterial(material.id) == &material);
        if (material.conductivitySm) CHECK(*material.conductivitySm > 1e5);
    }
    double last = 0.0;
    for (const auto& band : allocatedBands()) {
        CHECK(band.lowHz > last);
        CHECK(band.highHz > band.lowHz);
        last = band.highHz;
    }
    CHECK(allocatedBands().front().lowHz >= 1.8e6);
    CHECK(allocatedBands().back().highHz <= 450e6);
}
