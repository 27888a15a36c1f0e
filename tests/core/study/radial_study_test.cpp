// The radials study: its curves against single solutions, its advice, and what it refuses.
#include <catch2/catch.hpp>
#include <mutex>

#include "core/study/radial_study.h"

using namespace rm;
using namespace rm::model;
using Catch::Contains;

namespace {

Design standing() {
    Design d;
    d.designFrequency = "7.1 MHz";
    Part vertical;
    vertical.name = "Vertical";
    vertical.shape = StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "10.2 m"}};
    Part radials;
    radials.name = "Radials";
    radials.shape = RadialSystem{};
    d.parts = {vertical, radials};
    Feed feed;
    feed.part = "Vertical";
    feed.place.kind = PlaceKind::Start;
    d.feeds.push_back(feed);
    d.site.ground = GroundKind::Real;
    d.site.height = "0 m";
    return d;
}

}  // namespace

TEST_CASE("more radials and longer ones: more gain, by ever less, and the study says where it stops paying") {
    study::Look look;
    // It is told from whatever thread has done a piece.
    std::mutex telling;
    double share = 0.0;
    const auto s = study::studyRadials(standing(), 7.1e6, look, {}, [&](double done) {
        const std::scoped_lock lock(telling);
        share = std::max(share, done);
    });
    REQUIRE(s.complete);
    CHECK(share == Approx(1.0));
    CHECK(s.now.count == 16);
    CHECK(s.now.lengthM == Approx(10.0));
    CHECK(s.curves[0].lengthM == Approx(5.0));
    CHECK(s.curves[2].lengthM == Approx(20.0));
    for (const auto& curve : s.curves) {
        REQUIRE(curve.points.size() == study::radialCounts().size());
        for (std::size_t i = 1; i < curve.points.size(); ++i) {
            INFO(curve.lengthM << " m, " << curve.points[i].count);
            CHECK(curve.points[i].watchGainDbi[1] > curve.points[i - 1].watchGainDbi[1]);
            CHECK(curve.points[i].soilShare < curve.points[i - 1].soilShare);
            CHECK(curve.points[i].skyShare <= curve.points[i].efficiency);
        }
    }
    // Longer ones pay where there are many.
    CHECK(s.curves[2].points.back().watchGainDbi[1] > s.curves[1].points.back().watchGainDbi[1]);
    CHECK(s.curves[1].points.back().watchGainDbi[1] > s.curves[0].points.back().watchGainDbi[1]);
    // A point is the antenna itself.
    study::AnalysisOptions options;
    options.bearingAzimuthDeg = 0.0;
    const auto a =
        study::analyse(expand(study::withRadials(standing(), "Radials", 32, 10.0)), 7.1e6, options);
    const auto& point = s.curves[1].points[8];
    REQUIRE(point.count == 32);
    CHECK(std::abs(point.ohm - a.figures.antennaOhm) < 1e-6);
    CHECK(point.watchGainDbi[1] == Approx(a.elevation.at(10.0)).margin(1e-6));
    CHECK(point.wireM == Approx(320.0));
    CHECK_THAT(s.advice(), Contains("more of them hardly pay") && Contains("dB at 10° for"));
    CHECK_THAT(s.advice(), Contains(" × 10.0 m to ") && Contains(" m of wire"));
    CHECK_THAT(s.advice(quantity::LengthStyle::FeetInches),
               Contains(" × 32.8 ft to ") && Contains(" ft of wire"));
}

TEST_CASE("radials of several lengths count by the longest, and a formula is worked out") {
    Design d = standing();
    Dimension n;
    n.name = "n";
    n.kind = DimensionKind::Number;
    n.text = "8";
    d.dimensions.push_back(n);
    auto& system = std::get<RadialSystem>(d.parts[1].shape);
    system.count = "2*n";
    system.length = "5 m; 0.2 lambda; ";
    std::stop_source stop;
    stop.request_stop();
    const auto s = study::studyRadials(d, 7.1e6, {}, stop.get_token());
    CHECK_FALSE(s.complete);
    CHECK(s.advice().empty());
    CHECK(s.now.count == 16);
    CHECK(s.now.lengthM == Approx(0.2 * wavelengthM(7.1e6)));
}

TEST_CASE("where there are no radials, or they do nothing, the study says so") {
    Design d = standing();
    d.site.ground = GroundKind::Perfect;
    CHECK_THROWS_WITH(study::studyRadials(d, 7.1e6, {}), Contains("On perfect ground radials do nothing"));
    d = standing();
    d.parts[1].enabled = false;
    CHECK_THROWS_WITH(study::studyRadials(d, 7.1e6, {}), Contains("no radial system"));
}
