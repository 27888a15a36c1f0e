// The cases of a wide study: every combination once, each the antenna that its text says, read as anybody
// else would read it.
#include <catch2/catch.hpp>
#include <functional>
#include <set>
#include <thread>

#include "core/project/project_file.h"
#include "core/stopped.h"
#include "core/study/figures.h"
#include "core/study/sweep.h"
#include "wide_plans.h"

using namespace rm;
using Catch::Contains;

TEST_CASE("wide: every combination comes once, the last one changes fastest") {
    const wide::Cases cases(test::smallStudy());
    REQUIRE(cases.count() == 8);
    std::set<std::vector<std::size_t>> seen;
    for (std::size_t i = 0; i < cases.count(); ++i) seen.insert(cases.stepsOf(i));
    CHECK(seen.size() == 8);
    CHECK(cases.stepsOf(1) == std::vector<std::size_t>{0, 1, 0});
    CHECK(cases.over()[1].title == "height_m");
    CHECK(cases.over()[1].steps[1].value == Approx(7.9248));
    CHECK(cases.over()[0].steps[3].value == Approx(3.0));
}

TEST_CASE("wide: a case is read as its antenna is read by itself") {
    const wide::Cases cases(test::smallStudy());
    const auto row = cases.workOut(5);
    REQUIRE(row.problem.empty());
    REQUIRE(row.values.size() == 4);
    const auto design = cases.designOf(5);
    CHECK(design.site.height == "7.9248 m");
    const auto expansion = model::expand(design);
    const auto analysis = study::analyse(expansion, expansion.designFrequencyHz);
    CHECK(row.values[0] == Approx(analysis.figures.antennaOhm.real()).epsilon(1e-9));
    CHECK(row.values[2] == Approx(analysis.figures.peak.gainDbi).epsilon(1e-9));
    CHECK(row.values[3] == Approx(analysis.elevation.at(10.0)).epsilon(1e-9));
    CHECK(row.values[1] == Approx(study::sweep(expansion, 50e6, 50.5e6, 21).worstSwr()).epsilon(1e-9));
}

TEST_CASE("wide: a case is the same to the last bit whatever was worked out before") {
    const wide::Cases cases(test::smallStudy());
    const auto first = cases.workOut(3).values;
    for (const std::size_t other : {7, 0, 2}) cases.workOut(other);
    CHECK(cases.workOut(3).values == first);
    const wide::Cases again(wide::parseGiven(wide::writeGiven(cases.given()), "It"));
    CHECK(again.workOut(3).values == first);
}

TEST_CASE(
    "wide: cases over many grounds are the same to the last bit in any order, beside others, and again") {
    wide::Given given;
    const auto project = io::readProject(RM_SOURCE_DIR "/demo/heron_point.json");
    given.design = io::designOf(project, "Yagi, 70 MHz", "demo");
    given.bands = project.bands;
    given.plan.work = wide::Work::Build;
    given.plan.repeat = 30;
    given.plan.band = "4 m";
    given.plan.figures = {"worst SWR", "gain", "front-to-back"};
    const wide::Cases cases(given);
    std::vector<std::vector<double>> first;
    for (std::size_t n = 0; n < cases.count(); ++n) first.push_back(cases.workOut(n).values);
    const std::jthread other([&](const std::stop_token& over) {
        for (std::size_t n = 0; !over.stop_requested(); ++n) cases.workOut(n % cases.count());
    });
    for (std::size_t pass = 0; pass < 2; ++pass)
        for (std::size_t n = 0; n < cases.count(); ++n) {
            const std::size_t which = (n * 7) % cases.count();
            INFO(which);
            CHECK(cases.workOut(which).values == first[which]);
        }
}

TEST_CASE("wide: builds draw their own errors, the same for every variant, another for another seed") {
    auto given = test::smallStudy();
    given.plan.work = wide::Work::Build;
    given.plan.repeat = 5;
    given.plan.errors.length = "5 mm";
    const wide::Cases cases(given);
    REQUIRE(cases.count() == 40);
    CHECK(cases.repeated() == "build");
    const auto lengthOf = [](const model::Design& d) { return d.dimensions.at(1).text; };
    std::set<std::string> lengths;
    for (std::size_t i = 0; i < 5; ++i) lengths.insert(lengthOf(cases.designOf(i)));
    CHECK(lengths.size() == 5);
    CHECK(lengthOf(cases.designOf(2)) == lengthOf(cases.designOf(7)));
    given.plan.seed = 2;
    CHECK(lengthOf(wide::Cases(given).designOf(2)) != lengthOf(cases.designOf(2)));
}

