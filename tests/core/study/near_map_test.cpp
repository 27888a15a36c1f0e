// Fields at full power, maps of them, and how far people have to stay.
#include "core/study/near_map.h"

#include <catch2/catch.hpp>
#include <cmath>

#include "antennas.h"
#include "core/export/clear_table.h"
#include "core/export/field_text.h"
#include "core/study/keep_clear.h"

using namespace rm;
using namespace rm::study;
using namespace rm::test;
using model::KeepClear;
using model::LimitSet;

namespace {

/// A dipole of two metres for 70 MHz, upright in free space so that it radiates alike all round.
model::Project uprightDipole(double powerW) {
    model::Project p;
    p.powerW = powerW;
    p.bands = {{"4 m", 70e6, 70.5e6, {}}};
    model::Design d;
    d.name = "Upright";
    d.designFrequency = "70 MHz";
    model::Part part;
    part.name = "Wire";
    part.conductor.material = "perfect";
    part.shape = model::StraightWire{{"0 m", "0 m", "9 m"}, {"0 m", "0 m", "11.02 m"}};
    d.parts.push_back(part);
    model::Feed feed;
    feed.part = "Wire";
    d.feeds.push_back(feed);
    p.designs = {d};
    return p;
}

Analysis analysed(const model::Project& p, double hz) {
    return analyse(model::expand(p.designs[0]), hz);
}

}  // namespace

TEST_CASE("rms, peak and parts of a field") {
    em::PointField f;
    // Linear, 3 and 4 V/m in phase.
    f.electricVm << Complex(3.0), Complex(0.0), Complex(4.0);
    CHECK(fieldValue(f, FieldKind::Electric, FieldPart::Total, true) == Approx(5.0));
    CHECK(fieldValue(f, FieldKind::Electric, FieldPart::Total, false) == Approx(5.0 / std::sqrt(2.0)));
    CHECK(fieldValue(f, FieldKind::Electric, FieldPart::Front, true) == Approx(3.0));
    CHECK(fieldValue(f, FieldKind::Electric, FieldPart::Up, false) == Approx(4.0 / std::sqrt(2.0)));
    // Circular: the field never exceeds its amplitude.
    f.electricVm << Complex(2.0), Complex(0.0, 2.0), Complex(0.0);
    CHECK(fieldValue(f, FieldKind::Electric, FieldPart::Total, true) == Approx(2.0));
    CHECK(fieldValue(f, FieldKind::Electric, FieldPart::Total, false) == Approx(2.0));
    // At every phase of an ellipse no more than its longer half axis, which it reaches.
    f.electricVm << Complex(2.0, 1.0), Complex(-0.5, 2.0), Complex(0.3, -1.0);
    double most = 0.0;
    for (int i = 0; i < 3600; ++i)
        most = std::max(most, fieldAtPhase(f, FieldKind::Electric, FieldPart::Total, i * kPi / 1800.0));
    CHECK(fieldValue(f, FieldKind::Electric, FieldPart::Total, true) == Approx(most).epsilon(1e-5));
    // The mean of the flow of power over a period is half of the real part.
    f.magneticAm << Complex(0.01, 0.02), Complex(0.03), Complex(0.0, -0.01);
    double mean = 0.0;
    for (int i = 0; i < 360; ++i)
        mean += fieldAtPhase(f, FieldKind::Power, FieldPart::Up, i * kDegree) / 360.0;
    CHECK(fieldValue(f, FieldKind::Power, FieldPart::Up, false) == Approx(mean));
}

TEST_CASE("far from a dipole the field is that of its gain and its power") {
    const auto p = uprightDipole(250.0);
    const auto a = analysed(p, 70e6);
    const FieldAround around(a, p.powerW);
    CHECK(around.antennaW() == Approx(250.0));
    const double gain = std::pow(10.0, 0.1 * a.figures.peak.gainDbi);
    for (const double distance : {30.0, 100.0}) {
        const auto f = around.at({{0.0, distance, 10.01}}).front();
        CHECK(fieldValue(f, FieldKind::Electric, FieldPart::Total, false) ==
              Approx(std::sqrt(30.0 * 250.0 * gain) / distance).epsilon(0.01));
        CHECK(fieldValue(f, FieldKind::Power, FieldPart::Left, false) ==
              Approx(250.0 * gain / (4.0 * kPi * distance * distance)).epsilon(0.01));
    }
}

