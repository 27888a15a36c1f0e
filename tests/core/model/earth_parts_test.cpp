// Radial systems and ground rods: worked out, written and read, put under what stands there, and what they
// do.
#include <algorithm>
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "core/edit/items.h"
#include "core/model/checks.h"
#include "core/project/project_file.h"
#include "core/study/figures.h"
#include "core/study/lying.h"

using namespace rm;
using namespace rm::model;
using Catch::Contains;

namespace {

Part radialPart(const RadialSystem& shape) {
    Part part;
    part.name = "Radials";
    part.shape = shape;
    return part;
}

/// A quarter wave for 7.1 MHz over average soil on a radial system.
Design verticalOnRadials(const RadialSystem& shape) {
    Design d;
    d.designFrequency = "7.1 MHz";
    Part vertical;
    vertical.name = "Vertical";
    vertical.shape = StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "10.2 m"}};
    d.parts = {vertical, radialPart(shape)};
    Feed feed;
    feed.part = "Vertical";
    feed.place.kind = PlaceKind::Start;
    d.feeds.push_back(feed);
    d.site.ground = GroundKind::Real;
    d.site.height = "0 m";
    return d;
}

bool mentions(const std::vector<Finding>& findings, const std::string& words) {
    return std::any_of(findings.begin(), findings.end(), [&](const Finding& f) {
        return (f.sentence + " " + f.mend).find(words) != std::string::npos;
    });
}

std::string errorOf(const RadialSystem& shape) {
    for (const auto& f : expand(verticalOnRadials(shape)).findings)
        if (f.severity == Severity::Error) return f.sentence + " " + f.mend;
    return "";
}

}  // namespace

TEST_CASE("a radial system is a stub, a rod and the radials") {
    RadialSystem shape;
    shape.count = "8";
    shape.length = "6 m; 9 m";
    shape.depth = "10 cm";
    shape.slope = "2 deg";
    shape.rod = "1.5 m";
    const auto e = expand(verticalOnRadials(shape));
    REQUIRE_FALSE(hasError(e.findings));
    const auto& wires = e.model.wires;
    REQUIRE(wires.size() == 1 + 2 + 8);
    CHECK((wires[1].endM - Vec3(0.0, 0.0, -0.1)).norm() < 1e-12);
    CHECK((wires[2].endM - Vec3(0.0, 0.0, -1.6)).norm() < 1e-12);
    CHECK(wires[2].radiusM == Approx(0.008));
    CHECK(wires[3].lengthM() == Approx(6.0));
    CHECK(wires[4].lengthM() == Approx(9.0));
    CHECK(wires[10].lengthM() == Approx(9.0));
    CHECK(wires[3].endM.z() == Approx(-0.1 - 6.0 * std::sin(2.0 * kDegree)));
    // All round, the second to the right of the first.
    CHECK(wires[4].endM.y() < 0.0);
    CHECK((wires[3].endM + wires[7].endM).head<2>().norm() < 1e-9);
}

TEST_CASE("radials spread over a sector reach both its sides, and bent up ones rise") {
    RadialSystem shape;
    shape.count = "5";
    shape.sector = "120 deg";
    shape.first = "90 deg";
    shape.length = "5 m";
    shape.bentUp = "1 m";
    const auto e = expand(verticalOnRadials(shape));
    REQUIRE_FALSE(hasError(e.findings));
    REQUIRE(e.model.wires.size() == 2 + 10);
    const auto bearingOf = [&](std::size_t i) {
        const Vec3& end = e.model.wires[i].endM;
        return std::atan2(-end.y(), end.x()) / kDegree;
    };
    CHECK(bearingOf(2) == Approx(30.0));
    CHECK(bearingOf(6) == Approx(90.0));
    CHECK(bearingOf(10) == Approx(150.0));
    CHECK(e.model.wires[2].lengthM() == Approx(4.0));
    CHECK(e.model.wires[3].endM.z() - e.model.wires[3].startM.z() == Approx(1.0));
}

TEST_CASE("a radial system that cannot be says what to mend") {
    RadialSystem shape;
    shape.depth = "-1 m";
    CHECK_THAT(errorOf(shape), Contains("depth below zero") && Contains("put their foot higher"));
    shape = {};
    shape.sector = "400 deg";
    CHECK_THAT(errorOf(shape), Contains("spread over 400 degrees"));
    shape = {};
    shape.length = "5 m; 0 m";
    CHECK_THAT(errorOf(shape), Contains("without a length"));
    shape = {};
    shape.bentUp = "12 m";
    CHECK_THAT(errorOf(shape), Contains("bent up over its whole length"));
    shape = {};
    shape.rod = "-1 m";
    CHECK_THAT(errorOf(shape), Contains("length below zero"));
    shape = {};
    shape.count = "0";
    CHECK_FALSE(errorOf(shape).empty());
    Design d = verticalOnRadials({});
    d.parts[1].shape = GroundRod{{"0 m", "0 m", "0 m"}, "0 m"};
    CHECK(mentions(expand(d).findings, "has no length"));
}

