// Sensitivity, builds with errors, and scans: against laws of simple antennas.
#include "core/study/tolerance.h"
#include "core/model/expand.h"
#include "core/model/on_ground.h"
#include "core/starters/starter.h"
#include "core/study/resonance.h"
#include "core/study/scan.h"
#include "core/study/tuning/sensitivities.h"
#include "core/study/varied.h"
#include "demo.h"

#include <catch2/catch.hpp>
#include <cmath>

using namespace rm;
using namespace rm::model;

namespace {

/// A dipole near resonance with its length and two things that should not matter.
Design resonantDipole() {
    Design d;
    d.designFrequency = "14.1 MHz";
    Dimension length;
    length.name = "span";
    length.text = "10.2 m";
    Dimension turn;
    turn.name = "idle";
    turn.text = "3 m";
    Dimension formula;
    formula.name = "half";
    formula.text = "span/2";
    d.dimensions = {turn, length, formula};
    Part part;
    part.name = "Dipole";
    part.conductor.material = "perfect";
    part.shape = StraightWire{{"0", "-half", "0"}, {"0", "half", "0"}};
    d.parts = {part};
    Feed feed;
    feed.part = "Dipole";
    d.feeds = {feed};
    return d;
}

}  // namespace

TEST_CASE("sensitivity: a millimetre of a dipole moves its resonance by its share of the length") {
    const auto rows = study::studySensitivity(resonantDipole(), 14.1e6);
    REQUIRE(rows.size() == 2);  // what follows by a formula is no dimension of its own
    CHECK(rows[0].dimension == "span");
    CHECK(rows[0].step == Approx(1e-3));
    // The resonant frequency goes as one over the length.
    const auto e = expand(resonantDipole());
    const auto resonance = study::sweep(e, 12e6, 16e6, 201).resonancesHz();
    REQUIRE(resonance.size() == 1);
    CHECK(rows[0].resonanceHz == Approx(-resonance[0] * 1e-3 / 10.2).epsilon(0.03));
    CHECK(rows[1].swr == 0.0);
    CHECK(rows[1].gainDb == 0.0);
    // The derivative of the SWR is that of a wide difference.
    const double a =
        study::analyse(expand(study::withDimension(resonantDipole(), "span", 10.19)), 14.1e6).figures.swr;
    const double b =
        study::analyse(expand(study::withDimension(resonantDipole(), "span", 10.21)), 14.1e6).figures.swr;
    CHECK(rows[0].swr == Approx((b - a) / 20.0).epsilon(0.02));
}

TEST_CASE(
    "sensitivity: the resonance moves as one finds it before and after, where the reactance bends, too") {
    // Loop-fed, so that its reactance is anything but a straight line; the sloper goes over a degree on an
    // arc.
    for (const auto& [name, hz] : {std::pair{"Yagi, 70 MHz", 70.2e6}, std::pair{"End-fed, sloper", 10.125e6},
                                   std::pair{"Inverted V, 60 m", 5.36e6}}) {
        const auto d = test::demoDesign(name);
        const auto scope = model::scopeOf(d);
        int compared = 0;
        for (const auto& row : study::studySensitivity(d, hz)) {
            INFO(name << ", " << row.dimension);
            if (row.resonanceHz == 0.0) continue;
            const double value = scope.values.at(row.dimension);
            const auto resonance = [&](double at) {
                const auto e = expand(study::withDimension(d, row.dimension, at));
                return study::findResonance(e, hz)->frequencyHz;
            };
            const double moved = 0.5 * (resonance(value + row.step) - resonance(value - row.step));
            CHECK(row.resonanceHz == Approx(moved).epsilon(0.02).margin(1.0));
            ++compared;
        }
        CHECK(compared >= 3);
    }
}

