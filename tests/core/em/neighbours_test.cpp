// Wires side by side whose ends do not line up, and what else makes charge crowd: the default mesh against
// two much finer ones.
#include <algorithm>
#include <cmath>
#include <random>

#include <catch2/catch.hpp>

#include "antennas.h"
#include "core/em/neighbours.h"
#include "core/em/span_basis.h"
#include "fine_mesh.h"

using namespace rm;
using namespace rm::test;

namespace {

/// Error of the default mesh against the fine ones, relative to the impedance.
double errorOf(const model::WireModel& m, double hz) {
    const Complex z = solve(m, hz).z();
    const Complex a = solve(m, hz, fineMesh()).z();
    const Complex b = solve(m, hz, finerMesh()).z();
    INFO("Z " << z << ", fine " << a << ", finer " << b);
    CHECK(std::abs(a - b) < 2e-3 * std::abs(a));
    return std::abs(z - 0.5 * (a + b)) / std::abs(a);
}

/// Two dipoles on one feed, 10 cm apart along their whole length.
model::WireModel fanDipole() {
    model::WireModel m;
    const double r = 0.001;
    m.wires.push_back(wire({0, -0.05, 10}, {0, 0.05, 10}, r));
    for (const double side : {-1.0, 1.0}) {
        m.wires.push_back(wire({0, side * 0.05, 10}, {0, side * 10.1, 10}, r));
        m.wires.push_back(wire({0, side * 0.05, 10}, {0, side * 0.15, 9.9}, r));
        m.wires.push_back(wire({0, side * 0.15, 9.9}, {0, side * 5.0, 9.9}, r));
    }
    addFeed(m, 0, 0.5);
    return m;
}

/// A dipole with a shorter one at six radii, which is not fed.
model::WireModel openSleeve() {
    model::WireModel m = dipole(10.2, 0.01);
    m.wires.push_back(wire({0.06, -2.4, 0.0}, {0.06, 2.4, 0.0}, 0.01));
    return m;
}

/// A folded dipole whose second conductor ends short of the tips.
model::WireModel shortFolded() {
    model::WireModel m;
    const double r = 0.004;
    m.wires.push_back(wire({0, -3.5, 0}, {0, 3.5, 0}, r));
    m.wires.push_back(wire({0, 3.5, 0}, {0, 4.8, 0}, r));
    m.wires.push_back(wire({0, -3.5, 0}, {0, -4.8, 0}, r));
    m.wires.push_back(wire({0, -3.5, 0}, {0.1, -3.5, 0}, r));
    m.wires.push_back(wire({0.1, -3.5, 0}, {0.1, 3.5, 0}, r));
    m.wires.push_back(wire({0.1, 3.5, 0}, {0, 3.5, 0}, r));
    addFeed(m, 0, 0.5);
    return m;
}

model::WireModel hairpin() {
    model::WireModel m;
    const double r = 0.003;
    m.wires.push_back(wire({0, -0.04, 0}, {0, 0.04, 0}, r));
    for (const double side : {-1.0, 1.0}) {
        m.wires.push_back(wire({0, side * 0.04, 0}, {0, side * 4.9, 0}, r));
        m.wires.push_back(wire({0, side * 0.04, 0}, {0.8, side * 0.04, 0}, r));
    }
    m.wires.push_back(wire({0.8, -0.04, 0}, {0.8, 0.04, 0}, r));
    addFeed(m, 0, 0.5);
    return m;
}

/// Two elements with bent tips that face each other 3 cm apart.
model::WireModel bentTips() {
    model::WireModel m;
    const double r = 0.002;
    for (const double x : {0.0, 2.9}) {
        const double tip = x == 0.0 ? 1.435 : 1.465;
        m.wires.push_back(wire({tip, -3.6, 0}, {x, -3.6, 0}, r));
        m.wires.push_back(wire({x, -3.6, 0}, {x, 3.6, 0}, r));
        m.wires.push_back(wire({x, 3.6, 0}, {tip, 3.6, 0}, r));
    }
    addFeed(m, 4, 0.5);
    return m;
}

/// A square loop of tube, a wavelength round.
model::WireModel thickLoop(double radiusM) {
    model::WireModel m;
    const double half = 2.7;
    const Vec3 corner[] = {{half, half, 0}, {-half, half, 0}, {-half, -half, 0}, {half, -half, 0}};
    for (int i = 0; i < 4; ++i) m.wires.push_back(wire(corner[i], corner[(i + 1) % 4], radiusM));
    addFeed(m, 0, 0.5);
    return m;
}

/// Two wires that cross 10 cm apart.
model::WireModel crossed() {
    model::WireModel m = dipole(10.0, 0.002);
    m.wires.push_back(wire({-3.0, -1.0, 0.1}, {4.0, 2.5, 0.1}, 0.002));
    return m;
}

}  // namespace

TEST_CASE("a 40 and 20 m fan dipole 10 cm apart is what fine meshes say") {
    for (const double mhz : {7.05, 14.1, 14.7}) {
        INFO(mhz);
        CHECK(errorOf(fanDipole(), mhz * 1e6) < 0.005);
    }
}

TEST_CASE("an open sleeve, a short folded dipole, a hairpin and bent tips are what fine meshes say") {
    CHECK(errorOf(openSleeve(), 14.1e6) < 0.005);
    CHECK(errorOf(shortFolded(), 14.1e6) < 0.005);
    CHECK(errorOf(hairpin(), 14.1e6) < 0.005);
    CHECK(errorOf(bentTips(), 14.1e6) < 0.005);
    CHECK(errorOf(crossed(), 14.1e6) < 0.005);
}