TEST_CASE("wide: a search ends at an antenna that its row brings back") {
    auto given = test::smallStudy();
    given.plan.work = wide::Work::Tune;
    given.plan.over = {};
    given.plan.repeat = 2;
    given.plan.evaluations = 150;
    given.plan.figures = {"largest miss", "gain", "SWR"};
    const wide::Cases cases(given);
    const auto row = cases.workOut(1);
    REQUIRE(row.problem.empty());
    REQUIRE(row.values.size() == 3 + given.design.tune.movers.size());
    const auto design = cases.designOf(row);
    const auto expansion = model::expand(design);
    CHECK(study::analyse(expansion, expansion.designFrequencyHz).figures.swr ==
          Approx(row.values[2]).epsilon(1e-6));
    // Better matched than where it began.
    const auto start = model::expand(cases.designOf(0));
    CHECK(row.values[2] < study::analyse(start, start.designFrequencyHz).figures.swr);
    CHECK(cases.workOut(1).values == row.values);
}

TEST_CASE("wide: soils, bands and frequencies are varied by name and number") {
    auto given = test::smallStudy();
    given.bands.push_back({"8 m", 40e6, 40.5e6, {}});
    wide::OverText soil;
    soil.vary = wide::Vary::Soil;
    soil.values = {"salt water", "dry sand"};
    wide::OverText band;
    band.vary = wide::Vary::Band;
    given.plan.over = {soil, band};
    given.plan.figures = {"resistance"};
    const wide::Cases cases(given);
    REQUIRE(cases.count() == 4);
    CHECK(cases.designOf(2).site.soil == "dry sand");
    // The second band is another frequency of the same antenna.
    const auto expansion = model::expand(cases.designOf(1));
    CHECK(cases.workOut(1).values[0] ==
          Approx(study::analyse(expansion, 40.25e6).figures.antennaOhm.real()).epsilon(1e-9));
    // The one that the plan names is read in its middle, too.
    given.plan.band = "8 m";
    CHECK(wide::Cases(given).workOut(1).values == cases.workOut(1).values);
}

TEST_CASE("wide: what cannot be meant is said in a sentence") {
    const auto refused = [](const std::function<void(wide::Given&)>& change, const std::string& words) {
        auto given = test::smallStudy();
        change(given);
        CHECK_THROWS_WITH(wide::Cases(given), Contains(words));
    };
    refused([](auto& g) { g.plan.over[0].name = "boom"; }, "no dimension named \"boom\"");
    refused([](auto& g) { g.plan.over[0].to = ""; }, "\"from\" and \"to\"");
    refused([](auto& g) { g.plan.over[1] = g.plan.over[0]; }, "varied twice");
    refused([](auto& g) { g.plan.figures = {"beauty"}; }, "no figure \"beauty\"");
    refused([](auto& g) { g.plan.repeat = 3; }, "for builds and starts");
    refused([](auto& g) { g.plan.band = "11 m"; }, "no band \"11 m\"");
    refused(
        [](auto& g) {
            g.plan.over[0].points = 1000000;
            g.plan.work = wide::Work::Build;
            g.plan.repeat = 1000;
        },
        "more than");
    refused(
        [](auto& g) {
            g.plan.over[1].vary = wide::Vary::Soil;
            g.plan.over[1].values = {"moon"};
        },
        "no soil \"moon\"");
    refused([](auto& g) { g.plan.work = wide::Work::Tune; }, "is varied and may move");
    refused(
        [](auto& g) {
            g.plan.over[1].vary = wide::Vary::Goal;
            g.plan.over[1].number = 9;
        },
        "no goal 9");
}

TEST_CASE("wide: a variant that cannot be worked out says so in its row and the others go on") {
    auto given = test::smallStudy();
    given.plan.over[0].from = "-1 m";
    const wide::Cases cases(given);
    CHECK_FALSE(cases.workOut(0).problem.empty());
    CHECK(cases.workOut(0).values.empty());
    CHECK(cases.workOut(7).problem.empty());
}

TEST_CASE("wide: a case that is asked to stop ends") {
    std::stop_source stop;
    stop.request_stop();
    const wide::Cases cases(test::smallStudy());
    CHECK_THROWS_AS(cases.workOut(0, stop.get_token()), Stopped);
}
