// Equal pairs of wires are computed once, and their matrix is the one that computing every pair gives.
#include <catch2/catch.hpp>
#include <random>

#include "array_designs.h"
#include "core/em/equal_wires.h"
#include "core/em/span_basis.h"
#include "core/em/span_blocks.h"

using namespace rm;
using namespace rm::model;

namespace {

void fill(const em::Mesh& mesh, const em::SpanBlocks& blocks, std::size_t row, std::size_t column,
          em::MatrixXc& local) {
    em::Block block;
    blocks.fill(row, column, block);
    const em::Span& a = mesh.spans[row];
    const em::Span& b = mesh.spans[column];
    for (int i = 0; i < em::basisOf(a).count; ++i)
        for (int j = 0; j < em::basisOf(b).count; ++j)
            local(static_cast<Eigen::Index>(b.firstLocal) + j, static_cast<Eigen::Index>(a.firstLocal) + i) =
                Complex(-block.im[i][j], block.re[i][j]);
}

struct Compared {
    std::size_t wires = 0;
    std::size_t different = 0;
    double worst = 0.0;  ///< of a block of two wires, in shares of its largest element
};

/// Every pair of spans by itself against the different ones and their copies.
Compared compare(const WireModel& model, double hz) {
    const auto mesh = em::makeMesh(model, hz);
    const em::SpanBlocks blocks(mesh, hz);
    const auto size = static_cast<Eigen::Index>(mesh.localCount);
    em::MatrixXc all = em::MatrixXc::Zero(size, size);
    em::MatrixXc copied = em::MatrixXc::Zero(size, size);
    const em::EqualWires wires(mesh, wavenumber(hz));
    for (std::size_t row = 0; row < mesh.spans.size(); ++row)
        for (std::size_t column = row; column < mesh.spans.size(); ++column)
            fill(mesh, blocks, row, column, all);
    for (const auto& rows : wires.rows())
        wires.forPairs(rows,
                       [&](std::size_t row, std::size_t column) { fill(mesh, blocks, row, column, copied); });
    wires.copyEqual(copied);
    Compared result{wires.wires(), wires.different(), 0.0};
    for (const auto& a : mesh.spans)
        for (const auto& b : mesh.spans) {
            if (b.firstLocal < a.firstLocal) continue;
            const auto part = [&](const em::MatrixXc& m) {
                return m.block(static_cast<Eigen::Index>(b.firstLocal),
                               static_cast<Eigen::Index>(a.firstLocal), em::basisOf(b).count,
                               em::basisOf(a).count);
            };
            result.worst = std::max(result.worst, (part(all) - part(copied)).cwiseAbs().maxCoeff() /
                                                      part(all).cwiseAbs().maxCoeff());
        }
    return result;
}

Design grid(GroundKind ground) {
    Design d = test::yagiDesign();
    test::rowOf(d).start[2] = "6 m";
    d.site.ground = ground;
    d.copies = {test::stack("3", "4", "4 m", "3.5 m")};
    return d;
}

std::size_t pairsOf(std::size_t n) {
    return n * (n + 1) / 2;
}

}  // namespace

TEST_CASE("a grid of Yagis computes the pairs that differ, and its matrix is that of all pairs") {
    for (const auto ground : {GroundKind::FreeSpace, GroundKind::Perfect, GroundKind::Real}) {
        const auto e = expand(grid(ground));
        REQUIRE(e.usable());
        const auto result = compare(e.model, test::kArrayHz);
        INFO(static_cast<int>(ground) << ": " << result.different << " of " << pairsOf(result.wires));
        CHECK(result.wires == 60);
        CHECK(result.worst < 1e-7);
        // A Yagi of five against one beside it: 25 pairs, of which half are mirror images for equal heights.
        // Rows: over ground six pairs of them, in free space three distances; four distances across.
        const std::size_t rows = ground == GroundKind::FreeSpace ? 3 : 6;
        CHECK(result.different <= 60 + rows * 4 * 25);
        CHECK(result.different > 60);
    }
}

TEST_CASE("wires that are turned, mirrored, run backwards or cut unevenly keep their signs") {
    // Feeds aside of the middle make cuts that are not the same from both ends.
    std::mt19937 random(7);
    for (const auto ground : {GroundKind::FreeSpace, GroundKind::Perfect, GroundKind::Real}) {
        WireModel model;
        model.ground.kind = ground;
        if (ground == GroundKind::Real) model.ground = expand(grid(ground)).model.ground;
        const auto add = [&](const Vec3& centre, double bearingDeg, double steepDeg, double halfM, bool fed) {
            PlainWire wire;
            const double a = bearingDeg * kDegree;
            const double e = steepDeg * kDegree;
            const Vec3 along(std::cos(e) * std::cos(a), std::cos(e) * std::sin(a), std::sin(e));
            wire.startM = centre - halfM * along;
            wire.endM = centre + halfM * along;
            wire.radiusM = 2e-3;
            model.wires.push_back(wire);
            if (!fed) return;
            PlainFeed feed;
            feed.place = {model.wires.size() - 1, 0.25};
            model.feeds.push_back(feed);
        };
        const double bearings[] = {30.0, 210.0};
        const double steep[] = {0.0, 30.0};
        for (int i = 0; i < 7; ++i)
            for (int j = 0; j < 7; ++j)
                add({7.0 * i, 7.0 * j, 8.0}, bearings[random() % 2], steep[random() % 2], 2.0,
                    random() % 2 == 0);
        const auto result = compare(model, 28.3e6);
        INFO(static_cast<int>(ground) << ": " << result.different << " of " << pairsOf(result.wires));
        CHECK(result.worst < 1e-7);
        CHECK(result.different < pairsOf(result.wires) - 40);
    }
}

TEST_CASE("wires in the ground are equal at equal depths only") {
    WireModel model;
    model.ground = expand(grid(GroundKind::Real)).model.ground;
    for (int i = 0; i < 4; ++i) {
        PlainWire wire;
        wire.startM = {3.0 * i, 0.0, i % 2 == 0 ? -0.2 : 1.0};
        wire.endM = {3.0 * i, 6.0, i % 2 == 0 ? -0.2 : 1.0};
        wire.radiusM = 1e-3;
        model.wires.push_back(wire);
    }
    const auto result = compare(model, 7.1e6);
    // Neighbours: low and high three metres apart, three times; next but one: two low ones and two high ones;
    // nine metres: one. What a wire does with itself is computed for each.
    CHECK(result.different == 4 + 1 + 2 + 1);
    CHECK(result.worst < 1e-7);
}
