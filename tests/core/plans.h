// Goals, movers and antennas for tests of tuning.
#pragma once

#include <string>
#include <vector>

#include "core/model/design.h"
#include "core/study/tuning/goal_values.h"
#include "fed_row.h"

namespace rm::test {

using namespace rm::model;

inline Dimension dim(const std::string& name, const std::string& text, const std::string& low,
                     const std::string& high) {
    Dimension d;
    d.name = name;
    d.text = text;
    d.low = low;
    d.high = high;
    return d;
}

inline Goal goal(GoalKind kind, const std::string& limit, const std::string& from = "",
                 const std::string& to = "") {
    Goal g;
    g.kind = kind;
    g.limit = limit;
    g.from = from;
    g.to = to;
    return g;
}

inline Mover mover(const std::string& dimension, const std::string& step = "") {
    Mover m;
    m.dimension = dimension;
    m.step = step;
    return m;
}

inline BuildLimit limit(LimitKind kind, const std::string& value) {
    BuildLimit l;
    l.kind = kind;
    l.value = value;
    return l;
}

/// A Yagi with every length and spacing a dimension that may move; poor lengths.
inline Design poorYagi(int directors) {
    Design d;
    d.designFrequency = "50.25 MHz";
    ElementRow row;
    row.start = {"0 m", "0 m", "0 m"};
    const auto add = [&](const std::string& name, double at, double length) {
        RowElement e;
        e.name = name;
        e.position = at > 0.0 ? name + "_at" : "0 m";
        e.length = name + "_long";
        row.elements.push_back(e);
        const auto metres = [](double m) { return std::to_string(m) + " m"; };
        d.dimensions.push_back(dim(e.length, metres(length), metres(0.85 * length), metres(1.15 * length)));
        d.tune.movers.push_back(mover(e.length));
        if (at > 0.0) {
            d.dimensions.push_back(dim(e.position, metres(at), metres(at - 0.45), metres(at + 0.45)));
            d.tune.movers.push_back(mover(e.position));
        }
    };
    add("reflector", 0.0, 2.9);
    add("driven", 1.1, 2.8);
    for (int i = 0; i < directors; ++i)
        add("director" + std::to_string(i + 1), 2.1 + 1.2 * i, 2.75 - 0.03 * i);
    setFedRow(d, "Yagi", {"aluminium-6061", "12 mm", "", "3"}, row, "driven");
    return d;
}

inline std::string listed(const std::vector<study::GoalState>& goals) {
    std::string out;
    for (const auto& g : goals)
        out += g.sentence + ": " + std::to_string(g.worst) + " at " + std::to_string(g.atHz / 1e6) +
               " MHz, misses by " + std::to_string(g.miss) + "\n";
    return out;
}

}  // namespace rm::test
