#include "core/wide/columns.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <string_view>

#include "core/em/solver.h"
#include "core/quantity/formula.h"
#include "core/stopped.h"
#include "core/study/figures.h"
#include "core/study/lobes.h"
#include "core/study/resonance.h"
#include "core/study/sweep.h"
#include "core/study/tuning/tune.h"
#include "core/words/words.h"

namespace rm::wide {

namespace {

constexpr double kNone = std::numeric_limits<double>::quiet_NaN();
constexpr int kSwrPoints = 21;
constexpr int kGoalSamples = 7;
constexpr std::string_view kGainAt = "gain at ";

/// A variant while it is read: what several figures rest on is worked out once, and only where one asks.
class Subject {
  public:
    Subject(const model::Design& design, const ReadAt& at, const std::stop_token& stop)
        : design_(design), at_(at), stop_(stop), expansion_(model::expand(design)) {
        study::requireUsable(expansion_);
    }

    const study::Analysis& analysis() {
        if (!analysis_) {
            study::AnalysisOptions options;
            options.fields = &fields_;
            options.stop = stop_;
            analysis_ = study::analyse(expansion_, at_.frequencyHz, options);
        }
        return *analysis_;
    }
    const study::Figures& figures() { return analysis().figures; }
    const study::Sweep* sweep() {
        if (!sweep_ && at_.band)
            sweep_ =
                study::sweep(expansion_, at_.band->lowHz, at_.band->highHz, kSwrPoints, stop_, {}, &fields_);
        endWhere(stop_);
        return sweep_ ? &*sweep_ : nullptr;
    }
    const std::vector<study::GoalState>& goals() {
        if (!goals_) goals_ = study::readGoals(design_, at_.bands, kGoalSamples, stop_);
        return *goals_;
    }
    double resonanceMhz() {
        const auto found = study::findResonance(expansion_, at_.frequencyHz, stop_);
        endWhere(stop_);
        return found ? found->frequencyHz / 1e6 : kNone;
    }
    /// The largest miss over what is worth minding; at most zero: all met.
    double largestMiss() {
        double largest = -std::numeric_limits<double>::infinity();
        for (const auto& state : goals())
            if (!state.most) largest = std::max(largest, state.miss);
        return std::isfinite(largest) ? largest : kNone;
    }

  private:
    const model::Design& design_;
    const ReadAt& at_;
    const std::stop_token& stop_;
    model::Expansion expansion_;
    study::FieldStore fields_;
    std::optional<study::Analysis> analysis_;
    std::optional<study::Sweep> sweep_;
    std::optional<std::vector<study::GoalState>> goals_;
};

struct Known {
    const char* words;
    const char* title;
    double (*of)(Subject&);
};

constexpr Known kKnown[] = {
    {"resistance", "resistance_ohm", [](Subject& s) { return s.figures().antennaOhm.real(); }},
    {"reactance", "reactance_ohm", [](Subject& s) { return s.figures().antennaOhm.imag(); }},
    {"SWR", "SWR", [](Subject& s) { return s.figures().swr; }},
    {"worst SWR", "worst_SWR", [](Subject& s) { return s.sweep() ? s.sweep()->worstSwr() : kNone; }},
    {"best SWR", "best_SWR", [](Subject& s) { return s.sweep() ? s.sweep()->bestSwr() : kNone; }},
    {"resonance", "resonance_MHz", [](Subject& s) { return s.resonanceMhz(); }},
    {"gain", "gain_dBi", [](Subject& s) { return s.figures().peak.gainDbi; }},
    {"directivity", "directivity_dBi", [](Subject& s) { return s.figures().directivityDbi; }},
    {"takeoff angle", "takeoff_deg", [](Subject& s) { return s.figures().peak.direction.elevationDeg; }},
    {"front-to-back", "front_to_back_dB", [](Subject& s) { return s.figures().frontToBackDb; }},
    {"front-to-rear", "front_to_rear_dB", [](Subject& s) { return s.figures().frontToRearDb; }},
    {"beamwidth", "beamwidth_deg", [](Subject& s) { return s.figures().beamwidthDeg; }},
    {"side lobe", "side_lobe_dB",
     [](Subject& s) { return study::readCut(s.analysis().elevation).sideLobeDb().value_or(kNone); }},
    {"efficiency", "efficiency_percent", [](Subject& s) { return 100.0 * s.figures().efficiency; }},
    {"to the sky", "sky_percent", [](Subject& s) { return 100.0 * s.figures().skyShare; }},
    {"ground loss", "ground_loss_percent", [](Subject& s) { return 100.0 * s.figures().groundShare; }},
    {"largest miss", "largest_miss", [](Subject& s) { return s.largestMiss(); }},
    {"goals met", "goals_met", [](Subject& s) { return study::allMet(s.goals()) ? 1.0 : 0.0; }},
};

const Known* knownOf(const std::string& words) {
    for (const auto& one : kKnown)
        if (words == one.words) return &one;
    return nullptr;
}

}  // namespace

Column columnOf(const std::string& words) {
    if (const Known* known = knownOf(words)) return {words, known->title};
    if (words.starts_with(kGainAt)) {
        const double angle = quantity::evaluate(words.substr(kGainAt.size()), quantity::Kind::Angle, {});
        if (!(angle >= 0.0 && angle <= 180.0))
            throw Error(say("\"{}\": an elevation lies between 0 and 180 degrees.", words));
        return {words, fmt::format("gain_at_{:g}_deg_dBi", angle), angle};
    }
    std::string all;
    for (const auto& one : columnWords()) all += (all.empty() ? "" : ", ") + one;
    throw Error(say("There is no figure \"{}\". There are: {}.", words, all));
}

std::vector<std::string> columnWords() {
    std::vector<std::string> words;
    for (const auto& one : kKnown) words.emplace_back(one.words);
    words.emplace_back("gain at 10 deg");
    return words;
}

std::vector<double> readColumns(const model::Design& design, const std::vector<Column>& columns,
                                const ReadAt& at, const std::stop_token& stop) {
    em::forgetPairs();
    Subject subject(design, at, stop);
    std::vector<double> values;
    for (const auto& column : columns) {
        endWhere(stop);
        const Known* known = knownOf(column.words);
        const double value =
            known != nullptr ? known->of(subject) : subject.analysis().elevation.at(column.angleDeg);
        values.push_back(std::isfinite(value) ? value : kNone);
    }
    return values;
}

}  // namespace rm::wide
