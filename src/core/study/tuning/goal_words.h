// Goals and limits in plain sentences, for people.
#pragma once

#include <string>
#include <vector>

#include "core/model/design.h"

namespace rm::study {

/// How a value and its limit belong together.
enum class Relation { AtMost, AtLeast, Between, None, AsWide };

/// What there is to say of a kind of goal, whatever its numbers.
struct GoalTraits {
    model::GoalKind kind;
    std::string name;   ///< "front-to-rear"
    const char* unit;   ///< "dB"; empty for the SWR
    const char* usual;  ///< a limit to begin with, as text
    double worth;       ///< a miss worth minding, in the unit
    Relation relation;
    bool gain = false;     ///< a gain: without a limit as much as possible
    bool angle = false;    ///< looks at an elevation
    bool angles = false;   ///< looks at a range of elevations
    bool towards = false;  ///< looks towards a bearing
    bool pattern = false;  ///< reads the pattern at all
    const char* usualTowards = "";
};

/// All kinds, in the order in which they are offered.
const std::vector<GoalTraits>& goalTraits();
const GoalTraits& traitsOf(model::GoalKind kind);

/// "boom".
std::string nameOf(model::LimitKind kind);

/// A goal of this kind with the numbers to begin with.
model::Goal usualGoal(model::GoalKind kind);
/// The same goal of another kind: numbers of another unit would be nonsense.
void changeKind(model::Goal& goal, model::GoalKind kind);

/// Without a limit: as much, or as wide, as possible.
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
