// How wires are cut, joined and fed.
#include <catch2/catch.hpp>
#include <cmath>
#include <map>

#include "antennas.h"
#include "core/em/span_basis.h"
#include "core/model/geometry.h"

using namespace rm;
using namespace rm::test;

namespace {

constexpr double kF = 14.1e6;

double totalLength(const em::Mesh& mesh, std::size_t wireIndex) {
    double sum = 0.0;
    for (const auto& s : mesh.spans)
        if (s.wire == wireIndex) sum += s.lengthM;
    return sum;
}

std::size_t basisCount(const em::Mesh& mesh) {
    return mesh.functions.size();
}

}  // namespace

TEST_CASE("spans cover their wire without gaps or overlaps") {
    for (const double length : {0.3, 1.0, 5.0, 10.4, 40.0})
        for (const double radius : {0.0005, 0.003, 0.01}) {
            auto m = dipole(length, radius);
            m.feeds[0].place.at = 0.37;
            const auto mesh = em::makeMesh(m, kF);
            // The span at an open end reaches a hair beyond it.
            const auto reach = [&](const em::Span& span) {
                const double share = em::kPlainEndCorrection / (span.order * span.order);
                return span.kind == em::SpanKind::Inner ? span.lengthM * share / (1.0 + share)
                                                        : em::kEndCorrectionRadii * radius;
            };
            const double beyond = reach(mesh.spans.front()) + reach(mesh.spans.back());
            CHECK(totalLength(mesh, 0) == Approx(length + beyond).epsilon(1e-12));
            double at = -reach(mesh.spans.front());
            for (const auto& s : mesh.spans) {
                CHECK(s.startOnWireM == Approx(at).margin(1e-9));
                CHECK(s.lengthM > 0.0);
                CHECK(s.lengthM < 0.5201 * wavelengthM(kF));
                at += s.lengthM;
            }
        }
}

TEST_CASE("a wire between ends alike is cut alike from both of them") {
    for (double length = 0.5; length < 25.0; length *= 1.07)
        for (const double radius : {0.0005, 0.001, 0.004}) {
            auto m = dipole(20.0, 0.001);
            m.wires.push_back(wire({5, 0, 0}, {5, 0, length}, radius, "beside it"));
            std::vector<double> sizes;
            for (const auto& span : em::makeMesh(m, kF).spans)
                if (span.wire == 1) sizes.push_back(span.lengthM);
            INFO(length << " m of " << radius << ": " << sizes.size() << " spans");
            for (std::size_t i = 0; i < sizes.size(); ++i)
                CHECK(sizes[i] == Approx(sizes[sizes.size() - 1 - i]).epsilon(1e-9));
        }
}

TEST_CASE("neighbouring spans never differ by more than the growth allows") {
    em::MeshOptions options;
    options.growth = 6.0;
    options.gapGrowth = 6.0;
    for (const double at : {0.5, 0.05, 0.3}) {
        auto m = dipole(21.0, 0.001);
        m.feeds[0].place.at = at;
        const auto mesh = em::makeMesh(m, kF, options);
        for (std::size_t i = 1; i < mesh.spans.size(); ++i) {
            const double ratio = mesh.spans[i].lengthM / mesh.spans[i - 1].lengthM;
            CHECK(std::max(ratio, 1.0 / ratio) < 6.0 * 1.31);
        }
    }
}

