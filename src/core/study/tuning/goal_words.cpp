#include "core/study/tuning/goal_words.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/quantity/formula.h"
#include "core/quantity/number.h"
#include "core/words/words.h"

namespace rm::study {

using model::Goal;
using model::GoalKind;
using model::LimitKind;

const std::vector<GoalTraits>& goalTraits() {
    using R = Relation;
    static const std::vector<GoalTraits> all = {
        {GoalKind::Swr, say("SWR at the radio"), "", "1.5", 0.5, R::AtMost},
        {.kind = GoalKind::Gain,
         .name = say("gain"),
         .unit = "dBi",
         .usual = "",
         .worth = 0.5,
         .relation = R::AtLeast,
         .gain = true,
         .pattern = true},
        {.kind = GoalKind::GainAt,
         .name = say("gain at an angle"),
         .unit = "dBi",
         .usual = "",
         .worth = 0.5,
         .relation = R::AtLeast,
         .gain = true,
         .angle = true,
         .towards = true,
         .pattern = true,
         .usualTowards = "best"},
        {.kind = GoalKind::MeanGain,
         .name = say("mean gain"),
         .unit = "dBi",
         .usual = "",
         .worth = 0.5,
         .relation = R::AtLeast,
         .gain = true,
         .angle = true,
         .angles = true,
         .towards = true,
         .pattern = true,
         .usualTowards = "best"},
        {.kind = GoalKind::LeastGain,
         .name = say("least gain"),
         .unit = "dBi",
         .usual = "",
         .worth = 0.5,
         .relation = R::AtLeast,
         .gain = true,
         .angle = true,
         .angles = true,
         .towards = true,
         .pattern = true,
         .usualTowards = "best"},
        {.kind = GoalKind::FrontToRear,
         .name = say("front-to-rear"),
         .unit = "dB",
         .usual = "20",
         .worth = 3.0,
         .relation = R::AtLeast,
         .towards = true,
         .pattern = true,
         .usualTowards = "front"},
        {.kind = GoalKind::FrontToBack,
         .name = say("front-to-back"),
         .unit = "dB",
         .usual = "20",
         .worth = 3.0,
         .relation = R::AtLeast,
         .towards = true,
         .pattern = true,
         .usualTowards = "front"},
        {.kind = GoalKind::Null,
         .name = say("null"),
         .unit = "dB",
         .usual = "20",
         .worth = 3.0,
         .relation = R::AtLeast,
         .angle = true,
         .towards = true,
         .pattern = true,
         .usualTowards = "back"},
        {.kind = GoalKind::Flat,
         .name = say("change of gain"),
         .unit = "dB",
         .usual = "0.5",
         .worth = 0.3,
         .relation = R::AtMost,
         .pattern = true},
        {.kind = GoalKind::SideLobe,
         .name = say("side lobes"),
         .unit = "dB",
         .usual = "15",
         .worth = 3.0,
         .relation = R::AtLeast,
         .pattern = true},
        {GoalKind::Resistance, say("R at the antenna"), "ohm", "20", 10.0, R::Between},
        {GoalKind::Impedance, say("impedance at the antenna"), "ohm", "5", 10.0, R::AtMost},
        {GoalKind::Efficiency, say("efficiency"), "%", "90", 5.0, R::AtLeast},
        {.kind = GoalKind::Takeoff,
         .name = say("takeoff angle"),
         .unit = "°",
         .usual = "20",
         .worth = 5.0,
         .relation = R::AtMost,
         .pattern = true},
        {GoalKind::Resonance, say("resonance"), "ohm", "", 10.0, R::None},
        {GoalKind::Bandwidth, say("bandwidth"), "kHz", "2", 1.0, R::AsWide}};
    return all;
}

const GoalTraits& traitsOf(GoalKind kind) {
    const auto& all = goalTraits();
    return *std::find_if(all.begin(), all.end(), [&](const GoalTraits& one) { return one.kind == kind; });
}

std::string nameOf(LimitKind kind) {
    switch (kind) {
        case LimitKind::LongestElement:
            return say("longest element");
        case LimitKind::BoomLength:
            return say("boom");
        case LimitKind::TotalWire:
            return say("wire in all");
        case LimitKind::HighestPoint:
            return say("highest point");
        case LimitKind::LowestPoint:
            return say("lowest point");
        default:
            return say("wires kept apart");
    }
}

void changeKind(Goal& goal, GoalKind kind) {
    if (goal.kind == kind) return;
    goal.kind = kind;
    goal.limit = traitsOf(kind).usual;
    goal.towards.clear();
    if (kind == GoalKind::Resistance) goal.upper = "60";
}

Goal usualGoal(GoalKind kind) {
    Goal goal;
    goal.limit = traitsOf(goal.kind).usual;
    changeKind(goal, kind);
    return goal;
}

bool asksForMost(const Goal& goal) {
    return goal.kind == GoalKind::Bandwidth || (goal.limit.empty() && traitsOf(goal.kind).gain);
}

namespace {

/// " towards 45 deg", where it is not what the kind looks at anyway.
std::string towardsWords(const Goal& goal) {
    const GoalTraits& traits = traitsOf(goal.kind);
    if (!traits.towards) return {};
    const std::string towards = goal.towards.empty() ? traits.usualTowards : goal.towards;
    const bool plain = towards == traits.usualTowards && goal.kind != GoalKind::Null;
    if (plain) return {};
    if (towards == "best") return say(" at the best bearing");
    if (towards == "front") return say(" towards the front");
    if (towards == "back") return say(" towards the back");
    return say(" towards {}", towards);
}

std::string nameWith(const Goal& goal) {
    const std::string towards = towardsWords(goal);
    switch (goal.kind) {
        case GoalKind::GainAt:
            return say("gain at {}{}", goal.angle, towards);
        case GoalKind::MeanGain:
        case GoalKind::LeastGain:
            return say("{} from {} to {}{}", traitsOf(goal.kind).name, goal.angle, goal.angleTo, towards);
        case GoalKind::Impedance:
            return say("impedance at the antenna {} ohm", goal.wanted);
        default:
            return traitsOf(goal.kind).name + towards;
    }
}

}  // namespace

std::string wishOf(const Goal& goal) {
    const GoalTraits& traits = traitsOf(goal.kind);
    const std::string unit = traits.unit;
    // A limit that was typed with its unit says it itself.
    const bool bare = quantity::readNumber(goal.limit) || !quantity::isPlainNumber(goal.limit);
    const std::string behind = unit.empty() || !bare ? "" : unit == "°" ? unit : " " + unit;
    if (goal.kind == GoalKind::Resonance) return say("resonant");
    if (goal.kind == GoalKind::Bandwidth)
        return say("band with an SWR of {} as wide as possible", decimals(goal.limit));
    const std::string name = nameWith(goal);
    if (asksForMost(goal)) return name + say(" as high as possible");
    if (goal.kind == GoalKind::Resistance)
        return say("{} between {} and {} ohm", name, decimals(goal.limit), decimals(goal.upper));
    if (goal.kind == GoalKind::Impedance) return say("{}, within {}{}", name, decimals(goal.limit), behind);
    // "-17" and "17" are the same.
    const std::string below =
        decimals(!goal.limit.empty() && goal.limit.front() == '-' ? goal.limit.substr(1) : goal.limit);
    if (goal.kind == GoalKind::SideLobe)
        return say("{} at least {}{} below the main lobe", name, below, behind);
    if (goal.kind == GoalKind::Null)
        return say("gain at {}{} at least {}{} below the strongest", goal.angle, towardsWords(goal), below,
                   behind);
    const std::string limit = decimals(goal.limit) + behind;
    return traits.relation == Relation::AtLeast ? say("{} at least {}", name, limit)
                                                : say("{} at most {}", name, limit);
}

std::string whereOf(const Goal& goal) {
    if (!goal.from.empty()) {
        const bool range = !goal.to.empty() && goal.to != goal.from;
        return range ? say("from {} to {}", decimals(goal.from), decimals(goal.to))
                     : say("at ") + decimals(goal.from);
    }
    if (goal.bands.empty() && !goal.counted && goal.kind == GoalKind::Bandwidth)
        return say("round the middle of every band");
    if (goal.bands.empty()) return goal.counted ? say("on as many bands as possible") : say("on every band");
    std::string list;
    for (std::size_t i = 0; i < goal.bands.size(); ++i)
        list += (i == 0 ? "" : i + 1 == goal.bands.size() ? say(" and ") : ", ") + goal.bands[i];
    return goal.counted ? say("on as many as possible of ") + list : say("on ") + list;
}

std::string sentenceOf(const model::BuildLimit& limit) {
    if (limit.kind == LimitKind::KeepApart)
        return say("wires that do not touch at least {} apart", decimals(limit.value));
    return limit.kind == LimitKind::LowestPoint
               ? say("{} at least {}", nameOf(limit.kind), decimals(limit.value))
               : say("{} at most {}", nameOf(limit.kind), decimals(limit.value));
}

std::string rangeWords(double lowHz, double highHz) {
    const auto megahertz = [](double hz) { return figure("{:g}", std::round(hz / 1e2) / 1e4); };
    return lowHz == highHz ? say("at {} MHz", megahertz(lowHz))
                           : say("from {} to {} MHz", megahertz(lowHz), megahertz(highHz));
}

}  // namespace rm::study
