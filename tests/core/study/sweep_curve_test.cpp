// What a sweep tells of what lies between the points that it was asked for.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "antennas.h"
#include "core/project/project_file.h"
#include "core/project/reference_cases.h"
#include "core/starters/starter.h"
#include "core/study/resonance.h"
#include "core/study/sweep.h"
#include "core/study/sweep_curve.h"

using namespace rm;
using namespace rm::test;

namespace {

model::Expansion smallLoop() {
    for (const auto& c : io::readReferenceCases(RM_SOURCE_DIR "/tests/reference/wires.json"))
        if (c.name == "free_small_loop") return wrapped(c.model);
    throw Error("no small loop");
}

double reflectionOf(const study::SweepPoint& p) {
    return std::abs(study::reflection(p.radioOhm, 50.0));
}

}  // namespace

TEST_CASE("a wide range tells the same figures, however few points were asked for") {
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    for (const auto& d : project.designs) {
        INFO(d.name);
        const auto e = model::expand(d);
        const double low = 0.6 * e.designFrequencyHz;
        const double high = 1.8 * e.designFrequencyHz;
        const auto few = study::sweep(e, low, high, 61);
        const auto many = study::sweep(e, low, high, 2001);
        REQUIRE(few.points.size() == 61);
        CHECK(few.bestSwr() == Approx(many.bestSwr()).margin(0.012));
        // Even of three points, which say nothing themselves.
        const auto three = study::sweep(e, low, high, 3);
        REQUIRE(three.points.size() == 3);
        CHECK(three.complete);
        CHECK(three.bestSwr() == Approx(many.bestSwr()).margin(0.012));
        CHECK(three.resonancesHz().size() == many.resonancesHz().size());
        CHECK(few.resonancesHz().size() == many.resonancesHz().size());
        for (std::size_t i = 0; i < std::min(few.resonancesHz().size(), many.resonancesHz().size()); ++i)
            CHECK(few.resonancesHz()[i] == Approx(many.resonancesHz()[i]).epsilon(2e-4));
        for (const double limit : {1.5, 2.0, 3.0}) {
            INFO(limit);
            // Steps of the dense one are 0.06 % of the range's middle.
            CHECK(few.bandwidthHz(limit) == Approx(many.bandwidthHz(limit)).epsilon(0.02).margin(1e-3 * low));
        }
    }
}

TEST_CASE("a dip much narrower than the steps of a sweep is seen, and is where a search finds it") {
    const auto e = smallLoop();
    const auto resonance = study::findResonance(e, 14.2e6);
    REQUIRE(resonance);
    const double found = resonance->frequencyHz;
    // Steps of 300 kHz; what a loop's resonance takes is some 30.
    const auto swept = study::sweep(e, 8e6, 20e6, 41);
    REQUIRE(swept.complete);
    const auto zeros = swept.resonancesHz();
    const auto nearest = std::min_element(zeros.begin(), zeros.end(), [&](double a, double b) {
        return std::abs(a - found) < std::abs(b - found);
    });
    REQUIRE(nearest != zeros.end());
    CHECK(*nearest == Approx(found).epsilon(1e-4));
    const auto direct = study::sweep(e, found, found, 1).points.front();
    CHECK(swept.bestSwr() <= direct.swr + 0.05);
    CHECK(std::abs(study::reflection(swept.at(found).radioOhm, 50.0) -
                   study::reflection(direct.radioOhm, 50.0)) < 0.01);
}

TEST_CASE("a loop that is narrow in its band tells the same, however few points were asked for") {
    starters::Order order;
    order.bands = {*model::findAllocatedBand("20 m")};
    order.heightM = 5.0;
    const auto e = model::expand(starters::make("small-loop", order));
    const auto band = study::sweep(e, 14.0e6, 14.35e6, 801);
    REQUIRE(band.bestSwr() < 1.5);
    REQUIRE(band.bandwidthHz(2.0) < 5e4);
    for (const int points : {2, 3, 5, 8, 11, 16}) {
        INFO(points);
        const auto few = study::sweep(e, 14.0e6, 14.35e6, points);
        CHECK(few.points.size() == static_cast<std::size_t>(points));
        CHECK(few.bestSwr() == Approx(band.bestSwr()).margin(0.015));
        CHECK(few.bandwidthHz(2.0) == Approx(band.bandwidthHz(2.0)).epsilon(0.02));
    }
}

TEST_CASE("the points between are in order, hold those asked for, and leave no gap") {
    const auto e = wrapped(dipole(10.2, 0.001));
    const auto s = study::sweep(e, 10e6, 20e6, 21);
    const auto& all = s.curve();
    REQUIRE(s.points.size() == 21);
    REQUIRE(all.size() > 300);
    std::size_t held = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (std::any_of(s.points.begin(), s.points.end(),
                        [&](const auto& p) { return p.frequencyHz == all[i].frequencyHz; }))
            ++held;
        if (i == 0) continue;
        CHECK(all[i].frequencyHz > all[i - 1].frequencyHz);
        CHECK(all[i].frequencyHz < 1.0021 * all[i - 1].frequencyHz);
        if (std::max(reflectionOf(all[i]), reflectionOf(all[i - 1])) < 0.5)
            CHECK(std::abs(study::reflection(all[i].radioOhm, 50.0) -
                           study::reflection(all[i - 1].radioOhm, 50.0)) < 0.051);
    }
    CHECK(held == 21);
    // A range without width is one frequency, however often it is asked for.
    for (const int points : {1, 2, 9, 61}) {
        const auto one = study::sweep(e, 14.1e6, 14.1e6, points);
        CHECK(one.solutions == 1);
        REQUIRE(one.points.size() == 1);
        CHECK(one.curve().size() == 1);
    }
    // A band in small steps needs little more.
    const auto band = study::sweep(e, 14.0e6, 14.35e6, 61);
    CHECK(band.curve().size() < 100);
}

TEST_CASE("stopping, no number and too many points end the looking between") {
    std::vector<study::SweepPoint> ends(2);
    ends[0].frequencyHz = 1e6;
    ends[1].frequencyHz = 1e9;
    int asked = 0;
    const auto wild = [&](double hz) {
        study::SweepPoint p;
        p.frequencyHz = hz;
        p.radioOhm = p.antennaOhm = ++asked % 2 ? 50.0 : 500.0;
        return p;
    };
    CHECK(study::withBetween(ends, 50.0, wild, {}).size() <= 4010);
    CHECK(asked < 8100);
    std::stop_source stop;
    stop.request_stop();
    CHECK(study::withBetween(ends, 50.0, wild, stop.get_token()).empty());
    const auto none = [](double hz) {
        study::SweepPoint p;
        p.frequencyHz = hz;
        p.radioOhm = p.antennaOhm = std::nan("");
        return p;
    };
    ends[1].frequencyHz = 1.001e6;
    CHECK(study::withBetween(ends, 50.0, none, {}).empty());
}