TEST_CASE("loops of thick tube radiate what goes in") {
    for (const double radius : {0.02, 0.06, 0.1}) {
        const auto m = thickLoop(radius);
        INFO(radius);
        CHECK(errorOf(m, 14.1e6) < 0.01);
        CHECK(std::abs(solve(m, 14.1e6).average() - 1.0) < 0.002);
    }
}

TEST_CASE("what is near does not depend on the order and the direction of wires") {
    auto m = fanDipole();
    const auto sleeve = openSleeve();
    m.wires.insert(m.wires.end(), sleeve.wires.begin(), sleeve.wires.end());
    const auto before = em::nearPlaces(m, 1.0);
    std::size_t count = 0;
    for (const auto& places : before) count += places.size();
    CHECK(count >= 8);
    auto other = m;
    std::reverse(other.wires.begin(), other.wires.end());
    for (auto& w : other.wires) std::swap(w.startM, w.endM);
    other.feeds[0].place.wire = other.wires.size() - 1;
    const auto after = em::nearPlaces(other, 1.0);
    for (std::size_t w = 0; w < before.size(); ++w) {
        const auto& here = before[w];
        const auto& there = after[after.size() - 1 - w];
        REQUIRE(here.size() == there.size());
        for (std::size_t i = 0; i < here.size(); ++i) {
            CHECK(std::abs(there[there.size() - 1 - i].atM + here[i].atM - m.wires[w].lengthM()) < 1e-9);
            CHECK(there[there.size() - 1 - i].distanceM == Approx(here[i].distanceM));
        }
    }
}

TEST_CASE("a wire drawn in two pieces is no neighbour of anything") {
    model::WireModel m = dipole(10.0, 0.001);
    m.wires.push_back(wire({0.3, -2.0, 0.0}, {0.3, 0.5, 0.0}, 0.001));
    m.wires.push_back(wire({0.3, 0.5, 0.0}, {0.3, 2.0, 0.0}, 0.001));
    const auto places = em::nearPlaces(m, 1.0);
    REQUIRE(places[0].size() == 2);
    CHECK(places[0][0].atM == Approx(3.0));
    CHECK(places[0][1].atM == Approx(7.0));
    CHECK(places[0][0].distanceM == Approx(0.3));
}

TEST_CASE("a short wire that is drawn past a long one makes no step") {
    // The second difference of the impedance along the way shows where the mesh changes.
    std::vector<Complex> z;
    for (int i = 0; i <= 60; ++i) {
        auto m = dipole(10.0, 0.002);
        const double at = 2.0 + 0.05 * i;
        m.wires.push_back(wire({0.15, at, 0.0}, {0.15, at + 1.5, 0.0}, 0.002));
        z.push_back(solve(m, 14.1e6).z());
    }
    double most = 0.0;
    for (const Complex& one : z) most = std::max(most, std::abs(one - z.front()));
    for (std::size_t i = 1; i + 1 < z.size(); ++i) {
        INFO("at " << 2.0 + 0.05 * static_cast<double>(i));
        CHECK(std::abs(z[i + 1] - 2.0 * z[i] + z[i - 1]) < 0.05 * most);
    }
}

TEST_CASE("the end function with its correction is the limit of refined ends") {
    // In lengths of wire: what the reactance is off by, over its slope.
    const double hz = 14.1e6;
    const double lambda = wavelengthM(hz);
    for (const double radius : {1e-4, 1e-3, 5e-3}) {
        em::MeshOptions own = fineMesh();
        own.endFunctions = true;
        em::MeshOptions refined = fineMesh();
        refined.plainEndRadii = 0.25;
        refined.growth = 3.0;
        const auto reactance = [&](double length, const em::MeshOptions& mesh) {
            return solve(dipole(length * lambda, radius * lambda), hz, mesh).z().imag();
        };
        const double slope = (reactance(0.471, own) - reactance(0.469, own)) / 0.002;
        INFO("radius " << radius << " wavelengths");
        CHECK(std::abs(reactance(0.47, own) - reactance(0.47, refined)) / slope < 2.0 * 0.003 * radius);
    }
}

TEST_CASE("a plain end with its correction is the limit of refined ends") {
    const double hz = 14.1e6;
    const double lambda = wavelengthM(hz);
    for (const double radius : {1e-4, 1e-3, 4e-3}) {
        const auto reactance = [&](double length, double endRadii, int order) {
            em::MeshOptions mesh = fineMesh();
            mesh.plainEndRadii = endRadii;
            mesh.fixedOrder = order;
            return solve(dipole(length * lambda, radius * lambda), hz, mesh).z().imag();
        };
        const double slope = (reactance(0.481, 0.25, 7) - reactance(0.479, 0.25, 7)) / 0.002;
        const double limit = reactance(0.48, 0.25, 7);
        for (const double endRadii : {1.0, 1.4, 2.0})
            for (const int order : {5, 6, 7}) {
                // Two thirds at least of what such a span misses at each end.
                const double missed = em::kPlainEndCorrection * endRadii / (order * order) * radius;
                INFO("radius " << radius << " wavelengths, " << endRadii << " radii, order " << order);
                CHECK(std::abs(reactance(0.48, endRadii, order) - limit) / slope < 2.0 * missed / 3.0);
            }
    }
}
