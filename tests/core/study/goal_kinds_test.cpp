// Goals that look in one direction, over several angles, at an impedance, a bandwidth, or in several ways of
// driving at once.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/model/expand.h"
#include "core/model/rename.h"
#include "core/quantity/complex_number.h"
#include "core/study/sweep.h"
#include "core/study/tuning/goal_words.h"
#include "core/study/tuning/tune.h"
#include "plans.h"
#include "tune_gradients.h"

using namespace rm;
using namespace rm::test;
using namespace rm::model;

namespace {

/// Two verticals a quarter wave apart from back to front, with two drive sets: on perfect ground, or raised
/// over a real one.
Design phasedPair(bool raised = false) {
    Design d;
    d.designFrequency = "7.1 MHz";
    d.site.ground = raised ? GroundKind::Real : GroundKind::Perfect;
    const std::string foot = raised ? "2 m" : "0 m";
    d.dimensions = {dim("tall", "10.2 m", "9 m", "11 m"), dim("apart", "10.5 m", "6 m", "14 m")};
    d.tune.movers = {mover("tall"), mover("apart")};
    for (const auto& [name, x] : {std::pair<std::string, std::string>{"Back", "0 m"}, {"Front", "apart"}}) {
        Part part;
        part.name = name;
        part.conductor = {"copper", "2 mm", "", "3"};
        part.shape = StraightWire{{x, "0 m", foot}, {x, "0 m", foot + " + tall"}, "0"};
        d.parts.push_back(part);
        Feed feed;
        feed.name = "Feed " + name;
        feed.part = name;
        feed.place = {raised ? PlaceKind::Middle : PlaceKind::Start, ""};
        d.feeds.push_back(feed);
    }
    for (const auto& [name, phase] :
         {std::pair<std::string, std::string>{"Forwards", "-90 deg"}, {"Backwards", "90 deg"}}) {
        DriveSet set;
        set.name = name;
        set.driven = {{"Feed Back"}, {"Feed Front", "1", phase}};
        d.driveSets.push_back(set);
    }
    d.driveSet = 0;
    return d;
}

Goal towards(Goal g, const std::string& bearing) {
    g.towards = bearing;
    return g;
}

Goal between(GoalKind kind, const std::string& limit, const std::string& low, const std::string& high,
             const std::string& at) {
    Goal g = goal(kind, limit, at);
    g.angle = low;
    g.angleTo = high;
    return g;
}

}  // namespace

TEST_CASE("front-to-rear and front-to-back look towards the front of the design, not at the strongest lobe") {
    auto d = phasedPair();
    d.tune.goals = {goal(GoalKind::FrontToRear, "3", "7.1 MHz"), goal(GoalKind::FrontToBack, "3", "7.1 MHz"),
                    towards(goal(GoalKind::FrontToBack, "3", "7.1 MHz"), "best")};
    const auto forwards = study::readGoals(d, {});
    CHECK(forwards[0].met());
    CHECK(forwards[1].worst > 3.0);
    CHECK(forwards[2].worst == Approx(forwards[1].worst).margin(0.05));
    // Fired backwards it is as bad as it was good.
    d.driveSet = 1;
    const auto backwards = study::readGoals(d, {});
    CHECK_FALSE(backwards[0].met());
    CHECK(backwards[1].worst == Approx(-forwards[1].worst).margin(0.5));
    CHECK(backwards[2].worst > 3.0);
    // A compass bearing, on a site where the front looks north-east.
    d.site.heading = "45 deg";
    d.tune.goals = {towards(goal(GoalKind::FrontToBack, "10", "7.1 MHz"), "225 deg"),
                    towards(goal(GoalKind::FrontToBack, "10", "7.1 MHz"), "back")};
    const auto bearing = study::readGoals(d, {});
    CHECK(bearing[0].worst == Approx(backwards[2].worst).margin(0.05));
    CHECK(bearing[1].worst == Approx(bearing[0].worst).margin(1e-6));
    CHECK(bearing[0].sentence == "front-to-back towards 225 deg at least 10 dB at 7.1 MHz");
    // The front of a row of elements is where its boom points to.
    auto yagi = poorYagi(1);
    yagi.tune.goals = {goal(GoalKind::FrontToRear, "10", "50.25 MHz")};
    const double ahead = study::readGoals(yagi, {})[0].worst;
    std::get<ElementRow>(yagi.parts[0].shape).turn = "90 deg";
    CHECK(study::readGoals(yagi, {})[0].worst == Approx(ahead).margin(0.01));
    CHECK(ahead > 3.0);
}