TEST_CASE("radial systems and rods survive the file") {
    RadialSystem shape;
    shape.count = "n";
    shape.length = "5 m; 8 m";
    shape.bentUp = "1 m";
    shape.rod = "2 m";
    shape.rodDiameter = "14 mm";
    shape.sector = "270 deg";
    Project project;
    project.designs.push_back(verticalOnRadials(shape));
    Part rod;
    rod.name = "Rod";
    rod.shape = GroundRod{{"3 m", "0 m", "0 m"}, "1.2 m"};
    project.designs[0].parts.push_back(rod);
    const auto back = io::fromJson(io::toJson(project));
    CHECK(back.designs[0].parts[1].shape == project.designs[0].parts[1].shape);
    CHECK(back.designs[0].parts[2].shape == project.designs[0].parts[2].shape);
}

TEST_CASE("on perfect ground radials and rods are left out, and the designer is told") {
    Design d = verticalOnRadials({});
    d.site.ground = GroundKind::Perfect;
    const auto e = expand(d);
    CHECK_FALSE(hasError(e.findings));
    CHECK(e.model.wires.size() == 1);
    CHECK(mentions(e.findings, "Radials does nothing on perfect ground and is left out"));
    CHECK(study::analyse(e, 7.1e6).figures.antennaOhm.real() == Approx(36.0).margin(2.5));
}

TEST_CASE("what the antenna stands on is put under it") {
    Project project;
    Design d = verticalOnRadials({});
    d.parts.pop_back();
    std::get<StraightWire>(d.parts[0].shape) = {{"3 m", "-2 m", "0 m"}, {"3 m", "-2 m", "10 m"}};
    project.designs.push_back(d);
    CHECK(hasError(checkWires(expand(d).model, 7.1e6)));
    const auto with = edit::addPart(project, edit::PartKind::Radials, 42.0);
    const Design& on = with.project.designs[0];
    CHECK(std::get<RadialSystem>(on.parts[1].shape).foot == PointText{"3 m", "-2 m", "0 m"});
    CHECK(on.feeds.size() == 1);
    CHECK_FALSE(hasError(checkWires(expand(on).model, 7.1e6)));
    const auto rod = edit::addPart(project, edit::PartKind::Rod, 42.0);
    CHECK(std::get<GroundRod>(rod.project.designs[0].parts[1].shape).top == PointText{"3 m", "-2 m", "0 m"});
    CHECK_FALSE(hasError(checkWires(expand(rod.project.designs[0]).model, 7.1e6)));
}

TEST_CASE("more radials: less resistance, less in the soil, more to the sky; a rod is not the same") {
    const auto figures = [](const std::string& count) {
        RadialSystem shape;
        shape.count = count;
        return study::analyse(expand(verticalOnRadials(shape)), 7.1e6).figures;
    };
    auto before = figures("4");
    for (const char* count : {"8", "16", "32", "64", "120"}) {
        const auto now = figures(count);
        INFO(count << ": R " << now.antennaOhm.real() << " sky " << now.skyShare << " soil "
                   << now.soilShare() << " reflection " << now.reflectionShare);
        CHECK(now.antennaOhm.real() < before.antennaOhm.real());
        CHECK(now.skyShare > before.skyShare);
        CHECK(now.soilShare() < before.soilShare());
        CHECK(now.soilShare() > 0.0);
        CHECK(now.reflectionShare > 0.0);
        CHECK(now.skyShare + now.soilShare() + now.reflectionShare == Approx(now.efficiency));
        before = now;
    }
    Design rod = verticalOnRadials({});
    rod.parts[1].shape = GroundRod{{"0 m", "0 m", "0 m"}, "2 m"};
    rod.parts[1].conductor.diameter = "16 mm";
    const auto onRod = study::analyse(expand(rod), 7.1e6).figures;
    CHECK(onRod.antennaOhm.real() > 90.0);
    CHECK(onRod.skyShare < 0.5 * before.skyShare);
    CHECK(onRod.soilShare() > 0.6);
}

TEST_CASE("high above the ground nearly all that it takes, it takes from the reflection") {
    Design d;
    d.designFrequency = "14.1 MHz";
    Part dipole;
    dipole.name = "Dipole";
    dipole.shape = StraightWire{{"0 m", "-5 m", "0 m"}, {"0 m", "5 m", "0 m"}};
    d.parts.push_back(dipole);
    Feed feed;
    feed.part = "Dipole";
    d.feeds.push_back(feed);
    d.site.ground = GroundKind::Real;
    double soil = 1.0;
    for (const char* height : {"0.5 m", "2 m", "10 m", "40 m"}) {
        d.site.height = height;
        const auto f = study::analyse(expand(d), 14.1e6).figures;
        INFO(height << " soil " << f.soilShare() << " reflection " << f.reflectionShare);
        CHECK(f.soilShare() < soil);
        soil = f.soilShare();
        if (d.site.height == "40 m") CHECK(f.soilShare() < 0.01 * f.reflectionShare);
    }
}

