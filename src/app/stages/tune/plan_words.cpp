#include "app/stages/tune/plan_words.h"
#include "app/look/text.h"

#include <QStringList>
#include <algorithm>
#include <cmath>

#include "app/look/lengths.h"
#include "core/quantity/format.h"
#include "core/study/tuning/goal_words.h"

namespace rm::app {

using study::GoalState;

namespace {

QString number(double value, int decimals = 2) {
    return written(value, 'f', decimals).replace('-', QChar(0x2212));
}

}  // namespace

QString goalValueText(const GoalState& state, double value) {
    const bool swr = state.unit.empty();
    if (swr) return text(quantity::formatSwr(value));
    const bool coarse = state.unit == "ohm" || state.unit == "%" || state.unit == "°";
    const int decimals = coarse ? 1 : state.unit == "kHz" ? 0 : 2;
    const QString unit = state.unit == "ohm" ? QString("Ω") : text(state.unit);
    return number(value, decimals) + (state.unit == "°" ? unit : " " + unit);
}

namespace {

const GoalState* worstOf(const std::vector<GoalState>& states) {
    const auto worst = std::max_element(states.begin(), states.end(), [](const auto& a, const auto& b) {
        return a.most ? a.worst > b.worst : a.miss < b.miss;
    });
    return worst == states.end() ? nullptr : &*worst;
}

QString briefly(const std::vector<GoalState>& states, bool withWhere) {
    const GoalState* worst = worstOf(states);
    if (worst == nullptr) return {};
    if (worst->counted)
        return tr("%1 of %2 bands")
            .arg(std::count_if(states.begin(), states.end(), [](const auto& s) { return s.met(); }))
            .arg(states.size());
    if (!withWhere) return goalValueText(*worst, worst->worst);
    return goalValueText(*worst, worst->worst) + (states.size() > 1
                                                      ? " " + text(worst->where)
                                                      : tr(" at ") + number(worst->atHz / 1e6, 3) + " MHz");
}

QString verdictOf(const model::Goal& goal, const std::vector<GoalState>& states) {
    const GoalState* worst = worstOf(states);
    if (worst == nullptr) return {};
    if (worst->most) return goalValueText(*worst, worst->worst);
    const auto met = std::count_if(states.begin(), states.end(), [](const auto& s) { return s.met(); });
    const auto all = static_cast<std::ptrdiff_t>(states.size());
    if (worst->counted) return tr("met on %1 of %2 bands").arg(met).arg(all);
    if (worst->met()) return tr("met");
    const QString by =
        worst->unit.empty() && worst->miss > 99.0 ? tr("far") : goalValueText(*worst, worst->miss);
    const QString how = goal.kind == model::GoalKind::Resistance || goal.kind == model::GoalKind::Resonance
                            ? tr("off by %1").arg(by)
                        : study::traitsOf(goal.kind).relation == study::Relation::AtLeast
                            ? tr("%1 too little").arg(by)
                            : tr("%1 too much").arg(by);
    return all > 1 ? tr("%1, on %2 of %3 bands").arg(how).arg(all - met).arg(all) : how;
}

/// Scaled miss of the worst, for the gauge.
std::optional<double> missOf(const model::Goal& goal, const std::vector<GoalState>& states) {
    const GoalState* worst = worstOf(states);
    if (worst == nullptr || worst->most) return std::nullopt;
    return worst->miss / study::traitsOf(goal.kind).worth;
}

}  // namespace

PlanRow goalRow(const model::Goal& goal, const std::vector<GoalState>& now,
                const std::vector<GoalState>& best) {
    PlanRow row;
    row.enabled = goal.enabled;
    row.sentence = text(study::wishOf(goal) + " " + study::whereOf(goal));
    row.sentence[0] = row.sentence[0].toUpper();
    const char* const importance[] = {later("nice to have"), later("important"), later("essential")};
    row.note = tr(importance[static_cast<std::size_t>(goal.importance)]);
    if (goal.stage > 1) row.note += tr(", stage %1").arg(goal.stage);
    row.now = briefly(now, best.empty());
    row.best = briefly(best, best.size() > 1);
    row.nowMiss = missOf(goal, now);
    row.bestMiss = missOf(goal, best);
    const auto& shown = best.empty() ? now : best;
    row.verdict = verdictOf(goal, shown);
    const GoalState* worst = worstOf(shown);
    row.met = worst != nullptr &&
              (worst->counted ? std::any_of(shown.begin(), shown.end(), [](const auto& s) { return s.met(); })
                              : worst->met());
    row.counted = worst != nullptr && worst->counted;
    for (const auto& state : shown)
        if (!state.most) row.bands.push_back(state.miss / study::traitsOf(goal.kind).worth);
    QStringList bands;
    for (const auto& state : shown)
        bands << QString("%1: %2%3")
                     .arg(text(state.where), goalValueText(state, state.worst),
                          state.most    ? ""
                          : state.met() ? tr(", met")
                                        : tr(", missed by ") + goalValueText(state, state.miss));
    row.tip = bands.join("\n");
    return row;
}

PlanRow limitRow(const model::BuildLimit& limit, std::optional<double> limitM, std::optional<double> nowM,
                 std::optional<double> bestM) {
    PlanRow row;
    row.limit = true;
    row.enabled = limit.enabled;
    row.sentence = text(study::sentenceOf(limit));
    row.sentence[0] = row.sentence[0].toUpper();
    row.note = tr("limit");
    const bool least =
        limit.kind == model::LimitKind::LowestPoint || limit.kind == model::LimitKind::KeepApart;
    const auto over = [&](double value) { return least ? *limitM - value : value - *limitM; };
    const auto written = [](double value) {
        return value > 1e6 ? tr("nothing to keep apart") : lengthWords(value, inFeet());
    };
    if (!limitM) {
        row.verdict = tr("cannot be read");
        return row;
    }
    const double scale = 0.1 * std::max(0.1, std::abs(*limitM));
    if (nowM) {
        row.now = written(*nowM);
        row.nowMiss = over(*nowM) / scale;
    }
    if (bestM) {
        row.best = written(*bestM);
        row.bestMiss = over(*bestM) / scale;
    }
    if (const auto shown = bestM ? bestM : nowM) {
        row.met = over(*shown) <= 1e-4;
        row.verdict =
            row.met ? tr("kept")
                    : lengthWords(over(*shown), inFeet()) + (least ? tr(" too little") : tr(" too much"));
    }
    return row;
}

namespace {

/// "gain 16.80 dBi → 16.52 dBi" for every goal whose value shows a difference.
QStringList differencesOf(const std::vector<GoalState>& before, const std::vector<GoalState>& after) {
    QStringList changes;
    for (std::size_t i = 0; i < before.size() && i < after.size(); ++i) {
        const QString a = goalValueText(before[i], before[i].worst);
        const QString b = goalValueText(after[i], after[i].worst);
        // "SWR", "front-to-rear", "change of gain".
        const QString name = text(before[i].sentence).section(tr(" at "), 0, 0).section(tr(" as "), 0, 0);
        if (a != b) changes << QString("%1 %2 → %3").arg(name, a, b);
    }
    return changes;
}

}  // namespace

QString roundingCost(const std::vector<GoalState>& exact, const std::vector<GoalState>& rounded) {
    const QStringList changes = differencesOf(exact, rounded);
    if (changes.isEmpty()) return tr("Rounding to these steps costs nothing that shows.");
    int lost = 0;
    for (std::size_t i = 0; i < exact.size() && i < rounded.size(); ++i)
        if (exact[i].met() && !rounded[i].met()) ++lost;
    return (lost > 0 ? tr("Rounding loses %1: ").arg(trn("a goal", "%n goals", lost)) : tr("Rounding: ")) +
           changes.mid(0, 3).join(";  ") + ".";
}

QString asBuiltText(const study::AsBuilt& built, const std::vector<GoalState>& rounded) {
    const QStringList changes = differencesOf(built.plain, rounded);
    QString said = tr("As you build, %1 of %2 meet every goal").arg(built.meeting).arg(built.builds);
    if (!built.nineOfTen()) said += tr(": nine of ten were not found");
    if (changes.isEmpty()) return said + (built.nineOfTen() ? tr("; nothing had to be given for it.") : ".");
    return said + tr(" (tuned without regard to it, %1). Beside that: ").arg(built.plainMeeting) +
           changes.mid(0, 4).join(";  ") + ".";
}

QString changesText(const std::vector<study::FigureChange>& changes, bool better) {
    if (changes.empty())
        return better ? QString() : tr("Nothing better was found: the figures are what they were.");
    QStringList all;
    for (const auto& change : changes)
        if (change.better == better) all << text(change.sentence()).replace(" -", " −");
    return all.isEmpty() ? QString() : (better ? tr("Better: ") : tr("Worse: ")) + all.join(";  ") + ".";
}

}  // namespace rm::app