TEST_CASE("the rear is read where it is strongest") {
    auto d = poorYagi(2);
    d.site.ground = GroundKind::Real;
    d.site.height = "7 m";
    d.tune.goals = {goal(GoalKind::FrontToRear, "10", "50.25 MHz")};
    const double read = study::readGoals(d, {})[0].worst;
    const auto a = study::analyse(expand(d), 50.25e6);
    double rear = -999.0;
    std::vector<em::Direction> ring;
    for (int i = 0; i <= 18000; ++i) ring.push_back({a.figures.peak.direction.elevationDeg, 90.0 + 0.01 * i});
    for (const auto& field : em::farField(*a.mesh, a.reading.localCurrent, 50.25e6, ring))
        rear = std::max(rear, em::gainDbi(field, a.reading.inputPowerW));
    CHECK(read == Approx(a.figures.peak.gainDbi - rear).margin(0.003));
}

TEST_CASE("gain at an angle, over angles, and a null read what the cuts show") {
    auto d = phasedPair(true);
    const std::string at = "7.1 MHz";
    auto gain = goal(GoalKind::GainAt, "0", at);
    gain.angle = "15 deg";
    auto null = towards(goal(GoalKind::Null, "-15", at), "back");
    null.angle = "25 deg";
    auto loudest = null;
    loudest.towards.clear();
    d.tune.goals = {gain,
                    towards(gain, "back"),
                    towards(between(GoalKind::MeanGain, "", "5 deg", "20 deg", at), "front"),
                    towards(between(GoalKind::LeastGain, "0", "5 deg", "20 deg", at), "front"),
                    null,
                    loudest};
    const auto states = study::readGoals(d, {});
    const auto a = study::analyse(expand(d), 7.1e6);
    const auto cut = study::elevationCut(*a.mesh, a.reading, 0.0, 0.25);
    CHECK(states[0].worst == Approx(cut.at(15.0)).margin(0.01));
    CHECK(states[1].worst == Approx(cut.at(165.0)).margin(0.01));
    double sum = 0.0;
    double least = 99.0;
    for (int i = 0; i <= 60; ++i) {
        sum += std::pow(10.0, 0.1 * cut.at(5.0 + 0.25 * i)) * (i == 0 || i == 60 ? 0.5 : 1.0) / 60.0;
        least = std::min(least, cut.at(5.0 + 0.25 * i));
    }
    CHECK(states[2].worst == Approx(10.0 * std::log10(sum)).margin(0.03));
    CHECK(states[2].most);
    CHECK(states[3].worst == Approx(least).margin(0.01));
    CHECK(states[4].worst == Approx(a.figures.peak.gainDbi - cut.at(155.0)).margin(0.02));
    CHECK(states[4].miss == Approx(15.0 - states[4].worst));
    CHECK(states[5].worst == Approx(states[4].worst).margin(1e-6));
    CHECK(states[4].sentence ==
          "gain at 25 deg towards the back at least 15 dB below the strongest at 7.1 MHz");
    // At the best bearing: never less than towards any other.
    d.tune.goals = {gain};
    for (const char* bearing : {"0 deg", "40 deg", "100 deg", "200 deg", "333 deg"})
        d.tune.goals.push_back(towards(gain, bearing));
    const auto round = study::readGoals(d, {});
    for (std::size_t i = 1; i < round.size(); ++i) CHECK(round[0].worst >= round[i].worst - 1e-6);
}