TEST_CASE("what lies on the ground is said with the difference that treading it in would make") {
    RadialSystem shape;
    shape.depth = "0 m";
    shape.count = "8";
    const auto e = expand(verticalOnRadials(shape));
    REQUIRE_FALSE(hasError(e.findings));
    CHECK(mentions(e.findings, "Radials lies on the ground"));
    const auto a = study::analyse(e, 7.1e6);
    const auto all = study::lyingDifferences(e, a);
    REQUIRE(all.size() == 1);
    CHECK(all[0].heightM == Approx(0.0025));
    CHECK(std::abs(all[0].otherOhm - all[0].ohm) > 3.0);
    CHECK_THAT(all[0].sentence(),
               Contains("Radials lies on the ground and is worked out 2.5 mm above it. Pressed "
                        "2.5 mm into it, the feed would see"));
    // As the same radials worked out there.
    shape.depth = "2.5 mm";
    Design below = verticalOnRadials({});
    std::get<RadialSystem>(below.parts[1].shape) = shape;
    // What is far from the ground has nothing to say.
    shape.depth = "10 cm";
    const auto deep = expand(verticalOnRadials(shape));
    CHECK(study::lyingDifferences(deep, study::analyse(deep, 7.1e6)).empty());
}

TEST_CASE(
    "insulation that ends in the ground is said to be sealed there, once, and bare or joined ends are not") {
    const std::string words = "ends in the ground inside its insulation";
    Design d = verticalOnRadials({});
    CHECK_FALSE(mentions(expand(d).findings, words));
    d.parts[1].conductor.coat = "1 mm";
    const auto coated = expand(d);
    CHECK(mentions(coated.findings, words));
    CHECK_FALSE(hasError(coated.findings));
    CHECK(std::count_if(coated.findings.begin(), coated.findings.end(),
                        [&](const Finding& f) { return f.sentence.find(words) != std::string::npos; }) == 1);
    // In the air nothing gets wet.
    d.site.height = "3 m";
    CHECK_FALSE(mentions(expand(d).findings, words));
    // An insulated lead down to a rod is joined to it.
    WireModel m;
    m.ground = {GroundKind::Real, 13.0, 0.005};
    PlainWire lead;
    lead.part = "Lead";
    lead.startM = {0, 0, 1};
    lead.endM = {0, 0, -0.2};
    lead.coatM = 0.001;
    PlainWire rod;
    rod.part = "Rod";
    rod.startM = {0, 0, -0.2};
    rod.endM = {0, 0, -1.5};
    rod.radiusM = 0.008;
    m.wires = {lead, rod};
    CHECK_FALSE(mentions(checkWires(m, 7.1e6), words));
    m.wires.pop_back();
    CHECK(mentions(checkWires(m, 7.1e6), words));
}

TEST_CASE("what stands nearby stands in the soil, where there is any") {
    Project project;
    Design d = verticalOnRadials({});
    d.parts.pop_back();
    std::get<StraightWire>(d.parts[0].shape) = {{"0 m", "-5 m", "12 m"}, {"0 m", "5 m", "12 m"}};
    d.feeds[0].place = {PlaceKind::Middle, ""};
    project.designs.push_back(d);
    for (const auto kind : {edit::PartKind::Mast, edit::PartKind::Guys, edit::PartKind::Gutter}) {
        const auto with = edit::addPart(project, kind, 42.0);
        const auto e = expand(with.project.designs[0]);
        const std::string name = with.project.designs[0].parts.back().name;
        INFO(name);
        const auto lowest = std::min_element(
            e.model.wires.begin(), e.model.wires.end(), [&](const PlainWire& a, const PlainWire& b) {
                const auto foot = [&](const PlainWire& w) {
                    return w.part.starts_with(name) ? std::min(w.startM.z(), w.endM.z()) : 1e9;
                };
                return foot(a) < foot(b);
            });
        CHECK(std::min(lowest->startM.z(), lowest->endM.z()) < -0.1);
        CHECK_FALSE(hasError(checkWires(e.model, 7.1e6)));
        // Without soil, or where the whole antenna is lifted, it ends above the ground.
        for (const bool lifted : {false, true}) {
            Project other = project;
            if (lifted)
                other.designs[0].site.height = "3 m";
            else
                other.designs[0].site.ground = GroundKind::FreeSpace;
            const auto above = expand(edit::addPart(other, kind, 42.0).project.designs[0]);
            for (const auto& wire : above.model.wires)
                if (wire.part.starts_with(name)) CHECK(std::min(wire.startM.z(), wire.endM.z()) > 0.0);
        }
    }
}
