// Mirror symmetry changes how a matrix is solved, and nothing else.
#include <catch2/catch.hpp>
#include <functional>

#include "antennas.h"
#include "array_designs.h"
#include "core/em/mirror.h"

using namespace rm;
using namespace rm::model;

namespace {

em::Mesh meshOf(const Design& design, double hz) {
    const auto e = expand(design);
    REQUIRE(e.usable());
    return em::makeMesh(e.model, hz);
}

/// The largest difference of the currents, in shares of the largest current.
double apart(const em::Mesh& mesh, const em::Mirror& mirror, double hz) {
    const em::MatrixXc local = em::localMoments(mesh, hz);
    const em::MatrixXc weights = em::portWeightMatrix(mesh);
    em::MatrixXc plain = weights;
    em::MatrixXc matrix = em::joinedMoments(mesh, local);
    em::solveLinear(matrix, plain);
    const em::MatrixXc mirrored = em::solveMirrored(mesh, mirror, local, weights);
    return (mirrored - plain).cwiseAbs().maxCoeff() / plain.cwiseAbs().maxCoeff();
}

void checkMirror(const em::Mesh& mesh, const em::Mirror& mirror) {
    REQUIRE(mirror.image.size() == mesh.functions.size());
    for (std::size_t i = 0; i < mirror.image.size(); ++i) {
        CHECK(mirror.image[mirror.image[i]] == i);
        CHECK(mirror.sign[mirror.image[i]] == mirror.sign[i]);
    }
}

}  // namespace

TEST_CASE("a Yagi, a stack and a grid of them are solved in two halves as in one piece") {
    for (const auto ground : {GroundKind::FreeSpace, GroundKind::Perfect, GroundKind::Real})
        for (const auto& [rows, columns] : {std::pair{"1", "1"}, {"2", "1"}, {"2", "3"}}) {
            Design d = test::yagiDesign();
            test::rowOf(d).start[2] = "6 m";
            d.site.ground = ground;
            d.copies = {test::stack(rows, columns, "4 m", "3.5 m")};
            const auto mesh = meshOf(d, test::kArrayHz);
            const auto mirror = em::findMirror(mesh);
            REQUIRE(mirror);
            checkMirror(mesh, *mirror);
            // The rest are their own images, in the middle of an element.
            CHECK(2 * mirror->pairs > mesh.functions.size() / 2);
            CHECK(apart(mesh, *mirror, test::kArrayHz) < 1e-9);
        }
}

TEST_CASE("currents along the plane and across it keep their signs") {
    // An inverted V whose apex is in the plane, a loop through it, and a vertical within it.
    WireModel m;
    m.ground.kind = GroundKind::Perfect;
    m.wires.push_back(test::wire({0, -9, 6}, {0, 0, 10}, 0.001));
    m.wires.push_back(test::wire({0, 0, 10}, {0, 9, 6}, 0.001));
    m.wires.push_back(test::wire({4, -3, 5}, {4, 3, 5}, 0.001));
    m.wires.push_back(test::wire({4, 3, 5}, {7, 0, 8}, 0.001));
    m.wires.push_back(test::wire({7, 0, 8}, {4, -3, 5}, 0.001));
    m.wires.push_back(test::wire({-5, 0, 0}, {-5, 0, 9}, 0.001));
    test::addFeed(m, 0, 1.0);
    test::addFeed(m, 4, 0.5);  // aside of the plane: the port is not its own image
    test::addFeed(m, 5, 0.0);
    const auto mesh = em::makeMesh(m, 7.1e6);
    // Cut at the feed the loop is not cut alike on both sides.
    CHECK_FALSE(em::findMirror(mesh));
    m.feeds[1].place = {2, 0.5};
    const auto even = em::makeMesh(m, 7.1e6);
    const auto mirror = em::findMirror(even);
    REQUIRE(mirror);
    checkMirror(even, *mirror);
    CHECK(apart(even, *mirror, 7.1e6) < 1e-9);
}