TEST_CASE("a feed has a gap of its stated length with all of the voltage on it") {
    const auto check = [](const model::WireModel& m, double expectedGap) {
        const auto mesh = em::makeMesh(m, kF);
        REQUIRE(mesh.ports.size() == 1);
        double length = 0.0;
        double share = 0.0;
        for (const auto& piece : mesh.ports[0].gap) {
            length = std::max(length, mesh.spans[piece.span].lengthM);
            share += std::abs(piece.share);
        }
        CHECK(2.0 * length == Approx(expectedGap));
        return share;
    };
    CHECK(check(dipole(10.0, 0.001), 0.003) == Approx(1.0));
    // At a joint of more than two wires the port is in series with its own wire.
    model::WireModel star;
    star.wires.push_back(wire({0, 0, 0}, {0, 0, 5}, 0.001));
    for (int i = 0; i < 4; ++i)
        star.wires.push_back(
            wire({0, 0, 0}, {5 * std::cos(i * kPi / 2), 5 * std::sin(i * kPi / 2), 0}, 0.001));
    addFeed(star, 0, 0.0);
    CHECK(check(star, 0.003) == Approx(1.0));
    // On perfect ground the image is the other half.
    model::WireModel monopole;
    monopole.ground.kind = model::GroundKind::Perfect;
    monopole.wires.push_back(wire({0, 0, 0}, {0, 0, 5}, 0.001));
    addFeed(monopole, 0, 0.0);
    CHECK(check(monopole, 0.003) == Approx(1.0));
}

TEST_CASE("the sense of a feed follows its wire, wherever the neighbour comes from") {
    // Two legs fed at their joint, the second drawn outward or inward: the same antenna.
    model::WireModel m;
    m.wires.push_back(wire({0, 0, 0}, {3, 0, -1}, 0.001));
    m.wires.push_back(wire({0, 0, 0}, {-4, 0, -1}, 0.001));
    addFeed(m, 0, 0.0);
    const auto outward = solve(m, 20e6);
    std::swap(m.wires[1].startM, m.wires[1].endM);
    const auto inward = solve(m, 20e6);
    CHECK(std::abs(outward.z() - inward.z()) < 1e-9 * std::abs(outward.z()));
    // Fed from the other leg: the same impedance, the current reversed in sense.
    m.feeds[0].place = {1, 1.0};
    CHECK(std::abs(solve(m, 20e6).z() - outward.z()) < 1e-9 * std::abs(outward.z()));
}

TEST_CASE("Kirchhoff's law holds at every joint") {
    model::WireModel star;
    star.wires.push_back(wire({0, 0, 0}, {0, 0, 5}, 0.002));
    star.wires.push_back(wire({4, 0, -2}, {0, 0, 0}, 0.001));
    star.wires.push_back(wire({0, 0, 0}, {-3, 2, -2}, 0.004));
    star.wires.push_back(wire({0, 0, 0}, {-3, -2, 0}, 0.001));
    addFeed(star, 0, 0.5);
    const auto s = solve(star, 17e6);
    std::map<int, Complex> into;
    std::map<int, int> ends;
    for (const auto& span : s.mesh->spans) {
        Complex atStart = 0.0;
        Complex atEnd = 0.0;
        for (std::size_t n = 0; n < em::kLanes; ++n) {
            const Complex c = em::legendreSeries(span, s.reading.localCurrent, n);
            atStart += (n % 2 == 0 ? 1.0 : -1.0) * c;
            atEnd += c;
        }
        into[span.startNode] -= atStart;
        into[span.endNode] += atEnd;
        ++ends[span.startNode];
        ++ends[span.endNode];
    }
    const double scale = s.reading.localCurrent.cwiseAbs().maxCoeff();
    int joints = 0;
    for (const auto& [node, current] : into) {
        INFO("node " << node << " with " << ends[node] << " ends");
        CHECK(std::abs(current) < 1e-10 * scale);
        joints += ends[node] == 4 ? 1 : 0;
    }
    CHECK(joints == 1);
}

TEST_CASE("an end that lies on a wire is joined to it, one that is near is not") {
    model::WireModel m = dipole(10.0, 0.001);
    m.wires.push_back(wire({0, 2, 0}, {0, 2, 3}, 0.001, "Tail"));
    const auto joined = em::makeMesh(m, kF);
    m.wires[1].startM.x() = 0.01;
    const auto apart = em::makeMesh(m, kF);
    int nodesOfThree = 0;
    std::map<int, int> ends;
    for (const auto& s : joined.spans) {
        ++ends[s.startNode];
        ++ends[s.endNode];
    }
    for (const auto& [node, count] : ends) nodesOfThree += count == 3 ? 1 : 0;
    CHECK(nodesOfThree == 1);
}

