// Goals: what they read, how they are said, what could move, and plans that cannot be read.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/model/expand.h"
#include "core/model/movable.h"
#include "core/study/lobes.h"
#include "core/study/sweep.h"
#include "core/study/tuning/goal_words.h"
#include "core/study/tuning/tune.h"
#include "plans.h"

using namespace rm;
using namespace rm::test;
using namespace rm::model;

using study::allMet;

TEST_CASE("every kind of goal reads what the studies show") {
    auto d = poorYagi(1);
    d.site.ground = GroundKind::Real;
    d.site.height = "8 m";
    const std::string at = "50.2 MHz";
    const auto a = study::analyse(expand(d), 50.2e6);
    const auto& f = a.figures;
    auto angle = goal(GoalKind::GainAt, "5", at);
    angle.angle = "15 deg";
    auto between = goal(GoalKind::Resistance, "1", at);
    between.upper = "2";
    d.tune.goals = {goal(GoalKind::Swr, "1.5", at),
                    goal(GoalKind::Gain, "5", at),
                    angle,
                    goal(GoalKind::FrontToRear, "20", at),
                    goal(GoalKind::Flat, "0.5", at),
                    goal(GoalKind::SideLobe, "-15", at),
                    between,
                    goal(GoalKind::Efficiency, "99.99", at),
                    goal(GoalKind::Takeoff, "20", at),
                    goal(GoalKind::Resonance, "", at),
                    goal(GoalKind::Gain, "", at)};
    const auto states = study::readGoals(d, {});
    REQUIRE(states.size() == 11);
    CHECK(states[0].worst == Approx(f.swr));
    CHECK(states[0].miss == Approx(f.swr - 1.5));
    CHECK(states[1].worst == Approx(f.peak.gainDbi).margin(0.01));
    CHECK(states[2].worst == Approx(a.elevation.at(15.0)).margin(0.05));
    CHECK(states[3].worst == Approx(f.frontToRearDb).margin(0.05));
    CHECK(states[4].worst == Approx(0.0).margin(1e-9));
    CHECK(states[4].met());
    const auto elevation = study::readCut(a.elevation);
    REQUIRE(elevation.sideLobe);
    CHECK(states[5].worst <= f.peak.gainDbi - elevation.sideLobe->gainDbi + 0.2);
    CHECK(states[5].worst > 0.0);
    CHECK(states[6].worst == Approx(f.antennaOhm.real()));
    CHECK(states[6].miss == Approx(f.antennaOhm.real() - 2.0));
    CHECK(states[7].worst == Approx(100.0 * f.efficiency));
    CHECK(states[7].miss == Approx(99.99 - 100.0 * f.efficiency));
    CHECK(states[8].worst == Approx(f.peak.direction.elevationDeg).margin(0.3));
    CHECK(states[9].worst == Approx(f.antennaOhm.imag()));
    CHECK(states[9].miss == Approx(std::abs(f.antennaOhm.imag()) - 0.5));
    CHECK(states[10].most);
    CHECK(states[10].met());
    // Where a goal is worst over a range is said with it: the SWR of a poor Yagi rises with frequency.
    d.tune.goals = {goal(GoalKind::Swr, "1.5", "50 MHz", "51 MHz")};
    const auto range = study::readGoals(d, {}, 11);
    double worst = 0.0;
    double worstHz = 0.0;
    for (int i = 0; i <= 10; ++i) {
        const double hz = 50e6 + 1e5 * i;
        const double swr = study::analyse(expand(d), hz).figures.swr;
        if (swr <= worst) continue;
        worst = swr;
        worstHz = hz;
    }
    CHECK(range[0].worst == Approx(worst).epsilon(1e-3));
    CHECK(range[0].atHz == Approx(worstHz));
}

