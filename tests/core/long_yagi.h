// A whole Yagi to be tuned: eleven elements of 8 mm on 6 m of boom for 144 to 144.6 MHz, twenty lengths and
// positions free.
#pragma once

#include <fmt/format.h>

#include <algorithm>

#include "plans.h"

namespace rm::test {

inline Design longYagi() {
    const double lengths[] = {1.015, 0.965, 0.935, 0.920, 0.910, 0.900, 0.893, 0.887, 0.882, 0.878, 0.875};
    const double places[] = {0.0, 0.42, 0.58, 1.00, 1.55, 2.18, 2.88, 3.62, 4.40, 5.20, 6.00};
    Design d;
    d.designFrequency = "144.3 MHz";
    ElementRow row;
    row.start = {"0 m", "0 m", "0 m"};
    const auto move = [&](const std::string& name, double at, double reach, double least, double most) {
        d.dimensions.push_back(dim(name, fmt::format("{:.3f} m", at),
                                   fmt::format("{:.3f} m", std::max(at - reach, least)),
                                   fmt::format("{:.3f} m", std::min(at + reach, most))));
        d.tune.movers.push_back(mover(name, "1 mm"));
    };
    for (int i = 0; i < 11; ++i) {
        RowElement e;
        e.name = fmt::format("e{}", i);
        e.length = e.name + "_long";
        move(e.length, lengths[i], 0.12, 0.1, 2.0);
        e.position = fmt::format("{} m", places[i]);
        if (i > 0 && i < 10) {
            e.position = e.name + "_at";
            move(e.position, places[i], 0.45, 0.1, 5.9);
        }
        row.elements.push_back(e);
    }
    setFedRow(d, "Yagi", {"aluminium-6061", "8 mm", "", "3"}, row, "e1");
    auto match = goal(GoalKind::Swr, "1.3", "144 MHz", "144.6 MHz");
    match.importance = Importance::Essential;
    auto gain = goal(GoalKind::Gain, "", "144 MHz", "144.6 MHz");
    gain.stage = 2;
    d.tune.goals = {match, goal(GoalKind::FrontToRear, "20", "144 MHz", "144.6 MHz"),
                    goal(GoalKind::SideLobe, "-15", "144 MHz", "144.6 MHz"), gain};
    return d;
}

}  // namespace rm::test
