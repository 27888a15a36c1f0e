// What a figure may be off by, against meshes that are many times finer.
#include <catch2/catch.hpp>

#include "antennas.h"
#include "core/model/checks.h"
#include "core/study/compare.h"
#include "core/study/figures.h"
#include "core/study/self_check.h"
#include "fine_mesh.h"

using namespace rm;
using namespace rm::test;

namespace {

constexpr double kCheckedHz = 14.1e6;

Complex fineImpedance(const model::WireModel& m) {
    return 0.5 * (solve(m, kCheckedHz, fineMesh()).z() + solve(m, kCheckedHz, finerMesh()).z());
}

/// A vertical on radials that slope, fed at its foot; as a half wave, its impedance is high there. Its height
/// in wavelengths.
model::WireModel onRadials(double height) {
    const double lambda = wavelengthM(kCheckedHz);
    const double radius = 1.07e-3;
    model::WireModel m;
    m.wires.push_back(wire({0, 0, 0}, {0, 0, height * lambda}, radius * lambda, "Vertical"));
    for (int i = 0; i < 5; ++i) {
        const double turn = 2.0 * kPi * i / 5 + 0.1;
        m.wires.push_back(wire({0, 0, 0},
                               lambda * Vec3(0.298 * std::cos(turn), 0.298 * std::sin(turn), -0.072),
                               radius * lambda, "Radial"));
    }
    addFeed(m, 0, 0.0);
    return m;
}

/// Thick elements close together, with little radiation resistance.
model::WireModel thickYagi() {
    const double lambda = wavelengthM(kCheckedHz);
    model::WireModel m;
    const double at[] = {0.0, 0.2904, 0.4052, 0.7221, 0.8832};
    const double half[] = {0.2492, 0.2367, 0.2222, 0.2366, 0.2136};
    for (int i = 0; i < 5; ++i)
        m.wires.push_back(wire(lambda * Vec3(at[i], -half[i], 0.48), lambda * Vec3(at[i], half[i], 0.48),
                               5.07e-3 * lambda, "Element"));
    m.ground.kind = model::GroundKind::Perfect;
    addFeed(m, 1, 0.5);
    return m;
}

}  // namespace

TEST_CASE("an antenna that the quick mesh answers stays on it, and its doubt holds the error") {
    for (const auto& m : {dipole(10.0, 0.001), dipole(9.5, 0.02), overGround(dipole(10.0, 0.001), 8.0)}) {
        const auto doubt = study::selfCheck(m, kCheckedHz);
        REQUIRE(doubt);
        CHECK(doubt->fineness == 0);
        CHECK(doubt->settled());
        CHECK(doubt->reason.empty());
        const Complex fine = fineImpedance(m);
        CHECK(std::abs(solve(m, kCheckedHz).z() - fine) < doubt->ofOhm(fine));
        CHECK(doubt->impedance < 0.005);
    }
}

TEST_CASE("an antenna that the quick mesh gets wrong is refined until it is right") {
    const auto m = onRadials(0.5241);
    const Complex fine = fineImpedance(m);
    const Complex quick = solve(m, kCheckedHz).z();
    REQUIRE(std::abs(quick - fine) > 0.03 * std::abs(fine));
    model::Expansion e = wrapped(m, kCheckedHz);
    const auto doubt = study::settle(e, kCheckedHz);
    REQUIRE(doubt);
    CHECK(e.model.fineness > 0);
    CHECK(doubt->fineness == e.model.fineness);
    const auto analysis = study::analyse(e, kCheckedHz);
    CHECK(std::abs(analysis.figures.antennaOhm - fine) < 0.005 * std::abs(fine));
    CHECK(std::abs(analysis.figures.antennaOhm - fine) < doubt->ofOhm(fine));
    // Whatever rests on the expansion does so on the same mesh.
    const auto swept = study::sweep(e, kCheckedHz, 1.01 * kCheckedHz, 3);
    CHECK(std::abs(swept.points.front().antennaOhm - analysis.figures.antennaOhm) < 0.002 * std::abs(fine));
}

TEST_CASE("where the wires are too thick for any mesh the doubt stays and names them") {
    const auto m = thickYagi();
    const auto doubt = study::selfCheck(m, kCheckedHz);
    REQUIRE(doubt);
    CHECK(doubt->fineness == em::kFineMesh);
    CHECK_FALSE(doubt->settled());
    CHECK(doubt->reason.find("Element is thick for this frequency") == 0);
    CHECK(doubt->sentence().find(doubt->reason) != std::string::npos);
    const Complex fine = fineImpedance(m);
    CHECK(std::abs(solve(m, kCheckedHz, em::meshOptions(em::kFineMesh)).z() - fine) < doubt->ofOhm(fine));
}

TEST_CASE("what was refined stays so until it is clearly not needed") {
    // From a quarter to half a wave: somewhere the quick mesh stops being good enough. What comes from the
    // fine one leaves it later than what comes from the quick one would enter it.
    int both = 0;
    for (double height = 0.2; height < 0.5; height += 0.01) {
        auto m = onRadials(height);
        m.fineness = 0;
        const auto from0 = study::selfCheck(m, kCheckedHz);
        m.fineness = em::kFineMesh;
        const auto from1 = study::selfCheck(m, kCheckedHz);
        REQUIRE((from0 && from1));
        INFO("height " << height << ", " << from0->impedance << " and " << from1->impedance);
        CHECK(from0->fineness <= from1->fineness);
        both += from0->fineness != from1->fineness ? 1 : 0;
    }
    CHECK(both > 0);
    CHECK(both < 20);
}

TEST_CASE("what is too large to be checked in a moment is not") {
    model::WireModel many;
    for (int i = 0; i < 60; ++i) {
        const auto one = dipole(10.0, 0.001, {3.0 * i, 0.0, 0.0});
        many.wires.push_back(one.wires.front());
    }
    addFeed(many, 0, 0.5);
    CHECK_FALSE(study::selfCheck(many, kCheckedHz));
}

TEST_CASE("how fine a mesh a design needs is no part of the design") {
    model::Design a;
    model::Design b = a;
    b.fineness.level = 1;
    CHECK(a == b);
    CHECK(model::expand(b).model.fineness == 1);
}
