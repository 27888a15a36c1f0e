// Antennas that nobody would build: the laws hold for them as well. Fixed seeds, so that a failure comes
// back.
#include <algorithm>
#include <cmath>
#include <random>

#include <catch2/catch.hpp>

#include "antennas.h"
#include "core/model/checks.h"
#include "core/study/figures.h"

using namespace rm;
using namespace rm::test;

namespace {

/// A chain of bent wires with branches, all lossless, somewhere above the ground.
model::WireModel randomAntenna(unsigned seed, double lambda) {
    std::mt19937 random(seed);
    const auto between = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    model::WireModel m;
    m.ground.kind = seed % 3 == 0 ? model::GroundKind::FreeSpace : model::GroundKind::Perfect;
    Vec3 at(0.0, 0.0, between(0.4, 0.7) * lambda);
    const int count = 2 + static_cast<int>(seed % 4);
    for (int i = 0; i < count; ++i) {
        const Vec3 step = Vec3(between(-1, 1), between(-1, 1), between(-0.6, 0.6)).normalized() *
                          between(0.06, 0.3) * lambda;
        Vec3 next = at + step;
        next.z() = std::max(next.z(), 0.08 * lambda);
        const double radius = std::pow(10.0, between(-5.0, -3.2)) * lambda;
        m.wires.push_back(wire(at, next, radius, "Chain"));
        if (between(0, 1) < 0.7) at = next;  // otherwise the next one branches off here too
    }
    addFeed(m, 0, between(0.2, 0.8));
    return m;
}

}  // namespace

TEST_CASE("what goes in comes out of random antennas") {
    const double f = 21e6;
    const double lambda = wavelengthM(f);
    int solved = 0;
    for (unsigned seed = 1; seed <= 60; ++seed) {
        const auto m = randomAntenna(seed, lambda);
        if (!model::checkWires(m, f).empty()) continue;  // crossing or too sharp: refused, as it should be
        const auto s = solve(m, f);
        INFO("seed " << seed << " Z " << s.z() << " unknowns " << s.solution.unknowns);
        CHECK(s.z().real() > 0.0);
        CHECK(std::abs(s.powerBalance()) < 0.002);
        ++solved;
    }
    CHECK(solved > 30);
}

TEST_CASE("random antennas do not depend on how their wires were drawn") {
    const double f = 21e6;
    const double lambda = wavelengthM(f);
    int solved = 0;
    for (unsigned seed = 61; seed <= 90; ++seed) {
        auto m = randomAntenna(seed, lambda);
        if (!model::checkWires(m, f).empty()) continue;
        const Complex z = solve(m, f).z();
        // Every second wire the other way round, and the list backwards.
        for (std::size_t i = 0; i < m.wires.size(); i += 2) std::swap(m.wires[i].startM, m.wires[i].endM);
        m.feeds[0].place.at = 1.0 - m.feeds[0].place.at;
        std::reverse(m.wires.begin(), m.wires.end());
        m.feeds[0].place.wire = m.wires.size() - 1 - m.feeds[0].place.wire;
        INFO("seed " << seed);
        CHECK(std::abs(solve(m, f).z() - z) < 1e-3 * std::abs(z));
        ++solved;
    }
    CHECK(solved > 15);
}

TEST_CASE("impedance is smooth where the mesh changes its number of spans") {
    // A leg that grows through several thresholds of the mesh: the second difference shows steps.
    const double f = 14.1e6;
    std::vector<Complex> z;
    for (int i = 0; i <= 60; ++i) z.push_back(solve(dipole(9.0 + 0.05 * i, 0.001), f).z());
    for (std::size_t i = 1; i + 1 < z.size(); ++i) {
        const double step = std::abs(z[i + 1] - z[i]);
        const double kink = std::abs(z[i + 1] - 2.0 * z[i] + z[i - 1]);
        INFO("length " << 9.0 + 0.05 * static_cast<double>(i) << " step " << step << " kink " << kink);
        CHECK(kink < 0.12 * step + 0.1);
    }
}

TEST_CASE("texts that make no sense become findings, never an exception or a crash") {
    std::mt19937 random(7);
    const std::string alphabet = "0123456789.,+-*/^()'\" mftinlambdahleg%e=\\xλ°½";
    for (int i = 0; i < 2000; ++i) {
        std::string text;
        const int length = static_cast<int>(random() % 12);
        for (int k = 0; k < length; ++k) text += alphabet[random() % alphabet.size()];
        model::Design d;
        model::Dimension leg;
        leg.name = "leg";
        leg.text = text;
        d.dimensions = {leg};
        model::Part part;
        part.name = "Wire";
        part.shape = model::StraightWire{{"0", "-leg", "0"}, {"0", text, "5"}};
        part.conductor.diameter = i % 5 == 0 ? text : "2 mm";
        d.parts = {part};
        model::Feed feed;
        feed.part = "Wire";
        feed.place = {static_cast<model::PlaceKind>(i % 6), text};
        d.feeds = {feed};
        const auto e = model::expand(d);
        for (const auto& finding : e.findings) {
            CHECK_FALSE(finding.sentence.empty());
            CHECK_FALSE(finding.mend.empty());
        }
        if (!e.usable()) CHECK_THROWS_AS(study::requireUsable(e), Error);
    }
}
