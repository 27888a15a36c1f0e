// Lobes, nulls, beamwidths and needed angles on patterns with known answers; what a pin is called.
#include <catch2/catch.hpp>
#include <fstream>
#include <nlohmann/json.hpp>

#include "antennas.h"
#include "core/model/difference.h"
#include "core/project/project_file.h"
#include "core/study/hop.h"
#include "core/study/lobes.h"

using namespace rm;
using namespace rm::test;

namespace {

study::Cut cutOf(double from, double to, double step, const std::function<double(double)>& power) {
    study::Cut cut;
    for (double a = from; a <= to + 1e-9; a += step) {
        cut.angleDeg.push_back(a);
        cut.gainDbi.push_back(10.0 * std::log10(std::max(1e-12, power(a))));
    }
    return cut;
}

}  // namespace

TEST_CASE("a cut that is asked in no direction of this world has no gain there") {
    study::Cut cut;
    cut.angleDeg = {0.0, 90.0, 180.0, 270.0, 360.0};
    cut.gainDbi = {1.0, 2.0, 3.0, 4.0, 1.0};
    CHECK(cut.at(45.0) == Approx(1.5));
    CHECK(cut.at(-90.0) == Approx(4.0));
    for (const double nowhere : {std::nan(""), HUGE_VAL, -HUGE_VAL}) CHECK(cut.at(nowhere) == -999.0);
    CHECK(study::Cut{}.at(10.0) == -999.0);
}

TEST_CASE("a cosine squared has its half power at 45 degrees either side and nulls across") {
    const auto ring =
        cutOf(0.0, 360.0, 1.0, [](double a) { return 2.0 * std::pow(std::cos((a - 30.4) * kDegree), 2); });
    const auto f = study::readCut(ring);
    CHECK(f.maximum.angleDeg == Approx(30.4).margin(0.05));
    CHECK(f.maximum.gainDbi == Approx(3.0103).margin(0.001));
    REQUIRE(f.beamwidthDeg());
    CHECK(*f.beamwidthDeg() == Approx(90.0).margin(0.05));
    REQUIRE(f.nulls.size() == 2);
    CHECK(f.nulls[0].angleDeg == Approx(120.4).margin(0.5));
    CHECK(f.nulls[1].angleDeg == Approx(300.4).margin(0.5));
    REQUIRE(f.sideLobe);  // the lobe behind is as strong
    CHECK(f.sideLobe->angleDeg == Approx(210.4).margin(0.05));
    CHECK(*f.sideLobeDb() == Approx(0.0).margin(0.001));
}

TEST_CASE("a row of eight in phase: first side lobe, nulls and beamwidth as the array factor says") {
    const auto factor = [](double a) {
        const double u = kPi * 0.5 * std::sin(a * kDegree);
        return std::abs(u) < 1e-9 ? 64.0 : std::pow(std::sin(8.0 * u) / std::sin(u), 2);
    };
    const auto f = study::readCut(cutOf(-90.0, 90.0, 0.25, factor));
    CHECK(f.maximum.angleDeg == Approx(0.0).margin(0.01));
    CHECK(*f.sideLobeDb() == Approx(-12.80).margin(0.03));
    CHECK(*f.beamwidthDeg() == Approx(12.8).margin(0.1));
    // Nulls at sin a = n/4.
    REQUIRE(f.nulls.size() == 6);
    CHECK(f.nulls[3].angleDeg == Approx(std::asin(0.25) / kDegree).margin(0.1));
}

TEST_CASE("a round pattern has no beamwidth, no nulls and no side lobe") {
    const auto f = study::readCut(cutOf(0.0, 360.0, 2.0, [](double) { return 1.6; }));
    CHECK_FALSE(f.beamwidthDeg());
    CHECK(f.nulls.empty());
    CHECK_FALSE(f.sideLobe);
}

TEST_CASE("a half-wave dipole: 2.15 dBi and 78 degrees; its directivity is that of all its power") {
    const double f = 14.1e6;
    const auto a = study::analyse(wrapped(dipole(0.5 * wavelengthM(f), 1e-5), f), f);
    CHECK(a.figures.peak.gainDbi == Approx(2.15).margin(0.02));
    // Along the wire lie the nulls of the azimuth cut.
    const auto ring = study::readCut(a.azimuth);
    CHECK(*ring.beamwidthDeg() == Approx(78.0).margin(0.5));
    CHECK(ring.nulls.size() == 2);
    CHECK(a.figures.frontToRearDb == Approx(0.0).margin(0.01));
    CHECK(a.figures.directivityDbi == Approx(a.figures.peak.gainDbi).margin(0.001));
    // Loss takes gain, not directivity.
    auto lossy = dipole(0.5 * wavelengthM(f), 1e-4);
    lossy.wires[0].conductivitySm = 1e6;
    const auto b = study::analyse(wrapped(lossy, f), f);
    CHECK(b.figures.peak.gainDbi < 2.05);
    CHECK(b.figures.directivityDbi == Approx(2.15).margin(0.03));
}

