// Tuning of what hangs on the antenna: on one field solution, against scans.
#include "core/study/tuning/tune.h"

#include <tbb/parallel_for.h>

#include <catch2/catch.hpp>
#include <cmath>
#include <mutex>

#include "antennas.h"
#include "core/model/movable.h"
#include "core/project/project_file.h"
#include "core/study/lobes.h"
#include "core/study/sweep.h"
#include "core/study/tuning/goal_words.h"
#include "core/study/tuning/tune_axes.h"
#include "plans.h"

using namespace rm;
using namespace rm::test;
using namespace rm::model;

using study::allMet;

namespace {

/// Two short verticals, one behind the other, each fed at its foot.
Design twoVerticals(const std::string& apart) {
    Design d;
    d.designFrequency = "14.1 MHz";
    for (const auto& [name, side] : {std::pair{"Rear", "-"}, {"Front", ""}}) {
        const std::string at = side + ("(" + apart + ")/2");
        Part part;
        part.name = name;
        part.shape = StraightWire{{at, "0 m", "0 m"}, {at, "0 m", "5.1 m"}};
        d.parts.push_back(part);
        Feed feed;
        feed.name = name;
        feed.part = name;
        feed.place.kind = PlaceKind::Start;
        d.feeds.push_back(feed);
    }
    d.site.ground = GroundKind::Perfect;
    return d;
}

}  // namespace

TEST_CASE("the phase of two verticals for the best rear is that of a scan, without a field solution more") {
    auto d = twoVerticals("5.3 m");
    d.dimensions = {dim("lag", "20 deg", "0 deg", "180 deg")};
    d.dimensions[0].kind = DimensionKind::Angle;
    d.feeds[1].phase = "-lag";
    d.tune.movers = {mover("lag", "0.1 deg")};
    d.tune.goals = {goal(GoalKind::FrontToRear, "60", "14.1 MHz")};
    const auto result = study::tune(d, {});
    double best = -1e9;
    double at = 0.0;
    for (double lag = 0.0; lag <= 180.0; lag += 0.5) {
        auto trial = d;
        trial.dimensions[0].text = std::to_string(lag) + " deg";
        const double ratio = study::analyse(expand(trial), 14.1e6).figures.frontToRearDb;
        if (ratio > best) {
            best = ratio;
            at = lag;
        }
    }
    INFO(listed(result.rounded) << "scan " << best << " at " << at);
    CHECK(result.best.values.at("lag") == Approx(at).margin(1.0));
    CHECK(result.rounded[0].worst > best - 0.3);
}

namespace {

/// A wire and its counterpoise, fed where they meet through a transformer.
Design wireAndTail() {
    Design d;
    d.designFrequency = "7.1 MHz";
    d.dimensions = {dim("long", "17 m", "10 m", "42 m"), dim("short", "1 m", "0.5 m", "6 m")};
    Part part;
    part.name = "Wire";
    BentWire bent;
    bent.points = {{"-short", "0 m", "8 m"}, {"0 m", "0 m", "8 m"}, {"long", "0 m", "8 m"}};
    part.shape = bent;
    d.parts = {part};
    Feed feed;
    feed.part = "Wire";
    feed.place.kind = PlaceKind::Corner;
    feed.place.value = "1";
    d.feeds = {feed};
    FeedBlock transformer;
    transformer.name = "Unun";
    transformer.ratio = "49:1";
    d.feedPath = {transformer};
    d.site.ground = GroundKind::Real;
    return d;
}

const std::vector<Band> kFive = {{"40 m", 7.0e6, 7.2e6, {}},
                                 {"30 m", 10.1e6, 10.15e6, {}},
                                 {"20 m", 14.0e6, 14.35e6, {}},
                                 {"15 m", 21.0e6, 21.45e6, {}},
                                 {"10 m", 28.0e6, 28.6e6, {}}};

int bandsMet(const std::vector<study::GoalState>& goals) {
    return static_cast<int>(std::count_if(goals.begin(), goals.end(), [](const auto& g) { return g.met(); }));
}

}  // namespace

