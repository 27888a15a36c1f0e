// Goals and limits with their state, in the words of the rows that show them.
#pragma once

#include "app/stages/tune/plan_rows.h"
#include "core/model/design.h"
#include "core/study/figure_changes.h"
#include "core/study/tuning/goal_values.h"
#include "core/study/tuning/tune.h"

namespace rm::app {

/// The row of a goal: `now` and `best` are its states, one per band, of the design and of the best so far.
PlanRow goalRow(const model::Goal& goal, const std::vector<study::GoalState>& now,
                const std::vector<study::GoalState>& best);

/// The row of a limit; values in metres where they are known, and the limit itself.
PlanRow limitRow(const model::BuildLimit& limit, std::optional<double> limitM, std::optional<double> nowM,
                 std::optional<double> bestM);

/// A value of a goal with its unit, as the rows write it.
QString goalValueText(const study::GoalState& state, double value);

/// What rounding costs: the goals that change by it, exact beside rounded.
QString roundingCost(const std::vector<study::GoalState>& exact,
                     const std::vector<study::GoalState>& rounded);

/// What tuning for nine of ten builds has brought, and what it costs beside tuning without.
QString asBuiltText(const study::AsBuilt& built, const std::vector<study::GoalState>& rounded);

/// What becomes better, or worse, in one line; where nothing becomes either, the line of the worse says so.
QString changesText(const std::vector<study::FigureChange>& changes, bool better);

}  // namespace rm::app
