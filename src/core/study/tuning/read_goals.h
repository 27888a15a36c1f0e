// A design read against goals, without a search.
#pragma once

#include <stop_token>

#include "core/study/tuning/goal_values.h"

namespace rm::study {

/// What is read of a design at the frequencies of these goals. Throws rm::Error, rm::Stopped.
Goals::Samples sampled(const Goals& goals, const model::Design& design, const std::stop_token& stop = {});

/// The goals of the design as it stands, densely sampled. Throws as `sampled` does, and where a goal cannot
/// be read.
std::vector<GoalState> readGoals(const model::Design& design, const std::vector<model::Band>& bands,
                                 int samples = 21, const std::stop_token& stop = {});

}  // namespace rm::study
