// The strongest direction against a close look at all of them, resonances against the reactance there, and
// feed paths whose watts add up.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "antennas.h"
#include "core/em/far_field.h"
#include "core/study/figures.h"
#include "core/study/path_study.h"
#include "core/study/peak.h"
#include "core/study/radio.h"
#include "core/study/resonance.h"
#include "demo.h"

using namespace rm;

namespace {

/// The largest gain on a grid of directions, dBi.
double largestOnGrid(const test::Solved& s, double stepDeg, bool ground) {
    std::vector<em::Direction> directions;
    for (double elevation = ground ? 0.0 : -90.0; elevation <= 90.0; elevation += stepDeg)
        for (double azimuth = 0.0; azimuth < 360.0; azimuth += stepDeg)
            directions.push_back({elevation, azimuth});
    double most = -1e9;
    for (const auto& field : em::farField(*s.mesh, s.reading.localCurrent, s.reading.frequencyHz, directions))
        most = std::max(most, em::gainDbi(field, s.reading.inputPowerW));
    return most;
}

}  // namespace

TEST_CASE("no direction is stronger than the peak, and the peak is one of them") {
    struct Case {
        const char* name;
        model::WireModel model;
        double hz;
        bool ground;
    };
    const Case cases[] = {{"dipole", test::dipole(10.2, 0.001), 14.1e6, false},
                          {"Yagi", test::yagi(), 50.2e6, false},
                          {"Yagi over ground", test::overGround(test::yagi(), 6.3), 50.2e6, true},
                          {"long dipole", test::overGround(test::dipole(38.0, 0.001), 9.0), 14.1e6, true},
                          {"vertical", test::verticalWithRadials(4), 7.1e6, true}};
    for (const auto& one : cases) {
        INFO(one.name);
        const auto s = test::solve(one.model, one.hz);
        const auto peak = study::findPeak(*s.mesh, s.reading);
        const double onGrid = largestOnGrid(s, 1.5, one.ground);
        // Of lobes that are equally strong within 0.02 dB over ground the lowest is meant.
        CHECK(peak.gainDbi >= onGrid - (one.ground ? 0.021 : 1e-6));
        CHECK(peak.gainDbi <= onGrid + 0.05);
        CHECK(s.gain(peak.direction.elevationDeg, peak.direction.azimuthDeg) ==
              Approx(peak.gainDbi).margin(1e-6));
        // Up to the last hundredth of a degree.
        for (const double turn : {-0.3, 0.3}) {
            const double beside = s.gain(peak.direction.elevationDeg, peak.direction.azimuthDeg + turn);
            CHECK(beside <= peak.gainDbi + 1e-6);
        }
    }
    // Of all the directions round a dipole that are equal the one at the horizon in front.
    const auto dipole = test::solve(test::dipole(10.2, 0.001), 14.1e6);
    const auto peak = study::findPeak(*dipole.mesh, dipole.reading);
    CHECK(peak.gainDbi == Approx(2.13).margin(0.03));
    CHECK(std::abs(peak.direction.elevationDeg) < 1.0);
}

TEST_CASE(
    "the strongest direction of the rings that the power to the sky is summed up from is that of the grid") {
    const auto compare = [](const em::Mesh& mesh, const circuit::Reading& reading) {
        em::SkyRings sky;
        const auto with =
            em::skyPower(mesh, reading.localCurrent, reading.frequencyHz, reading.inputPowerW, {}, &sky);
        const auto without =
            em::skyPower(mesh, reading.localCurrent, reading.frequencyHz, reading.inputPowerW);
        CHECK(with.radiated == without.radiated);
        REQUIRE(sky.fields.size() == sky.elevationDeg.size());
        CHECK(std::is_sorted(sky.elevationDeg.begin(), sky.elevationDeg.end()));
        const auto onGrid = study::findPeak(mesh, reading);
        const auto inSky = study::findPeak(mesh, reading, &sky);
        // Lobes that are equally strong within 0.02 dB may be told apart otherwise.
        CHECK(inSky.gainDbi >= onGrid.gainDbi - 0.021);
        CHECK(inSky.gainDbi <= onGrid.gainDbi + 0.021);
        if (onGrid.direction.elevationDeg == 90.0) {
            CHECK(onGrid.direction.azimuthDeg == 0.0);
            CHECK(inSky.direction.azimuthDeg == 0.0);
        }
        CHECK(inSky.direction.elevationDeg == Approx(onGrid.direction.elevationDeg).margin(0.2));
    };
    for (const double height : {0.6, 3.1, 6.3, 17.0, 26.0}) {
        INFO(height);
        const auto yagi = test::solve(test::overGround(test::yagi(), height), 50.2e6);
        compare(*yagi.mesh, yagi.reading);
        const auto wire = test::solve(test::overGround(test::dipole(38.0, 0.001), height), 14.1e6);
        compare(*wire.mesh, wire.reading);
    }
    const auto vertical = test::solve(test::verticalWithRadials(4), 7.1e6);
    compare(*vertical.mesh, vertical.reading);
    for (const auto& design : io::readProject(RM_SOURCE_DIR "/demo/heron_point.json").designs) {
        INFO(design.name);
        const auto expansion = model::expand(design);
        const auto a = study::analyse(expansion, expansion.designFrequencyHz);
        compare(*a.mesh, a.reading);
    }
}

