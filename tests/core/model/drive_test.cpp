// Drive sets, harnesses, steering, coupling and stacking: the same as circuits set out by hand.
#include <catch2/catch.hpp>

#include "array_designs.h"
#include "core/study/drive_study.h"
#include "core/study/stacking.h"
#include "findings.h"

using namespace rm;
using namespace rm::test;
using namespace rm::model;
using rm::test::firstError;

TEST_CASE("two far apart gain 3 dB; a half turned round leaves nothing broadside") {
    auto d = dipoleDesign();
    const double one = solved(d).gain(0, 0);
    d.copies = {stack("2", "1", "3000 m", "0 m")};
    CHECK(solved(d).gain(0, 0) - one == Approx(10.0 * std::log10(2.0)).margin(0.01));
    d.copies = {stack("4", "4", "70 m", "70 m")};
    CHECK(solved(d).gain(0, 0) - one == Approx(10.0 * std::log10(16.0)).margin(0.1));
    // Upper half reversed: nothing along the horizon, and lobes above and below it.
    d.copies = {stack("4", "1", "4 m", "0 m")};
    const auto e = expand(d);
    d.driveSets = study::driveSetsBy(study::DrivePattern::UpperHalfReversed, e, kArrayHz);
    REQUIRE(d.driveSets.size() == 1);
    d.driveSet = 0;
    CHECK(solved(d).gain(0, 0) < -100.0);
    const auto a = study::analyse(expand(d), kArrayHz);
    CHECK(std::abs(a.figures.peak.direction.elevationDeg) > 8.0);
}

TEST_CASE("idle feeds are open, shorted or terminated, as if built so") {
    auto d = dipoleDesign("0 m");
    d.copies = {stack("2", "1", "2 m", "0 m")};
    const auto onlyLower = [&](IdleKind idle, const std::string& ohm) {
        auto one = d;
        one.driveSets = {driving("lower", {{"Feed (lower)"}}, idle)};
        one.driveSets[0].termination = ohm;
        one.driveSet = 0;
        return solved(one);
    };
    // The same with the upper dipole as a plain wire with a load in its middle.
    const auto built = [&](std::optional<double> ohm) {
        WireModel m = expand(d).model;
        m.feeds.resize(1);
        LumpedCircuit circuit;
        circuit.kind = ohm ? LoadKind::Series : LoadKind::Parallel;
        circuit.resistanceOhm = ohm;
        m.loads.push_back({{1, 0.5}, circuit, "Idle"});
        return solve(m, kArrayHz);
    };
    const std::tuple<IdleKind, std::string, std::optional<double>> cases[] = {
        {IdleKind::Open, "50", std::nullopt},
        {IdleKind::Shorted, "50", 0.0},
        {IdleKind::Terminated, "73", 73.0}};
    for (const auto& [idle, text, ohm] : cases) {
        const Solved a = onlyLower(idle, text);
        const Solved b = built(ohm);
        CHECK(std::abs(a.z() - b.z()) < 1e-6);
        CHECK(a.gain(30, 0) == Approx(b.gain(30, 0)).margin(1e-6));
        CHECK(a.reading.lostPowerW() / a.reading.inputPowerW ==
              Approx(b.reading.lostPowerW() / b.reading.inputPowerW).margin(1e-9));
        CHECK(std::abs(a.powerBalance()) < 1e-3);
        CHECK(a.reading.feedImpedance[1] == Complex(0.0));
    }
    // Driven by the set, the first feed of the design may be idle: the radio sees the one that is driven.
    d.driveSets = {driving("upper", {{"Feed (upper)"}})};
    d.driveSet = 0;
    const auto a = study::analyse(expand(d), kArrayHz);
    CHECK(std::abs(a.figures.antennaOhm - onlyLower(IdleKind::Open, "50").z()) < 1e-6);
    CHECK(expand(d).driveSet == "upper");
    d.driveSets[0].driven[0].feed = "Feed (cellar)";
    CHECK(firstError(d).find("upper drives \"Feed (cellar)\", which is not there") != std::string::npos);
    d.driveSets[0].driven.clear();
    CHECK(firstError(d).find("drives no feed") != std::string::npos);
}

TEST_CASE("a delay line is a phase that grows with frequency") {
    auto d = dipoleDesign("0 m");
    Copy side = stack("1", "2", "0 m", "3 m");
    d.copies = {side};
    const double lambda = wavelengthM(kArrayHz);
    d.driveSets = {
        driving("phase", {{"Feed (left)"}, {"Feed (right)", "1", "-70 deg"}}),
        driving("delay",
                {{"Feed (left)"}, {"Feed (right)", "1", "0 deg", std::to_string(lambda * 70 / 360) + " m"}})};
    d.driveSet = 0;
    const double byPhase = solved(d).gain(0, 30);
    const double phaseAbove = solved(d, 1.1 * kArrayHz).gain(0, 30);
    d.driveSet = 1;
    CHECK(solved(d).gain(0, 30) == Approx(byPhase).margin(1e-4));
    CHECK(std::abs(solved(d, 1.1 * kArrayHz).gain(0, 30) - phaseAbove) > 0.05);
    d.driveSets[0].driven[1].phase = "-77 deg";
    d.driveSet = 0;
    const double grown = solved(d, 1.1 * kArrayHz).gain(0, 30);
    d.driveSet = 1;
    CHECK(solved(d, 1.1 * kArrayHz).gain(0, 30) == Approx(grown).margin(1e-4));
}