TEST_CASE("side lobes read 17 and -17 alike, as dB below the main lobe") {
    auto d = poorYagi(2);
    d.tune.goals = {goal(GoalKind::SideLobe, "17", "50.25 MHz"),
                    goal(GoalKind::SideLobe, "-17", "50.25 MHz")};
    const auto states = study::readGoals(d, {});
    CHECK(states[0].worst > 0.0);
    CHECK(states[0].miss == Approx(17.0 - states[0].worst));
    CHECK(states[0].sentence == "side lobes at least 17 dB below the main lobe at 50.25 MHz");
    CHECK(states[1].sentence == states[0].sentence);
    CHECK(states[1].miss == Approx(states[0].miss));
}

TEST_CASE("an impedance can be asked for") {
    auto d = poorYagi(1);
    auto g = goal(GoalKind::Impedance, "5", "50.25 MHz");
    g.wanted = "25 - j10";
    d.tune.goals = {g};
    const auto ohm = study::analyse(expand(d), 50.25e6).figures.antennaOhm;
    const auto state = study::readGoals(d, {})[0];
    CHECK(state.worst == Approx(std::abs(ohm - Complex(25.0, -10.0))));
    CHECK(state.miss == Approx(state.worst - 5.0));
    CHECK(state.sentence == "impedance at the antenna 25 - j10 ohm, within 5 ohm at 50.25 MHz");
    study::TuneOptions options;
    const auto result = study::tune(d, {}, options);
    INFO(listed(result.rounded));
    CHECK(allMet(result.rounded));
    d.tune.goals[0].wanted = "fifty";
    CHECK_THROWS_WITH(study::readGoals(d, {}), Catch::Contains("fifty, which is no impedance"));
}

TEST_CASE("complex numbers are read however they are written, and nothing else") {
    const auto is = [](const char* text, double re, double im) {
        const auto z = quantity::readComplex(text);
        INFO(text);
        REQUIRE(z);
        CHECK(z->real() == re);
        CHECK(z->imag() == im);
    };
    is("36", 36.0, 0.0);
    is("25 - j10", 25.0, -10.0);
    is("25-10j", 25.0, -10.0);
    is("j4", 0.0, 4.0);
    is("-j", 0.0, -1.0);
    is("1e2+2.5e-1i", 100.0, 0.25);
    is("j3 + 7", 7.0, 3.0);
    for (const char* text : {"", "+", "j j", "1 + 2", "1e999", "25 - k10", "nan", "1+-2j", "50 ohm", "j1j"}) {
        INFO(text);
        CHECK_FALSE(quantity::readComplex(text));
    }
}