TEST_CASE("drawing a wire in two pieces or the other way round is the same wire") {
    const auto whole = solve(dipole(10.0, 0.001), kF);
    model::WireModel pieces;
    pieces.wires.push_back(wire({0, 5, 0}, {0, 1.3, 0}, 0.001));
    pieces.wires.push_back(wire({0, -5, 0}, {0, 1.3, 0}, 0.001));
    addFeed(pieces, 1, 5.0 / 6.3);
    CHECK(std::abs(solve(pieces, kF).z() - whole.z()) < 0.002 * std::abs(whole.z()));
}

TEST_CASE("number of functions: inner ones, one for each joint, one for an end on the ground") {
    em::MeshOptions options;
    options.fixedOrder = 3;
    options.endFunctions = false;
    auto m = dipole(10.0, 0.001);
    const auto mesh = em::makeMesh(m, kF, options);
    // n spans in a row of order 3: 2 inner each and n - 1 joints.
    CHECK(basisCount(mesh) == 2 * mesh.spans.size() + mesh.spans.size() - 1);
    model::WireModel grounded;
    grounded.ground.kind = model::GroundKind::Perfect;
    grounded.wires.push_back(wire({0, 0, 0}, {0, 0, 5}, 0.001));
    addFeed(grounded, 0, 0.0);
    const auto ground = em::makeMesh(grounded, kF, options);
    CHECK(basisCount(ground) == 2 * ground.spans.size() + ground.spans.size() - 1 + 1);
    // The end function takes the place of everything on the last radii.
    const auto standard = em::makeMesh(m, kF);
    CHECK(standard.spans.front().kind == em::SpanKind::OpenStart);
    CHECK(standard.spans.back().kind == em::SpanKind::OpenEnd);
    CHECK(standard.spans.back().lengthM == Approx((em::kEndSpanRadii + em::kEndCorrectionRadii) * 0.001));
}

TEST_CASE("the functions of a span are one and zero where they should be") {
    const auto value = [](const em::SpanBasis& basis, std::size_t f, double t) {
        double row[em::kLanes];
        em::legendreRow(t, row);
        double sum = 0.0;
        for (std::size_t n = 0; n < em::kLanes; ++n) sum += basis.current[f][n] * row[n];
        return sum;
    };
    em::Span s;
    for (s.order = 1; s.order <= em::kMaxOrder; ++s.order) {
        const auto& basis = em::basisOf(s);
        REQUIRE(basis.count == s.order + 1);
        CHECK(value(basis, 0, -1) == Approx(1.0));
        CHECK(value(basis, 0, 1) == Approx(0.0).margin(1e-12));
        CHECK(value(basis, 1, 1) == Approx(1.0));
        for (std::size_t f = 2; f < static_cast<std::size_t>(basis.count); ++f)
            for (const double end : {-1.0, 1.0}) CHECK(value(basis, f, end) == Approx(0.0).margin(1e-12));
        // The charge is the derivative.
        for (std::size_t f = 0; f < static_cast<std::size_t>(basis.count); ++f) {
            double row[em::kLanes];
            em::legendreRow(0.3, row);
            double charge = 0.0;
            for (std::size_t n = 0; n < em::kLanes; ++n) charge += basis.charge[f][n] * row[n];
            CHECK(charge == Approx((value(basis, f, 0.3001) - value(basis, f, 0.2999)) / 2e-4).margin(1e-6));
        }
    }
    s.order = em::kMaxOrder;
    s.kind = em::SpanKind::OpenEnd;
    CHECK(value(em::basisOf(s), 0, -1) == Approx(1.0));
    CHECK(value(em::basisOf(s), 0, 1) == Approx(0.0).margin(1e-12));
    s.kind = em::SpanKind::OpenStart;
    CHECK(value(em::basisOf(s), 0, 1) == Approx(1.0));
    CHECK(value(em::basisOf(s), 0, -1) == Approx(0.0).margin(1e-12));
}

TEST_CASE("a port on an open end is refused by name") {
    auto m = dipole(10.0, 0.001);
    m.feeds[0].place.at = 1.0;
    CHECK_THROWS_WITH(em::makeMesh(m, kF), Catch::Contains("Feed") && Catch::Contains("open end of Dipole"));
}

