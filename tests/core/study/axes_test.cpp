// What may move in tuning, as numbers between 0 and 1, and the limits of what may be built.
#include <rapidcheck.h>
#include <rapidcheck/catch.h>
#include <catch2/catch.hpp>
#include <cmath>

#include "core/study/tuning/goal_words.h"
#include "core/study/tuning/tune.h"
#include "core/study/tuning/tune_axes.h"
#include "demo.h"
#include "plans.h"

using namespace rm;
using Catch::Contains;

namespace {

study::Axis anyAxis() {
    study::Axis axis;
    axis.low = 0.25 * *rc::gen::inRange(-40, 40);
    axis.high = axis.low + 0.25 * *rc::gen::inRange(1, 80);
    axis.step = *rc::gen::element(1e-3, 0.01, 0.05, 0.125);
    return axis;
}

}  // namespace

TEST_CASE("an axis goes from its low end to its high end and back, and builds within them") {
    rc::prop("between 0 and 1", [] {
        const auto axis = anyAxis();
        const double share = *rc::gen::inRange(0, 1001) / 1000.0;
        const double value = axis.at(share);
        RC_ASSERT(value >= axis.low - 1e-12);
        RC_ASSERT(value <= axis.high + 1e-12);
        RC_ASSERT(std::abs(axis.scaled(value) - share) < 1e-9);
        const double built = axis.built(value);
        RC_ASSERT(built >= axis.low - 1e-9);
        RC_ASSERT(built <= axis.high + 1e-9);
        RC_ASSERT(std::abs(built - value) <= axis.step);
        // What is built is built as it is.
        RC_ASSERT(std::abs(axis.built(built) - built) < 1e-9);
        // Far outside it is the end.
        RC_ASSERT(axis.built(axis.high + 100.0) <= axis.high + 1e-9);
        RC_ASSERT(axis.built(axis.low - 100.0) >= axis.low - 1e-9);
    });
}

TEST_CASE("an axis of choices has no other values") {
    study::Axis axis;
    axis.low = 4.0;
    axis.high = 10.0;
    axis.choices = {4.0, 5.0, 8.0, 10.0};
    CHECK(axis.discrete());
    rc::prop("nearest", [&] {
        const double value = 0.1 * *rc::gen::inRange(0, 150);
        const double built = axis.built(value);
        bool known = false;
        for (const double choice : axis.choices) {
            known = known || choice == built;
            RC_ASSERT(std::abs(built - value) <= std::abs(choice - value) + 1e-12);
        }
        RC_ASSERT(known);
        RC_ASSERT(axis.at(axis.scaled(built)) == built);
    });
    CHECK(axis.at(0.0) == 4.0);
    CHECK(axis.at(1.0) == 10.0);
}

TEST_CASE("axes of a design are those that may move, from where it stands, and nothing else") {
    auto design = test::poorYagi(3);
    const auto axes = study::axesOf(design);
    REQUIRE_FALSE(axes.empty());
    for (const auto& axis : axes) {
        INFO(axis.name);
        CHECK(axis.low < axis.high);
        CHECK(axis.now >= axis.low);
        CHECK(axis.now <= axis.high);
        CHECK(axis.step > 0.0);
    }
    const auto values = std::map<std::string, double>{{axes[0].name, axes[0].high}};
    const auto moved = study::withValues(design, values);
    CHECK(study::axesOf(moved)[0].now == Approx(axes[0].high));
    if (axes.size() > 1) CHECK(study::axesOf(moved)[1].now == Approx(axes[1].now));
    CHECK(study::axesOf(design, values)[0].now == Approx(axes[0].high));
    // Tidy is to the precision of a tape, in the unit that stands there.
    const auto tidy = study::withValues(design, {{axes[0].name, axes[0].low + 0.0012345}}, true);
    for (const auto& d : tidy.dimensions)
        if (d.name == axes[0].name) CHECK(d.text.size() < 12);
    for (auto& mover : design.tune.movers) mover.enabled = false;
    CHECK_THROWS_AS(study::axesOf(design), Error);
    design.tune.movers.resize(1);
    design.tune.movers[0].enabled = true;
    design.tune.movers[0].dimension = "no_such_thing";
    CHECK_THROWS_WITH(study::axesOf(design), Contains("no_such_thing"));
}

TEST_CASE("limits of building are met or missed by metres of the thing they name") {
    auto design = test::poorYagi(1);
    const auto expansion = model::expand(design);
    for (const auto kind : {model::LimitKind::BoomLength, model::LimitKind::LongestElement}) {
        const double built = study::builtM(expansion, kind);
        INFO(study::nameOf(kind));
        CHECK(built > 0.1);
        design.tune.limits = {test::limit(kind, "1 m")};
        const auto limits = study::limitsOf(design);
        REQUIRE(limits.size() == 1);
        CHECK(limits[0].overM(expansion) == Approx(built - 1.0));
        CHECK_THAT(study::sentenceOf(design.tune.limits[0]), Contains(study::nameOf(kind)));
    }
    design.tune.limits[0].value = "as long as it likes";
    CHECK_THROWS_AS(study::limitsOf(design), Error);
}

TEST_CASE("every kind of goal begins with numbers that suit it, and can be read of an antenna") {
    const auto demo = test::demoDesign("Yagi, 70 MHz");
    const std::vector<model::Band> bands = {{"4 m", 70e6, 70.5e6, {}}};
    std::vector<std::string> names;
    for (const auto& traits : study::goalTraits()) {
        INFO(traits.name);
        CHECK(&study::traitsOf(traits.kind) == &traits);
        CHECK(std::find(names.begin(), names.end(), traits.name) == names.end());
        names.emplace_back(traits.name);
        const auto goal = study::usualGoal(traits.kind);
        CHECK(goal.kind == traits.kind);
        CHECK(goal.limit == traits.usual);
        CHECK_FALSE(study::wishOf(goal).empty());
        auto changed = study::usualGoal(model::GoalKind::Swr);
        study::changeKind(changed, traits.kind);
        CHECK(study::wishOf(changed) == study::wishOf(goal));
        CHECK((traits.worth > 0.0));
        auto design = demo;
        design.tune.goals = {goal};
        const auto readings = study::readGoals(design, bands, 5);
        REQUIRE_FALSE(readings.empty());
        CHECK_FALSE(std::isnan(readings.front().miss));
    }
    CHECK(names.size() >= 10);
    auto most = study::usualGoal(model::GoalKind::Gain);
    most.limit.clear();
    CHECK(study::asksForMost(most));
    CHECK_FALSE(study::asksForMost(study::usualGoal(model::GoalKind::Swr)));
}
