// Studies that several tests work out.
#pragma once

#include "core/wide/cases.h"
#include "plans.h"

namespace rm::test {

/// A small Yagi over real ground with its reflector and its height varied.
inline wide::Given smallStudy() {
    wide::Given given;
    given.title = "Studies";
    given.design = poorYagi(1);
    given.design.name = "Yagi";
    given.design.site.ground = GroundKind::Real;
    given.design.site.height = "8 m";
    given.design.tune.goals = {goal(GoalKind::Swr, "1.5", "50 MHz", "50.5 MHz"), goal(GoalKind::Gain, "")};
    given.bands = {{"6 m", 50e6, 50.5e6, {}}};
    wide::OverText reflector;
    reflector.name = "reflector_long";
    reflector.from = "2.85 m";
    reflector.to = "3 m";
    reflector.points = 4;
    wide::OverText height;
    height.vary = wide::Vary::Height;
    height.values = {"5 m", "26 ft"};
    given.plan.over = {reflector, height};
    given.plan.figures = {"resistance", "worst SWR", "gain", "gain at 10 deg"};
    given.plan.piece = 2;
    return given;
}

}  // namespace rm::test