TEST_CASE("steering by phase turns the lobe where it is asked to") {
    auto d = dipoleDesign("0 m");
    std::get<StraightWire>(d.parts[0].shape) = {{"0", "0", "-1.4 m"}, {"0", "0", "1.4 m"}};
    d.copies = {stack("1", "6", "0 m", "2.5 m")};
    d.site.heading = "90 deg";
    const auto e = expand(d);
    for (const double bearing : {90.0, 110.0, 65.0}) {
        d.driveSets = study::driveSetsBy(study::DrivePattern::Steered, e, kArrayHz, bearing);
        REQUIRE(d.driveSets.size() == 1);
        d.driveSet = 0;
        const auto a = study::analyse(expand(d), kArrayHz);
        const double peak = 90.0 - a.figures.peak.direction.azimuthDeg;
        // A row fires to both sides; the one in front is the one asked for.
        const double mirrored = 90.0 - (180.0 - a.figures.peak.direction.azimuthDeg);
        CHECK(std::min(std::abs(std::remainder(peak - bearing, 360.0)),
                       std::abs(std::remainder(mirrored - bearing, 360.0))) < 3.0);
    }
    CHECK(study::driveSetsBy(study::DrivePattern::UpperHalfReversed, e, kArrayHz).empty());
    CHECK(study::driveSetsBy(study::DrivePattern::LeftHalfReversed, e, kArrayHz).size() == 1);
    CHECK(study::driveSetsBy(study::DrivePattern::EachPair, e, kArrayHz).size() == 5);
    CHECK(study::driveSetsBy(study::DrivePattern::SingleOnes, e, kArrayHz).size() == 6);
}

TEST_CASE("a harness: cables to a common point, mutual coupling and all") {
    auto d = dipoleDesign("0 m");
    d.copies = {stack("2", "1", "2 m", "0 m")};
    d.harness.enabled = true;
    d.harness.line.line = kCustomLine;
    d.harness.line.lineOhm = "70";
    d.harness.line.velocityFactor = "0.8";
    d.harness.line.length = "3.3 m";
    const Solved open = solved([&] {
        auto plain = d;
        plain.harness.enabled = false;
        return plain;
    }());
    {
        // Equal arms: each feed as it is in phase, through its cable, both side by side.
        const Solved s = solved(d);
        const Complex z = open.reading.feedImpedance[0];
        const Complex t(0.0, std::tan(2.0 * kPi * kArrayHz / (0.8 * kSpeedOfLight) * 3.3));
        const Complex through = 70.0 * (z + 70.0 * t) / (70.0 + z * t);
        CHECK(std::abs(s.reading.antennaOhm - 0.5 * through) < 1e-6 * std::abs(through));
        CHECK(s.reading.harnessPowerW == Approx(0.0).margin(1e-12));
        CHECK(s.gain(20, 0) == Approx(open.gain(20, 0)).margin(1e-6));
    }
    {
        // No cable to one feed: a line from there to the other.
        d.harness.arms = {{"Feed (lower)", "0 m", false}, {"Feed (upper)", "2.6 m", true}};
        const Solved s = solved(d);
        auto lined = d;
        lined.harness.enabled = false;
        lined.feeds[0].part = "Dipole (lower)";
        PhasingLine line;
        static_cast<LineText&>(line) = d.harness.line;
        line.length = "2.6 m";
        line.crossed = true;
        line.fromPart = "Dipole (lower)";
        line.toPart = "Dipole (upper)";
        lined.lines = {line};
        const Solved other = solved(lined);
        CHECK(std::abs(s.reading.antennaOhm - other.z()) < 1e-6 * std::abs(other.z()));
        CHECK(s.gain(20, 0) == Approx(other.gain(20, 0)).margin(1e-6));
    }
    {
        // Loss in the cables is no loss of the antenna, but it is there.
        d.harness.line.lossRoot = "1";
        const auto a = study::analyse(expand(d), kArrayHz);
        CHECK(a.figures.efficiency == Approx(1.0).margin(1e-6));
        CHECK(a.figures.harnessLossDb > 0.05);
        CHECK(a.figures.joints.back().totalLossDb == Approx(a.figures.harnessLossDb));
        const auto sweep = study::sweep(expand(d), kArrayHz, 1.01 * kArrayHz, 3);
        CHECK(sweep.points[0].harnessLossDb == Approx(a.figures.harnessLossDb));
        CHECK(std::abs(sweep.points[0].antennaOhm - a.figures.antennaOhm) < 0.05);
    }
    {
        // A drive set with one half turned round crosses its arms.
        d.harness.line.lossRoot = "0";
        d.harness.arms.clear();
        d.driveSets = study::driveSetsBy(study::DrivePattern::UpperHalfReversed, expand(d), kArrayHz);
        d.driveSet = 0;
        CHECK(solved(d).gain(0, 0) < -100.0);
    }
    d.harness.line.line = "string";
    CHECK(firstError(d).find("\"string\" is not a known line") != std::string::npos);
}