TEST_CASE("what is not its own mirror image is not taken for it") {
    Design d = test::yagiDesign();
    d.copies = {test::stack("1", "2", "0 m", "4 m")};
    REQUIRE(em::findMirror(meshOf(d, test::kArrayHz)));
    auto e = expand(d);
    // One tube a micrometre thicker, one of another metal, one turned by a ten-millionth.
    const auto found = [&](const std::function<void(PlainWire&)>& change) {
        WireModel m = e.model;
        change(m.wires.front());
        return em::findMirror(em::makeMesh(m, test::kArrayHz)).has_value();
    };
    CHECK(found([](PlainWire&) {}));
    CHECK_FALSE(found([](PlainWire& w) { w.radiusM += 1e-6; }));
    CHECK_FALSE(found([](PlainWire& w) { w.conductivitySm = 1e6; }));
    CHECK_FALSE(found([](PlainWire& w) { w.endM.x() += 1e-6; }));
}

TEST_CASE("an antenna that lies in its plane of symmetry is not taken apart by it") {
    WireModel m;
    m.ground.kind = GroundKind::Perfect;
    m.wires.push_back(test::wire({0, 0, 0}, {0, 0, 12}, 0.001));
    m.wires.push_back(test::wire({0, 0, 12}, {30, 0, 9}, 0.001));
    test::addFeed(m, 0, 0.0);
    CHECK_FALSE(em::findMirror(em::makeMesh(m, 14.1e6)));
    // With as much on the other side it is symmetric about another plane.
    m.wires.push_back(test::wire({0, 0, 12}, {-30, 0, 9}, 0.001));
    m.wires.push_back(test::wire({-9, 0, 5}, {9, 0, 5}, 0.001));
    const auto mesh = em::makeMesh(m, 14.1e6);
    // Where three wires meet, the functions of the two arms become each other.
    const auto joined = em::findMirror(mesh);
    REQUIRE(joined);
    CHECK(apart(mesh, *joined, 14.1e6) < 1e-9);
    m.wires.erase(m.wires.begin());
    m.feeds[0].place = {1, 0.4};
    CHECK_FALSE(em::findMirror(em::makeMesh(m, 14.1e6)));
    m.feeds[0].place = {2, 0.5};
    const auto even = em::makeMesh(m, 14.1e6);
    const auto mirror = em::findMirror(even);
    REQUIRE(mirror);
    CHECK(apart(even, *mirror, 14.1e6) < 1e-9);
}

TEST_CASE("whatever large antenna lies in one plane is solved") {
    // Large enough for the search for a plane of symmetry to be worth while.
    WireModel m;
    for (int i = 0; i < 60; ++i) {
        const double x = 3.0 * i + 0.02 * i * i;
        m.wires.push_back(test::wire({x, 0, 10}, {x + 2.0, 0, 10.5 + 0.03 * i}, 0.001));
    }
    test::addFeed(m, 3, 0.5);
    REQUIRE(em::makeMesh(m, 14.1e6).functions.size() > em::kMirroredUnknowns);
    const auto solved = test::solve(m, 14.1e6);
    CHECK(std::abs(solved.powerBalance()) < 1e-3);
}

TEST_CASE("the plane of symmetry may lie in any bearing") {
    WireModel m;
    const double bearing = 0.3;
    const Vec3 along(std::cos(bearing), std::sin(bearing), 0.0);
    const Vec3 across(-std::sin(bearing), std::cos(bearing), 0.0);
    for (int i = 0; i < 4; ++i)
        m.wires.push_back(test::wire(1.2 * i * along - 2.4 * across, 1.2 * i * along + 2.4 * across, 0.004));
    test::addFeed(m, 1, 0.5);
    const auto mesh = em::makeMesh(m, 28.3e6);
    const auto mirror = em::findMirror(mesh);
    REQUIRE(mirror);
    CHECK(apart(mesh, *mirror, 28.3e6) < 1e-9);
}