TEST_CASE("at a resonance the reactance is nothing, on either side of it something") {
    const auto design = test::wrapped(test::overGround(test::dipole(10.2, 0.001), 8.0));
    const auto found = study::findResonance(design, 14.1e6);
    REQUIRE(found);
    CHECK(std::abs(found->impedanceOhm.imag()) < 0.01);
    const auto mesh =
        std::make_shared<const em::Mesh>(em::makeMesh(design.model, 1.02 * found->frequencyHz, {}));
    const auto reactance = [&](double factor) {
        return study::antennaImpedance(design.model, mesh, factor * found->frequencyHz).imag();
    };
    CHECK(reactance(0.99) < -5.0);
    CHECK(reactance(1.01) > 5.0);
    // Asked from farther off it is still the same one.
    const auto again = study::findResonance(design, 12.9e6);
    REQUIRE(again);
    CHECK(again->frequencyHz == Approx(found->frequencyHz).epsilon(1e-5));
    // A wire much too short has none within a factor of two.
    CHECK_FALSE(study::findResonance(test::wrapped(test::dipole(1.0, 0.001)), 14.1e6));
}

TEST_CASE("an antenna is scaled by what was chosen, and only by that") {
    auto design = test::demoDesign("Inverted V, 60 m");
    const auto names = study::scalableDimensions(design);
    REQUIRE_FALSE(names.empty());
    CHECK(std::find(names.begin(), names.end(), "leg") != names.end());
    const auto scaled = study::scaleToFrequency(design, {"leg"}, 7.1e6);
    CHECK(scaled.after.frequencyHz == Approx(7.1e6).epsilon(1e-4));
    CHECK(std::abs(scaled.after.impedanceOhm.imag()) < 0.1);
    CHECK(scaled.factor < 1.0);
    for (std::size_t i = 0; i < design.dimensions.size(); ++i)
        CHECK((scaled.design.dimensions[i].text == design.dimensions[i].text) ==
              (design.dimensions[i].name != "leg"));
    CHECK_THROWS_AS(study::scaleToFrequency(design, {}, 7.1e6), Error);
    CHECK_THROWS_AS(study::scaleToFrequency(design, {"nothing"}, 7.1e6), Error);
}

TEST_CASE("of every watt that the radio gives, it is known where it went") {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    int paths = 0;
    for (const auto& design : project.designs) {
        const auto expansion = model::expand(design);
        if (expansion.feedPath.empty()) continue;
        ++paths;
        INFO(design.name);
        for (const Complex load : {Complex(50.0, 0.0), Complex(12.0, -180.0), Complex(2400.0, 600.0)}) {
            const auto report = study::reportPath(expansion, load, expansion.designFrequencyHz);
            REQUIRE(report.joints.size() == expansion.feedPath.size() + 1);
            REQUIRE(report.arcs.size() == expansion.feedPath.size());
            double sum = report.arrivingW(100.0);
            CHECK(sum > 0.0);
            for (const double lost : report.lostW(100.0)) {
                CHECK(lost >= -1e-9);
                sum += lost;
            }
            CHECK(sum == Approx(100.0).epsilon(1e-9));
            CHECK(report.arrivingW(100.0) ==
                  Approx(100.0 * std::pow(10.0, -0.1 * report.joints.back().totalLossDb)).epsilon(1e-9));
            // The arcs lead from joint to joint.
            for (std::size_t i = 0; i < report.arcs.size(); ++i) {
                const Complex end = report.joints[i + 1].impedanceOhm;
                CHECK(std::abs(report.arcs[i].back() - end) < 1e-6 * (1.0 + std::abs(end)));
            }
            CHECK(std::abs(study::atRadio(expansion, load, expansion.designFrequencyHz) -
                           report.joints.back().impedanceOhm) < 1e-9);
        }
    }
    CHECK(paths >= 3);
}