TEST_CASE("an end-fed wire gets below 2 on as many of five bands as a dense scan shows possible") {
    auto d = wireAndTail();
    d.tune.movers = {mover("long", "0.01 m"), mover("short", "0.01 m")};
    d.tune.goals = {goal(GoalKind::Swr, "2")};
    d.tune.goals[0].counted = true;
    study::TuneOptions options;
    options.samples = 3;
    const auto result = study::tune(d, kFive, options);
    // Every quarter of a metre of wire, every 0.6 m of counterpoise.
    int most = 0;
    std::string where;
    std::mutex mutex;
    std::vector<std::pair<double, double>> grid;
    for (double wire = 10.0; wire <= 42.0; wire += 0.25)
        for (double tail = 0.5; tail <= 6.0; tail += 0.6) grid.emplace_back(wire, tail);
    tbb::parallel_for(std::size_t{0}, grid.size(), [&](std::size_t i) {
        const auto trial = study::withValues(d, {{"long", grid[i].first}, {"short", grid[i].second}});
        const int met = bandsMet(study::readGoals(trial, kFive, 3));
        const std::scoped_lock lock(mutex);
        if (met <= most) return;
        most = met;
        where = std::to_string(grid[i].first) + " m and " + std::to_string(grid[i].second) + " m";
    });
    INFO(listed(result.exact) << "scan: " << most << " bands at " << where);
    WARN("end-fed wire: " << bandsMet(result.rounded) << " bands of five, scan " << most << ", "
                          << result.best.seconds << " s, " << result.best.solutions << " solutions");
    CHECK(most >= 2);
    CHECK(most < 5);
    CHECK(bandsMet(result.before.goals) < most);
    CHECK(bandsMet(result.rounded) >= most);
    CHECK(allMet(result.rounded));
}

TEST_CASE("the feed path is tuned without a field solution more: a ratio from a list, and a coil") {
    auto d = wireAndTail();
    d.dimensions[0].text = "20 m";
    // What is typed in the feed path becomes a dimension that may move.
    FeedBlock coil;
    coil.name = "Coil";
    coil.kind = BlockKind::Element;
    coil.element = ElementKind::Inductor;
    coil.value = "0.2";
    d.feedPath.push_back(coil);
    for (const auto& movable : movablesOf(d))
        if (movable.owner == "Unun" || movable.owner == "Coil") letMove(d, movable);
    REQUIRE(d.tune.movers.size() == 2);
    CHECK(d.feedPath[0].ratio == "Unun_ratio");
    CHECK(d.dimensions[2].text == "49");
    INFO((expand(d).findings.empty() ? std::string() : expand(d).findings[0].sentence));
    REQUIRE(expand(d).usable());
    d.dimensions[2].text = "4";
    d.tune.movers[1].low = "0.05";
    d.tune.movers[1].high = "3";
    d.tune.goals = {goal(GoalKind::Swr, "1.5", "7.05 MHz", "7.1 MHz")};
    const auto result = study::tune(d, {});
    INFO(listed(result.exact));
    CHECK(result.best.solutions == 3);
    CHECK(result.best.evaluations > 100);
    CHECK(result.best.goals[0].worst < result.before.goals[0].worst);
    // The list and the coil, tried all over: nothing better.
    double scanned = 1e9;
    for (const double ratio : {1.0, 1.5, 2.0, 2.25, 4.0, 6.0, 9.0, 12.0, 16.0, 25.0, 36.0, 49.0, 56.0, 64.0})
        for (double henry = 0.05; henry <= 3.0; henry += 0.1) {
            const auto trial = study::withValues(d, {{"Unun_ratio", ratio}, {"Coil_value", henry}});
            scanned = std::min(scanned, study::readGoals(trial, {}, 5)[0].worst);
        }
    CHECK(result.best.goals[0].worst < scanned + 0.02);
    const double ratio = result.builtValues.at("Unun_ratio");
    CHECK((ratio == 36.0 || ratio == 49.0 || ratio == 56.0 || ratio == 64.0));
}

