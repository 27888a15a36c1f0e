// Rings of the pattern, derived from fewer directions, against every direction by itself.
#include "core/em/field_rings.h"

#include <catch2/catch.hpp>
#include <cmath>

#include "antennas.h"

using namespace rm;
using namespace rm::test;

namespace {

/// Largest difference of the rings from the fields one by one, over the strongest of its ring.
double worst(const Solved& s, const std::vector<em::Ring>& rings) {
    const auto derived = em::fieldRings(*s.mesh, s.reading.localCurrent, s.reading.frequencyHz, rings);
    double most = 0.0;
    std::size_t at = 0;
    for (const em::Ring& ring : rings) {
        std::vector<em::Direction> directions;
        for (int i = 0; i < ring.count; ++i)
            directions.push_back({ring.elevationDeg, 360.0 * i / ring.count});
        const auto read = em::farField(*s.mesh, s.reading.localCurrent, s.reading.frequencyHz, directions);
        double strongest = 0.0;
        double off = 0.0;
        for (const auto& field : read) {
            const auto& other = derived.at(at++);
            strongest = std::max(strongest, std::hypot(std::abs(field.theta), std::abs(field.phi)));
            off = std::max(off,
                           std::hypot(std::abs(field.theta - other.theta), std::abs(field.phi - other.phi)));
        }
        most = std::max(most, off / strongest);
    }
    CHECK(at == derived.size());
    return most;
}

/// Straight wires in a row askew to the axes and far from the origin, the first one fed.
model::WireModel row(int wires, double stepM) {
    model::WireModel m;
    for (int i = 0; i < wires; ++i) {
        const Vec3 foot(40.0 + stepM * i, -25.0 + 0.4 * stepM * i, 7.0 + 0.3 * i);
        m.wires.push_back(wire(foot, foot + Vec3(1.0, 4.6, 1.5), 0.004));
    }
    addFeed(m, 0, 0.5);
    return m;
}

}  // namespace

TEST_CASE("a ring of the pattern follows from as many directions as it has harmonics") {
    for (const double stepM : {0.9, 4.0, 11.0}) {
        INFO("wires " << stepM << " m apart");
        auto m = row(16, stepM);
        m.ground = averageGround();
        const auto over = solve(m, 28.5e6);
        const double off =
            worst(over, {{0.5, 720}, {12.0, 720}, {48.0, 720}, {88.0, 720}, {20.0, 7}, {20.0, 1}});
        CHECK(off < 1e-7);
        // The last digits show that most of them were derived.
        CHECK(off > 0.0);
        m.ground = {};
        const auto free = solve(m, 28.5e6);
        CHECK(worst(free, {{0.0, 720}, {-35.0, 720}, {-90.0, 12}}) < 1e-7);
    }
}

TEST_CASE("rings of an antenna with wires in the soil") {
    model::WireModel m;
    m.ground = averageGround();
    m.wires.push_back(wire({30, 10, 0}, {30, 10, 9.5}, 0.002));
    m.wires.push_back(wire({30, 10, -0.05}, {30, 10, 0}, 0.002));
    for (int i = 0; i < 16; ++i) {
        const double a = 2.0 * kPi * i / 16.0;
        m.wires.push_back(wire({30, 10, -0.05}, {30 + 8 * std::cos(a), 10 + 8 * std::sin(a), -0.05}, 0.001));
    }
    addFeed(m, 0, 0.0);
    const auto s = solve(m, 7.1e6);
    const double off = worst(s, {{5.0, 360}, {45.0, 360}, {85.0, 360}});
    CHECK(off < 1e-7);
    CHECK(off > 0.0);
}

TEST_CASE("an antenna without rings has none, and one without a plan has one direction") {
    const auto s = solve(dipole(10.2, 0.001), 14.1e6);
    CHECK(em::fieldRings(*s.mesh, s.reading.localCurrent, s.reading.frequencyHz, {}).empty());
    CHECK(worst(s, {{30.0, 360}}) < 1e-12);
}