TEST_CASE("a bandwidth is as wide as a fine sweep says, and tuning widens it") {
    Design d;
    d.designFrequency = "14.2 MHz";
    d.dimensions = {dim("long", "9.9 m", "9.5 m", "11 m"), dim("thick", "2", "0.5", "40")};
    d.tune.movers = {mover("long")};
    Part part;
    part.name = "Dipole";
    part.conductor = {"copper", "2 mm", "", "3"};
    part.shape = StraightWire{{"0 m", "-0.5*long", "12 m"}, {"0 m", "0.5*long", "12 m"}, "0"};
    d.parts = {part};
    Feed feed;
    feed.part = "Dipole";
    d.feeds = {feed};
    d.reference = "72";
    d.tune.goals = {goal(GoalKind::Bandwidth, "2", "13 MHz", "15.4 MHz")};
    std::get<StraightWire>(d.parts[0].shape).end[1] = "0.5*long";
    d.dimensions[0].text = "10.15 m";
    const auto state = study::readGoals(d, {})[0];
    CHECK(state.most);
    CHECK(state.unit == "kHz");
    CHECK(state.sentence == "band with an SWR of 2 as wide as possible from 13 to 15.4 MHz");
    const auto e = expand(d);
    double low = 14.2e6;
    double high = 14.2e6;
    while (study::analyse(e, low).figures.swr < 2.0) low -= 5e3;
    while (study::analyse(e, high).figures.swr < 2.0) high += 5e3;
    CHECK(state.worst == Approx(1e-3 * (high - low)).margin(12.0));
    // Off its frequency there is none; tuned it is wide again.
    d.dimensions[0].text = "9.6 m";
    CHECK(study::readGoals(d, {})[0].worst == 0.0);
    const auto result = study::tune(d, {}, {});
    INFO(listed(result.rounded));
    CHECK(result.rounded[0].worst > state.worst - 5.0);
    d.tune.goals = {goal(GoalKind::Bandwidth, "1", "13 MHz", "15.4 MHz")};
    CHECK_THROWS_WITH(study::readGoals(d, {}), Catch::Contains("has to be above 1"));
    d.tune.goals = {goal(GoalKind::Bandwidth, "2", "14 MHz")};
    CHECK_THROWS_WITH(study::readGoals(d, {}), Catch::Contains("lower and a higher frequency"));
}

TEST_CASE("a goal holds in every way of driving that it names") {
    auto d = phasedPair();
    auto g = goal(GoalKind::FrontToBack, "10", "7.1 MHz");
    g.driveSets = {"Forwards", "Backwards"};
    d.tune.goals = {g};
    const auto states = study::readGoals(d, {});
    REQUIRE(states.size() == 2);
    CHECK(states[0].worst == Approx(-states[1].worst).margin(0.5));
    CHECK(states[1].where == "at 7.1 MHz, driven Backwards");
    // Whichever is in use, they are the same.
    d.driveSet = 1;
    const auto other = study::readGoals(d, {});
    CHECK(other[0].worst == Approx(states[0].worst).margin(1e-9));
    CHECK(other[1].worst == Approx(states[1].worst).margin(1e-9));
    // Both at once: straight behind either way there is to be little.
    auto back = towards(g, "back");
    g.driveSets = {"Forwards"};
    back.driveSets = {"Backwards"};
    d.tune.goals = {g, back};
    d.dimensions[1].text = "7 m";
    const auto before = study::readGoals(d, {});
    d.tune.goals[0].limit = d.tune.goals[1].limit = "15";
    const auto result = study::tune(d, {}, {});
    INFO(listed(result.rounded));
    CHECK(result.rounded[0].worst > before[0].worst);
    CHECK(result.rounded[0].worst == Approx(result.rounded[1].worst).margin(0.5));
    // Names follow; one that is gone is said.
    model::renameDriveSet(d, 0, "Ahead");
    CHECK(d.tune.goals[0].driveSets == std::vector<std::string>{"Ahead"});
    d.driveSets.pop_back();
    CHECK_THROWS_WITH(study::readGoals(d, {}), Catch::Contains("drive set Backwards"));
}

TEST_CASE("gradients of goals in one direction agree with differences") {
    auto d = phasedPair(true);
    const std::string at = "7.1 MHz";
    auto impedance = goal(GoalKind::Impedance, "5", at);
    impedance.wanted = "40 - j12";
    auto both = goal(GoalKind::FrontToBack, "15", at);
    both.driveSets = {"Forwards", "Backwards"};
    d.tune.goals = {both,
                    goal(GoalKind::FrontToRear, "15", at),
                    towards(between(GoalKind::MeanGain, "", "5 deg", "20 deg", at), "front"),
                    towards(goal(GoalKind::Null, "15", at), "130 deg"),
                    impedance,
                    goal(GoalKind::Bandwidth, "3", "6.6 MHz", "7.6 MHz")};
    checkTuneGradient(d, {0.52, 0.41}, 7, 1e-3);
}