TEST_CASE("two ports at one place are in series") {
    auto m = dipole(10.0, 0.001);
    m.loads.push_back({{0, 0.5}, {model::LoadKind::Series, 40.0, {}, {}}, "Resistor"});
    const Complex with = solve(m, kF).z();
    m.loads.clear();
    CHECK(std::abs(with - solve(m, kF).z() - 40.0) < 1e-6);
}

TEST_CASE("distances between wires") {
    using namespace model;
    const auto d = [](const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& e) {
        return nearestPoints(a, b, c, e).distanceM;
    };
    CHECK(d({0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {1, 1, 0}) == Approx(1.0));  // parallel
    CHECK(d({0, 0, 0}, {1, 0, 0}, {2, 1, 0}, {3, 1, 0}) == Approx(std::sqrt(2.0)));
    CHECK(d({-1, 0, 0}, {1, 0, 0}, {0, -1, 0.3}, {0, 1, 0.3}) == Approx(0.3));  // crossing
    CHECK(d({0, 0, 0}, {1, 0, 0}, {1, 0, 0}, {2, 5, 0}) == Approx(0.0).margin(1e-12));
    CHECK(d({0, 0, 0}, {1, 0, 0}, {3, 0, 0}, {2, 0, 0}) == Approx(1.0));  // in line
    CHECK(pointToSegment({5, 0, 0}, {0, 0, 0}, {1, 0, 0}) == Approx(4.0));
    CHECK(pointToSegment({0.5, 2, 0}, {0, 0, 0}, {1, 0, 0}) == Approx(2.0));
    CHECK(pointToSegment({1, 2, 2}, {1, 0, 0}, {1, 0, 0}) == Approx(std::sqrt(8.0)));
}

TEST_CASE("a wire of no length to speak of is refused by name") {
    model::WireModel m;
    model::PlainWire wire;
    wire.part = "Speck";
    wire.startM = Vec3(0.0, 0.0, 5.0);
    wire.endM = Vec3(0.0, 1e-9, 5.0);
    m.wires = {wire};
    m.feeds.push_back({{0, 0.5}, 1.0, "Feed", true, 0.0, {}, {}});
    CHECK_THROWS_WITH(em::makeMesh(m, 14e6), Catch::Contains("Speck"));
    m.wires[0].endM.y() = 5.0;
    m.wires[0].radiusM = 0.0;
    CHECK_THROWS_WITH(em::makeMesh(m, 14e6), Catch::Contains("thickness"));
}

TEST_CASE(
    "wires farther apart than their places can be told are refused, in air and with the ground's mirror") {
    const auto apart = [](double wavelengths, model::Ground ground, double heightM) {
        const double lambda = wavelengthM(14e6);
        model::WireModel m = test::dipole(0.47 * lambda, 0.001, {0.0, 0.0, heightM});
        m.ground = ground;
        const double x = wavelengths * lambda;
        m.wires.push_back(test::wire({x, -5.0, heightM}, {x, 5.0, heightM}, 0.001, "Far"));
        return m;
    };
    // As far as it goes the two know nothing of each other.
    const auto far = test::solve(apart(15000.0, {}, 0.0), 14e6);
    const auto alone = test::solve(test::dipole(0.47 * wavelengthM(14e6), 0.001), 14e6);
    CHECK(std::abs(far.z() - alone.z()) < 1e-3);
    CHECK_THROWS_WITH(em::makeMesh(apart(2e5, {}, 0.0), 14e6), Catch::Contains("wavelengths apart"));
    CHECK_THROWS_WITH(em::makeMesh(apart(1e9, {}, 0.0), 14e6), Catch::Contains("Bring them closer together"));
    model::Ground perfect;
    perfect.kind = model::GroundKind::Perfect;
    CHECK_NOTHROW(em::makeMesh(apart(1.0, perfect, 100e3), 14e6));
    CHECK_THROWS_WITH(em::makeMesh(apart(1.0, perfect, 300e3), 14e6), Catch::Contains("wavelengths apart"));
}
