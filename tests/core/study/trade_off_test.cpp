// Trade-offs: one number that is asked of an antenna swept, everything else tuned.
#include <fmt/format.h>
#include <catch2/catch.hpp>
#include <cmath>
#include <thread>

#include "core/model/expand.h"
#include "core/study/tuning/trade_off.h"
#include "core/study/tuning/tune.h"
#include "core/study/tuning/tune_axes.h"
#include "plans.h"

using namespace rm;
using namespace rm::test;
using namespace rm::model;

namespace {

/// A three-element Yagi that is to have as much gain as its boom allows.
Design boomYagi() {
    auto d = poorYagi(1);
    auto gain = goal(GoalKind::Gain, "", "50.2 MHz");
    gain.stage = 2;
    d.tune.goals = {goal(GoalKind::Swr, "1.5", "50 MHz", "50.4 MHz"), gain};
    d.tune.limits = {limit(LimitKind::BoomLength, "2 m")};
    d.reference = "25";
    return d;
}

}  // namespace

TEST_CASE("what a Yagi can do against the length of its boom: more boom, never less gain") {
    const auto d = boomYagi();
    const auto choices = study::tradeChoices(d);
    REQUIRE(choices.size() == 2);
    CHECK(choices[0].words == "SWR at the radio at most");
    CHECK(choices[0].now == 1.5);
    CHECK(choices[1].words == "boom at most");
    CHECK(choices[1].unit == "m");
    CHECK(choices[1].now == 2.0);
    study::TradeOptions options;
    // It ends because nothing better is found, however slow the machine is.
    options.maxSeconds = 600.0;
    int told = 0;
    options.improved = [&](const study::TradeOff& so) {
        ++told;
        CHECK(so.points.size() == 5);
    };
    const study::TradeAxis axis{true, 0, 1.7, 2.5, 5};
    const auto trade = study::studyTrade(d, {}, axis, options);
    CHECK_FALSE(trade.stopped);
    CHECK(told >= 5);
    REQUIRE(trade.points.size() == 5);
    double before = -99.0;
    for (const auto& point : trade.points) {
        INFO("boom " << point.value << "\n" << listed(point.goals));
        REQUIRE(point.solved);
        CHECK(point.met());
        // The boom is kept, and what stands there is what the design does.
        CHECK(study::builtM(expand(point.design), LimitKind::BoomLength) <= point.value + 1.1e-3);
        const auto again = study::readGoals(point.design, {});
        CHECK(again[1].worst == Approx(point.goals[1].worst).margin(1e-9));
        CHECK(point.design.tune.limits[0].value == fmt::format("{:g} m", point.value));
        CHECK(point.goals[1].worst > before - 0.01);
        before = point.goals[1].worst;
    }
    CHECK(trade.points.back().goals[1].worst > trade.points.front().goals[1].worst + 0.3);
    // No point is worse than what tuning finds for it alone.
    const auto alone = study::tune(study::withAsked(d, axis, 2.1), {}, {});
    CHECK(trade.points[2].goals[1].worst > alone.rounded[1].worst - 0.03);
    // The same seed, the same curve.
    options.improved = {};
    const auto twice = study::studyTrade(d, {}, axis, options);
    for (std::size_t i = 0; i < 5; ++i) CHECK(twice.points[i].values == trade.points[i].values);
    // Nothing has changed in the design that was given.
    CHECK(d == boomYagi());
}

TEST_CASE("where the time is over no point is worse than what the antenna next to it can do", "[clock]") {
    auto d = boomYagi();
    d.tune.goals[0].limit = "2.5";
    study::TradeOptions options;
    options.maxSeconds = 1.0;
    const study::TradeAxis axis{true, 0, 1.7, 2.5, 5};
    const auto trade = study::studyTrade(d, {}, axis, options);
    CHECK(trade.stopped);
    double before = -99.0;
    int met = 0;
    for (const auto& point : trade.points) {
        INFO("boom " << point.value << "\n" << listed(point.goals));
        // The ends were tuned: what lies between has at least what the shorter boom gave.
        CHECK(point.solved);
        if (!point.met()) continue;
        ++met;
        CHECK(point.goals[1].worst >= before - 2e-3);
        before = point.goals[1].worst;
    }
    CHECK(met >= 1);
}

TEST_CASE("the limit of a goal is swept: what cannot be had is said, not hidden") {
    auto d = poorYagi(1);
    auto gain = goal(GoalKind::Gain, "", "50.2 MHz");
    gain.stage = 2;
    d.tune.goals = {goal(GoalKind::FrontToRear, "15", "50.1 MHz", "50.3 MHz"), gain};
    const auto trade = study::studyTrade(d, {}, {false, 0, 10.0, 60.0, 3}, {});
    INFO(listed(trade.points[0].goals));
    CHECK(trade.points[0].met());
    CHECK_FALSE(trade.points[2].met());
    CHECK(trade.points[0].goals[1].worst > trade.points[1].goals[1].worst - 0.01);
    CHECK(trade.points[2].design.tune.goals[0].limit == "60");
}

TEST_CASE("a trade-off that is stopped keeps what it has; one that cannot be says why") {
    const auto d = boomYagi();
    study::TradeOptions options;
    std::stop_source stop;
    options.stop = stop.get_token();
    options.improved = [&](const study::TradeOff&) { stop.request_stop(); };
    const auto trade = study::studyTrade(d, {}, {true, 0, 1.5, 2.5, 9}, options);
    CHECK(trade.stopped);
    int solved = 0;
    for (const auto& point : trade.points) solved += point.solved ? 1 : 0;
    CHECK(solved >= 1);
    CHECK(solved < 9);
    CHECK_THROWS_WITH(study::studyTrade(d, {}, {true, 1, 1.5, 2.5, 5}), Catch::Contains("nothing to trade"));
    CHECK_THROWS_WITH(study::studyTrade(d, {}, {false, 1, 1.5, 2.5, 5}), Catch::Contains("nothing to trade"));
    CHECK_THROWS_WITH(study::studyTrade(d, {}, {true, 0, 2.5, 1.5, 5}), Catch::Contains("lower to a higher"));
    CHECK_THROWS_WITH(study::studyTrade(d, {}, {true, 0, 1.5, 2.5, 1}), Catch::Contains("2 to 60 points"));
    CHECK_THROWS_WITH(study::studyTrade(d, {}, {false, 0, 0.5, 2.5, 5}),
                      Catch::Contains("has to be above 1"));
    auto still = d;
    still.tune.movers.clear();
    CHECK_THROWS_WITH(study::studyTrade(still, {}, {true, 0, 1.5, 2.5, 5}), Catch::Contains("may move"));
}