TEST_CASE("a coil is tuned to what the reactance asks for, without a field solution more") {
    Design d;
    d.designFrequency = "3.6 MHz";
    Part part;
    part.name = "Short vertical";
    part.conductor.material = "perfect";
    part.shape = StraightWire{{"0 m", "0 m", "0 m"}, {"0 m", "0 m", "10 m"}};
    d.parts = {part};
    Feed feed;
    feed.part = "Short vertical";
    feed.place.kind = PlaceKind::Start;
    d.feeds = {feed};
    d.site.ground = GroundKind::Perfect;
    const Complex bare = study::analyse(expand(d), 3.6e6).figures.antennaOhm;
    REQUIRE(bare.imag() < -100.0);
    Load coil;
    coil.name = "Coil";
    coil.part = "Short vertical";
    coil.place.kind = PlaceKind::Start;
    coil.inductance = "5";
    d.loads = {coil};
    for (const auto& movable : movablesOf(d))
        if (movable.owner == "Coil") letMove(d, movable);
    REQUIRE(d.tune.movers.size() == 1);
    d.tune.movers[0].low = "1";
    d.tune.movers[0].high = "60";
    d.tune.movers[0].step = "0.01";
    d.tune.goals = {goal(GoalKind::Resonance, "", "3.6 MHz")};
    const auto result = study::tune(d, {});
    CHECK(result.best.solutions == 1);
    CHECK(result.builtValues.at("Coil_L") == Approx(-bare.imag() / (2.0 * kPi * 3.6e6) * 1e6).margin(0.03));
    CHECK(allMet(result.rounded));
}

TEST_CASE("amplitude and phase of a drive set move to the best of a scan, on one field solution") {
    auto d = twoVerticals("lambda/4");
    DriveSet set;
    set.name = "Forward";
    set.driven = {{"Rear", "1", "0 deg"}, {"Front", "1", "-60 deg"}};
    d.driveSets = {set};
    d.driveSet = 0;
    for (const auto& movable : movablesOf(d))
        if (movable.owner == "Forward" && movable.field.find("Front") == 0) letMove(d, movable);
    REQUIRE(d.tune.movers.size() == 2);
    d.tune.movers[0].low = "0.4";
    d.tune.movers[0].high = "2.5";
    d.tune.movers[1].low = "-180 deg";
    d.tune.movers[1].high = "0 deg";
    d.tune.goals = {goal(GoalKind::FrontToRear, "60", "14.1 MHz")};
    const auto result = study::tune(d, {});
    CHECK(result.best.solutions == 1);
    double best = -1e9;
    for (double amplitude = 0.4; amplitude <= 2.5; amplitude += 0.1)
        for (double phase = -180.0; phase <= 0.0; phase += 3.0) {
            const auto trial = study::withValues(
                d, {{d.tune.movers[0].dimension, amplitude}, {d.tune.movers[1].dimension, phase}});
            best = std::max(best, study::analyse(expand(trial), 14.1e6).figures.frontToRearDb);
        }
    INFO(listed(result.rounded) << "scan " << best);
    CHECK(best > 3.0);
    CHECK(result.before.goals[0].worst < best - 0.5);
    CHECK(result.rounded[0].worst > best - 0.2);
    // A phase below zero is still a number that can move on.
    CHECK(movablesOf(result.proposal).size() == movablesOf(d).size());
    CHECK(quantity::isPlainNumber(result.proposal.dimensions[1].text));
}

TEST_CASE("a cable and a stub match any antenna at one frequency, on one field solution") {
    Design d;
    d.designFrequency = "14.1 MHz";
    Part part;
    part.name = "Dipole";
    part.shape = StraightWire{{"0 m", "-4 m", "0 m"}, {"0 m", "4 m", "0 m"}};
    d.parts = {part};
    Feed feed;
    feed.part = "Dipole";
    d.feeds = {feed};
    for (const auto kind : {BlockKind::Cable, BlockKind::Stub}) {
        FeedBlock block;
        block.name = kind == BlockKind::Cable ? "Cable" : "Stub";
        block.kind = kind;
        block.line = kCustomLine;
        block.lineOhm = "50";
        block.velocityFactor = "1";
        block.lossRoot = block.lossLinear = "0";
        block.length = "5 m";
        d.feedPath.push_back(block);
    }
    for (const auto& movable : movablesOf(d))
        if (movable.owner == "Cable" || movable.owner == "Stub") letMove(d, movable);
    REQUIRE(d.tune.movers.size() == 2);
    // Half a wavelength of each holds every transformation that a line can make.
    for (auto& m : d.tune.movers) {
        m.low = "0.05 m";
        m.high = "10.7 m";
    }
    d.tune.goals = {goal(GoalKind::Swr, "1.1", "14.1 MHz")};
    CHECK(study::readGoals(d, {})[0].worst > 5.0);
    const auto result = study::tune(d, {});
    INFO(listed(result.rounded));
    CHECK(allMet(result.rounded));
    CHECK(result.best.solutions == 1);
}
