// What wires are made of: limits of the skin effect, and what a coat does to charge and current.
#include <catch2/catch.hpp>
#include <cmath>
#include <limits>

#include "core/em/conductor.h"

using namespace rm;

namespace {

constexpr double kCopper = 5.8e7;

double skinDepthM(double hz, double sigma) {
    return 1.0 / std::sqrt(kPi * hz * kMu0 * sigma);
}

}  // namespace

TEST_CASE("a wire much thinner than its skin has its resistance at direct current, and mu0/8 pi inside") {
    const double radius = 1e-4;
    const double hz = 100.0;
    REQUIRE(radius < 0.1 * skinDepthM(hz, kCopper));
    const Complex z = em::wireImpedancePerM(hz, radius, kCopper);
    CHECK(z.real() == Approx(1.0 / (kCopper * kPi * radius * radius)).epsilon(1e-6));
    CHECK(z.imag() == Approx(2.0 * kPi * hz * kMu0 / (8.0 * kPi)).epsilon(1e-6));
}

TEST_CASE("a wire much thicker than its skin is a sheet of one skin depth round it") {
    for (const double hz : {1.8e6, 14e6, 430e6}) {
        const double radius = 2e-3;
        const double depth = skinDepthM(hz, kCopper);
        const Complex z = em::wireImpedancePerM(hz, radius, kCopper);
        // The curvature is worth half a depth over the diameter.
        const double flat = 1.0 / (2.0 * kPi * radius * depth * kCopper);
        CHECK(z.real() == Approx(flat).epsilon(1.0 * depth / radius));
        CHECK(z.imag() == Approx(flat).epsilon(0.1 * depth / radius));
        CHECK(z.real() == Approx(flat * (1.0 + 0.25 * 2.0 * depth / radius)).epsilon(depth / radius * 0.1));
    }
}

TEST_CASE("loss falls with the square root of conductivity, and a perfect wire has none") {
    const Complex copper = em::wireImpedancePerM(14e6, 1e-3, kCopper);
    const Complex steel = em::wireImpedancePerM(14e6, 1e-3, kCopper / 16.0);
    CHECK(steel.real() / copper.real() == Approx(4.0).epsilon(0.03));
    CHECK(em::wireImpedancePerM(14e6, 1e-3, std::numeric_limits<double>::infinity()) == Complex(0.0));
    // More of it is less of it: every step in radius and frequency goes the same way.
    double before = 1e9;
    for (const double radius : {1e-4, 3e-4, 1e-3, 3e-3, 1e-2}) {
        const double now = em::wireImpedancePerM(14e6, radius, kCopper).real();
        CHECK(now < before);
        before = now;
    }
    before = 0.0;
    for (const double hz : {1e3, 1e4, 1e5, 1e6, 1e7, 1e8}) {
        const double now = em::wireImpedancePerM(hz, 1e-3, kCopper).real();
        CHECK(now >= before);
        before = now;
    }
}

TEST_CASE("a coat leaves the magnetic field alone and gives way to the electric one") {
    const double a = 1e-3;
    const double farM = 3.0;
    for (const double coat : {0.2e-3, 1e-3, 5e-3})
        for (const double permittivity : {1.5, 2.3, 4.0, 9.0}) {
            const double radius = em::coatedRadiusM(a, coat, permittivity);
            CHECK(radius > a);
            CHECK(radius < a + coat);
            // Inductance to a far return: that of the radius for the kernels and what is put back are the
            // metal's own.
            const double seen = kMu0 / (2.0 * kPi) * std::log(farM / radius);
            CHECK(seen + em::coatInductancePerM(a, coat, permittivity) ==
                  Approx(kMu0 / (2.0 * kPi) * std::log(farM / a)).epsilon(1e-12));
            // Charge: air from the outside of the coat on, and the coat, in series.
            const double air = std::log(farM / (a + coat)) / (2.0 * kPi * kEps0);
            CHECK(air + em::coatElastanceM(a, coat, permittivity) ==
                  Approx(std::log(farM / radius) / (2.0 * kPi * kEps0)).epsilon(1e-12));
        }
    // A coat of air is none.
    CHECK(em::coatedRadiusM(a, 2e-3, 1.0) == Approx(a));
    CHECK(em::coatInductancePerM(a, 2e-3, 1.0) == Approx(0.0).margin(1e-18));
    CHECK(em::coatInductancePerM(a, 0.0, 3.0) == 0.0);
}

TEST_CASE("along a wire lie the loss of its metal and the inductance of its coat") {
    em::WireMaterial material;
    material.conductivitySm = kCopper;
    material.conductorRadiusM = 1e-3;
    const Complex bare = material.impedancePerM(7e6);
    CHECK(std::abs(bare - em::wireImpedancePerM(7e6, 1e-3, kCopper)) < 1e-12);
    material.inductancePerM = 1e-7;
    const Complex coated = material.impedancePerM(7e6);
    CHECK(coated.real() == bare.real());
    CHECK(coated.imag() - bare.imag() == Approx(2.0 * kPi * 7e6 * 1e-7));
}