TEST_CASE("steps of sensitivity: a centimetre is ten millimetres, a percent is a percent") {
    const auto mm = study::studySensitivity(resonantDipole(), 14.1e6);
    const auto cm = study::studySensitivity(resonantDipole(), 14.1e6, study::SensitivityStep::Centimetre);
    const auto percent = study::studySensitivity(resonantDipole(), 14.1e6, study::SensitivityStep::Percent);
    CHECK(cm[0].step == Approx(0.01));
    CHECK(cm[0].kind == DimensionKind::Length);
    CHECK(cm[0].resonanceHz == Approx(10.0 * mm[0].resonanceHz).epsilon(0.02));
    CHECK(percent[0].step == Approx(0.102));
    CHECK(percent[0].resonanceHz == Approx(-0.01 * 14.1e6).epsilon(0.05));
}

TEST_CASE("errors are read with their units and percent signs, or the one that cannot be is named") {
    const auto errors = study::readErrors({"1/8 in", "1 deg", "5 %", "30 cm", "0.2"});
    CHECK(errors.lengthM == Approx(0.003175));
    CHECK(errors.angleDeg == 1.0);
    CHECK(errors.diameterShare == Approx(0.05));
    CHECK(errors.heightM == Approx(0.3));
    CHECK(errors.groundShare == Approx(0.2));
    CHECK_THROWS_WITH(study::readErrors({"1 mm", "much", "5 %", "0", "0"}),
                      Catch::Contains("error of the angles"));
    CHECK_THROWS_WITH(study::readErrors({"-1 mm", "0", "0", "0", "0"}),
                      Catch::Contains("lengths has to be zero"));
    CHECK_THROWS_WITH(study::readErrors({"1 mm", "0", "2", "0", "0"}), Catch::Contains("above half"));
}

TEST_CASE("builds with errors: none without errors, wider with larger ones, the same for a seed") {
    auto d = resonantDipole();
    study::BuildErrors none{0.0, 0.0, 0.0, 0.0, 0.0, {}};
    const auto exact = study::studyTolerance(d, {}, 13.9e6, 14.4e6, 5, none);
    REQUIRE(exact.builds == 5);
    CHECK(exact.meeting == -1);
    for (std::size_t i = 0; i < exact.hz.size(); ++i) CHECK(exact.highSwr[i] == Approx(exact.lowSwr[i]));
    study::BuildErrors some = none;
    some.lengthM = 0.02;
    study::BuildErrors much = none;
    much.lengthM = 0.1;
    const auto narrow = study::studyTolerance(d, {}, 13.9e6, 14.4e6, 60, some, 3);
    const auto wide = study::studyTolerance(d, {}, 13.9e6, 14.4e6, 60, much, 3);
    const auto spread = [](const study::Tolerance& t) { return t.highSwr[0] - t.lowSwr[0]; };
    CHECK(spread(narrow) > 0.02);
    CHECK(spread(wide) > 3.0 * spread(narrow));
    // The same errors; the last digits of a solution may depend on which thread made it.
    const auto again = study::studyTolerance(d, {}, 13.9e6, 14.4e6, 60, some, 3);
    const auto others = study::studyTolerance(d, {}, 13.9e6, 14.4e6, 60, some, 4);
    for (std::size_t i = 0; i < again.hz.size(); ++i)
        CHECK(again.highSwr[i] == Approx(narrow.highSwr[i]).epsilon(1e-8));
    CHECK(std::abs(others.highSwr[0] - narrow.highSwr[0]) > 1e-4);
    // Errors on a dimension that does not matter change nothing.
    much.only = {"idle"};
    const auto idle = study::studyTolerance(d, {}, 13.9e6, 14.4e6, 10, much, 3);
    CHECK(idle.highSwr[0] == Approx(idle.lowSwr[0]));
    // The share that meets a goal: all of a loose one, none of a tight one.
    Goal goal;
    goal.from = "14.1 MHz";
    goal.limit = "10";
    d.tune.goals = {goal};
    CHECK(study::studyTolerance(d, {}, 13.9e6, 14.4e6, 20, some, 3).meeting == 20);
    d.tune.goals[0].limit = "1.0001";
    Goal loose = goal;
    loose.kind = GoalKind::Efficiency;
    loose.limit = "50";
    d.tune.goals.push_back(loose);
    const auto judged = study::studyTolerance(d, {}, 13.9e6, 14.4e6, 20, some, 3);
    CHECK(judged.meeting == 0);
    // Which goal it is that the builds miss.
    REQUIRE(judged.each.size() == 2);
    CHECK(judged.each[0].first == "SWR at the radio at most 1.0001 at 14.1 MHz");
    CHECK(judged.each[0].second == 0);
    CHECK(judged.each[1].second == 20);
    CHECK(judged.mostOfNine <= *std::max_element(wide.highSwr.begin(), wide.highSwr.end()));
    CHECK(judged.mostOfNine >= *std::max_element(narrow.middleSwr.begin(), narrow.middleSwr.end()));
    CHECK(judged.drawnSwr[0] == Approx(exact.middleSwr[0]));
}