TEST_CASE("goals, limits and their state in words") {
    Goal g = goal(GoalKind::Swr, "1.5");
    CHECK(study::wishOf(g) + " " + study::whereOf(g) == "SWR at the radio at most 1.5 on every band");
    g.bands = {"20 m", "15 m", "10 m"};
    CHECK(study::whereOf(g) == "on 20 m, 15 m and 10 m");
    g.counted = true;
    CHECK(study::whereOf(g) == "on as many as possible of 20 m, 15 m and 10 m");
    g = goal(GoalKind::GainAt, "", "14 MHz", "14.35 MHz");
    CHECK(study::wishOf(g) == "gain at 10 deg as high as possible");
    CHECK(study::whereOf(g) == "from 14 MHz to 14.35 MHz");
    g = goal(GoalKind::Resistance, "20", "14.1 MHz");
    g.upper = "60";
    CHECK(study::wishOf(g) == "R at the antenna between 20 and 60 ohm");
    CHECK(study::whereOf(g) == "at 14.1 MHz");
    CHECK(study::wishOf(goal(GoalKind::Takeoff, "20")) == "takeoff angle at most 20°");
    CHECK(study::sentenceOf(limit(LimitKind::KeepApart, "0.3 m")) ==
          "wires that do not touch at least 0.3 m apart");
    CHECK(study::sentenceOf(limit(LimitKind::LowestPoint, "2 m")) == "lowest point at least 2 m");
    CHECK(study::rangeWords(14.0e6, 14.35e6) == "from 14 to 14.35 MHz");
    // A goal that counts bands is met where one band is; every other one only as a whole.
    study::GoalState met;
    study::GoalState missed;
    missed.miss = 1.0;
    CHECK_FALSE(allMet({met, missed}));
    met.counted = missed.counted = true;
    CHECK(allMet({met, missed}));
    CHECK_FALSE(allMet({missed, missed}));
}

TEST_CASE("every number worth moving becomes a dimension with a name of its own") {
    auto d = poorYagi(1);
    auto& row = std::get<ElementRow>(d.parts[0].shape);
    row.elements[0].length = "2.9 m";
    row.elements[2].position = "2.1 m";
    Load load;
    load.name = "Coil 1";
    load.part = "Yagi";
    load.place.element = "reflector";
    load.inductance = "0.4";
    d.loads = {load};
    std::vector<std::string> found;
    for (const auto& m : movablesOf(d)) found.push_back(m.owner + ": " + m.field);
    CHECK(found == std::vector<std::string>{"Yagi: reflector, length", "Yagi: director1, position",
                                            "Coil 1: L", "Site: height"});
    const auto before = expand(d);
    const auto name = letMove(d, movablesOf(d)[2]);
    CHECK(name == "Coil_1_L");
    CHECK(d.loads[0].inductance == name);
    CHECK(d.dimensions.back().kind == DimensionKind::Number);
    const auto after = expand(d);
    REQUIRE(after.usable());
    CHECK(after.model.loads[0].circuit.inductanceH == before.model.loads[0].circuit.inductanceH);
    // It is one no longer, and the next of that name gets a number.
    CHECK(movablesOf(d).size() == 3);
    CHECK(dimensionName(d, "Coil 1", "L") == "Coil_1_L2");
    CHECK(dimensionName(d, "2nd", "max") == "e2nd_max");
}

TEST_CASE("plans that cannot be read say which goal or dimension is wrong") {
    auto d = poorYagi(1);
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("no goal"));
    d.tune.goals = {goal(GoalKind::Swr, "1.5")};
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("SWR at the radio has no band"));
    d.tune.goals = {goal(GoalKind::Swr, "", "50 MHz")};
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("no limit"));
    d.tune.goals = {goal(GoalKind::Swr, "1.5", "50 MHz", "49 MHz")};
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("lower and a higher frequency"));
    d.tune.goals = {goal(GoalKind::Swr, "1.5", "50 MHz", "50.5 MHz")};
    d.tune.movers.push_back(mover("nothing"));
    CHECK_THROWS_WITH(study::tune(d, {}),
                      Catch::Contains("\"nothing\" may move, but there is no such dimension"));
    d.dimensions.push_back(dim("twice", "2*driven_long", "", ""));
    d.tune.movers = {mover("twice")};
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("twice follows by its formula"));
    d.tune.movers = {mover("driven_long")};
    d.tune.movers[0].choices = "2.8 m";
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("choices for driven_long are fewer than two"));
    d.tune.movers[0].choices.clear();
    d.tune.limits = {limit(LimitKind::KeepApart, "wide")};
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("limit for wires kept apart"));
    d.tune.limits.clear();
    d.tune.goals[0] = goal(GoalKind::Swr, "1.5");
    d.tune.goals[0].bands = {"6 m"};
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("no such band"));
    d.tune.goals[0] = goal(GoalKind::Swr, "1.5", "50 MHz", "50.5 MHz");
    d.tune.movers[0].low = "3 m";
    d.tune.movers[0].high = "2 m";
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("no room to move"));
    d.tune.movers.clear();
    CHECK_THROWS_WITH(study::tune(d, {}), Catch::Contains("Nothing may move"));
}
