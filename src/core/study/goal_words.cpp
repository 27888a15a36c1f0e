#include "core/study/goal_words.h"

#include <fmt/format.h>

#include "core/quantity/formula.h"
#include "core/quantity/number.h"

#include <cmath>

namespace rm::study {

using model::Goal;
using model::GoalKind;
using model::LimitKind;

std::string nameOf(GoalKind kind) {
    switch (kind) {
        case GoalKind::Swr:
            return "SWR at the radio";
        case GoalKind::Gain:
            return "gain";
        case GoalKind::GainAt:
            return "gain at an angle";
        case GoalKind::FrontToRear:
            return "front-to-rear";
        case GoalKind::Flat:
            return "change of gain";
        case GoalKind::SideLobe:
            return "side lobes";
        case GoalKind::Resistance:
            return "R at the antenna";
        case GoalKind::Efficiency:
            return "efficiency";
        case GoalKind::Takeoff:
            return "takeoff angle";
        default:
            return "resonance";
    }
}

std::string unitOf(GoalKind kind) {
    switch (kind) {
        case GoalKind::Swr:
            return "";
        case GoalKind::Gain:
        case GoalKind::GainAt:
            return "dBi";
        case GoalKind::FrontToRear:
        case GoalKind::Flat:
        case GoalKind::SideLobe:
            return "dB";
        case GoalKind::Efficiency:
            return "%";
        case GoalKind::Takeoff:
            return "°";
        default:
            return "ohm";
    }
}

std::string nameOf(LimitKind kind) {
    switch (kind) {
        case LimitKind::LongestElement:
            return "longest element";
        case LimitKind::BoomLength:
            return "boom";
        case LimitKind::TotalWire:
            return "wire in all";
        case LimitKind::HighestPoint:
            return "highest point";
        case LimitKind::LowestPoint:
            return "lowest point";
        default:
            return "wires kept apart";
    }
}

std::string usualLimit(GoalKind kind) {
    switch (kind) {
        case GoalKind::Swr:
            return "1.5";
        case GoalKind::Gain:
        case GoalKind::GainAt:
            return "";
        case GoalKind::FrontToRear:
            return "20";
        case GoalKind::Flat:
            return "0.5";
        case GoalKind::SideLobe:
            return "-15";
        case GoalKind::Resistance:
            return "20";
        case GoalKind::Efficiency:
            return "90";
        case GoalKind::Takeoff:
            return "20";
        default:
            return "";
    }
}

double worthMinding(GoalKind kind) {
    switch (kind) {
        case GoalKind::Swr:
        case GoalKind::Gain:
        case GoalKind::GainAt:
            return 0.5;
        case GoalKind::FrontToRear:
        case GoalKind::SideLobe:
            return 3.0;
        case GoalKind::Flat:
            return 0.3;
        case GoalKind::Resistance:
        case GoalKind::Resonance:
            return 10.0;
        default:
            return 5.0;
    }
}

bool asksForLeast(GoalKind kind) {
    return kind == GoalKind::Gain || kind == GoalKind::GainAt || kind == GoalKind::FrontToRear ||
           kind == GoalKind::Efficiency;
}

bool asksForMost(const Goal& goal) {
    return goal.limit.empty() && (goal.kind == GoalKind::Gain || goal.kind == GoalKind::GainAt);
}

std::string wishOf(const Goal& goal) {
    const std::string unit = unitOf(goal.kind);
    // A limit that was typed with its unit says it itself.
    const bool bare = quantity::readNumber(goal.limit) || !quantity::isPlainNumber(goal.limit);
    const std::string behind = unit.empty() || !bare ? "" : unit == "°" ? unit : " " + unit;
    if (goal.kind == GoalKind::Resonance) return "resonant";
    const std::string name =
        goal.kind == GoalKind::GainAt ? fmt::format("gain at {}", goal.angle) : nameOf(goal.kind);
    if (asksForMost(goal)) return name + " as high as possible";
    if (goal.kind == GoalKind::Resistance)
        return fmt::format("{} between {} and {} ohm", name, goal.limit, goal.upper);
    return fmt::format("{} at {} {}{}", name, asksForLeast(goal.kind) ? "least" : "most", goal.limit, behind);
}

std::string whereOf(const Goal& goal) {
    if (!goal.from.empty()) {
        const bool range = !goal.to.empty() && goal.to != goal.from;
        return range ? fmt::format("from {} to {}", goal.from, goal.to) : "at " + goal.from;
    }
    if (goal.bands.empty()) return goal.counted ? "on as many bands as possible" : "on every band";
    std::string list;
    for (std::size_t i = 0; i < goal.bands.size(); ++i)
        list += (i == 0 ? "" : i + 1 == goal.bands.size() ? " and " : ", ") + goal.bands[i];
    return goal.counted ? "on as many as possible of " + list : "on " + list;
}

std::string sentenceOf(const model::BuildLimit& limit) {
    if (limit.kind == LimitKind::KeepApart)
        return fmt::format("wires that do not touch at least {} apart", limit.value);
    return fmt::format("{} at {} {}", nameOf(limit.kind),
                       limit.kind == LimitKind::LowestPoint ? "least" : "most", limit.value);
}

std::string rangeWords(double lowHz, double highHz) {
    const auto megahertz = [](double hz) { return fmt::format("{:g}", std::round(hz / 1e2) / 1e4); };
    return lowHz == highHz ? fmt::format("at {} MHz", megahertz(lowHz))
                           : fmt::format("from {} to {} MHz", megahertz(lowHz), megahertz(highHz));
}

}  // namespace rm::study