TEST_CASE("errors of height and ground move an antenna over ground, whether the soil has a name or not") {
    auto d = resonantDipole();
    d.site.ground = GroundKind::Real;
    d.site.height = "5 m";
    const study::BuildErrors none{0.0, 0.0, 0.0, 0.0, 0.0, {}};
    const auto spread = [&](const study::BuildErrors& errors) {
        const auto t = study::studyTolerance(d, {}, 14.0e6, 14.2e6, 12, errors, 5);
        return t.highSwr[10] - t.lowSwr[10];
    };
    CHECK(spread(none) < 1e-6);
    auto high = none;
    high.heightM = 0.5;
    CHECK(spread(high) > 0.01);
    auto wet = none;
    wet.groundShare = 0.5;
    const double named = spread(wet);
    CHECK(named > 1e-3);
    // The same soil with figures of its own: the same errors.
    d.site.soil = kCustomSoil;
    d.site.permittivity = "13";
    d.site.conductivity = "0.005";
    CHECK(spread(wet) == Approx(named).epsilon(1e-6));
    auto thick = none;
    thick.diameterShare = 0.3;
    CHECK(spread(thick) > 1e-4);
}

TEST_CASE("what stands on the ground does not err in its height: its radials stay where they were buried") {
    auto d = test::demoDesign("Ground plane, 30 m");
    const study::BuildErrors high{0.0, 0.0, 0.0, 0.2, 0.0, {}};
    const auto spread = [&](const study::Tolerance& t) { return t.highSwr[10] - t.lowSwr[10]; };
    const auto raised = study::studyTolerance(d, {}, 10.1e6, 10.15e6, 12, high, 5);
    CHECK_FALSE(raised.restsOnGround);
    CHECK(spread(raised) > 1e-3);
    starters::Order order;
    order.bands = {{"30 m", 10.1e6, 10.15e6, {}}};
    order.site.ground = GroundKind::Real;
    d = starters::sketch("vertical", order);
    const auto standing = study::studyTolerance(d, order.bands, 10.1e6, 10.15e6, 12, high, 5);
    CHECK(standing.restsOnGround);
    CHECK(standing.failed == 0);
    CHECK(spread(standing) < 1e-9);
    // A cable run down to the ground holds nothing up.
    auto beam = resonantDipole();
    beam.site.ground = GroundKind::Real;
    beam.site.height = "8 m";
    CHECK_FALSE(restsOnGround(expand(beam)));
    Part run;
    run.name = "Cable";
    CableRun down;
    down.end = RunEnd::Rod;
    run.shape = down;
    beam.parts.push_back(run);
    const auto laid = expand(beam);
    REQUIRE(laid.runs.size() == 1);
    CHECK(laid.model.bounds().low.z() < 0.1);
    CHECK_FALSE(restsOnGround(laid));
}

