// Zones to keep clear: their line is where the limit is, and none is too small to be found.
#include "core/study/keep_clear.h"

#include <catch2/catch.hpp>
#include <cmath>

#include "core/model/expand.h"
#include "core/study/near_map.h"

using namespace rm;
using namespace rm::study;

namespace {

/// Forty metres of wire at 10 m, fed at the foot of its drop, against a short counterpoise.
model::Project endFed(double powerW) {
    model::Project p;
    p.powerW = powerW;
    p.bands = {{"20 m", 14.0e6, 14.35e6, {}}};
    p.keepClear.marginDb = 0.0;
    model::Design d;
    d.name = "End-fed";
    d.designFrequency = "14.15 MHz";
    model::Part wire;
    wire.name = "Wire";
    wire.shape = model::BentWire{{{"0 m", "0 m", "0.5 m"}, {"0 m", "0 m", "10 m"}, {"-30 m", "0 m", "10 m"}}};
    model::Part counterpoise;
    counterpoise.name = "Counterpoise";
    counterpoise.shape = model::StraightWire{{"0 m", "0 m", "0.5 m"}, {"5 m", "0 m", "0.5 m"}};
    d.parts = {wire, counterpoise};
    model::Feed feed;
    feed.part = "Wire";
    feed.place.kind = model::PlaceKind::Start;
    d.feeds = {feed};
    p.designs = {d};
    return p;
}

/// The antenna of a row, at its frequency and power.
struct Around {
    model::Expansion design;
    FieldAround fields;

    Around(const model::Project& p, double hz)
        : design(model::expand(p.designs[0])), fields(solved(p, design, hz), p.powerW) {}
    static Analysis solved(const model::Project& p, const model::Expansion& design, double hz) {
        AnalysisOptions options;
        options.meshHz = p.bands[0].highHz;
        return analyse(design, hz, options);
    }
};

/// How far from the drop the limit is exceeded in this direction, by steps of a millimetre.
double reachOf(const FieldAround& fields, const ClearRow& row, double share, double heightM,
               double azimuthDeg) {
    std::vector<Vec3> points;
    for (int mm = 5; mm < 3000; ++mm)
        points.emplace_back(1e-3 * mm * std::cos(azimuthDeg * kDegree),
                            1e-3 * mm * std::sin(azimuthDeg * kDegree), heightM);
    const auto read = fields.at(points);
    double reach = 0.0;
    for (std::size_t i = 0; i < points.size(); ++i)
        if (exposure(read[i], row.limits, share) >= 1.0) reach = 1e-3 * (5.0 + static_cast<double>(i));
    return reach;
}

}  // namespace

TEST_CASE(
    "the line of a zone is where the limit is reached, also of a zone that is small beside the antenna") {
    const auto p = endFed(100.0);
    const auto table = keepClear(p, p.designs[0]);
    REQUIRE(table.complete);
    REQUIRE(table.rows.size() == 2);
    const double share = countedShare(p.keepClear);
    for (const auto& row : table.rows) {
        const Around around(p, row.frequencyHz);
        for (const ClearZone* zone : {&row.head, &row.window}) {
            REQUIRE(zone->contour.size() > 20);
            double off = 0.0;
            for (std::size_t i = 0; i < zone->contour.size(); i += 5) {
                const auto& piece = zone->contour[i];
                const auto field = around.fields.at({zone->plane.at(piece.fromColumn, piece.fromRow)});
                off = std::max(off, std::abs(exposure(field[0], row.limits, share) - 1.0));
            }
            INFO("at " << zone->heightM << " m");
            CHECK(off < 0.03);
            CHECK_FALSE(zone->clipped);
            // To both sides of the vertical plane of the wire.
            const double left = reachOf(around.fields, row, share, zone->heightM, 90.0);
            CHECK(left > 0.2);
            CHECK(zone->fromWireM > left - 0.02);
        }
    }
}

TEST_CASE("a zone between the points of the first look is found") {
    // Centimetres round the drop of a wire of thirty metres.
    const auto p = endFed(1.0);
    const auto table = keepClear(p, p.designs[0]);
    REQUIRE(table.rows.size() == 2);
    const auto& row = table.rows[0];
    const Around around(p, row.frequencyHz);
    const double left = reachOf(around.fields, row, countedShare(p.keepClear), p.keepClear.headM, 90.0);
    CHECK(left > 0.03);
    CHECK(left < 0.3);
    CHECK(row.head.fromWireM == Approx(left).margin(0.03));
    CHECK(row.head.most > 1.0);
    CHECK_FALSE(row.head.contour.empty());
}

TEST_CASE("where the limit is reached nowhere, how near it comes is told all the same") {
    auto p = endFed(1.0);
    // Above heads: the antenna begins at three metres.
    auto& wire = std::get<model::BentWire>(p.designs[0].parts[0].shape);
    wire.points.front()[2] = "3 m";
    auto& counterpoise = std::get<model::StraightWire>(p.designs[0].parts[1].shape);
    counterpoise.start[2] = counterpoise.end[2] = "3 m";
    const auto table = keepClear(p, p.designs[0]);
    REQUIRE(table.rows.size() == 2);
    for (const auto& row : table.rows) {
        CHECK(row.head.contour.empty());
        CHECK_FALSE(row.head.clipped);
        // Every ten centimetres under the antenna, and beyond its ends.
        const Around around(p, row.frequencyHz);
        std::vector<Vec3> points;
        for (int x = -350; x <= 100; ++x)
            for (int y = -10; y <= 10; ++y) points.emplace_back(0.1 * x, 0.1 * y, p.keepClear.headM);
        double most = 0.0;
        for (const auto& field : around.fields.at(points))
            most = std::max(most, exposure(field, row.limits, countedShare(p.keepClear)));
        CHECK(most < 0.8);
        CHECK(row.head.most == Approx(most).epsilon(0.02));
    }
}