TEST_CASE("maps: level with the front upwards, upright from the ground") {
    auto p = uprightDipole(100.0);
    p.designs[0].site.ground = model::GroundKind::Real;
    const auto e = model::expand(p.designs[0]);
    const auto a = analyse(e, 70e6);
    MapPlace level;
    level.heightM = 1.8;
    level.points = 41;
    const FieldMap map = mapField(e, a, 100.0, level);
    CHECK(map.fields.size() == 41 * 41);
    CHECK(map.plane.at(0, 0).z() == 1.8);
    CHECK(map.plane.at(0, 0).y() > 0.0);   // the left is on the left
    CHECK(map.plane.at(0, 40).x() > 0.0);  // the front is up
    // Round an upright antenna all is alike.
    const auto value = [&](int c, int r) {
        return fieldValue(map.at(c, r), FieldKind::Electric, FieldPart::Total, false);
    };
    CHECK(value(0, 20) == Approx(value(20, 0)).epsilon(1e-3));
    CHECK(value(3, 20) == Approx(value(37, 20)).epsilon(1e-3));
    MapPlace upright;
    upright.upright = true;
    upright.points = 41;
    upright.azimuthDeg = 90.0;
    const auto plane = mapPlane(e.model, 70e6, upright);
    CHECK(plane.at(0, 0).z() == 0.0);
    CHECK(plane.at(40, 0).y() > 0.0);
    CHECK(plane.at(0, plane.rows - 1).z() > 11.02);
    // As CSV: a line per point.
    const std::string csv = io::fieldCsv(map, false);
    CHECK(std::count(csv.begin(), csv.end(), '\n') == 41 * 41 + 1);
    CHECK(csv.rfind("forward_m,left_m,up_m,E_Vm_rms", 0) == 0);
}

TEST_CASE("lines of equal value close round a hill") {
    std::vector<double> hill;
    for (int r = 0; r < 21; ++r)
        for (int c = 0; c < 21; ++c) hill.push_back(100.0 - (c - 10) * (c - 10) - (r - 10) * (r - 10));
    const auto lines = levelLines(hill, 21, 21, 64.0);
    REQUIRE(!lines.empty());
    double length = 0.0;
    for (const auto& line : lines) {
        CHECK(std::hypot(line.fromColumn - 10.0, line.fromRow - 10.0) == Approx(6.0).epsilon(0.02));
        length += std::hypot(line.toColumn - line.fromColumn, line.toRow - line.fromRow);
    }
    CHECK(length == Approx(12.0 * kPi).epsilon(0.02));
    CHECK(levelLines(hill, 21, 21, 200.0).empty());
}