TEST_CASE("scans say what each antenna says alone, and name a dimension that is not there") {
    const auto d = resonantDipole();
    const auto scan = study::scanFigure(d, 14.1e6, study::ScanFigure::Reactance, {"span", 9.5, 11.0, 7});
    REQUIRE(scan.complete);
    REQUIRE(scan.value.size() == 7);
    for (int i = 0; i < 7; ++i) {
        const auto alone = study::analyse(expand(study::withDimension(d, "span", scan.x.at(i))), 14.1e6);
        CHECK(scan.value[static_cast<std::size_t>(i)] == Approx(alone.figures.antennaOhm.imag()));
        if (i > 0)
            CHECK(scan.value[static_cast<std::size_t>(i)] > scan.value[static_cast<std::size_t>(i - 1)]);
    }
    const auto map =
        study::scanFigure(d, 14.1e6, study::ScanFigure::Swr, {"span", 10.0, 10.4, 3}, {"idle", 1.0, 2.0, 2});
    REQUIRE(map.value.size() == 6);
    CHECK(map.value[0] == Approx(map.value[3]));
    CHECK_THROWS_WITH(study::scanFigure(d, 14.1e6, study::ScanFigure::Swr, {"nobody", 1.0, 2.0, 2}),
                      Catch::Contains("nobody"));
    // Every figure is that of the bench.
    auto over = d;
    over.site.ground = GroundKind::Real;
    over.site.height = "12 m";
    const auto alone = study::analyse(expand(study::withDimension(over, "span", 10.0)), 14.1e6);
    const auto& f = alone.figures;
    const std::pair<study::ScanQuantity, double> figures[] = {
        {study::ScanFigure::Gain, f.peak.gainDbi},
        {study::ScanFigure::FrontToRear, f.frontToRearDb},
        {study::ScanFigure::FrontToBack, f.frontToBackDb},
        {study::ScanFigure::Takeoff, f.peak.direction.elevationDeg},
        {study::ScanFigure::Resistance, f.antennaOhm.real()},
        {study::ScanFigure::Efficiency, 100.0 * f.efficiency},
        {study::ScanFigure::GroundShare, 100.0 * f.groundShare},
        {study::ScanFigure::Beamwidth, f.beamwidthDeg},
        {{study::ScanFigure::GainAt, 20.0}, alone.elevation.at(20.0)}};
    for (const auto& [quantity, expected] : figures)
        CHECK(study::scanFigure(over, 14.1e6, quantity, {"span", 10.0, 11.0, 2}).value[0] ==
              Approx(expected).margin(1e-6));
    // An antenna that cannot be has no value.
    const auto broken = study::scanFigure(d, 14.1e6, study::ScanFigure::Swr, {"span", 0.0, 10.0, 2});
    CHECK(std::isnan(broken.value[0]));
    CHECK(std::isfinite(broken.value[1]));
    std::stop_source stop;
    stop.request_stop();
    CHECK_FALSE(study::scanFigure(d, 14.1e6, study::ScanFigure::Swr, {"span", 9.0, 10.0, 5}, {"", 0, 0, 1},
                                  stop.get_token())
                    .complete);
}

TEST_CASE("builds that cannot be worked out are counted and do not end the run") {
    // A height so low that errors of it put the dipole under perfect ground now and then.
    model::Design d;
    model::Part wire;
    wire.name = "Wire";
    wire.shape = model::StraightWire{{"0 m", "-5 m", "0 m"}, {"0 m", "5 m", "0 m"}};
    d.parts.push_back(wire);
    model::Feed feed;
    feed.part = "Wire";
    d.feeds.push_back(feed);
    d.site.ground = model::GroundKind::Perfect;
    d.site.height = "0.15 m";
    study::BuildErrors errors;
    errors.heightM = 0.1;
    const auto t = study::studyTolerance(d, {}, 14.0e6, 14.35e6, 40, errors);
    CHECK(t.builds == 40);
    CHECK(t.failed > 0);
    CHECK(t.failed < 20);
    CHECK(t.hz.size() == 21);
}
