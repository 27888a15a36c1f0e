#include "core/project/goals_json.h"

namespace rm::io {

using namespace rm::model;

namespace {

constexpr std::initializer_list<std::pair<const char*, GoalKind>> kKinds = {
    {"SWR", GoalKind::Swr},
    {"gain", GoalKind::Gain},
    {"gain at angle", GoalKind::GainAt},
    {"front-to-rear", GoalKind::FrontToRear},
    {"flat gain", GoalKind::Flat},
    {"side lobe", GoalKind::SideLobe},
    {"resistance", GoalKind::Resistance},
    {"efficiency", GoalKind::Efficiency},
    {"takeoff angle", GoalKind::Takeoff},
    {"resonance", GoalKind::Resonance}};
constexpr std::initializer_list<std::pair<const char*, Importance>> kImportance = {
    {"useful", Importance::Useful},
    {"important", Importance::Important},
    {"essential", Importance::Essential}};
constexpr std::initializer_list<std::pair<const char*, LimitKind>> kLimits = {
    {"longest element", LimitKind::LongestElement}, {"boom length", LimitKind::BoomLength},
    {"total wire", LimitKind::TotalWire},           {"highest point", LimitKind::HighestPoint},
    {"lowest point", LimitKind::LowestPoint},       {"keep apart", LimitKind::KeepApart}};
const Texts<Goal> kGoalTexts = {{"from", &Goal::from},
                                {"to", &Goal::to},
                                {"limit", &Goal::limit},
                                {"upper", &Goal::upper},
                                {"angle", &Goal::angle}};
const Texts<Mover> kMoverTexts = {{"dimension", &Mover::dimension},
                                  {"low", &Mover::low},
                                  {"high", &Mover::high},
                                  {"step", &Mover::step},
                                  {"choices", &Mover::choices}};

}  // namespace

TunePlan readPlan(const json& j, const std::string& where) {
    Members m(j, where);
    TunePlan plan;
    for (const auto& x : m.array("goals")) {
        Members g(x, fmt::format("{}, goal {}", where, plan.goals.size() + 1));
        Goal goal;
        goal.kind = g.choice("kind", GoalKind::Swr, kKinds);
        goal.enabled = g.flag("enabled", true);
        readTexts(g, goal, kGoalTexts);
        for (const auto& band : g.array("bands"))
            if (band.is_string()) goal.bands.push_back(band.get<std::string>());
        goal.counted = g.flag("as many bands as possible", false);
        goal.importance = g.choice("importance", Importance::Important, kImportance);
        goal.stage = static_cast<int>(g.number("stage", 1.0));
        goal.extra = g.rest();
        plan.goals.push_back(goal);
    }
    for (const auto& x : m.array("may move")) {
        Members d(x, fmt::format("{}, mover {}", where, plan.movers.size() + 1));
        Mover mover;
        readTexts(d, mover, kMoverTexts);
        mover.enabled = d.flag("enabled", true);
        mover.extra = d.rest();
        plan.movers.push_back(mover);
    }
    for (const auto& x : m.array("limits")) {
        Members l(x, fmt::format("{}, limit {}", where, plan.limits.size() + 1));
        BuildLimit limit;
        limit.kind = l.choice("kind", LimitKind::BoomLength, kLimits);
        limit.value = l.text("value", limit.value);
        limit.enabled = l.flag("enabled", true);
        limit.extra = l.rest();
        plan.limits.push_back(limit);
    }
    return plan;
}

json writePlan(const TunePlan& plan) {
    json j = json::object();
    for (const auto& goal : plan.goals) {
        json g = {{"kind", wordFor(goal.kind, kKinds)}};
        if (!goal.enabled) g["enabled"] = false;
        writeTexts(g, goal, kGoalTexts);
        if (!goal.bands.empty()) g["bands"] = goal.bands;
        if (goal.counted) g["as many bands as possible"] = true;
        if (goal.importance != Importance::Important) g["importance"] = wordFor(goal.importance, kImportance);
        if (goal.stage != 1) g["stage"] = goal.stage;
        j["goals"].push_back(withExtra(g, goal.extra));
    }
    for (const auto& mover : plan.movers) {
        json d = json::object();
        writeTexts(d, mover, kMoverTexts);
        if (!mover.enabled) d["enabled"] = false;
        j["may move"].push_back(withExtra(d, mover.extra));
    }
    for (const auto& limit : plan.limits) {
        json l = {{"kind", wordFor(limit.kind, kLimits)}, {"value", limit.value}};
        if (!limit.enabled) l["enabled"] = false;
        j["limits"].push_back(withExtra(l, limit.extra));
    }
    return j;
}

}  // namespace rm::io