TEST_CASE("published limits at frequencies where anybody can look them up") {
    KeepClear rules;
    const auto vm = [&](LimitSet set, Person person, double mhz) {
        rules.limits = set;
        return *fieldLimits(rules, person, mhz * 1e6).electricVm;
    };
    const auto am = [&](LimitSet set, Person person, double mhz) {
        rules.limits = set;
        return *fieldLimits(rules, person, mhz * 1e6).magneticAm;
    };
    CHECK(vm(LimitSet::Icnirp1998, Person::Public, 4.0) == Approx(43.5));
    CHECK(vm(LimitSet::Icnirp1998, Person::Public, 144.0) == 28.0);
    CHECK(vm(LimitSet::Icnirp1998, Person::Operator, 5.0) == Approx(122.0));
    CHECK(vm(LimitSet::Icnirp1998, Person::Operator, 900.0) == Approx(90.0));
    CHECK(am(LimitSet::Icnirp1998, Person::Public, 7.3) == Approx(0.1));
    CHECK(vm(LimitSet::Icnirp2020, Person::Public, 30.0) == Approx(27.74).epsilon(0.001));
    CHECK(vm(LimitSet::Icnirp2020, Person::Public, 144.0) == 27.7);
    CHECK(vm(LimitSet::Icnirp2020, Person::Operator, 1.0) == Approx(660.0));
    CHECK(am(LimitSet::Icnirp2020, Person::Operator, 14.0) == Approx(0.35));
    CHECK(vm(LimitSet::Fcc, Person::Public, 8.24) == Approx(100.0));
    CHECK(vm(LimitSet::Fcc, Person::Operator, 18.42) == Approx(100.0));
    CHECK(am(LimitSet::Fcc, Person::Public, 144.0) == 0.073);
    // 0.3 mW/cm2 at 450 MHz: a plane wave of 3 W/m2.
    CHECK(vm(LimitSet::Fcc, Person::Public, 450.0) == Approx(std::sqrt(3.0 * kEta0)));
    rules.ownVm = 5.0;
    CHECK(vm(LimitSet::Own, Person::Operator, 21.0) == 5.0);
    // The limits join where the tables change, the operator's are never below the public's.
    for (const LimitSet set : {LimitSet::Icnirp1998, LimitSet::Icnirp2020, LimitSet::Fcc})
        for (double mhz = 1.8; mhz < 3000.0; mhz *= 1.1)
            CHECK(vm(set, Person::Operator, mhz) >= vm(set, Person::Public, mhz));
    CHECK(vm(LimitSet::Icnirp1998, Person::Public, 399.9) ==
          Approx(vm(LimitSet::Icnirp1998, Person::Public, 400.1)).epsilon(0.02));
}

TEST_CASE("the distance to keep is that of the far field where it is far") {
    // 1 kW of carrier without a margin; the limit of the public at 70 MHz is 27.7 V/m.
    auto p = uprightDipole(1000.0);
    p.keepClear.marginDb = 0.0;
    p.keepClear.headM = 10.01;
    p.keepClear.windowM = 0.0;
    const auto table = keepClear(p, p.designs[0]);
    REQUIRE(table.complete);
    REQUIRE(table.rows.size() == 2);
    const auto& row = table.rows[0];
    CHECK(row.person == Person::Public);
    CHECK(row.band == "4 m");
    const double gain = std::pow(10.0, 0.1 * analysed(p, row.frequencyHz).figures.peak.gainDbi);
    const double far = std::sqrt(30.0 * 1000.0 * gain) / 27.7;
    CHECK(row.head.fromMiddleM == Approx(far).epsilon(0.03));
    CHECK(row.head.fromWireM == Approx(row.head.fromMiddleM).epsilon(0.01));
    CHECK_FALSE(row.head.clipped);
    CHECK(row.head.most > 10.0);
    // The operator may come nearer, by the ratio of the limits.
    CHECK(table.rows[1].head.fromMiddleM == Approx(far * 27.7 / 61.0).epsilon(0.05));
    // Ten metres lower nothing is exceeded, and it is said how much of the limit there is.
    CHECK(row.window.fromMiddleM == 0.0);
    CHECK(row.window.most > 0.05);
    CHECK(row.window.most < 1.0);
    // Speech for a quarter of the time counts as a twentieth of the power: 4.5 times nearer.
    p.keepClear.mode = model::SendMode::SpeechSsb;
    p.keepClear.dutyPercent = 25.0;
    CHECK(countedShare(p.keepClear) == Approx(0.05));
    CHECK(keepClear(p, p.designs[0]).rows[0].head.fromMiddleM < 0.35 * far);
    // In words, in a table, on paper.
    const std::string text = io::clearText(table);
    CHECK(text.find("4 m") != std::string::npos);
    CHECK(text.find("ICNIRP 2020, general public") != std::string::npos);
    CHECK(text.find("estimate") != std::string::npos);
    CHECK(io::clearCsv(table).find("4 m,") != std::string::npos);
    CHECK(io::clearSheets(table, {"Upright", "Project", "", "", ""}, false).size() == 1);
}