TEST_CASE("coupling between feeds: of a pair by hand, and reciprocal") {
    // Two resistors of 50 ohm with 25 ohm in common: Z = 75 25; 25 75.
    em::MatrixXc z(2, 2);
    z << 75.0, 25.0, 25.0, 75.0;
    em::MatrixXc y(2, 2);
    y << 0.015, -0.005, -0.005, 0.015;
    const auto c = study::couplingOf(y, 50.0);
    CHECK((c.impedanceOhm - z).norm() < 1e-9);
    // S21 = 2 Z21 Z0/((Z11 + Z0)(Z22 + Z0) - Z12 Z21).
    CHECK(c.couplingDb(1, 0) == Approx(20.0 * std::log10(2.0 * 25.0 * 50.0 / (125.0 * 125.0 - 625.0))));
    auto d = yagiDesign();
    d.copies = {stack("2", "1", "4 m", "0 m")};
    const auto sweep = study::sweep(expand(d), 50e6, 51e6, 21);
    REQUIRE(sweep.points.size() == 21);
    for (const auto& p : sweep.points) {
        const auto pair = study::couplingOf(p.feedAdmittance, 50.0);
        CHECK(pair.couplingDb(0, 1) == Approx(pair.couplingDb(1, 0)).margin(1e-6));
        CHECK(pair.couplingDb(0, 1) < -10.0);
    }
    // Both driven alike each sees the sum of a row of Z.
    const auto& p = sweep.points[10];
    const auto pair = study::couplingOf(p.feedAdmittance, 50.0);
    CHECK(std::abs(p.impedanceOhm[0] - pair.impedanceOhm(0, 0) - pair.impedanceOhm(0, 1)) < 1e-6);
}

TEST_CASE("stacking advice: a pair at that spacing has its first nulls where one has lost 3 dB") {
    // lambda/(2 sin 30 deg) for 60 degrees.
    CHECK(study::stackingSpacingM(60.0, 6.0) == Approx(6.0));
    auto d = yagiDesign();
    d.copies = {stack("2", "1", "2 m", "0 m")};
    const auto advice = study::adviseStacking(d, 0, kArrayHz);
    REQUIRE(advice.rowSpacingM);
    auto one = d;
    one.copies.clear();
    const auto single = study::readCut(study::analyse(expand(one), kArrayHz).elevation);
    CHECK(advice.rowBeamwidthDeg == Approx(*single.beamwidthDeg()));
    d.copies[0].rowSpacing = std::to_string(*advice.rowSpacingM) + " m";
    const auto pair = study::analyse(expand(d), kArrayHz);
    CHECK(pair.elevation.at(0.5 * advice.rowBeamwidthDeg) < pair.figures.peak.gainDbi - 20.0);
    // The scan: wider spacing brings gain at first and larger side lobes.
    const auto scan = study::scanStacking(d, 0, kArrayHz, 1.5, 6.0, 10);
    REQUIRE(scan.size() == 10);
    CHECK(scan[5].gainDbi > scan[0].gainDbi + 1.0);
    REQUIRE(scan[9].sideLobeDb);
    REQUIRE(scan[4].sideLobeDb);
    CHECK(*scan[9].sideLobeDb > *scan[4].sideLobeDb);
    CHECK_THROWS_AS(study::adviseStacking(one, 0, kArrayHz), Error);
}

TEST_CASE("the drive sets side by side rest on one field solution") {
    auto d = yagiDesign();
    d.copies = {stack("2", "2", "4 m", "5 m")};
    d.site.ground = GroundKind::Real;
    d.site.height = "6 m";
    const auto e = expand(d);
    for (const auto pattern : {study::DrivePattern::AllInPhase, study::DrivePattern::UpperHalfReversed,
                               study::DrivePattern::EachPair, study::DrivePattern::SingleOnes})
        for (auto& set : study::driveSetsBy(pattern, e, kArrayHz)) d.driveSets.push_back(set);
    CHECK(d.driveSets.size() == 8);
    CHECK(d.driveSets[2].name == "lower left and lower right");
    study::FieldStore fields;
    const auto rows = study::studyDrives(d, kArrayHz, 0.0, 10.0, &fields);
    CHECK(fields.solutions() == 1);
    REQUIRE(rows.size() == 9);
    for (const auto& row : rows) REQUIRE(row.known());
    CHECK(rows[0].elevation.maximum.gainDbi == Approx(rows[1].elevation.maximum.gainDbi));
    // Reversed, the lobe is higher; a single one has less gain than all.
    CHECK(rows[2].elevation.maximum.angleDeg > rows[1].elevation.maximum.angleDeg + 5.0);
    CHECK(rows[5].elevation.maximum.gainDbi < rows[1].elevation.maximum.gainDbi - 3.0);
}
