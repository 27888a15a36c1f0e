#include "core/wide/cases.h"

#include <fmt/format.h>
#include <tbb/task_arena.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "core/edit/designs.h"
#include "core/model/dimension_kind.h"
#include "core/model/soils.h"
#include "core/quantity/formula.h"
#include "core/stopped.h"
#include "core/study/tolerance.h"
#include "core/study/tuning/tune.h"
#include "core/study/tuning/tune_axes.h"
#include "core/study/varied.h"
#include "core/words/words.h"

namespace rm::wide {

namespace {

constexpr std::size_t kMostSteps = 1'000'000;
constexpr double kMostSeconds = 1e9;

const char* unitOf(model::DimensionKind kind) {
    return kind == model::DimensionKind::Angle ? "_deg" : kind == model::DimensionKind::Number ? "" : "_m";
}

/// What a number of this kind is times, to be in the unit of its column.
double perUnit(Vary vary) {
    return vary == Vary::Frequency ? 1e-6 : 1.0;
}

quantity::Kind kindOf(const OverText& over, const model::Design& design) {
    switch (over.vary) {
        case Vary::Dimension:
            return model::kindOf(study::dimensionOf(design, over.name).kind);
        case Vary::Frequency:
            return quantity::Kind::Frequency;
        case Vary::Goal:
            return quantity::Kind::Number;
        default:
            return quantity::Kind::Length;
    }
}

std::string textOf(const OverText& over, const model::Design& design, double value) {
    switch (over.vary) {
        case Vary::Dimension:
            return model::exactText(study::dimensionOf(design, over.name).kind, value);
        case Vary::Frequency:
            return fmt::format("{} MHz", value / 1e6);
        case Vary::Goal:
            return fmt::format("{}", value);
        default:
            return fmt::format("{} m", value);
    }
}

std::string titleOf(const OverText& over, const model::Design& design) {
    switch (over.vary) {
        case Vary::Dimension:
            return over.name + unitOf(study::dimensionOf(design, over.name).kind);
        case Vary::Height:
            return "height_m";
        case Vary::Soil:
            return "soil";
        case Vary::Band:
            return "band";
        case Vary::Frequency:
            return "frequency_MHz";
        case Vary::Goal:
            return fmt::format("goal_{}", over.number);
        default:
            return fmt::format("limit_{}_m", over.number);
    }
}

void requireThere(const OverText& over, const model::Design& design, const std::vector<model::Band>& bands) {
    const auto number = static_cast<std::size_t>(over.number);
    if (over.vary == Vary::Goal && number > design.tune.goals.size())
        throw Error(say("There is no goal {} in {}.", number, design.name));
    if (over.vary == Vary::Limit && number > design.tune.limits.size())
        throw Error(say("There is no limit {} in {}.", number, design.name));
    for (const auto& value : over.values) {
        if (over.vary == Vary::Soil && model::findSoil(value) == nullptr) {
            std::string all;
            for (const auto& soil : model::soils()) all += (all.empty() ? "" : ", ") + soil.id;
            throw Error(say("There is no soil \"{}\". There are: {}.", value, all));
        }
        if (over.vary == Vary::Band &&
            std::none_of(bands.begin(), bands.end(), [&](const auto& b) { return b.name == value; }))
            throw Error(say("There is no band \"{}\" in the project.", value));
    }
}

std::vector<Step> namedSteps(const OverText& over, const std::vector<model::Band>& bands) {
    std::vector<std::string> names = over.values;
    if (names.empty() && over.vary == Vary::Soil)
        for (const auto& soil : model::soils()) names.push_back(soil.id);
    if (names.empty() && over.vary == Vary::Band)
        for (const auto& band : bands) names.push_back(band.name);
    std::vector<Step> steps;
    for (const auto& name : names) steps.push_back({name, static_cast<double>(steps.size()), true});
    return steps;
}

std::vector<Step> numberSteps(const OverText& over, const model::Design& design, const std::string& title) {
    const auto scope = model::scopeOf(design);
    const auto kind = kindOf(over, design);
    std::vector<double> values;
    for (const auto& text : over.values) values.push_back(quantity::evaluate(text, kind, scope));
    if (values.empty()) {
        if (over.from.empty() || over.to.empty())
            throw Error(say("{} needs \"values\", or \"from\" and \"to\".", title));
        const double from = quantity::evaluate(over.from, kind, scope);
        const double to = quantity::evaluate(over.to, kind, scope);
        if (static_cast<std::size_t>(over.points) > kMostSteps)
            throw Error(
                say("{} has {} points, and at most {} are worked out.", title, over.points, kMostSteps));
        for (int i = 0; i < over.points; ++i)
            values.push_back(over.points == 1 ? from : from + (to - from) * i / (over.points - 1));
    }
    std::vector<Step> steps;
    for (const double value : values)
        steps.push_back({textOf(over, design, value), value * perUnit(over.vary), false});
    return steps;
}

std::vector<std::string> usualFigures(Work work) {
    if (work == Work::Build) return {"worst SWR", "SWR", "gain", "front-to-back"};
    if (work == Work::Tune) return {"largest miss", "goals met", "worst SWR", "gain", "front-to-rear"};
    return {"resistance", "reactance",     "SWR",           "worst SWR",
            "gain",       "takeoff angle", "front-to-back", "efficiency"};
}

}  // namespace

Cases::Cases(Given given) : given_(std::move(given)) {
    const Plan& plan = given_.plan;
    const model::Design& design = given_.design;
    study::requireUsable(model::expand(design));
    for (const auto& text : plan.over) {
        requireThere(text, design, given_.bands);
        Over over{text, titleOf(text, design), {}};
        const bool named = text.vary == Vary::Soil || text.vary == Vary::Band;
        over.steps = named ? namedSteps(text, given_.bands) : numberSteps(text, design, over.title);
        for (const auto& other : over_)
            if (other.title == over.title) throw Error(say("{} is varied twice.", over.title));
        over_.push_back(std::move(over));
    }
    for (const auto& over : over_) {
        if (over.steps.size() > kMostCases / count_)
            throw Error(say("The study has more than {} cases.", kMostCases));
        count_ *= over.steps.size();
    }
    const auto repeat = static_cast<std::size_t>(std::max(1, plan.repeat));
    if (repeat > 1 && plan.work == Work::Solve)
        throw Error(say("The same antenna solved again is the same: \"repeat\" is for builds and starts."));
    if (repeat > kMostCases / count_) throw Error(say("The study has more than {} cases.", kMostCases));
    count_ *= repeat;
    if (plan.work == Work::Build) study::readErrors(plan.errors);
    for (const auto& words : plan.figures.empty() ? usualFigures(plan.work) : plan.figures)
        columns_.push_back(columnOf(words));
    for (const auto& column : columns_) titles_.push_back(column.title);
    if (plan.work == Work::Tune)
        for (const auto& axis : study::axesOf(design)) {
            for (const auto& over : over_)
                if (over.text.vary == Vary::Dimension && over.text.name == axis.name)
                    throw Error(say("{} is varied and may move: one of both.", axis.name));
            moved_.push_back(axis.name);
            titles_.push_back(axis.name + unitOf(axis.kind));
        }
    if (!plan.band.empty()) readAt(0, design);
    if (!plan.frequency.empty()) quantity::evaluate(plan.frequency, quantity::Kind::Frequency, {});
}

std::string Cases::repeated() const {
    if (given_.plan.work == Work::Solve || given_.plan.repeat <= 1) return {};
    return given_.plan.work == Work::Build ? "build" : "start";
}

std::vector<std::size_t> Cases::stepsOf(std::size_t number) const {
    std::vector<std::size_t> steps(over_.size() + 1);
    const auto repeat = static_cast<std::size_t>(std::max(1, given_.plan.repeat));
    steps.back() = number % repeat;
    number /= repeat;
    for (std::size_t i = over_.size(); i-- > 0;) {
        steps[i] = number % over_[i].steps.size();
        number /= over_[i].steps.size();
    }
    return steps;
}

std::size_t Cases::piece() const {
    if (given_.plan.piece > 0) return static_cast<std::size_t>(given_.plan.piece);
    return given_.plan.work == Work::Tune ? 1 : given_.plan.work == Work::Build ? 4 : 8;
}

model::Design Cases::designOf(std::size_t number) const {
    model::Design d = given_.design;
    const auto steps = stepsOf(number);
    for (std::size_t i = 0; i < over_.size(); ++i) {
        const auto& text = over_[i].text;
        const auto& step = over_[i].steps[steps[i]];
        const auto item = static_cast<std::size_t>(text.number - 1);
        switch (text.vary) {
            case Vary::Dimension:
                d = study::withDimension(d, text.name, step.value);
                break;
            case Vary::Height:
                d.site.height = step.text;
                break;
            case Vary::Soil:
                d.site.ground = model::GroundKind::Real;
                d.site.soil = step.text;
                break;
            case Vary::Goal:
                d.tune.goals.at(item).limit = step.text;
                break;
            case Vary::Limit:
                d.tune.limits.at(item).value = step.text;
                break;
            default:
                break;
        }
    }
    if (given_.plan.work == Work::Build) {
        // Each build draws its errors by itself, the same for every combination of what is varied.
        std::seed_seq seed{given_.plan.seed, static_cast<int>(steps.back())};
        std::mt19937 random(seed);
        std::normal_distribution<double> normal;
        std::vector<double> deviates(study::errorCount(d));
        for (double& one : deviates) one = normal(random);
        d = study::builtWith(d, study::readErrors(given_.plan.errors), deviates);
    }
    return d;
}

model::Design Cases::designOf(const Row& row) const {
    auto d = designOf(row.number);
    std::map<std::string, double> values;
    for (std::size_t i = 0; i < moved_.size() && columns_.size() + i < row.values.size(); ++i)
        if (std::isfinite(row.values[columns_.size() + i]))
            values[moved_[i]] = row.values[columns_.size() + i];
    return values.empty() ? d : study::withValues(d, values, true);
}

ReadAt Cases::readAt(std::size_t number, const model::Design& design) const {
    const Plan& plan = given_.plan;
    ReadAt at;
    at.bands = given_.bands;
    std::string band = plan.band;
    std::string frequency = plan.frequency;
    bool ofBand = false;
    const auto steps = stepsOf(number);
    for (std::size_t i = 0; i < over_.size(); ++i) {
        const auto& text = over_[i].steps[steps[i]].text;
        if (over_[i].text.vary == Vary::Band) {
            band = text;
            ofBand = true;
        }
        if (over_[i].text.vary == Vary::Frequency) frequency = text;
    }
    if (band.empty()) at.band = usualBand(design);
    for (const auto& one : given_.bands)
        if (one.name == band) at.band = one;
    if (!band.empty() && !at.band) throw Error(say("There is no band \"{}\" in the project.", band));
    if (!frequency.empty())
        at.frequencyHz = quantity::evaluate(frequency, quantity::Kind::Frequency, {});
    else if (ofBand)
        at.frequencyHz = at.band->centreHz();
    else
        at.frequencyHz = model::expand(design).designFrequencyHz;
    return at;
}

std::optional<model::Band> Cases::usualBand(const model::Design& design) const {
    const auto band = edit::bandFor(design, given_.bands, given_.workingBand);
    return band ? std::optional(given_.bands[*band]) : std::nullopt;
}

std::vector<double> Cases::tuned(std::size_t number, model::Design& design,
                                 const std::stop_token& stop) const {
    const auto start = stepsOf(number).back();
    study::TuneOptions options;
    options.seed = static_cast<unsigned>(given_.plan.seed) + static_cast<unsigned>(start);
    options.maxSeconds = kMostSeconds;
    options.maxEvaluations = given_.plan.evaluations;
    options.starts = 1;
    options.stop = stop;
    if (start > 0) {
        // From the design at first, then from anywhere between the limits.
        std::seed_seq seed{given_.plan.seed, static_cast<int>(start)};
        std::mt19937 random(seed);
        for (const auto& axis : study::axesOf(design)) {
            const double share = static_cast<double>(random()) / static_cast<double>(std::mt19937::max());
            options.resume[axis.name] = axis.built(axis.at(share));
        }
    }
    const auto result = study::tune(design, given_.bands, options);
    endWhere(stop);
    design = result.proposal;
    std::vector<double> values;
    for (const auto& name : moved_) values.push_back(result.builtValues.at(name));
    return values;
}

Row Cases::workOut(std::size_t number, const std::stop_token& stop) const {
    Row row;
    row.number = number;
    // One thread a case: many cases at once are quicker than many threads for one, and none sees what another
    // has left.
    tbb::task_arena alone(1);
    alone.execute([&] {
        try {
            auto design = designOf(number);
            std::vector<double> moved;
            if (given_.plan.work == Work::Tune) moved = tuned(number, design, stop);
            row.values = readColumns(design, columns_, readAt(number, design), stop);
            row.values.insert(row.values.end(), moved.begin(), moved.end());
        } catch (const Stopped&) {
            throw;
        } catch (const std::exception& e) {
            row.problem = e.what();
            row.values.clear();
        }
    });
    return row;
}

}  // namespace rm::wide