TEST_CASE("two far-apart dipoles in phase: gain and nulls of the array factor") {
    const double f = 50e6;
    auto m = dipole(0.48 * wavelengthM(f), 1e-4);
    m.wires.push_back(wire({2.0 * wavelengthM(f), -0.24 * wavelengthM(f), 0},
                           {2.0 * wavelengthM(f), 0.24 * wavelengthM(f), 0}, 1e-4));
    addFeed(m, 1, 0.5);
    study::AnalysisOptions options;
    options.bearingAzimuthDeg = 0.0;
    const auto a = study::analyse(wrapped(m, f), f, options);
    CHECK(a.figures.peak.gainDbi == Approx(2.15 + 3.01).margin(0.25));
    // Along the line of the two: cos^2(2 pi cos(el)): nulls where 2 cos(el) is 0.5 and 1.5 (half waves).
    const auto cut = study::readCut(a.elevation);
    const auto hasNull = [&](double at) {
        return std::any_of(cut.nulls.begin(), cut.nulls.end(),
                           [&](const auto& n) { return std::abs(n.angleDeg - at) < 1.0; });
    };
    CHECK(hasNull(std::acos(0.25) / kDegree));
    CHECK(hasNull(std::acos(0.75) / kDegree));
}

TEST_CASE("needed angles and the mean gain over them") {
    model::Angles angles;
    CHECK_FALSE(study::neededAngles(angles));
    angles.nearestKm = 0.0;
    angles.farthestKm = 500.0;
    const auto steep = study::neededAngles(angles);
    REQUIRE(steep);
    CHECK(steep->highDeg == 90.0);
    CHECK(study::hopDistanceKm(steep->lowDeg, 300.0) == Approx(500.0));
    angles.nearestKm = 1500.0;
    angles.farthestKm = 9000.0;
    const auto low = study::neededAngles(angles);
    REQUIRE(low);
    CHECK(low->lowDeg == 0.0);
    CHECK(study::hopDistanceKm(low->highDeg, 300.0) == Approx(1500.0));
    angles.nearestKm = 8000.0;
    CHECK_FALSE(study::neededAngles(angles));
    // Half of the range at 4, half at nothing: 2 on the mean.
    const auto step = cutOf(0.0, 180.0, 0.1, [](double a) { return a < 20.0 ? 4.0 : 0.0; });
    CHECK(study::meanGainDbi(step, {10.0, 30.0}) == Approx(3.01).margin(0.06));
}

TEST_CASE("a pin is called after what changed") {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    const auto& v = project.designs.at(0);
    auto d = v;
    CHECK(model::describeChange(v, d).empty());
    d.dimensions[0].text = "9 m";
    CHECK(model::describeChange(v, d) == "apex 11.5 m → 9 m");
    d.parts[1].enabled = true;
    CHECK(model::describeChange(v, d) == "apex 11.5 m → 9 m, Lattice mast on");
    d.site.soil = "rock";
    d.site.heading = "50 deg";
    CHECK(model::describeChange(v, d) == "apex 11.5 m → 9 m, Lattice mast on and 2 more");
    CHECK(model::describeChange(v, project.designs.at(3)) == "Ground plane, 30 m");
    d = v;
    d.parts.pop_back();
    CHECK(model::describeChange(v, d) == "without Lattice mast");
}

TEST_CASE("pins, baseline and angles are kept in the project file") {
    auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    project.pins.clear();
    project.pins.push_back({"apex 9 m", project.designs[0], false, 3, {}});
    project.pins[0].design.dimensions[0].text = "9 m";
    project.baseline = 0;
    project.angles = {{3.0, 6.0, 12.0, 40.0}, 250.0, 500.0, 2500.0};
    const auto again = io::fromJson(io::toJson(project));
    REQUIRE(again.pins.size() == 1);
    CHECK(again.pins[0].name == "apex 9 m");
    CHECK_FALSE(again.pins[0].shown);
    CHECK(again.pins[0].colour == 3);
    CHECK(again.pins[0].design.dimensions[0].text == "9 m");
    CHECK(again.baseline == 0);
    CHECK(again.angles.watchDeg == project.angles.watchDeg);
    CHECK(again.angles.layerKm == 250.0);
    CHECK(again.angles.farthestKm == 2500.0);
}
