// Goals and limits in plain sentences, for people.
#pragma once

#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::study {

/// "front-to-rear".
std::string nameOf(model::GoalKind kind);
/// "dB"; empty for the SWR.
std::string unitOf(model::GoalKind kind);
/// "boom".
std::string nameOf(model::LimitKind kind);

/// A limit to begin with, as text; empty for resonance.
std::string usualLimit(model::GoalKind kind);
/// A miss worth minding, in the unit of the goal.
double worthMinding(model::GoalKind kind);

/// Whether the goal asks for a value at least as high as its limit.
bool asksForLeast(model::GoalKind kind);
/// Gains without a limit: as much as possible.
bool asksForMost(const model::Goal& goal);

/// "SWR at the radio at most 1.5", "gain as high as possible", as typed.
std::string wishOf(const model::Goal& goal);
/// "on every band", "on 20 m and 15 m", "from 50 to 50.5 MHz", "on as many bands as possible", as typed.
std::string whereOf(const model::Goal& goal);
/// "boom at most 5 m".
std::string sentenceOf(const model::BuildLimit& limit);

/// "at 14.1 MHz", "from 14 to 14.35 MHz".
std::string rangeWords(double lowHz, double highHz);

}  // namespace rm::study
